import { memoFor, rowsOf, socketAt, type Cable, type Show } from '../show/index.ts';

export type CableGrade = NonNullable<Cable['grade']>;

/** What a socket runs at where its type says nothing: 1 Gbit/s. */
const usualMbps = 1000;

/**
 * Metres that a grade carries at a rate in Mbit/s; a rate takes the row of the next one that stands here, and 0 says
 * that no standard has it. IEEE 802.3: clauses 25, 40 and 126 and 55 for copper (ISO/IEC TR 24750 for 10 Gbit/s on
 * category 6), 26, 38, 52, 59, 86, 88, 95, 112 and 114 for fibre.
 */
const longestM: readonly (readonly [mbps: number, metres: Readonly<Record<CableGrade, number>>])[] = [
  [100, { cat5e: 100, cat6: 100, cat6a: 100, om3: 2000, om4: 2000, os2: 10_000 }],
  [1000, { cat5e: 100, cat6: 100, cat6a: 100, om3: 550, om4: 550, os2: 10_000 }],
  [2500, { cat5e: 100, cat6: 100, cat6a: 100, om3: 300, om4: 400, os2: 10_000 }],
  [5000, { cat5e: 0, cat6: 100, cat6a: 100, om3: 300, om4: 400, os2: 10_000 }],
  [10_000, { cat5e: 0, cat6: 55, cat6a: 100, om3: 300, om4: 400, os2: 10_000 }],
  [25_000, { cat5e: 0, cat6: 0, cat6a: 0, om3: 70, om4: 100, os2: 10_000 }],
  [40_000, { cat5e: 0, cat6: 0, cat6a: 0, om3: 100, om4: 150, os2: 10_000 }],
  [100_000, { cat5e: 0, cat6: 0, cat6a: 0, om3: 70, om4: 100, os2: 10_000 }],
];

/** Grades of a medium, the plainest first. */
export const gradesOf: Readonly<Record<Cable['medium'], readonly CableGrade[]>> = {
  copper: ['cat5e', 'cat6', 'cat6a'],
  fibre: ['om3', 'om4', 'os2'],
  wireless: [],
};

/** How far a grade carries a rate, in metres (C46); 0 where no standard has it. */
export function longestAt(grade: CableGrade, mbps: number): number {
  const row = longestM.find(([rate]) => mbps <= rate) ?? longestM.at(-1);
  return row?.[1][grade] ?? 0;
}

/** The rate that a run is meant for, in Mbit/s: the slower end decides. */
export const rateOf = (show: Show, { fromDevice, fromSocket, toDevice, toSocket }: Cable): number =>
  Math.min(socketRate(show, fromDevice, fromSocket), socketRate(show, toDevice, toSocket));

const socketRate = (show: Show, deviceId: string, key: string): number =>
  socketAt(show, deviceId, key)?.rateMbps ?? usualMbps;

/** Do both ends take network cables? Lengths of USB, SDI and HDMI follow other rules. */
export const isEthernet = (show: Show, { fromDevice, fromSocket, toDevice, toSocket }: Cable): boolean =>
  [socketAt(show, fromDevice, fromSocket), socketAt(show, toDevice, toSocket)].every(
    (socket) => socket?.connector === 'rj45' || socket?.connector === 'sfp',
  );

/**
 * Beyond how many metres no link comes up at all; null where length does not decide. Copper goes down to a rate that it
 * carries (IEEE 802.3 clause 28), fibre has one rate. A grade that nobody has looked at may be the best of its medium.
 */
export function longestRun(show: Show, cable: Cable): number | null {
  const known = gradesOf[cable.medium];
  const grades = cable.grade !== null && known.includes(cable.grade) ? [cable.grade] : known;
  const slowest = cable.medium === 'copper' ? 100 : rateOf(show, cable);
  const most = grades.map((grade) => longestAt(grade, slowest));
  return most.length === 0 ? null : Math.max(...most);
}

export function isTooLong(show: Show, cable: Cable): boolean {
  if (cable.lengthM === null) return false;
  const most = longestRun(show, cable);
  return most !== null && cable.lengthM > most;
}

/**
 * Cables on which a link comes up in the show: one that is too long joins nothing, one for setting up is out by then. In
 * the order of their ids, so that what follows from them never depends on the order of rows.
 */
export const linkingCables = memoFor((show: Show): readonly Cable[] =>
  rowsOf(show, 'cables')
    .filter((cable) => isLinking(show, cable))
    .sort((a, b) => (a.id < b.id ? -1 : 1)),
);

/** Does a link come up on a cable in the show? */
export const isLinking = (show: Show, cable: Cable): boolean => cable.stage !== 'setup' && !isTooLong(show, cable);

/** The plainest grade of a medium that carries a rate so far. */
export const gradeFor = (medium: Cable['medium'], mbps: number, lengthM: number): CableGrade | undefined =>
  gradesOf[medium].find((grade) => longestAt(grade, mbps) >= lengthM);

/** What helps where no link comes up on a run. */
export const runAdvice = (lengthM: number): string =>
  gradeFor('fibre', usualMbps, lengthM) ? 'Lay fibre, or put a switch half way.' : 'Put switches on the way.';
