import { expect, test } from 'vitest';
import { wordsOf } from '../../analyse.ts';
import { applyChange, type FoundHost, type Show } from '../../show/index.ts';
import { adapter, address, device, network, showOf, soundRows, types } from '../../show/sample-show.test-data.ts';
import { addressingFacts } from '../facts.ts';
import { findFound } from './find-found.ts';
import { matchFound } from './match.ts';
import { areAllIn } from './swept.ts';

const show = showOf({
  ...soundRows,
  networks: [network(), { ...network({ id: 'far', name: 'Far' }), network: '10.2.0.0' }],
  devices: [...soundRows.devices, device('rack', 'camera', { name: 'Rack éins' }), device('away', 'camera')],
  interfaces: [
    ...soundRows.interfaces.map((row) => (row.deviceId === 'host' ? { ...row, mac: '02:00:00:00:00:01' } : row)),
    adapter('rack'),
    adapter('away'),
  ],
  addresses: [
    ...soundRows.addresses,
    address('rack', null, { method: 'dhcp' }),
    address('away', '10.2.0.9', { networkId: 'far' }),
  ],
  types,
});
const host = (id: string, ip: string | null, more: Partial<FoundHost> = {}): FoundHost =>
  ({
    id,
    mac: null,
    names: [],
    ips: ip === null ? [] : [{ ip, prefix: null }],
    version: null,
    source: 'scan',
    at: 5,
    ...more,
  }) as FoundHost;
const seenOf = (...hosts: FoundHost[]) => Object.fromEntries(hosts.map((one) => [one.id, one]));
const look = (at: Show, ...hosts: FoundHost[]) => matchFound(at, addressingFacts(at), seenOf(...hosts));
const stateOf = (id: string, ...hosts: FoundHost[]) => {
  const item = look(show, ...hosts).items.get(`${id}-a`);
  return [item?.state, item?.by, item?.ip];
};
const mine = { mac: '02:00:00:00:00:01' };

test('nothing was looked at before anything was found, and only where something was', () => {
  expect(matchFound(show, addressingFacts(show), {})).toMatchObject({ looked: false, at: null, unexpected: [] });
  expect(stateOf('desk', host('x', '10.1.0.200'))).toEqual(['missing', null, null]);
  expect(stateOf('away', host('x', '10.1.0.200'))).toEqual(['not_looked', null, null]);
  expect(stateOf('rack', host('x', '10.1.0.200'))).toEqual(['not_looked', null, null]);
  // a MAC address that the plan puts there is enough
  expect(stateOf('desk', host('x', '192.0.2.1', mine))).toEqual(['missing', null, null]);
  expect(look(show, host('x', '10.1.0.200', { at: 7 }), host('y', '10.1.0.201')).at).toBe(7);
});

test.each([
  ['at its planned address', 'host', [host('a', '10.1.0.2', mine)], ['present', 'mac', '10.1.0.2']],
  [
    'by its name as machines write it',
    'desk',
    [host('a', '10.1.0.60', { names: ['DESK.local'] })],
    ['present', 'name', '10.1.0.60'],
  ],
  ['by its address alone', 'camera', [host('a', '10.1.0.31')], ['present', 'address', '10.1.0.31']],
  ['elsewhere', 'host', [host('a', '10.1.0.77', mine)], ['wrong_address', 'mac', '10.1.0.77']],
  [
    'beside another owner',
    'host',
    [host('a', '10.1.0.2', mine), host('b', '10.1.0.2', { mac: '02:00:00:00:00:09' })],
    ['two_owners', 'mac', '10.1.0.2'],
  ],
  ['as delivered', 'desk', [host('a', '10.9.0.60', { names: ['desk'] })], ['as_delivered', 'name', '10.9.0.60']],
  [
    'with an address of its own making',
    'desk',
    [host('a', '169.254.7.7', { names: ['desk'] })],
    ['self_assigned', 'name', '169.254.7.7'],
  ],
  ['without any', 'desk', [host('a', null, { names: ['desk'] })], ['no_address', 'name', null]],
  [
    'leased where it belongs',
    'rack',
    [host('a', '10.1.0.140', { names: ['rack-éins'] })],
    ['present', 'name', '10.1.0.140'],
  ],
  [
    'leased in another network',
    'rack',
    [host('a', '10.2.0.140', { names: ['rack éins'] })],
    ['wrong_address', 'name', '10.2.0.140'],
  ],
] as const)('a unit found %s', (_what, id, hosts, wanted) => {
  expect(stateOf(id, ...hosts)).toEqual(wanted);
});

test('a unit with two addresses is one unit, also in a list without MAC addresses', () => {
  const two = showOf({
    ...soundRows,
    networks: [network(), { ...network({ id: 'far', name: 'Far' }), network: '10.2.0.0' }],
    addresses: [...soundRows.addresses, { ...address('desk', '10.2.0.60', { networkId: 'far' }), id: 'desk-b' }],
  });
  const { items, unexpected } = look(two, host('a', '10.1.0.60'), host('b', '10.2.0.60'));
  expect([items.get('desk-a')?.state, items.get('desk-b')?.state, unexpected]).toEqual(['present', 'present', []]);
  // what has another MAC address is another unit
  const other = look(
    two,
    host('a', '10.1.0.60', { mac: '02:00:00:00:00:44' }),
    host('b', '10.2.0.60', { mac: '02:00:00:00:00:45' }),
  );
  expect(other.unexpected.map(({ host: { id } }) => id)).toEqual(['b']);
});

