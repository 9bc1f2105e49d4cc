import type { Command, Transfer } from '../show/index.ts';

type Argument = Command['args'][number];
/** End stops of a control. */
export interface Travel {
  readonly least: number;
  readonly greatest: number;
}

const within = (value: number, least: number, greatest: number): number => Math.min(greatest, Math.max(least, value));

/**
 * What a parameter gets from the value of a control (C50): the share of the control's range, less what is dead at its
 * ends, bent by the table, laid over the parameter's range, in its steps, within its limits. A range that falls is
 * reversed. Beyond the end stops it stays at the ends.
 */
export function transferred(transfer: Transfer, value: number): number {
  const { fromMin, fromMax, toMin, toMax, dead, low, high } = transfer;
  const share = within((value - fromMin) / (fromMax - fromMin), 0, 1);
  const alive = within((share - dead) / (1 - 2 * dead), 0, 1);
  const bent = curved(transfer, alive);
  // both ends exactly, whatever the arithmetic between them rounds to
  const straight = bent === 1 ? toMax : toMin + bent * (toMax - toMin);
  return within(stepped(transfer, straight), low ?? -Infinity, high ?? Infinity);
}

function stepped({ step, toMin, toMax }: Transfer, value: number): number {
  if (step === null || value === toMin || value === toMax) return value;
  const steps = Math.round((value - toMin) / step);
  // a decimal step such as 0.1 does not gather what its binary form is off by
  const nearest = Number((toMin + steps * step).toPrecision(12));
  return within(nearest, Math.min(toMin, toMax), Math.max(toMin, toMax));
}

function curved({ curve, points }: Transfer, share: number): number {
  if (curve === 'straight') return share;
  const next = points.findIndex(({ at }) => at >= share);
  const [after, before] = [points[next], points[next - 1]];
  if (!after) return points.at(-1)?.to ?? share;
  if (!before || after.at === share) return after.to;
  return before.to + ((share - before.at) / (after.at - before.at)) * (after.to - before.to);
}

/** What an argument takes of a number: whole ones where it takes no others. */
export const forArgument = ({ type }: Argument, value: number): number => (type === 'i' ? Math.round(value) : value);

/** Where a control has to stand for a parameter to be at a value, as a motor fader goes there: the nearest place. */
export function positionFor(transfer: Transfer, wanted: number): number {
  const { fromMin, fromMax } = transfer;
  const at = (share: number) => fromMin + share * (fromMax - fromMin);
  let best = { share: 0, off: Infinity };
  // a table may go up and down: the whole way is looked over, then what is beside the best place, ever finer
  for (const [places, width] of [
    [511, 1],
    [64, 2 / 511],
    [64, 4 / 511 / 64],
  ] as const) {
    const from = places === 511 ? 0 : best.share - width / 2;
    for (let n = 0; n <= places; n += 1) {
      const share = Math.min(1, Math.max(0, from + (n / places) * width));
      const off = Math.abs(transferred(transfer, at(share)) - wanted);
      if (off < best.off) best = { share, off };
    }
  }
  return at(best.share);
}

/**
 * Does a control that waits for its parameter take it over now? It has to come past it, or stand on it, on its way from
 * one place to the next.
 */
export const takesOver = (before: number | undefined, now: number, parameter: number): boolean =>
  now === parameter || (before !== undefined && (before - parameter) * (now - parameter) <= 0);

/** The transfer that lets a control reach all of a parameter (need 8.5); undefined where that has no ends. */
export function endToEnd({ least, greatest }: Travel, { min, max }: Argument): Transfer | undefined {
  if (min === undefined || max === undefined || least === greatest) return undefined;
  return {
    ...{ fromMin: least, fromMax: greatest, toMin: min, toMax: max },
    ...{ curve: 'straight', points: [], step: null, dead: 0, low: null, high: null, pickUp: 'jump' },
  };
}

/** Both end stops and the middle of a control with what the parameter gets there, and the share of its range (C51). */
export interface Reached {
  readonly least: number;
  readonly middle: number;
  readonly greatest: number;
  /** From 0 to 1; null where the parameter's range has no ends. */
  readonly share: number | null;
  /** It sends what the parameter refuses. */
  readonly beyond: boolean;
}

/** Without a transfer the value passes as it is. */
export function reached(transfer: Transfer | null, { least, greatest }: Travel, argument: Argument): Reached {
  const out = (value: number) => forArgument(argument, transfer ? transferred(transfer, value) : value);
  const [from, to] = [out(least), out(greatest)];
  const { min, max } = argument;
  const travel = [from, to, ...bends(transfer, out)];
  const [low, high] = [Math.min(...travel), Math.max(...travel)];
  const ends = { least: from, middle: out((least + greatest) / 2), greatest: to };
  if (min === undefined || max === undefined) return { ...ends, share: null, beyond: false };
  const span = max - min;
  const covered = Math.max(0, Math.min(high, max) - Math.max(low, min));
  return { ...ends, share: span === 0 ? 1 : covered / span, beyond: low < min || high > max };
}

/** A table may reach further between the end stops than at them. */
function bends(transfer: Transfer | null, out: (value: number) => number): number[] {
  if (transfer?.curve !== 'table') return [];
  const { fromMin, fromMax, dead, points } = transfer;
  return points.map(({ at }) => out(fromMin + (dead + at * (1 - 2 * dead)) * (fromMax - fromMin)));
}

/** The middle of what a parameter may be, or the value at which it does nothing. */
export const neutralOf = ({ neutral, min, max, example }: Argument): number =>
  neutral ?? (min !== undefined && max !== undefined ? within(0, min, max) : typeof example === 'number' ? example : 0);
