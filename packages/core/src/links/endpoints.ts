/** What came and went between two lists of endpoints (C33). */
export interface EndpointDifference {
  readonly newInputs: readonly string[];
  readonly newOutputs: readonly string[];
  readonly vanished: readonly string[];
}

/**
 * Compares what a system listed before and after somebody connected one unit: with bare numbers as names that is how
 * to tell which is which. Names that stand there twice count as often as they stand there.
 */
export function endpointDifference(before: readonly string[], after: readonly string[]): EndpointDifference {
  const fresh = without(after, before);
  return {
    newInputs: fresh.filter((name) => name.startsWith('in ')),
    newOutputs: fresh.filter((name) => !name.startsWith('in ')),
    vanished: without(before, after),
  };
}

function without(list: readonly string[], taken: readonly string[]): string[] {
  const left = [...taken];
  return list.filter((name) => {
    const at = left.indexOf(name);
    if (at >= 0) left.splice(at, 1);
    return at < 0;
  });
}
