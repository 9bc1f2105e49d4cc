import { describe, expect, test } from 'vitest';
import { applyChange, type Content, type Show } from '../show/index.ts';
import { adapter, address, device, network, showOf, types } from '../show/sample-show.test-data.ts';
import { addressingFacts } from './facts.ts';
import { findAddressing } from './find-addressing.ts';
import { formatIp, mustIp } from './ipv4.ts';
import { planPlacement, suggestHost } from './plan-placement.ts';
import { adapterBeside, harmlessGateway, reachWays } from './reach.ts';

interface Rig {
  readonly network?: Partial<Content<'networks'>>;
  readonly units: Readonly<Record<string, string | null>>;
  readonly type?: string;
  readonly patch?: Partial<Content<'addresses'>>;
  readonly blocks?: readonly Content<'blocks'>[];
  readonly more?: readonly Content<'types'>[];
}
const rig = ({ network: on, units, type = 'camera', patch, blocks = [], more = [] }: Rig): Show =>
  showOf({
    types: [...types, ...more],
    networks: [network(on)],
    blocks,
    devices: Object.keys(units).map((id) => device(id, type)),
    interfaces: Object.keys(units).map((id) => adapter(id)),
    addresses: Object.entries(units).map(([id, ip]) => address(id, ip, patch)),
  });
const codes = (show: Show) => findAddressing(show, addressingFacts(show)).map(({ code }) => code);
/** The codes that are left once the first fix of a finding was made. */
function mended(show: Show, code: string): string[] {
  const change = findAddressing(show, addressingFacts(show)).find((finding) => finding.code === code)?.fixes[0]?.change;
  const applied = change && applyChange(show, change);
  if (!applied?.ok) throw new Error(`${code} has no fix`);
  return codes(applied.show);
}

describe('gateways', () => {
  test('the harmless one lies outside the pool, other people’s ranges and every entry', () => {
    const kept = { id: 'k', networkId: 'net', label: 'Radio', kinds: [], first: '10.1.0.253', last: '10.1.0.254' };
    const at = (on: NonNullable<Rig['network']>, blocks: NonNullable<Rig['blocks']> = []) =>
      harmlessGateway(addressingFacts(rig({ network: on, units: {}, blocks })), 'net');
    expect(at({})).toBe('10.1.0.254');
    expect(at({ poolFrom: '10.1.0.200', poolTo: '10.1.0.254' })).toBe('10.1.0.199');
    expect(at({}, [{ ...kept, use: 'keep_free' }])).toBe('10.1.0.252');
    expect(at({ granted: [{ first: '10.1.0.20', last: '10.1.0.29' }] })).toBe('10.1.0.29');
  });

  test('one inside the pool is told and taken out at its edge; one beside it is not', () => {
    const pool = { poolFrom: '10.1.0.10', poolTo: '10.1.0.20' };
    const withGateway = (gateway: string) => rig({ network: { ...pool, gateway, needsOutside: true }, units: {} });
    for (const inside of ['10.1.0.10', '10.1.0.20']) {
      expect(codes(withGateway(inside))).toContain('gateway_in_pool');
      expect(mended(withGateway(inside), 'gateway_in_pool')).not.toContain('gateway_in_pool');
    }
    for (const beside of ['10.1.0.9', '10.1.0.21']) expect(codes(withGateway(beside))).not.toContain('gateway_in_pool');
  });

  test('a unit that is its own gateway is told, one with another is not', () => {
    const own = rig({ units: { a: '10.1.0.31' }, patch: { gateway: '10.1.0.31' } });
    expect(codes(own)).toContain('own_gateway');
    expect(mended(own, 'own_gateway')).not.toContain('own_gateway');
    expect(codes(rig({ units: { a: '10.1.0.31' }, patch: { gateway: '10.1.0.1' } }))).not.toContain('own_gateway');
  });

  test('nobody is put on a gateway, whoever has it entered', () => {
    const show = rig({ units: { a: '10.1.0.40', b: null }, patch: { gateway: '10.1.0.250' } });
    const facts = addressingFacts(show);
    expect(adapterBeside(facts, mustIp('10.1.0.40'), 24)?.ip).toBe('10.1.0.249');
    const [waiting] = facts.planned.filter(({ ip }) => ip === null);
    const taken = rig({ units: { a: '10.1.0.40', b: null }, patch: { gateway: '10.1.0.1' } });
    expect(waiting && suggestHost(facts, waiting)).toBe(mustIp('10.1.0.1'));
    expect(planPlacement(taken).placed.map(({ ip }) => formatIp(ip))).toEqual(['10.1.0.2']);
  });
});

test('a grant that is full with its growth is told, one with room for it is not', () => {
  const granted = (last: string) =>
    rig({
      network: { owner: 'house', granted: [{ first: '10.1.0.31', last }], growth: 50 },
      units: { a: '10.1.0.31', b: '10.1.0.32' },
    });
  expect(codes(granted('10.1.0.32'))).toContain('network_tight');
  expect(codes(granted('10.1.0.33'))).not.toContain('network_tight');
});

test('what gives itself an address is told outside the range of self-assigned ones only', () => {
  const on = (ip: string, prefix: number) =>
    rig({ network: { network: ip, prefix }, units: { a: null }, patch: { method: 'self' } });
  expect(codes(on('10.1.0.0', 24))).toContain('self_outside');
  expect(mended(on('10.1.0.0', 24), 'self_outside')).not.toContain('self_outside');
  expect(codes(on('169.254.0.0', 16))).not.toContain('self_outside');
});

test('an address that was keyed in before is tried after the planned one', () => {
  const base = rig({ units: { a: '10.1.0.31' } });
  const value = '10.44.0.7, mask 255.255.0.0, gateway none';
  const keyed = { id: 'a', deviceId: 'a', values: [{ of: 'address' as const, key: 'a-a', label: 'x', value }], rev: 1 };
  const a = base.devices['a'];
  if (!a) throw new Error('no unit');
  const ways = (show: Show) => reachWays(show, addressingFacts(show), a).map(({ why, at, range }) => [why, at, range]);
  expect(ways({ ...base, keyedIn: { a: keyed } }).slice(0, 2)).toEqual([
    ['planned', '10.1.0.31', '10.1.0.0/24'],
    ['keyed_in', '10.44.0.7', '10.44.0.0/16'],
  ]);
  expect(ways(base).map(([why]) => why)).not.toContain('keyed_in');
});

test('alike units that nothing else is asked of stand in one run, where there is one', () => {
  const taken = { t1: '10.1.0.2', t2: '10.1.0.4' };
  const three = { a: null, b: null, c: null };
  const placedAt = (prefix: number) => {
    const show = rig({ network: { prefix }, units: { ...taken, ...three } });
    return planPlacement(show).placed.map(({ item, ip }) => `${item.device.id} ${formatIp(ip)}`);
  };
  expect(placedAt(24)).toEqual(['a 10.1.0.5', 'b 10.1.0.6', 'c 10.1.0.7']);
  // no run of three is left in six hosts with two taken
  expect(placedAt(29)).toEqual(['a 10.1.0.1', 'b 10.1.0.3', 'c 10.1.0.5']);
});
