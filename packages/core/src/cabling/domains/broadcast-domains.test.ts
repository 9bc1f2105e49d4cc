import { expect, test } from 'vitest';
import { filledRow, emptyShow, type Show, type TableName } from '../../show/index.ts';
import { broadcastDomains } from './broadcast-domains.ts';

/** Units on switches: `[unit, switch, VLANs of its networks]`; `joins` are cables between switches. */
interface Rig {
  readonly hubs: Readonly<Record<string, 'managed' | 'plain'>>;
  readonly units: readonly (readonly [id: string, hub: string, vlans: readonly (number | null)[]])[];
  readonly joins?: readonly (readonly [string, string])[];
}

function showOf({ hubs, units, joins = [] }: Rig): Show {
  const tables: Record<string, Record<string, object>> = {};
  const put = (table: TableName, row: { id: string }) =>
    ((tables[table] ??= {})[row.id] = { ...filledRow(table, row as never), rev: 1 });
  const type = (id: string, patch: object) =>
    put('types', {
      id,
      libraryId: 'l',
      model: id,
      version: '1.0',
      name: id,
      kind: 'switch',
      factory: { mode: 'none', ip: null, prefix: null },
      ...patch,
    } as never);
  const sockets = (adapter: string | null) =>
    Array.from({ length: 9 }, (_, at) => ({ key: `p-${at}`, label: `p${at}`, adapter }));
  type('managed', { adapters: [], sockets: sockets(null), forwards: true, managed: true });
  type('plain', { adapters: [], sockets: sockets(null), forwards: true });
  type('unit', { adapters: [{ key: 'lan', label: 'lan' }], sockets: sockets('lan'), kind: 'lighting' });
  const free = new Map<string, number>();
  const socket = (id: string) => {
    free.set(id, (free.get(id) ?? -1) + 1);
    return `p-${free.get(id)}`;
  };
  const cable = (from: string, to: string) =>
    put('cables', {
      id: `${from}-${to}-${free.size}-${socket(from)}`,
      fromDevice: from,
      fromSocket: `p-${free.get(from)}`,
      toDevice: to,
      toSocket: socket(to),
      medium: 'copper',
      lengthM: 1,
    } as never);
  const device = (id: string, typeId: string) =>
    put('devices', { id, typeId, name: id, unit: null, place: '', firmware: null, note: '' } as never);
  for (const [id, typeId] of Object.entries(hubs)) device(id, typeId);
  for (const [a, b] of joins) cable(a, b);
  for (const [id, hub, vlans] of units) {
    device(id, 'unit');
    put('interfaces', { id, deviceId: id, adapter: 'lan', mac: null } as never);
    for (const vlan of vlans) {
      const networkId = `net-${vlan ?? 'none'}`;
      put('networks', {
        id: networkId,
        name: networkId,
        network: '10.0.0.0',
        prefix: 24,
        vlan,
        purpose: '',
        gateway: null,
        poolFrom: null,
        poolTo: null,
      } as never);
      put('addresses', {
        id: `${id}-${networkId}`,
        interfaceId: id,
        networkId,
        ip: null,
        prefix: null,
        gateway: null,
        held: false,
      } as never);
    }
    cable(id, hub);
  }
  return { ...emptyShow({ id: 's', name: 'S' }), rev: 1, ...tables };
}

/** Whether two units hear one another, each by its first network unless another VLAN is named. */
function hears(rig: Rig, a: string, b: string, vlanB?: number): boolean {
  const domains = broadcastDomains(showOf(rig));
  const first = (id: string) => rig.units.find(([unit]) => unit === id)?.[2][0] ?? null;
  const domainOf = (id: string, vlan: number | null) =>
    domains.domainOf(id, 'lan', domains.takesTags(id, 'lan') ? vlan : null);
  return domainOf(a, first(a)) === domainOf(b, vlanB ?? first(b));
}

