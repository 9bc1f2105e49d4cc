import { expect, test } from 'vitest';
import { filledRow, type Content } from '../show/index.ts';
import { adapter, address, device, network, showOf, soundRows, types } from '../show/sample-show.test-data.ts';
import { addressingFacts } from './facts.ts';
import { edgeRange, rulerOf, spotAt } from './ruler.ts';

const block = (id: string, first: number, last: number, more: Partial<Content<'blocks'>> = {}) =>
  filledRow('blocks', {
    id,
    networkId: 'net',
    label: id.toUpperCase(),
    kinds: ['camera'],
    first: `10.1.0.${first}`,
    last: `10.1.0.${last}`,
    ...more,
  } as never);

const waiting = (id: string, unit: number | null, typeId = 'camera', more: Partial<Content<'addresses'>> = {}) => ({
  devices: [device(id, typeId, { unit })],
  interfaces: [adapter(id)],
  addresses: [address(id, null, more)],
});
const late = [
  waiting('cam-b', null),
  waiting('cam-a', 12),
  waiting('cam-c', 3),
  waiting('leased', 1, 'camera', { method: 'dhcp' }),
  waiting('desk-2', 1, 'desk'),
];
const show = showOf({
  ...soundRows,
  types: types.map((type) => (type.id === 'desk' ? { ...type, factory: { ...type.factory, ip: '10.1.0.250' } } : type)),
  networks: [
    network({
      gateway: '10.1.0.1',
      poolFrom: '10.1.0.100',
      poolTo: '10.1.0.119',
      granted: [{ first: '10.1.0.1', last: '10.1.0.199' }],
    }),
  ],
  blocks: [
    block('cams', 20, 39),
    block('desks', 50, 69, { kinds: ['lighting'] }),
    block('later', 80, 89, { use: 'keep_free', kinds: [] }),
  ],
  devices: [...soundRows.devices, device('twin', 'host'), ...late.flatMap(({ devices }) => devices)],
  interfaces: [...soundRows.interfaces, adapter('twin'), ...late.flatMap(({ interfaces }) => interfaces)],
  addresses: [
    address('host', '10.1.0.2'),
    address('twin', '10.1.0.2'),
    address('desk', '10.1.0.60'),
    address('camera', '10.9.9.9'),
    ...late.flatMap(({ addresses }) => addresses),
  ],
});
const facts = addressingFacts(show);
const on = facts.byNetwork.get('net') ?? expect.fail('no network');

test('the ruler shows blocks, pool, units, factory addresses and what is free in host numbers', () => {
  const ruler = rulerOf(facts, on);
  expect(ruler).toMatchObject({
    size: 256,
    blocks: [
      { id: 'cams', label: 'CAMS', from: 20, to: 39, keptFree: false },
      { id: 'desks', from: 50, to: 69, keptFree: false },
      { id: 'later', from: 80, to: 89, keptFree: true },
    ],
    pool: { from: 100, to: 119 },
    units: [
      { at: 2, ip: '10.1.0.2', names: ['host', 'twin'], addressId: 'host-a' },
      { at: 60, ip: '10.1.0.60', names: ['desk'], addressId: 'desk-a' },
    ],
    factory: [{ at: 250, ip: '10.1.0.250' }],
    gateway: 1,
    granted: [{ from: 1, to: 199 }],
    // 199 are granted; one is the gateway, two are taken, 20 are the pool's and 10 are kept free
    free: 199 - 1 - 2 - 20 - 10,
    widest: { from: 120, to: 199 },
  });
});

test('what lies outside is left out: a gateway of another network, a pool that is none', () => {
  const bare = showOf({ ...soundRows, networks: [network({ gateway: '10.2.0.1' })], addresses: [] });
  const all = addressingFacts(bare);
  const ruler = rulerOf(all, all.byNetwork.get('net') ?? expect.fail('no network'));
  expect(ruler).toMatchObject({ gateway: null, pool: null, units: [], blocks: [], granted: [], factory: [] });
  expect([ruler.free, ruler.widest]).toEqual([254, { from: 1, to: 254 }]);
});

test('a click places the unit that waits for that spot: of its block, by number, then by name', () => {
  const at = (host: number) => {
    const { ip, block: name, next, obstacle } = spotAt(facts, on, host);
    return [ip, name, next?.device.name, obstacle !== undefined];
  };
  expect([20, 39, 55, 40, 60].map(at)).toEqual([
    ['10.1.0.20', 'CAMS', 'cam-c', false],
    ['10.1.0.39', 'CAMS', 'cam-c', false],
    ['10.1.0.55', 'DESKS', 'desk-2', false],
    ['10.1.0.40', null, undefined, false],
    ['10.1.0.60', 'DESKS', 'desk-2', true],
  ]);
});

test('the edge of a block moves up to its neighbours and its own other edge', () => {
  expect([
    edgeRange(on, 'cams', 'first'),
    edgeRange(on, 'cams', 'last'),
    edgeRange(on, 'desks', 'first'),
    edgeRange(on, 'desks', 'last'),
    edgeRange(on, 'later', 'last'),
  ]).toEqual([
    { from: 1, to: 39 },
    { from: 20, to: 49 },
    { from: 40, to: 69 },
    { from: 50, to: 79 },
    { from: 80, to: 254 },
  ]);
});
