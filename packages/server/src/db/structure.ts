import { show as core, type Change, type Show } from '@deep-patch/core';
import { Failure } from '../http/failure.ts';
import type { Sql } from './pool.ts';
import { readRows } from './shows.ts';

/** Fields by which rows name sockets, adapters, computers and cues; an edit that leaves them alone cannot break anything. */
const structural: Readonly<Record<string, readonly string[]>> = {
  devices: ['runsOn'],
  interfaces: ['deviceId', 'adapter'],
  cues: ['starts'],
  cables: ['medium', 'fromDevice', 'fromSocket', 'toDevice', 'toSocket'],
};

export function isStructural({ table, before, after }: core.Edit): boolean {
  const [old, now] = [before, after] as unknown as (Readonly<Record<string, unknown>> | null)[];
  return (
    now !== null && (structural[table] ?? []).some((field) => !core.isEqual(now?.[field] ?? null, old?.[field] ?? null))
  );
}

/** What is wrong with a change whose rows name sockets, adapters or computers which are not there or taken, all of it. */
export async function brokenStructure(sql: Sql, showId: string, change: Change): Promise<Failure | undefined> {
  const edits = change.edits.filter(isStructural);
  if (edits.length === 0) return undefined;
  const named = edits.flatMap(({ after }) => {
    const { deviceId, fromDevice, toDevice, runsOn } = after as unknown as Record<string, string | null | undefined>;
    return [deviceId, fromDevice, toDevice, runsOn].flatMap((id) => id ?? []);
  });
  const areTypesAsked = edits.some(({ table }) => table !== 'devices' && table !== 'cues');
  const types = areTypesAsked ? await readRows(sql, showId, 'types', null) : {};
  const libraries = areTypesAsked ? await readRows(sql, showId, 'libraries', null) : {};
  const devices: Record<string, core.Row> = {};
  // a program on a program on a program: as far as it leads
  for (let ids = [...new Set(named)]; ids.length > 0;) {
    const found = await readRows(sql, showId, 'devices', ids);
    Object.assign(devices, found);
    const onwards = Object.values(found).flatMap((row) => (row as core.Device).runsOn ?? []);
    ids = [...new Set(onwards)].filter((id) => !(id in devices));
  }
  const cables = edits.some(({ table }) => table === 'cables') ? await readRows(sql, showId, 'cables', null) : {};
  const cues = edits.some(({ table }) => table === 'cues') ? await readRows(sql, showId, 'cues', null) : {};
  const known = { ...core.emptyShow({ id: showId, name: '' }), types, libraries, devices, cables, cues } as Show;
  const faults = core
    .structureFaults(core.written(known, change, 0), change)
    .map(({ path, message }) => ({ at: path.join('.'), message }));
  return faults.length > 0 ? new Failure('INVALID', { faults }) : undefined;
}
