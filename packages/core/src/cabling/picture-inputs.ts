import {
  byName,
  hostOf,
  rowsOf,
  socketAt,
  socketsOf,
  typeOf,
  type Cable,
  type Device,
  type DeviceType,
  type Link,
  type Show,
  indexBy,
  rowsBy,
} from '../show/index.ts';
import { runAt, runEnds } from './run-ends.ts';

/** One input of a switcher: what feeds it, and what programs call it (needs 4.13 and 5.10, C64). */
export interface InputLine {
  readonly switcher: Device;
  /** As it is counted on the switcher. */
  readonly number: number;
  readonly socket: string;
  readonly label: string;
  /** The run into it, and the unit at its other end. */
  readonly run: Cable | undefined;
  readonly source: Device | undefined;
  /** What was written down for it: its label and its kind. */
  readonly declared: { readonly label: string; readonly kind: InputKind } | undefined;
  /** Links between the switcher and what feeds it whose slot names an input. */
  readonly links: readonly Link[];
  /**
   * `match`: the number in the program is that of the input; `mismatch`: another one; `doubled`: the same number for two
   * units; `unnumbered`: nothing feeds it, or no program numbers it.
   */
  readonly state: 'match' | 'mismatch' | 'doubled' | 'unnumbered';
}
export type InputKind = Device['inputs'][number]['kind'];

/** Units with a path for pictures and one for control, or only one of them (need 3.7). */
export interface PathLine {
  readonly device: Device;
  readonly hasPicture: boolean;
  readonly hasControl: boolean;
}

type Socket = DeviceType['sockets'][number];

const isPicture = (connector: string): boolean => connector === 'sdi' || connector === 'hdmi';

/** Pictures go in, unless the type or the label says that they come out. */
const takesPictures = ({ connector, direction, label }: Socket): boolean =>
  isPicture(connector) && (direction === 'in' || (direction !== 'out' && !/\bout/i.test(label)));

/** Pictures come out, unless the type or the label says that they go in. */
const givesPictures = ({ connector, direction, label }: Socket): boolean =>
  isPicture(connector) && (direction === 'out' || (direction !== 'in' && !/\bin\b/i.test(label)));

/** The inputs of every switcher in the order of its panel. */
export const inputTable = (show: Show): InputLine[] =>
  [...switchersById(show).values()]
    .flat()
    .sort(byName)
    .flatMap((switcher) => inputsOf(show, switcher));

/** Switchers by their ids, one each. */
export const switchersById = indexBy('devices', (device, show) =>
  typeOf(show, device)?.kind === 'switcher' ? [[device.id, device]] : [],
);

/** The inputs of one switcher. */
export function inputsOf(show: Show, switcher: Device): InputLine[] {
  const type = typeOf(show, switcher);
  const inputs = (type ? socketsOf(type, switcher.variant) : []).filter(takesPictures);
  const links = rowsBy(show, 'links', 'controllerId').get(switcher.id) ?? [];
  const numbered = links.filter(({ slot }) => slot !== null);
  return inputs.map(({ key, label }, at): InputLine => {
    const number = Number(/(\d+)\s*$/.exec(label)?.[1] ?? at + 1);
    const end = runAt(show, switcher.id, key);
    const source = end && show.devices[end.far.deviceId];
    const own = numbered.filter(({ targetId }) => source && isOn(show, targetId, source.id));
    const declared = switcher.inputs.find((one) => one.number === number);
    const line = { switcher, number, socket: key, label, run: end?.cable, source, declared, links: own };
    return { ...line, state: stateOf(show, number, own, numbered) };
  });
}

function stateOf(show: Show, number: number, own: readonly Link[], all: readonly Link[]): InputLine['state'] {
  if (own.length === 0) return 'unnumbered';
  if (own.some(({ slot }) => slot !== number)) return 'mismatch';
  const hostIds = new Set(all.filter(({ slot }) => slot === number).map(({ targetId }) => hostIdOf(show, targetId)));
  return hostIds.size > 1 ? 'doubled' : 'match';
}

const hostIdOf = (show: Show, id: string): string => {
  const device = show.devices[id];
  return device ? hostOf(show, device).id : id;
};
const isOn = (show: Show, targetId: string, unitId: string): boolean =>
  targetId === unitId || hostIdOf(show, targetId) === unitId;

/** Units that give pictures out, with the paths that they have: pictures by a run, control by a link to them. */
export function picturePaths(show: Show): PathLine[] {
  const controlled = new Set(rowsOf(show, 'links').map(({ targetId }) => hostIdOf(show, targetId)));
  return rowsOf(show, 'devices')
    .sort(byName)
    .flatMap((device): PathLine[] => {
      const type = typeOf(show, device);
      if (!type || type.kind === 'switcher' || type.forwards) return [];
      const outs = socketsOf(type, device.variant).filter(givesPictures);
      const drivable = type.services.length > 0;
      if (outs.length === 0 || !drivable) return [];
      const hasPicture = outs.some(({ key }) => runAt(show, device.id, key) !== undefined);
      return [{ device, hasPicture, hasControl: controlled.has(device.id) }];
    });
}

/** What a run is for, by its sockets: pictures, LED data, setting up, or the networks. */
export type Layer = 'network' | 'picture' | 'led' | 'setup';

export function layerOf(show: Show, cable: Cable): Layer {
  const sockets = runEnds(cable).flatMap(({ deviceId, socket }) => socketAt(show, deviceId, socket) ?? []);
  if (sockets.some(({ connector }) => isPicture(connector))) return 'picture';
  if (sockets.some(({ role, adapter }) => role === 'led' && adapter === null)) return 'led';
  return sockets.some(({ connector }) => connector === 'usb') ? 'setup' : 'network';
}
