import { hold } from './pending.ts';
import { settingsOf, type Standin } from './standin.ts';

/** Keeps what stands in a unit at a free position of its own list; a position that is taken is never written over. */
export function storeSet(standin: Standin, position: number, label: string): void {
  const { memory, type } = standin;
  const taken = memory.sets.get(position);
  if (position > type.sets) throw new Error(`it keeps ${type.sets} sets`);
  if (taken) throw new Error(`position ${position} holds “${taken.label}”: choose a free one`);
  memory.sets.set(position, { label, settings: settingsOf(standin) });
  memory.activeSet = position;
}

/** Makes a stored set what counts, as picking it on the unit does. */
export function takeSet({ memory }: Standin, position: number): void {
  const set = memory.sets.get(position);
  if (!set) throw new Error(`position ${position} is empty`);
  hold(memory, set.settings);
  memory.activeSet = position;
}

export function dropSet({ memory }: Standin, position: number): void {
  memory.sets.delete(position);
  if (memory.activeSet === position) memory.activeSet = null;
}
