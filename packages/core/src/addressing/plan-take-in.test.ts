import { expect, test } from 'vitest';
import { readGearList } from '../rig/index.ts';
import { applyChange, rowsOf, type Show } from '../show/index.ts';
import { network, showOf } from '../show/sample-show.test-data.ts';
import { readGearAddress } from './gear-address.ts';
import { planTakeIn } from './plan-take-in.ts';

const read = (show: Show, cells: string[][]) => readGearList(cells, show, { readAddress: readGearAddress });
function takenIn(show: Show, cells: string[][]): Show {
  let n = 0;
  const change = planTakeIn(show, read(show, cells).rows, () => `n${(n += 1)}`);
  const applied = change && applyChange(show, change);
  if (!applied?.ok) throw new Error('not applied');
  return applied.show;
}
const head = ['name', 'type', 'address', 'host name', 'serial', 'note'];

test('units come with adapters and services of their type and everything that the list says, in one change', () => {
  const bare = showOf({ networks: [network()] });
  const after = takenIn(bare, [
    head,
    ['C1', 'Camera', '', 'cam-1', 'S1', 'by the mast'],
    ['D1', 'Desk', '', '', '', ''],
  ]);
  const counts = (['devices', 'interfaces', 'services', 'addresses'] as const).map(
    (table) => rowsOf(after, table).length,
  );
  expect(counts).toEqual([2, 2, 2, 2]);
  expect(rowsOf(after, 'addresses').every(({ ip }) => ip === null)).toBe(true);
  expect(rowsOf(after, 'devices')[0]).toMatchObject({ hostName: 'cam-1', serial: 'S1', note: 'by the mast' });
});

test('an address joins the narrowest network around it, or one that is made for it and overlaps none', () => {
  const show = showOf({
    networks: [network(), network({ id: 'narrow', name: 'Narrow', network: '10.1.0.64', prefix: 28 })],
  });
  const after = takenIn(show, [
    head,
    ['C1', 'Camera', '10.1.0.70', '', '', ''],
    ['C2', 'Camera', '10.1.0.31', '', '', ''],
    ['C3', 'Camera', '10.70.3.9', '', '', ''],
    ['C4', 'Camera', '10.70.3.10/16', '', '', ''],
    ['C5', 'Camera', '10.80.0.1/16', '', '', ''],
    ['C6', 'Camera', '', '', '', ''],
  ]);
  const on = rowsOf(after, 'addresses').map(({ ip, networkId, prefix }) => {
    const row = after.networks[networkId];
    return `${ip} in ${row?.network}/${row?.prefix} ${prefix ?? ''}`.trim();
  });
  expect(on.sort()).toEqual([
    '10.1.0.31 in 10.1.0.0/24',
    '10.1.0.70 in 10.1.0.64/28',
    '10.70.3.10 in 10.70.3.0/24 16',
    '10.70.3.9 in 10.70.3.0/24',
    '10.80.0.1 in 10.80.0.0/16',
  ]);
  const names = rowsOf(after, 'networks').map(({ name }) => name);
  expect(new Set(names).size).toBe(names.length);
});

test('each fault of an address has its words and its guess', () => {
  const show = showOf({ networks: [network()] });
  const { problems } = read(show, [
    head,
    ['A', 'Camera', '10.1.0.31', '', '', ''],
    ['B', 'Camera', '10.1.0.31', '', '', ''],
    ['C', 'Camera', '10.1.0,32', '', '', ''],
    ['D', 'Camera', '10.1.0.0/24', '', '', ''],
    ['E', 'Camera', '224.0.0.5', '', '', ''],
    ['F', 'Camera', 'soon', '', '', ''],
  ]);
  expect(problems.map(({ line, code, isBlocking, hint }) => [line, code, isBlocking, hint])).toEqual([
    [3, 'address_twice', false, '2'],
    [4, 'bad_address', true, '10.1.0.32'],
    [5, 'no_host_address', true, 'it is the name of the network itself'],
    [6, 'no_host_address', true, 'its range is kept for other purposes'],
    [7, 'bad_address', true, ''],
  ]);
});