const one = { core: 'managed' } as const;
test('one managed switch keeps VLANs apart and units of one together', () => {
  const units = [
    ['a', 'core', [20]],
    ['b', 'core', [20]],
    ['c', 'core', [30]],
  ] as const;
  expect([hears({ hubs: one, units }, 'a', 'b'), hears({ hubs: one, units }, 'a', 'c')]).toEqual([true, false]);
});

test('between managed switches every VLAN passes, in a ring as well', () => {
  const hubs = { core: 'managed', far: 'managed', third: 'managed' } as const;
  const joins = [
    ['core', 'far'],
    ['far', 'third'],
    ['third', 'core'],
  ] as const;
  const units = [
    ['a', 'core', [20]],
    ['b', 'third', [20]],
    ['c', 'far', [30]],
  ] as const;
  expect([hears({ hubs, joins, units }, 'a', 'b'), hears({ hubs, joins, units }, 'a', 'c')]).toEqual([true, false]);
});

test('a plain switch is one domain, in the lowest VLAN of what hangs on it', () => {
  const hubs = { core: 'managed', box: 'plain' } as const;
  const joins = [['box', 'core']] as const;
  const units = [
    ['a', 'core', [20]],
    ['b', 'box', [30]],
    ['c', 'box', [20]],
    ['d', 'core', [30]],
  ] as const;
  const rig = { hubs, joins, units };
  // b is planned on another VLAN than its neighbour: behind a plain switch that does not part them
  expect([hears(rig, 'b', 'c'), hears(rig, 'a', 'b'), hears(rig, 'b', 'd')]).toEqual([true, true, false]);
});

test('an adapter on several VLANs takes them tagged and is in each', () => {
  const units = [
    ['a', 'core', [20]],
    ['b', 'core', [30, 20]],
    ['c', 'core', [30]],
  ] as const;
  const rig = { hubs: one, units };
  expect([hears(rig, 'a', 'b', 20), hears(rig, 'c', 'b', 30), hears(rig, 'a', 'b', 30)]).toEqual([true, true, false]);
});

test('what nothing is planned for stays in VLAN 1, with networks that have no number', () => {
  const units = [
    ['a', 'core', []],
    ['b', 'core', [null]],
    ['c', 'core', [20]],
  ] as const;
  const rig = { hubs: one, units };
  expect([hears(rig, 'a', 'b'), hears(rig, 'a', 'c')]).toEqual([true, false]);
  expect(['a', 'c'].map((id) => broadcastDomains(showOf(rig)).vlanOf(id, 'lan'))).toEqual([1, 20]);
});

test('circles that a cable joins are two, and what leads to or between them is in none', () => {
  const hubs = { a: 'plain', b: 'plain', c: 'plain', d: 'plain', e: 'plain', f: 'plain', end: 'plain' } as const;
  const joins = [
    ['a', 'b'],
    ['b', 'c'],
    ['c', 'a'],
    ['d', 'e'],
    ['e', 'd'],
    ['c', 'd'],
    ['e', 'end'],
  ] as const;
  const units = [['unit', 'f', [null]]] as const;
  const loops = ({ hubs: own, joins: cables }: Pick<Rig, 'hubs' | 'joins'>) =>
    broadcastDomains(showOf({ hubs: own, units, ...(cables ? { joins: cables } : {}) })).loops.map((loop) => [
      [...loop.devices].sort().join(),
      loop.cables.length,
      loop.spare.length,
    ]);
  expect(loops({ hubs, joins })).toEqual([
    ['a,b,c', 3, 1],
    ['d,e', 2, 1],
  ]);
  // a tree has none, two circles at one switch are one with two cables too many, and a managed switch cuts
  expect(loops({ hubs, joins: joins.slice(0, 2) })).toEqual([]);
  expect(
    loops({
      hubs,
      joins: [
        ['a', 'b'],
        ['a', 'b'],
        ['a', 'c'],
        ['c', 'a'],
      ],
    }),
  ).toEqual([['a,b,c', 4, 2]]);
  expect(loops({ hubs: { ...hubs, a: 'managed', b: 'managed', c: 'managed' }, joins: joins.slice(0, 3) })).toEqual([]);
});
