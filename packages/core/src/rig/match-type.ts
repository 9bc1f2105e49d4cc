import { byName, definitionsOf, type DeviceType, type Show } from '../show/index.ts';
import { tradeWords, type TradeWord } from './trade-words.ts';

const plain = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

export interface TypeMatcher {
  /** The type of that name, what the trade calls so, or the only one whose name or kind starts so. */
  readonly match: (text: string) => DeviceType | undefined;
  /** The types that a text may mean, the likeliest first; none that it only shares a word with. */
  readonly likely: (text: string) => readonly DeviceType[];
}

/** Half of the words in common is a chance, not a likeness: a microphone receiver is no LED receiver. */
const worthHaving = 0.55;
const leastForKind = 0.6;
const mostLikely = 5;

export function typeMatcher(show: Show): TypeMatcher {
  const types = [...definitionsOf(show).values()].sort((a, b) => (a.id < b.id ? -1 : 1));
  const exact = new Map<string, DeviceType>(
    types.flatMap((type) => [
      [type.id, type],
      [plain(type.name), type],
    ]),
  );
  const matches = remembered((wanted: string): DeviceType | undefined => {
    for (const form of numbersOf(wanted)) {
      const found = exact.get(form) ?? calledSo(types, form) ?? onlyOne(types, form);
      if (found) return found;
    }
    return undefined;
  });
  const likely = remembered((wanted: string) => likelyOf(types, wanted));
  return {
    match: (text) => (plain(text) === '' ? undefined : matches(plain(text))),
    likely: (text) => likely(plain(text)),
  };
}

function remembered<Value>(work: (text: string) => Value): (text: string) => Value {
  const memo = new Map<string, Value>();
  return (text) => {
    const known = memo.get(text);
    if (known !== undefined || memo.has(text)) return known as Value;
    const value = work(text);
    memo.set(text, value);
    return value;
  };
}

/** As written, and in the singular: lists say “Cameras”. */
const numbersOf = (wanted: string): string[] => (wanted.endsWith('s') ? [wanted, wanted.slice(0, -1)] : [wanted]);

const byWord = new Map<string, TradeWord>(tradeWords.flatMap((word) => word.said.map((said) => [plain(said), word])));

/** What the trade calls so, where that leaves one type only. */
function calledSo(types: readonly DeviceType[], wanted: string): DeviceType | undefined {
  const word = byWord.get(wanted);
  if (!word) return undefined;
  const found = types.filter(({ kind, form }) => kind === word.kind && form === 'unit');
  const named = found.filter(({ name }) => plain(name) === word.name);
  const [only, ...more] = named.length > 0 ? named : word.name === undefined ? found : [];
  return more.length === 0 ? only : undefined;
}

function onlyOne(types: readonly DeviceType[], wanted: string): DeviceType | undefined {
  const found = types.filter((type) => plain(type.name).startsWith(wanted) || plain(type.kind) === wanted);
  return found.length === 1 ? found[0] : undefined;
}

function likelyOf(types: readonly DeviceType[], wanted: string): DeviceType[] {
  if (wanted === '') return [];
  const head = wanted.slice(wanted.lastIndexOf(' ') + 1);
  const forms = [...numbersOf(wanted), ...numbersOf(head)];
  const word = forms.map((form) => byWord.get(form)).find(Boolean);
  const kinds = new Set([...forms, word ? plain(word.kind) : '']);
  const scored = types.map((type) => ({
    type,
    // what it is stands last in English: a stage camera is a camera, a microphone receiver no LED receiver
    score: Math.max(
      likeness(wanted, plain(type.name)),
      likeness(word?.name ?? '', plain(type.name)),
      kinds.has(plain(type.kind)) && type.form === 'unit' ? leastForKind : 0,
    ),
  }));
  return scored
    .filter(({ score }) => score > worthHaving)
    .sort((a, b) => b.score - a.score || byName(a.type, b.type))
    .slice(0, mostLikely)
    .map(({ type }) => type);
}

/** Dice's coefficient of the words of two texts: 1 where all are alike, 0 where none is. */
function likeness(left: string, right: string): number {
  const [ours, theirs] = [left.split(' '), right.split(' ')];
  const common = ours.filter((word) => theirs.some((other) => alike(word, other))).length;
  return (2 * common) / (ours.length + theirs.length);
}

/** Equal but for one letter changed, dropped or added, or two that changed places; short words must be equal. */
function alike(a: string, b: string): boolean {
  if (a === b) return true;
  if (Math.min(a.length, b.length) < 4 || Math.abs(a.length - b.length) > 1) return false;
  let at = 0;
  while (at < Math.min(a.length, b.length) && a[at] === b[at]) at += 1;
  if (a.length === b.length && a[at] === b[at + 1] && a[at + 1] === b[at] && a.slice(at + 2) === b.slice(at + 2))
    return true;
  const rest = [a.slice(at + (a.length >= b.length ? 1 : 0)), b.slice(at + (b.length >= a.length ? 1 : 0))];
  return rest[0] === rest[1];
}
