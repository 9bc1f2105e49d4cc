import {
  rowsBy,
  rowsOf,
  typeOf,
  type Device,
  type DeviceKind,
  type DeviceType,
  type Show,
  type Wall,
} from '../show/index.ts';
import type { Capacity } from './share.ts';
import type { Panel, Place } from './size.ts';
import { downOf } from './size.ts';

/** Kinds of units at the wall's end of a data cable. */
const atTheWall: ReadonlySet<DeviceKind> = new Set(['led-receiver', 'led-panel']);

/** Adapters of a computer from which a cable leads to receivers (needs 10.4 and 3.8): one of them has to send. */
export function cardsToReceivers(show: Show, deviceId: string): string[] {
  const type = typeOf(show, show.devices[deviceId]);
  const ends = [
    ...(rowsBy(show, 'cables', 'fromDevice').get(deviceId) ?? []).map((cable) => [cable.fromSocket, cable.toDevice]),
    ...(rowsBy(show, 'cables', 'toDevice').get(deviceId) ?? []).map((cable) => [cable.toSocket, cable.fromDevice]),
  ];
  const adapters = ends.flatMap(([socket, other = '']) => {
    const adapter = type?.sockets.find(({ key }) => key === socket)?.adapter;
    const kind = typeOf(show, show.devices[other])?.kind;
    return adapter && kind && atTheWall.has(kind) ? [adapter] : [];
  });
  return [...new Set(adapters)].sort();
}

/** Does what the player sends get to the wall: switched on, and by the interface that leads there (need 10.15)? */
export function playerReaches(show: Show, { playerOutput }: Wall): boolean {
  const { deviceId, kind, adapter, enabled } = playerOutput;
  if (deviceId === null || kind === null) return true;
  if (!enabled) return false;
  return kind !== 'receivers' || (adapter !== null && cardsToReceivers(show, deviceId).includes(adapter));
}

/** A cable that carries data to panels, in metres. */
export interface DataRun {
  readonly output: number;
  readonly metres: number;
  readonly medium: 'copper' | 'fibre';
}

/** What brings data to a wall: straight from the processor, or by trunks and units that stand beside it (need 10.11). */
export interface CablePlan {
  readonly direct: readonly DataRun[];
  readonly trunks: readonly DataRun[];
  readonly short: readonly DataRun[];
  readonly directMetres: number;
  readonly throughMetres: number;
}

/** A channel of twisted pairs carries so far (ISO/IEC 11801-1); what is longer is fibre. */
const copperM = 100;
/** For corners, and for what nobody has measured. */
const spare = 1.1;

/**
 * Data cables of a wall. They come to its foot at the middle and go along its panels to the first of each string; with
 * units there, only a trunk for each of them comes so far.
 */
export function cablePlan(
  { columns, strings, parts, distanceM, loop }: Wall,
  panel: Panel,
  { unitOutputs }: Pick<Capacity, 'unitOutputs'>,
): CablePlan {
  const along = ([column, row]: Place) =>
    (Math.abs(column + 0.5 - columns.length / 2) * panel.widthMm + (downOf({ columns }) - row) * panel.heightMm) / 1000;
  const far = distanceM ?? 0;
  const run = (output: number, metres: number): DataRun => {
    const whole = Math.ceil(metres * spare);
    return { output, metres: whole, medium: whole <= copperM ? 'copper' : 'fibre' };
  };
  const ends = parts.flatMap(({ output }) => {
    const path = strings.find((one) => one.output === output)?.path ?? [];
    const [first, last] = [path[0], path.at(-1)];
    if (!first || !last) return [];
    return [along(first), ...(loop ? [along(last)] : [])].map((metres) => ({ output, metres }));
  });
  const direct = ends.map(({ output, metres }) => run(output, far + metres));
  const units = unitOutputs === null ? 0 : Math.ceil(ends.length / unitOutputs);
  const trunks = Array.from({ length: units }, (_, at) => run(at + 1, far));
  const short = units === 0 ? [] : ends.map(({ output, metres }) => run(output, metres));
  const sum = (runs: readonly DataRun[]) => runs.reduce((whole, { metres }) => whole + metres, 0);
  return { direct, trunks, short, directMetres: sum(direct), throughMetres: sum(trunks) + sum(short) };
}

/** How a processor is reached to be set: its generation shows in that (needs 10.18 and 10.20). */
export interface ManagedProcessor {
  readonly device: Device;
  readonly type: DeviceType;
  readonly by: 'network' | 'usb' | 'both' | 'itself';
  /** Addresses at which it is managed. */
  readonly ips: readonly string[];
  readonly advice: 'remote' | 'local';
  readonly why: 'many' | 'few' | 'no_network' | 'no_address';
}

/** With more processors than that, nobody goes from one monitor to the next. */
const fewProcessors = 2;

/** Every processor of the show in one list, with how each is best managed. */
export function processorsOf(show: Show): ManagedProcessor[] {
  const all = rowsOf(show, 'devices').flatMap((device) => {
    const type = typeOf(show, device);
    return type?.drivesWall || type?.kind === 'led-processor' ? [{ device, type }] : [];
  });
  return all
    .map(({ device, type }): ManagedProcessor => {
      const by = reachedBy(type);
      const ips = (rowsBy(show, 'interfaces', 'deviceId').get(device.id) ?? []).flatMap(({ id }) =>
        (rowsBy(show, 'addresses', 'interfaceId').get(id) ?? []).flatMap(({ ip }) => ip ?? []),
      );
      const why =
        by === 'usb' || by === 'itself'
          ? 'no_network'
          : ips.length === 0
            ? 'no_address'
            : all.length > fewProcessors
              ? 'many'
              : 'few';
      return { device, type, by, ips, advice: why === 'many' ? 'remote' : 'local', why };
    })
    .sort((a, b) => (a.device.name < b.device.name ? -1 : 1));
}

function reachedBy({ adapters, ways }: DeviceType): ManagedProcessor['by'] {
  const hasUsb = ways.some(({ way }) => way === 'usb');
  if (adapters.length > 0) return hasUsb ? 'both' : 'network';
  return hasUsb ? 'usb' : 'itself';
}
