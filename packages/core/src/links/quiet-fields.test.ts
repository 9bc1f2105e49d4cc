import { expect, test } from 'vitest';
import { showOf, soundRows } from '../show/sample-show.test-data.ts';
import { contentOf, removeRow, rowsOf, updateRow, type Content, type Device, type Network } from '../show/index.ts';
import { reroutes } from './quiet-fields.ts';

const show = showOf(soundRows);
const device = rowsOf(show, 'devices')[0] as Device;
const network = rowsOf(show, 'networks')[0] as Network;

test('what only people read changes no way; whatever else is edited may', () => {
  const quiet = updateRow('devices', device, { name: 'Other', note: 'x', packed: ['case'] });
  const loud = updateRow('networks', network, { gateway: '10.1.1.1' });
  const of = (...edits: Parameters<typeof reroutes>[0]['edits']) => reroutes({ label: '', edits });
  expect([of(quiet), of(loud), of(quiet, loud), of(loud, quiet), of()]).toEqual([false, true, true, true, false]);
  expect(of(updateRow('devices', device, { name: 'Other', variant: 'second' }))).toBe(true);
  expect(of(removeRow('devices', device))).toBe(true);
  expect(of({ ...quiet, before: null })).toBe(true);
});

test('each field by itself: what is not known to be quiet is loud', () => {
  const quietOnes = {
    devices:
      'name unit place note serial hostName features sources packed feed circuit inputs sharing savedOn done ipv6 accounts names ' +
      'rate takeDelay leads usedFor outputs',
    networks: 'name purpose needsOutside contact rules growth',
    interfaces: 'mac',
    links: 'slot slotGroup label after mustHold',
  } as const;
  let count = 0;
  for (const table of ['devices', 'networks', 'interfaces', 'addresses', 'cables', 'services', 'links'] as const) {
    const row = contentOf(rowsOf(show, table)[0] ?? expect.fail(table));
    for (const field of Object.keys(row).filter((one) => one !== 'id')) {
      const after = { ...row, [field]: 'another' } as Content;
      const quiet = (quietOnes as Record<string, string>)[table]?.split(' ').includes(field) ?? false;
      const edit = { table, id: row.id, base: 1, before: row, after };
      expect([table, field, reroutes({ label: '', edits: [edit] })]).toEqual([table, field, !quiet]);
      count += 1;
    }
  }
  expect(count).toBeGreaterThan(70);
});
