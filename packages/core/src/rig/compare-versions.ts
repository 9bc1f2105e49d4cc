/**
 * Compares two versions part by part as numbers (C35): 1.10 is above 1.9, a missing part counts as 0. What stands behind
 * the numbers (1.5b, 2.0-beta) decides only where they are equal: a letter by the alphabet, anything else not at all.
 * Undefined where two cannot be ordered.
 */
export function compareVersions(a: string, b: string): -1 | 0 | 1 | undefined {
  const [left, right] = [partsOf(a), partsOf(b)];
  if (!left || !right) return undefined;
  for (let at = 0; at < Math.max(left.numbers.length, right.numbers.length); at += 1) {
    const difference = (left.numbers[at] ?? 0) - (right.numbers[at] ?? 0);
    if (difference !== 0) return difference < 0 ? -1 : 1;
  }
  if (left.tail === right.tail) return 0;
  const areLetters = /^[a-z]$/.test(left.tail) && /^[a-z]$/.test(right.tail);
  return areLetters ? (left.tail < right.tail ? -1 : 1) : undefined;
}

interface Parts {
  readonly numbers: readonly number[];
  readonly tail: string;
}

/** Thousands of units run a handful of versions. */
const known = new Map<string, Parts | undefined>();
const mostKnown = 1000;

function partsOf(version: string): Parts | undefined {
  const there = known.get(version);
  if (there || known.has(version)) return there;
  if (known.size >= mostKnown) known.clear();
  const parts = readParts(version);
  known.set(version, parts);
  return parts;
}

function readParts(version: string): Parts | undefined {
  const bare = version.trim().toLowerCase().replace(/^v/, '');
  const [, numbers, tail = ''] = /^(\d+(?:\.\d+)*)(.*)$/.exec(bare) ?? [];
  return numbers === undefined ? undefined : { numbers: numbers.split('.').map(Number), tail: tail.trim() };
}
