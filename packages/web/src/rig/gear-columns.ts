import type { rig } from '@deep-patch/core';
import type { CellPatch } from './gear.worker.ts';

export const fieldWords: Readonly<Record<rig.GearField, string>> = {
  name: 'Name',
  type: 'Type',
  quantity: 'Quantity',
  unit: 'Unit',
  place: 'Place',
  address: 'Address',
  hostName: 'Host name',
  mac: 'MAC',
  serial: 'Serial',
  firmware: 'Version',
  note: 'Note',
};

export interface Mend {
  readonly columns?: rig.GearColumns;
  readonly patches?: readonly CellPatch[];
  readonly leaveOut?: readonly number[];
}

/** Says of some lines which type they are; a list without a column of types gets one. How many there are stays said. */
export function mendTypes(
  list: rig.GearList,
  cells: readonly (readonly string[])[],
  lines: readonly number[],
  name: string,
): Mend {
  const { columns } = list;
  const at = columns.fields.indexOf('type');
  const column = at >= 0 ? at : columns.fields.length;
  const patches = lines.map((line) => {
    const [, count] = /^(\d+\s*[x×*])\s/i.exec(cells[line - 1]?.[column] ?? '') ?? [];
    return { line, column, text: count ? `${count} ${name}` : name };
  });
  return at >= 0 ? { patches } : { patches, columns: { ...columns, fields: [...columns.fields, 'type'] } };
}
