import { definitionsOf, type DeviceType, type Show } from '../show/index.ts';

const plain = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

export interface TypeMatcher {
  /** The type of that name, or the only one whose name or kind starts so. */
  readonly match: (text: string) => DeviceType | undefined;
  /** The type whose name is nearest, for a suggestion. */
  readonly nearest: (text: string) => DeviceType | undefined;
}

export function typeMatcher(show: Show): TypeMatcher {
  const types = [...definitionsOf(show).values()].sort((a, b) => (a.id < b.id ? -1 : 1));
  const exact = new Map<string, DeviceType>(
    types.flatMap((type) => [
      [type.id, type],
      [plain(type.name), type],
    ]),
  );
  const memo = new Map<string, DeviceType | undefined>();
  const match = (text: string) => {
    const wanted = plain(text);
    if (wanted === '') return undefined;
    if (!memo.has(wanted)) memo.set(wanted, exact.get(wanted) ?? onlyOne(types, wanted));
    return memo.get(wanted);
  };
  return { match, nearest: (text) => nearestOf(types, plain(text)) };
}

function onlyOne(types: readonly DeviceType[], wanted: string): DeviceType | undefined {
  const found = types.filter((type) => plain(type.name).startsWith(wanted) || plain(type.kind) === wanted);
  return found.length === 1 ? found[0] : undefined;
}

/** The name that shares most words with the text, counting a word of one letter's difference. */
function nearestOf(types: readonly DeviceType[], wanted: string): DeviceType | undefined {
  const words = wanted.split(' ');
  const scored = types.map((type) => ({
    type,
    score: commonWords(words, plain(`${type.name} ${type.kind}`).split(' ')),
  }));
  const [best] = scored.sort((a, b) => b.score - a.score);
  return best && best.score > 0 ? best.type : undefined;
}

const commonWords = (left: readonly string[], right: readonly string[]): number =>
  left.filter((word) => right.some((other) => alike(word, other))).length;

/** Equal but for one letter changed, dropped or added; short words must be equal. */
function alike(a: string, b: string): boolean {
  if (a === b) return true;
  if (Math.min(a.length, b.length) < 4 || Math.abs(a.length - b.length) > 1) return false;
  let at = 0;
  while (at < Math.min(a.length, b.length) && a[at] === b[at]) at += 1;
  const rest = [a.slice(at + (a.length >= b.length ? 1 : 0)), b.slice(at + (b.length >= a.length ? 1 : 0))];
  return rest[0] === rest[1];
}
