import type { Change, TableName } from '../show/index.ts';

/** *stops*: a link or a unit will not work; *risky*: it may fail or harm another; *note*: worth knowing. */
export type Grade = 'stops' | 'risky' | 'note';
export type Room = 'rig' | 'addressing' | 'cabling' | 'links' | 'surfaces' | 'cues' | 'onair' | 'timecode' | 'wall';
export interface Subject {
  readonly table: TableName;
  readonly id: string;
}
export type Facts = Readonly<Record<string, string | number | readonly string[]>>;

/** A way out that could be worked out: applying the change mends the finding. */
export interface Fix {
  readonly label: string;
  readonly change: Change;
  /** It may change where packets go and nobody has tried yet whether it stops what works. */
  readonly untried?: true;
}

/**
 * A problem of the plan as data: sentences are made last, by the room's `words.ts`. `key` is stable between two
 * analyses as long as the problem is the same one.
 */
export interface Finding<Code extends string = string> {
  readonly room: Room;
  readonly code: Code;
  readonly grade: Grade;
  readonly subjects: readonly Subject[];
  readonly key: string;
  readonly facts: Facts;
  readonly fixes: readonly Fix[];
  /** The finding that this one follows from, by its key: told there, where it was found. */
  readonly cause?: string;
  /** What it stops besides its subjects, in names. */
  readonly stoppedLinks?: readonly string[];
}

export interface Words {
  readonly what: string;
  readonly why: string;
  readonly fix: string;
}

const depth: Readonly<Record<Grade, number>> = { stops: 0, risky: 1, note: 2 };

export function finding<Code extends string>(
  room: Room,
  code: Code,
  grade: Grade,
  subjects: readonly Subject[],
  facts: Facts = {},
  fixes: readonly (Fix | undefined)[] = [],
): Finding<Code> {
  const key = [code, ...subjects.map(({ table, id }) => `${table}/${id}`)].join(' ');
  const real = fixes.filter((fix) => fix !== undefined);
  return { room, code, grade, subjects, key, facts, fixes: real };
}

/** The same finding under a key of its own, where its subjects may change while the problem stays the same one. */
export const keyed = <Code extends string>(
  found: Finding<Code>,
  ...parts: readonly (string | number)[]
): Finding<Code> => ({
  ...found,
  key: [found.code, ...parts].join(' '),
});

/** In the order of the work: what is wrong above is often why something below stops. */
const order: Readonly<Record<Room, number>> = {
  ...{ rig: 0, addressing: 1, cabling: 2, links: 3 },
  ...{ surfaces: 4, cues: 5, onair: 6, timecode: 7, wall: 8 },
};

/** Worst first, causes before what they cause, then by key, so that two analyses of one show list alike. */
export const sortFindings = (findings: readonly Finding[]): Finding[] => [...findings].sort(compareFindings);

export const compareFindings = (a: Finding, b: Finding): number =>
  depth[a.grade] - depth[b.grade] || order[a.room] - order[b.room] || (a.key < b.key ? -1 : Number(a.key > b.key));

export function countGrades(findings: readonly Finding[]): Readonly<Record<Grade, number>> {
  const counts = { stops: 0, risky: 0, note: 0 };
  for (const { grade } of findings) counts[grade] += 1;
  return counts;
}

/** Builds a fix from a change that may turn out to alter nothing. */
export const fixWith = (label: string, change: Change | undefined): Fix | undefined => change && { label, change };
