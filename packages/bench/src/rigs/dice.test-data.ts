/** The same dice in every run: numbers from 0 to 1 by a linear congruence. */
export function dice(seed: number): () => number {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 2 ** 32;
  };
}