test('a clash names the other unit where it is one of the plan', () => {
  const known = showOf({
    ...soundRows,
    interfaces: soundRows.interfaces.map((row) => ({
      ...row,
      mac: { host: '02:00:00:00:00:01', desk: '02:00:00:00:00:02' }[row.deviceId] ?? null,
    })),
  });
  const clash = look(known, host('a', '10.1.0.2', mine), host('b', '10.1.0.2', { mac: '02:00:00:00:00:02' }));
  const said = findFound(known, clash).map((one) => wordsOf(one).what);
  expect(said).toContain('10.1.0.2 of host is also used by desk.');
});

test('a sweep meets a host when it asked for all of its addresses', () => {
  const swept = [
    { ip: '10.1.0.9', prefix: 24 },
    { ip: '10.2.7.9', prefix: 16 },
  ];
  const ips = (...list: string[]) => list.map((ip) => ({ ip, prefix: null }));
  expect(
    [ips('10.1.0.255'), ips('10.1.0.1', '10.2.0.1'), ips('10.1.0.1', '10.1.1.1'), ips('10.3.0.1'), []].map((list) =>
      areAllIn(swept, list),
    ),
  ).toEqual([true, true, false, false, false]);
});

test('a name that two units share, or a MAC address of another, recognises nobody', () => {
  const twins = showOf({
    ...soundRows,
    devices: soundRows.devices.map((row) => (row.id === 'camera' ? { ...row, name: 'Desk' } : row)),
    interfaces: soundRows.interfaces.map((row) => ({ ...row, mac: `02:00:00:00:01:${row.deviceId.length}0` })),
  });
  const other = host('a', '10.1.0.60', { names: ['desk'], mac: '02:00:00:00:00:44' });
  const { items, unexpected } = look(twins, other);
  expect([items.get('desk-a')?.host, unexpected.map(({ host: { id } }) => id)]).toEqual([undefined, ['a']]);
});

test('a stranger at a factory address may be one of those that are missing', () => {
  const { unexpected } = look(show, host('a', '10.9.0.40'), host('b', '10.1.0.200', { mac: '02:00:00:00:00:44' }));
  expect(unexpected.map(({ host: { id }, maybe }) => [id, maybe.map((unit) => unit.id)])).toEqual([
    ['a', ['camera', 'rack', 'away']],
    ['b', []],
  ]);
});

test('each difference is said with what to do, and what can be written down is', () => {
  const hosts = [
    host('a', '10.1.0.77', mine),
    host('b', '10.1.0.60', {
      names: ['desk'],
      version: '3.0',
      mac: '02:00:00:00:00:60',
      ips: [{ ip: '10.1.0.60', prefix: 25 }] as never,
    }),
    host('c', '10.1.0.60', { mac: '02:00:00:00:00:61' }),
    host('d', '10.9.0.40', { names: ['camera'] }),
  ];
  const found = findFound(show, look(show, ...hosts));
  const said = found.map((one) => [one.code, one.grade, wordsOf(one).what, one.fixes.map(({ label }) => label)]);
  expect(said).toEqual([
    ['found_elsewhere', 'stops', 'host is planned at 10.1.0.2 and was found at 10.1.0.77.', ['Plan it at 10.1.0.77']],
    ['found_two_owners', 'stops', '10.1.0.60 of desk is also used by 02:00:00:00:00:61.', []],
    ['found_as_delivered', 'risky', 'camera still has its factory address 10.9.0.40.', []],
    ['found_mask', 'risky', 'desk was found with the mask /25 instead of /24.', []],
    ['found_version', 'note', 'desk runs 3.0; the list says 2.0.', ['Write 3.0 down']],
    [
      'found_mac',
      'note',
      'desk was recognised by its name and has the MAC address 02:00:00:00:00:60.',
      ['Write 02:00:00:00:00:60 down'],
    ],
    ['found_strangers', 'note', '1 host is on the network and not in the plan: 10.1.0.60.', []],
  ]);
  for (const { fixes, code } of found)
    for (const { change } of fixes) {
      const applied = applyChange(show, change);
      if (!applied.ok) throw new Error(`${code} does not apply`);
      const left = findFound(applied.show, look(applied.show, ...hosts)).map((one) => one.code);
      expect([code, left.includes(code)]).toEqual([code, false]);
    }
  const gone = findFound(show, look(show, host('x', '10.1.0.200', { names: ['guest'] })));
  expect(gone.map((one) => wordsOf(one).what)).toEqual([
    '3 units were not found: host, desk and camera.',
    '1 host is on the network and not in the plan: guest.',
  ]);
});
