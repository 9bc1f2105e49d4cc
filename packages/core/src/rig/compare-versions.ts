/**
 * Compares two versions part by part as numbers (C35): 1.10 is above 1.9, a missing part counts as 0. Undefined where
 * a part is not a number, as in a pre-release: such versions cannot be ordered.
 */
export function compareVersions(a: string, b: string): -1 | 0 | 1 | undefined {
  const [left, right] = [partsOf(a), partsOf(b)];
  if (!left || !right) return undefined;
  for (let at = 0; at < Math.max(left.length, right.length); at += 1) {
    const difference = (left[at] ?? 0) - (right[at] ?? 0);
    if (difference !== 0) return difference < 0 ? -1 : 1;
  }
  return 0;
}

/** Thousands of units run a handful of versions. */
const known = new Map<string, readonly number[] | undefined>();
const mostKnown = 1000;

function partsOf(version: string): readonly number[] | undefined {
  const there = known.get(version);
  if (there || known.has(version)) return there;
  if (known.size >= mostKnown) known.clear();
  const parts = readParts(version);
  known.set(version, parts);
  return parts;
}

function readParts(version: string): readonly number[] | undefined {
  const bare = version.trim().replace(/^v/i, '');
  return /^\d+(\.\d+)*$/.test(bare) ? bare.split('.').map(Number) : undefined;
}
