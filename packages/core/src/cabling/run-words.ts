import { socketLabel, type Cable, type Show } from '../show/index.ts';

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

const mediumBy: Readonly<Record<string, Cable['medium']>> = {
  copper: 'copper',
  cable: 'copper',
  utp: 'copper',
  stp: 'copper',
  rj45: 'copper',
  cat5: 'copper',
  cat5e: 'copper',
  cat6: 'copper',
  cat6a: 'copper',
  cat7: 'copper',
  fibre: 'fibre',
  fiber: 'fibre',
  optical: 'fibre',
  air: 'wireless',
  radio: 'wireless',
  wireless: 'wireless',
  wifi: 'wireless',
  'wi fi': 'wireless',
};
export const readMedium = (text: string): Cable['medium'] | undefined => mediumBy[bare(text)];

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
