import { rowsOf, socketAt, typeOf, type Cable, type Show } from '../show/index.ts';
import { layerOf } from './picture-inputs.ts';
import { runEnds, runAt } from './run-ends.ts';
import { runWords } from './run-words.ts';

export type Stage = 'setup' | 'show';

/** One thing to do at the changeover: a run comes out, goes in, or one end of it moves. */
export interface ChangeoverStep {
  readonly act: 'pull' | 'plug' | 'move';
  /** The run that comes out; for a plain plugging in, the one that goes in. */
  readonly cable: Cable;
  /** The run that goes in instead, where one end stays. */
  readonly into: Cable | undefined;
  /** Both ends of the run that is there afterwards; of one that only comes out, where it was. */
  readonly words: string;
  /** What to look at afterwards. */
  readonly check: 'lamp' | 'picture' | 'links' | 'gone';
}

/**
 * From one layout to the other (need 3.11): runs of the other time come out, runs of this one go in; where both end at
 * one socket it is one move. A run that stays is not told.
 */
export function changeover(show: Show, to: Stage): ChangeoverStep[] {
  const rows = rowsOf(show, 'cables');
  const incoming = rows.filter(({ stage }) => stage === to);
  const outgoing = rows.filter(({ stage }) => stage !== to && stage !== 'both');
  const taken = new Set<Cable>();
  const steps = outgoing.map((cable): ChangeoverStep => {
    const into = incoming.find((other) => !taken.has(other) && sharesEnd(cable, other));
    if (!into) return { act: 'pull', cable, into, words: runWords(show, cable), check: 'gone' };
    taken.add(into);
    return { act: 'move', cable, into, words: runWords(show, into), check: checkOf(show, into) };
  });
  const added = incoming
    .filter((cable) => !taken.has(cable))
    .map((cable): ChangeoverStep => ({
      ...{ act: 'plug', cable, into: undefined, words: runWords(show, cable), check: checkOf(show, cable) },
    }));
  return [...steps, ...added];
}

function sharesEnd(one: Cable, other: Cable): boolean {
  const ends = (cable: Cable) => runEnds(cable).map(({ deviceId, socket }) => `${deviceId} ${socket}`);
  return ends(one).some((end) => ends(other).includes(end));
}

/** A run that carries pictures or LED data is looked at; one on which units talk is sounded. */
function checkOf(show: Show, cable: Cable): ChangeoverStep['check'] {
  const layer = layerOf(show, cable);
  if (layer === 'picture' || layer === 'led') return 'picture';
  const talks = runEnds(cable).every(
    ({ deviceId, socket }) =>
      typeOf(show, show.devices[deviceId])?.forwards === true ||
      (socketAt(show, deviceId, socket)?.adapter ?? null) !== null,
  );
  return talks ? 'links' : 'lamp';
}

/** Where USB is plugged in, and when (need 3.9). */
export interface UsbWay {
  readonly deviceId: string;
  readonly socket: string;
  readonly cable: Cable | undefined;
  /** The unit can be set over USB. */
  readonly sets: boolean;
}

/** USB sockets of units that are set over USB, or have something in one. */
export function usbWays(show: Show): UsbWay[] {
  return rowsOf(show, 'devices').flatMap((device): UsbWay[] => {
    const type = typeOf(show, device);
    const sets = type?.ways.some(({ way }) => way === 'usb') ?? false;
    const usb = (type?.sockets ?? []).filter(({ connector }) => connector === 'usb');
    return usb.flatMap(({ key }): UsbWay[] => {
      const cable = runAt(show, device.id, key)?.cable;
      return sets || cable ? [{ deviceId: device.id, socket: key, cable, sets }] : [];
    });
  });
}
