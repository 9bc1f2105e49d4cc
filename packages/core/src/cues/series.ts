import { contentWith, insertRow, changeOf, type Change, type CueMessage, type Show } from '../show/index.ts';
import { checkName, type NameCheck } from './names.ts';
import { freeNumbers } from './order.ts';

/** One entry of a list, and whether it came before or nobody is called so. */
export interface SeriesItem {
  readonly item: string;
  readonly repeated: boolean;
  readonly check: NameCheck | undefined;
}

/** So long a list is taken. */
export const mostItems = 500;

/**
 * A list as somebody pastes it (C54): lines, or parts between commas, semicolons or tabs; `3-7` and `3..7` are ranges of
 * whole numbers.
 */
export function readList(text: string): string[] {
  return text
    .split(/[\n,;\t]/)
    .map((part) => part.trim())
    .filter((part) => part !== '')
    .flatMap(inRange)
    .slice(0, mostItems);
}

function inRange(part: string): string[] {
  const [, from, to] = /^(\d{1,6})\s*(?:-|–|\.\.)\s*(\d{1,6})$/.exec(part) ?? [];
  if (from === undefined || to === undefined) return [part];
  const [first, last] = [Number(from), Number(to)];
  const count = Math.min(mostItems, Math.abs(last - first) + 1);
  return Array.from({ length: count }, (_, at) => String(first + (last < first ? -at : at)));
}

export function seriesItems(items: readonly string[], names: readonly string[] | undefined): SeriesItem[] {
  const seen = new Set<string>();
  return items.map((item) => {
    const repeated = seen.has(item);
    seen.add(item);
    return { item, repeated, check: names && checkName(names, item) };
  });
}

const place = /\{item\}/g;

/** A message of the template with an entry in its places: `{item}` inside a text, or as a whole value. */
export function messageFor(template: CueMessage, item: string): CueMessage {
  const args = template.args.map((value) => {
    if (typeof value !== 'string') return value;
    const filled = value.replace(place, () => item);
    // a whole number that stands alone in its place travels as one
    return value === '{item}' && /^-?\d{1,9}$/.test(item) ? Number(item) : filled;
  });
  return { ...template, args, typed: template.typed.replace(place, () => item).slice(0, 200) };
}

/** One cue for each entry, numbered from a number on, as one change. */
export function planSeries(
  show: Show,
  {
    template,
    name,
    items,
    controllerId,
    from,
  }: {
    readonly template: CueMessage;
    /** What the cues are called; `{item}` stands for the entry. */
    readonly name: string;
    readonly items: readonly string[];
    readonly controllerId: string;
    readonly from: number;
  },
  newId: () => string,
): Change | undefined {
  const numbers = freeNumbers(show, from, items.length);
  const edits = items.map((item, at) =>
    insertRow(
      'cues',
      contentWith('cues', {
        ...{ id: newId(), controllerId, number: numbers[at] ?? 0 },
        name: (name.replace(place, () => item).trim() || item).slice(0, 80),
        messages: [messageFor(template, item)],
      }),
    ),
  );
  return changeOf(`${items.length} cues in a series`, edits);
}
