import type { Sighting } from '../capture/sighting.ts';

/** What a reader of listings made of a text: what it tells, and which of its lines (from 0) it understood. */
export interface Listed {
  readonly sightings: readonly Sighting[];
  readonly understood: ReadonlySet<number>;
}

/** A line that says nothing to the reader: its number from 1, and whether it holds what looks like an address. */
export interface UnreadLine {
  readonly line: number;
  readonly text: string;
  readonly hasAddress: boolean;
}
