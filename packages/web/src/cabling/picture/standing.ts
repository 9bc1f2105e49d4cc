/** How a unit is doing where the picture is looked at, such as on the bench. */
export interface Standing {
  readonly tone: 'well' | 'waits' | 'ill' | 'off';
  /** The same in a word. */
  readonly words: string;
}

/** What a picture shows beside the plan: how each unit is doing, and where choosing one leads. */
export interface Shown {
  readonly standingOf: (unitId: string) => Standing | undefined;
  readonly onUnit: (unitId: string) => void;
}
