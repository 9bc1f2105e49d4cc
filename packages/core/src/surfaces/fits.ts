import type { Assignment, Command, TypeControl } from '../show/index.ts';

type Argument = Command['args'][number];
type Moved = Pick<TypeControl, 'kind'> & { readonly part: Assignment['part'] };

/**
 * Can a control of that kind drive an argument (C60)? `lossy` works with less than either could: a fader on an on or off
 * has two states, a key on a level only its ends.
 */
export type Fit = 'whole' | 'lossy' | 'impossible';

const continuous: ReadonlySet<TypeControl['kind']> = new Set(['fader', 'encoder', 'pad']);

export function fitOf({ kind, part }: Moved, argument: Argument): Fit {
  if (argument.type === 's') return 'impossible';
  if (kind === 'pad' && part !== 'x' && part !== 'y') return 'impossible';
  // each way an encoder is turned is a command of its own, as a key is
  const isContinuous = continuous.has(kind) && !(kind === 'encoder' && part !== 'whole');
  if (argument.type === 'T') return isContinuous ? 'lossy' : 'whole';
  return isContinuous ? 'whole' : 'lossy';
}

/** What is lost, after “it”. */
export function lossOf({ kind, part }: Moved, argument: Argument): string {
  if (argument.type === 's') return `sends numbers, and “${argument.name}” is a text`;
  if (kind === 'pad' && part !== 'x' && part !== 'y') return 'sends two values, and only one is wanted: choose an axis';
  return argument.type === 'T'
    ? 'moves smoothly, and only on or off is wanted: it switches in the middle of its way'
    : 'has two states: the value jumps from one end to the other and nothing between is reached';
}

/** The value of a control as an on or off: on from the middle of its way. */
export const isOn = (value: number, least: number, greatest: number): boolean =>
  (value - least) / (greatest - least) >= 0.5;
