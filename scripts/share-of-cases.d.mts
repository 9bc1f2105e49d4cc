/** The share of the random cases that is tried, 0 to 1. */
export const share: number;
