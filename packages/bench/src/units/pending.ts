import type { contract, show as core } from '@deep-patch/core';
import { changed, pageOf, type KeyedChange } from './keyed-change.ts';
import type { Memory, KeyedEntry } from './memory.ts';
import type { Standin } from './standin.ts';
import type { UnitSettings } from './settings.ts';

/**
 * A unit has its settings three times: in force (`own`), stored (`kept`, what it starts with) and typed (`pending`, with
 * the acts that are still due). Confirming takes a page out of typing, a restart puts in force what waits for one,
 * storing makes it outlive the power. Each act moves what has come to its turn, and nothing else.
 */
const restarts: ReadonlySet<core.CommitAct> = new Set([
  'restart_program',
  'restart_service',
  'restart_device',
  'restart_computer',
]);
/** Those that take the power away for a moment. */
const powerCycles: ReadonlySet<core.CommitAct> = new Set(['restart_device', 'restart_computer']);
/** A page or an entry has its own confirmation; the other acts are of the whole unit. */
const ofOnePage: ReadonlySet<core.CommitAct> = new Set(['confirm_entry', 'confirm_page']);

/** Makes settings count at once and for good; undefined is what the plan says. */
export function hold(memory: Memory, settings: UnitSettings | undefined): void {
  memory.own = memory.kept = settings;
  memory.pending = [];
}

/** Types something in. True where it is in force at once, since its type asks for no act. */
export function typeIn({ memory, type, planned }: Standin, change: KeyedChange): boolean {
  const of = pageOf(change);
  const acts = type.commits.find((commit) => commit.of === of)?.acts.map(({ act }) => act) ?? [];
  const open = memory.pending.find((pending) => pending.of === of && !pending.isKept && !pending.isInForce);
  const pending: KeyedEntry = {
    of,
    changes: [...(open?.changes ?? []), change],
    acts,
    waitsForRestart: acts.some((act) => restarts.has(act)),
    isKept: false,
    isInForce: false,
  };
  const others = memory.pending.filter((one) => one !== open);
  const moved = advance(memory, planned, pending);
  memory.pending = moved.acts.length > 0 ? [...others, moved] : others;
  return moved.isInForce;
}

/** What an act at a unit leads to: nothing, its settings taken in again, or a restart. */
export type ActOutcome = 'nothing' | 'refresh' | 'restart';

/** Does an act, on one page where it has its own. What is not at its turn stays as it is. */
export function doAct({ memory, planned }: Standin, act: core.CommitAct, of?: core.SettingKind): ActOutcome {
  if (powerCycles.has(act)) return 'restart';
  const due = memory.pending.filter((pending) => pending.acts[0] === act && (of === undefined || pending.of === of));
  const done = ofOnePage.has(act) ? due.slice(0, 1) : due;
  memory.pending = memory.pending.flatMap((pending) => {
    if (!done.includes(pending)) return [pending];
    const moved = advance(memory, planned, { ...pending, acts: pending.acts.slice(1) });
    return moved.acts.length > 0 ? [moved] : [];
  });
  return done.length > 0 ? 'refresh' : 'nothing';
}

/** A program that was ended and started again takes in what waited for that. */
export function restartProgram(standin: Standin): void {
  doAct(standin, 'restart_program');
  doAct(standin, 'restart_service');
}

/** The power went: what is stored counts when it comes again, and what was only typed is gone. */
export function losePower({ memory }: Standin): void {
  memory.own = memory.kept;
  memory.pending = [];
  signIn(memory);
}

/** Once an account is in force nobody is asked for the first one any more. */
function signIn(memory: Memory): void {
  if (memory.own?.services.some(({ account }) => account !== null)) memory.firstSignIn = false;
}

/** Puts a change where it has come to by its acts: into what is stored, and into what is in force. */
function advance(memory: Memory, planned: UnitSettings, pending: KeyedEntry): KeyedEntry {
  const { acts, changes, waitsForRestart } = pending;
  const isConfirmed = acts.every((act) => act === 'store' || restarts.has(act));
  const isKept = isConfirmed && !acts.includes('store');
  const isInForce = isConfirmed && (waitsForRestart ? acts.length === 0 : true);
  const apply = (settings: UnitSettings | undefined) => changes.reduce(changed, settings ?? planned);
  if (isKept && !pending.isKept) memory.kept = apply(memory.kept);
  if (isInForce && !pending.isInForce) {
    memory.own = apply(memory.own);
    signIn(memory);
  }
  return { ...pending, isKept: pending.isKept || isKept, isInForce: pending.isInForce || isInForce };
}

/** How far a pending change has come, as its screen says it. */
export const stageOf = ({ isKept, isInForce }: KeyedEntry): contract.PendingSetting['stage'] =>
  isInForce ? 'in_force' : isKept ? 'stored' : 'typed';
