import {
  changeOf,
  contentWith,
  insertRow,
  memoFor,
  planRemove,
  rowsOf,
  updateRow,
  type Change,
  type Content,
  type Cue,
  type Show,
} from '../show/index.ts';

/** The running order: by number, and of equal numbers by id. */
export const cuesInOrder: (show: Show) => readonly Cue[] = memoFor((show: Show) =>
  rowsOf(show, 'cues').sort((a, b) => a.number - b.number || (a.id < b.id ? -1 : 1)),
);

const digits = 3;
const neat = (number: number): number => Number(number.toFixed(digits));

/** The shortest number between two, such as 3.5 between 3 and 4; undefined where none of three places is left. */
export function numberBetween(before: number | undefined, after: number | undefined): number | undefined {
  if (after === undefined) return before === undefined ? 1 : Math.min(99_999, Math.floor(before) + 1);
  const low = before ?? Math.max(0, Math.ceil(after) - 1);
  if (low >= after) return undefined;
  for (let places = 0; places <= digits; places += 1) {
    const unit = 10 ** -places;
    // near the middle, so that there is room on both sides
    const middle = neat(Math.round((low + after) / 2 / unit) * unit);
    for (const candidate of [middle, neat(middle - unit), neat(middle + unit)])
      if (candidate > low && candidate < after) return candidate;
    if (before === undefined && low < after && places === 0 && low >= 0 && low !== after) return low;
  }
  return undefined;
}

/** So many free numbers from one on: whole ones, past those that are taken. */
export function freeNumbers(show: Show, from: number, count: number): number[] {
  const taken = new Set(rowsOf(show, 'cues').map(({ number }) => number));
  const numbers: number[] = [];
  for (let number = from; numbers.length < count; number = neat(number + 1))
    if (!taken.has(number)) numbers.push(number);
  return numbers;
}

/** A cue behind another one, or at the end. */
export function planAddCue(
  show: Show,
  content: Pick<Content<'cues'>, 'id' | 'name' | 'controllerId'> & Partial<Content<'cues'>>,
  behind: string | undefined,
): Change | undefined {
  const order = cuesInOrder(show);
  const at = behind === undefined ? order.length - 1 : order.findIndex(({ id }) => id === behind);
  const number = content.number ?? numberBetween(order[at]?.number, order[at + 1]?.number);
  if (number === undefined) return undefined;
  return changeOf(`Add cue ${number}`, [insertRow('cues', contentWith('cues', { ...content, number }))]);
}

export const planEditCue = (cue: Cue, patch: Partial<Content<'cues'>>): Change | undefined =>
  changeOf(`Change cue ${cue.number}`, [updateRow('cues', cue, patch)]);

/** A copy right behind its original. */
export const planCopyCue = (show: Show, cue: Cue, id: string): Change | undefined => {
  const { number: _, rev: __, ...content } = cue;
  return planAddCue(show, { ...content, id, proved: null, name: `${cue.name} copy`.slice(0, 80) }, cue.id);
};

/**
 * A cue goes to another place of the order: it takes a number between its new neighbours. Where there is none, the list is
 * numbered anew.
 */
export function planMoveCue(show: Show, id: string, to: number): Change | undefined {
  const order = cuesInOrder(show);
  const cue = show.cues[id];
  const rest = order.filter((own) => own.id !== id);
  if (!cue || order.indexOf(cue) === to) return undefined;
  const number = numberBetween(rest[to - 1]?.number, rest[to]?.number);
  const label = `Move cue ${cue.number}`;
  if (number !== undefined) return changeOf(label, [updateRow('cues', cue, { number })]);
  return numbered(label, [...rest.slice(0, to), cue, ...rest.slice(to)]);
}

/** Whole numbers from one on, in the order that there is. */
export const planRenumber = (show: Show): Change | undefined => numbered('Number the cues anew', cuesInOrder(show));

const numbered = (label: string, order: readonly Cue[]): Change | undefined =>
  changeOf(
    label,
    order.map((cue, at) => updateRow('cues', cue, { number: at + 1 })),
  );

export const planRemoveCue = (show: Show, cue: Cue): Change =>
  planRemove(show, 'cues', [cue.id], `Remove cue ${cue.number}`);
