import {
  changeOf,
  hostNamePattern,
  interfacesOf,
  limits,
  typeOf,
  updateRow,
  type Change,
  type Content,
  type Device,
  type Edit,
  type Show,
} from '../show/index.ts';
import { readMac } from './read-mac.ts';
import { systemTexts } from './type-words.ts';

/** Columns of the rig's table that can be typed into, filled down and pasted over. */
export const cellFields = [
  'name',
  'unit',
  'place',
  'firmware',
  'mac',
  'serial',
  'hostName',
  'variant',
  'system',
  'systemVersion',
  'sources',
  'circuit',
  'savedOn',
  'note',
] as const;
export type CellField = (typeof cellFields)[number];

export interface Cell {
  readonly deviceId: string;
  readonly field: CellField;
  readonly text: string;
}
export interface CellFault extends Cell {
  readonly message: string;
}
export type CellPlan =
  | { readonly ok: true; readonly change: Change | undefined }
  | { readonly ok: false; readonly faults: readonly CellFault[] };

type Value = { ok: true; value: string | number | null } | { ok: false; message: string };
const good = (value: string | number | null): Value => ({ ok: true, value });
const bad = (message: string): Value => ({ ok: false, message });

/** Writes many cells as one change, or names every cell that cannot be. A cell of an unknown unit is left out. */
export function planCells(show: Show, cells: readonly Cell[]): CellPlan {
  const faults: CellFault[] = [];
  const patches = new Map<string, Partial<Content<'devices'>>>();
  const macs = new Map<string, string | null>();
  for (const cell of cells) {
    const device = show.devices[cell.deviceId];
    if (!device) continue;
    const read = readers[cell.field](cell.text.trim(), show, device);
    if (!read.ok) faults.push({ ...cell, message: read.message });
    else if (cell.field === 'mac') macs.set(device.id, read.value as string | null);
    else patches.set(device.id, { ...patches.get(device.id), [cell.field]: read.value });
  }
  if (faults.length > 0) return { ok: false, faults };
  const edits: Edit[] = [
    ...[...patches].flatMap(([id, patch]) => {
      const device = show.devices[id];
      return device ? [updateRow('devices', device, patch)] : [];
    }),
    ...[...macs].flatMap(([id, mac]) =>
      interfacesOf(show, id)
        .slice(0, 1)
        .map((row) => updateRow('interfaces', row, { mac })),
    ),
  ];
  const ids = new Set(cells.map(({ deviceId }) => deviceId));
  const [only] = ids;
  const name = ids.size === 1 ? (show.devices[only ?? '']?.name ?? 'a unit') : `${ids.size} units`;
  return { ok: true, change: changeOf(`Change ${name}`, edits) };
}

/** What stands in a cell, as text. */
export function cellText(show: Show, device: Device, field: CellField, mac: string | null): string {
  if (field === 'mac') return mac ?? '';
  if (field === 'system') return device.system === null ? '' : systemTexts[device.system];
  if (field === 'variant')
    return typeOf(show, device)?.variants.find(({ key }) => key === device.variant)?.label ?? device.variant ?? '';
  return String(device[field] ?? '');
}

const text =
  (most: number, nullable: boolean) =>
  (typed: string): Value =>
    typed.length > most ? bad(`At most ${most} characters`) : good(typed === '' && nullable ? null : typed);

const whole =
  (most: number) =>
  (typed: string): Value =>
    typed === ''
      ? good(null)
      : /^\d+$/.test(typed) && Number(typed) <= most
        ? good(Number(typed))
        : bad(`A whole number from 0 to ${most}`);

const readers: Readonly<Record<CellField, (typed: string, show: Show, device: Device) => Value>> = {
  name: (typed) => (typed === '' ? bad('Give it a name') : text(limits.name, false)(typed)),
  unit: whole(limits.unit),
  place: text(limits.text, false),
  firmware: text(limits.text, true),
  mac: (typed) => {
    const mac = typed === '' ? null : readMac(typed);
    return mac === undefined ? bad('Six pairs of 0-9 and a-f, such as 02:1e:70:00:00:7d') : good(mac);
  },
  serial: text(limits.text, false),
  hostName: (typed) =>
    hostNamePattern.test(typed) ? good(typed) : bad('Up to 63 of a-z, 0-9 and -, none at its ends'),
  variant: (typed, show, device) => {
    const variants = typeOf(show, device)?.variants ?? [];
    const found = variants.find(({ key, label }) => [key, label.toLowerCase()].includes(typed.toLowerCase()));
    if (typed === '') return good(null);
    if (found) return good(found.key);
    return bad(
      variants.length > 0 ? `One of: ${variants.map(({ label }) => label).join(', ')}` : 'This type has no variants',
    );
  },
  system: (typed) => {
    const found = Object.entries(systemTexts).find(([key, label]) =>
      [key, label.toLowerCase()].includes(typed.toLowerCase()),
    );
    return typed === '' ? good(null) : found ? good(found[0]) : bad(`One of: ${Object.values(systemTexts).join(', ')}`);
  },
  systemVersion: text(limits.text, true),
  sources: whole(limits.sources),
  circuit: text(limits.text, false),
  savedOn: (typed) => {
    if (typed === '') return good(null);
    return isDay(typed) ? good(typed) : bad('A day such as 2026-11-25');
  },
  note: text(limits.note, false),
};

/** A day of the Gregorian calendar as `2026-11-25` (ISO 8601-1 sections 4.2.1 and 5.2.2.1). */
function isDay(text: string): boolean {
  const [year = 0, month = 0, day = 0] = /^\d{4}-\d\d-\d\d$/.test(text) ? text.split('-').map(Number) : [];
  const isLeap = (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;
  const days = [31, isLeap ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31][month - 1] ?? 0;
  return day >= 1 && day <= days;
}
