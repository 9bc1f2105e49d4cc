import { type contract, show as core } from '@deep-patch/core';

export interface FoldedLine {
  /** The latest of those that are alike. */
  readonly message: contract.HeardMessage;
  readonly times: number;
  /** How many a second between the first and the latest; null where that says nothing yet. */
  readonly perSecond: number | null;
}

const fewForARate = 3;
/** Seconds: a burst of a moment says nothing about how often something comes. */
const leastForARate = 0.5;
const keyOf = ({ fromId, from, toId, to, protocol, as, text, ok }: contract.HeardMessage): string =>
  JSON.stringify([fromId ?? from, toId ?? to, protocol, as ?? text, ok]);

/** Lines that say the same between the same ends as one, newest first; `lines` are oldest first. */
export const foldLines = (lines: readonly contract.HeardMessage[]): FoldedLine[] =>
  [...core.groupBy(lines.toReversed(), keyOf).values()].map((alike) => {
    const [message, first] = [alike[0] as contract.HeardMessage, alike.at(-1) as contract.HeardMessage];
    const seconds = (message.at - first.at) / 1000;
    const isRate = alike.length >= fewForARate && seconds >= leastForARate;
    return { message, times: alike.length, perSecond: isRate ? (alike.length - 1) / seconds : null };
  });

/** How often a line came, in few letters. */
export function timesWords({ times, perSecond }: FoldedLine): string {
  if (times === 1) return '';
  if (perSecond === null) return `${times} times`;
  const rate = perSecond >= 10 ? String(Math.round(perSecond)) : perSecond.toFixed(1);
  return `${times} times, ${rate} a second`;
}
