/**
 * Do two answers say the same? Compared part by part; whatever is neither plain data nor a set or map of it is the same
 * only if it is one object.
 */
export function isAlike(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a)) return Array.isArray(b) && isAlikeInOrder(a, b);
  const kind: unknown = Object.getPrototypeOf(a);
  if (kind !== Object.getPrototypeOf(b)) return false;
  if (a instanceof Set) return isAlikeInOrder([...a], [...(b as typeof a)]);
  if (a instanceof Map) return isAlikeInOrder([...a], [...(b as typeof a)]);
  if (kind !== Object.prototype) return false;
  const [left, right] = [a as Record<string, unknown>, b as Record<string, unknown>];
  const keys = Object.keys(left);
  return (
    keys.length === Object.keys(right).length && keys.every((key) => key in right && isAlike(left[key], right[key]))
  );
}

const isAlikeInOrder = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((item, at) => isAlike(item, b[at]));
