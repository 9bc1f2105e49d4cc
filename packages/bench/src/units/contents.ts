import { rig, type contract } from '@deep-patch/core';
import type { Standin } from './standin.ts';

const asDelivered = 'as delivered';

/** What a program holds was made at home; hardware comes with nothing. */
const startOf = ({ type }: Standin): string => (type.form === 'program' ? 'made at home' : asDelivered);

const contentOf = (standin: Standin, what: string): string =>
  standin.memory.contents.get(what) ?? standin.memory.face.get(what) ?? startOf(standin);

/** What two units can be given by each other: what a reset erases where their types keep step, and what both show. */
export function sharedBy(one: Standin, other: Standin): string[] {
  const own = new Set(other.type.face.map(({ parameter }) => parameter));
  const shown = one.type.face.map(({ parameter }) => parameter).filter((parameter) => own.has(parameter));
  const kept = rig.keepStep(one.type, other.type) ? [...one.type.erases, ...other.type.erases] : [];
  return [...new Set([...kept.sort(), ...shown])];
}

export const heldAgainst = (from: Standin, to: Standin): contract.PartnersState['items'] =>
  sharedBy(from, to).map((what) => ({ what, from: contentOf(from, what), to: contentOf(to, what) }));

export function put({ memory }: Standin, what: string, value: string): void {
  if (memory.face.has(what)) memory.face.set(what, value);
  else memory.contents.set(what, value);
}

export const give = (from: Standin, to: Standin, what: string): void => put(to, what, contentOf(from, what));

/** Before something else comes into it: what it will start with again if that is not stored. */
export function holdStored({ memory, type }: Standin): void {
  const stores = type.form !== 'program' && type.commits.some(({ acts }) => acts.some(({ act }) => act === 'store'));
  memory.storedContents ??= stores ? new Map(memory.contents) : undefined;
}

/** The power goes: what was not stored is gone with it. */
export function loseUnstored({ memory }: Standin): void {
  if (!memory.storedContents) return;
  memory.contents = memory.storedContents;
  memory.storedContents = undefined;
}

/** Everything in it beside its settings, to be carried away. */
export function copyOf(standin: Standin, firmware: string | null, at: number): contract.UnitCopy {
  const { device, type, memory } = standin;
  const shown = type.face.map(({ parameter }) => parameter);
  const names = [...new Set([...type.erases, ...memory.contents.keys(), ...shown])];
  if (names.length === 0) throw new Error(`there is nothing in ${device.name} to be copied`);
  return {
    ...{ format: 'deep-patch/unit-copy', version: 1, unit: device.name, model: type.model, firmware, at },
    contents: names.map((what) => ({ what, value: contentOf(standin, what) })),
  };
}

/** Refuses what is of another model or of a newer version than it runs; nothing of it is taken in then. */
export function loadCopy(standin: Standin, firmware: string | null, copy: contract.UnitCopy): void {
  const { device, type } = standin;
  if (copy.model !== type.model)
    throw new Error(`the copy is of ${copy.unit}, which is of another model than ${device.name}`);
  if (firmware !== null && copy.firmware !== null && rig.compareVersions(copy.firmware, firmware) === 1)
    throw new Error(`the copy was made with ${copy.firmware}, and ${device.name} runs ${firmware}: update it first`);
  holdStored(standin);
  for (const { what, value } of copy.contents) put(standin, what, value);
}
