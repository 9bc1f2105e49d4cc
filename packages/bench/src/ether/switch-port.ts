import type { Port } from './cable.ts';

/** A socket of a switch, by its key on the panel and its number. */
export interface SwitchPort extends Port {
  readonly key: string;
  readonly number: number;
}
