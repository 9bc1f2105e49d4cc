import { inject } from 'vitest';

declare module 'vitest' {
  interface ProvidedContext {
    readonly share: number;
  }
}

/** So many of the random cases of a long test are tried in this run: all of them in a thorough one. */
export const casesOf = (all: number): number => Math.ceil(all * inject('share'));
