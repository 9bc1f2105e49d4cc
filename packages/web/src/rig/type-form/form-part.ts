import type { show } from '@deep-patch/core';

export type TypeContent = show.Content<'types'>;

/** A part of the form of a type: all of them write one draft. `issues` are its faults by the path of the field. */
export interface FormPart {
  readonly values: TypeContent;
  readonly issues: ReadonlyMap<string, string>;
  readonly patch: (change: Partial<TypeContent>) => void;
}

/** A text as a number where it is one; what is none stays as typed, and its fault is told. */
export const numberOf = (text: string): number | null =>
  text.trim() === '' ? null : Number.isFinite(Number(text)) ? Number(text) : (text as unknown as number);

export const textOf = (value: string | number | boolean | null | undefined): string =>
  value === null || value === undefined ? '' : String(value);

/** The first key of that kind which is not taken yet: keys stay as they are made, whatever is renamed later. */
export function freeKey(stem: string, items: readonly { readonly key: string }[]): string {
  const taken = new Set(items.map(({ key }) => key));
  let number = items.length + 1;
  while (taken.has(`${stem}-${number}`)) number += 1;
  return `${stem}-${number}`;
}

/** A name as a key: letters, figures and strokes. */
export const keyFrom = (name: string): string =>
  name
    .toLowerCase()
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 40) || 'type';
