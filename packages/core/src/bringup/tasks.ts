import type { Access } from './access.ts';
import type { Need } from './moves.ts';
import type { CommitStep, PendingLine } from './pending.ts';
import type { Place } from './unit-now.ts';

export const taskKinds = [
  'part',
  'join',
  'sign_in',
  'meantime',
  'meantime_restart',
  'key_in',
  'restart',
  'update',
  'register',
  'register_restart',
  'sync',
  'name_endpoint',
  'confirm',
  'home',
] as const;
export type TaskKind = (typeof taskKinds)[number];

/** Why something stands where it does: the constraint that put it there, with the units concerned. */
export type WhyCode =
  | 'one_at_a_time'
  | 'on_the_way'
  | 'held_by'
  | 'circle'
  | 'computer_here'
  | 'needs_no_computer'
  | 'only_then_counts'
  | 'looks_up_once'
  | 'targets_first'
  | 'firmware_first'
  | 'clash_now'
  | 'bare_numbers'
  | 'sets_match'
  | 'proves_it'
  | 'as_it_was';
export interface Why {
  readonly code: WhyCode;
  readonly units: readonly string[];
}

/** Something to do at one unit, before it has a place in the order. */
export interface Task {
  readonly key: string;
  readonly kind: TaskKind;
  readonly deviceId: string;
  /** The ways to do it; where it needs none, it is done at the unit, or at nobody's. */
  readonly access: readonly Access[];
  /** Where the computer has to be; a place that does not exist where nothing leads to the unit. */
  readonly needs: Need[];
  readonly after: Task[];
  /** Seconds that somebody is busy with it, and that it goes on by itself then. */
  readonly hands: number;
  readonly waits: number;
  readonly lines: readonly PendingLine[];
  readonly acts: readonly CommitStep[];
  /** The address that the unit has afterwards, where that is another than before; all of them once everything counts. */
  readonly takes: readonly Spot[];
  readonly place: Place | undefined;
  readonly why: Why;
  readonly addressId: string | undefined;
  /** What it proves: as soon as any of it is another, it has to be proved again. */
  readonly basis: string | undefined;
  /** Whom it is brought into step with. */
  readonly partnerId: string | undefined;
}

/** An address in a segment: no two powered units may have the same. */
export interface Spot {
  readonly segment: string;
  readonly ip: number;
}

export const spotKey = ({ segment, ip }: Spot): string => `${ip} ${segment}`;

/** Why a unit, or a part of it, is not in the order. */
export interface Blocked {
  readonly deviceId: string;
  readonly code:
    | 'no_way'
    | 'held_for_good'
    | 'planned_twice'
    | 'left_out'
    | 'not_reached'
    | 'no_computer'
    | 'not_a_host'
    | 'not_placed'
    | 'stuck';
  readonly units: readonly string[];
}
