/** Compares figure by figure, as the labels of versions are read; what is no figure counts as none. */
export function isOlder(a: string, b: string): boolean {
  const [left, right] = [a, b].map((version) => version.split('.').map((part) => Number(part) || 0));
  for (let at = 0; at < Math.max(left?.length ?? 0, right?.length ?? 0); at += 1)
    if ((left?.[at] ?? 0) !== (right?.[at] ?? 0)) return (left?.[at] ?? 0) < (right?.[at] ?? 0);
  return false;
}
