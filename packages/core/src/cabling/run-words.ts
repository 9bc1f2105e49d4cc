import { socketLabel, type Cable, type Show } from '../show/index.ts';
import type { CableGrade } from './run-length.ts';

/** Letters alone decide: neither case nor blanks nor strokes. */
export const bare = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[()[\].,:]/g, ' ')
    .replace(/[\s_-]+/g, ' ')
    .trim();

export const mediumWords: Readonly<Record<Cable['medium'], string>> = {
  copper: 'copper',
  fibre: 'fibre',
  wireless: 'air',
};

/** As it stands on a jacket. */
export const gradeWords: Readonly<Record<CableGrade, string>> = {
  cat5e: 'Cat 5e',
  cat6: 'Cat 6',
  cat6a: 'Cat 6A',
  om3: 'OM3',
  om4: 'OM4',
  os2: 'OS2',
};

/** What a run is: its grade where that is known. */
export const kindWords = ({ medium, grade }: Pick<Cable, 'medium' | 'grade'>): string =>
  grade === null ? mediumWords[medium] : gradeWords[grade];

/** Mbit/s as people say it. */
export const rateWords = (mbps: number): string =>
  mbps < 1000 ? `${mbps} Mbit/s` : `${(mbps / 1000).toLocaleString('en-GB')} Gbit/s`;

export const stageWords: Readonly<Record<Cable['stage'], string>> = {
  both: 'always',
  setup: 'set-up only',
  show: 'show only',
};

const mediumBy: Readonly<Record<string, Cable['medium']>> = {
  copper: 'copper',
  cable: 'copper',
  utp: 'copper',
  stp: 'copper',
  rj45: 'copper',
  fibre: 'fibre',
  fiber: 'fibre',
  optical: 'fibre',
  air: 'wireless',
  radio: 'wireless',
  wireless: 'wireless',
  wifi: 'wireless',
  'wi fi': 'wireless',
};

const gradeBy: Readonly<Record<string, CableGrade>> = {
  cat5: 'cat5e',
  cat5e: 'cat5e',
  cat6: 'cat6',
  cat6a: 'cat6a',
  cat7: 'cat6a',
  om3: 'om3',
  om4: 'om4',
  os1: 'os2',
  os2: 'os2',
  singlemode: 'os2',
};

/** A medium, or a grade that tells it: `fibre`, `Cat 6A`, `fibre OM4`. */
export function readKind(text: string): Pick<Cable, 'medium' | 'grade'> | undefined {
  const [plain, ...rest] = [bare(text), bare(text).split(' ').slice(1).join(' ')];
  const grade = [plain, ...rest].map((word) => gradeBy[word.replace(/ /g, '')]).find((known) => known !== undefined);
  if (grade) return { medium: grade.startsWith('cat') ? 'copper' : 'fibre', grade };
  const medium = mediumBy[plain];
  return medium && { medium, grade: null };
}

const stageBy: Readonly<Record<string, Cable['stage']>> = {
  '': 'both',
  always: 'both',
  both: 'both',
  'set up': 'setup',
  setup: 'setup',
  'set up only': 'setup',
  'setup only': 'setup',
  show: 'show',
  'show only': 'show',
};
export const readStage = (text: string): Cable['stage'] | undefined => stageBy[bare(text)];

/** Metres, with or without their unit and with either decimal sign. */
export function readLength(text: string): number | undefined {
  const metres = /^(\d+(?:[.,]\d+)?)\s*(?:m|metres?|meters?)?$/i.exec(text.trim())?.[1];
  return metres === undefined ? undefined : Number(metres.replace(',', '.'));
}

/** Both ends of a run, as on a label. */
export const runWords = (show: Show, { fromDevice, fromSocket, toDevice, toSocket }: Cable): string =>
  `${endWords(show, fromDevice, fromSocket)} to ${endWords(show, toDevice, toSocket)}`;

export const endWords = (show: Show, deviceId: string, socket: string): string =>
  `${show.devices[deviceId]?.name ?? ''} ${socketLabel(show, deviceId, socket)}`;
