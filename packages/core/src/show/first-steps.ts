import { rowsOf, type Show } from './show.ts';

/** The parts of the job in the order in which each builds on the one before. */
export const stepKeys = ['gear', 'networks', 'addresses', 'links', 'cables', 'bench'] as const;
export type StepKey = (typeof stepKeys)[number];

export interface Step {
  readonly key: StepKey;
  readonly done: boolean;
}

const isPlaced = (show: Show): boolean => {
  const addresses = rowsOf(show, 'addresses');
  return addresses.length > 0 && addresses.every(({ ip, method }) => ip !== null || method !== 'static');
};

const begun: Readonly<Record<StepKey, (show: Show, sounded: number) => boolean>> = {
  gear: (show) => rowsOf(show, 'devices').length > 0,
  networks: (show) => rowsOf(show, 'networks').length > 0,
  addresses: isPlaced,
  cables: (show) => rowsOf(show, 'cables').length > 0,
  links: (show) => rowsOf(show, 'links').length > 0,
  bench: (_show, sounded) => sounded > 0,
};

/** How far a show has come; `sounded` counts the links that the bench has tried. */
export const firstSteps = (show: Show, sounded: number): Step[] =>
  stepKeys.map((key) => ({ key, done: begun[key](show, sounded) }));
