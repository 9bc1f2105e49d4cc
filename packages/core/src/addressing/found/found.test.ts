import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { applyChange, type Content, type FoundHost, type Show } from '../../show/index.ts';
import { adapter, address, device, network, showOf } from '../../show/sample-show.test-data.ts';
import { addressingWords } from '../find-addressing.ts';
import { addressingFacts } from '../facts.ts';
import { findFound } from './find-found.ts';
import { gatherHosts, type Clue } from './gather.ts';
import { matchFound } from './match.ts';

const macOf = (n: number) => `02:00:00:00:00:0${n}`;
const about = { source: 'capture', at: 5 } as const;
/** Three cameras with addresses, two with known MACs, and a host that waits. */
function rig(patch: { addresses?: Content<'addresses'>[]; network?: Partial<Content<'networks'>> } = {}): Show {
  return showOf({
    networks: [network(patch.network)],
    devices: ['a', 'b', 'c'].map((id) => device(id, 'camera', { name: `Camera ${id}` })),
    interfaces: [{ ...adapter('a'), mac: macOf(1) }, { ...adapter('b'), mac: macOf(2) }, adapter('c')],
    addresses: patch.addresses ?? [address('a', '10.1.0.31'), address('b', '10.1.0.32'), address('c', '10.1.0.33')],
  });
}
const clue = (mac: string | null, ip: string | null, more: Partial<Clue> = {}): Clue => ({
  by: 'arp',
  mac,
  ip,
  ...more,
});
const compare = (show: Show, clues: readonly Clue[]) => {
  const found = Object.fromEntries(gatherHosts(clues, about).hosts.map((host) => [host.id, host]));
  return matchFound(show, addressingFacts(show), found);
};
const states = (show: Show, clues: readonly Clue[]) =>
  [...compare(show, clues).items.values()].map(({ planned, state }) => [planned.device.id, state]);

describe('planned against found', () => {
  test('nothing found, nothing said', () => expect(compare(rig(), []).looked).toBe(false));

  test('each state, by MAC', () => {
    expect(states(rig(), [clue(macOf(1), '10.1.0.31'), clue(macOf(2), '10.1.0.99')])).toEqual([
      ['a', 'present'],
      ['b', 'wrong_address'],
      ['c', 'missing'],
    ]);
    expect(states(rig(), [clue(macOf(1), '10.9.0.40'), clue(macOf(2), '169.254.3.4')])).toEqual([
      ['a', 'as_delivered'],
      ['b', 'self_assigned'],
      ['c', 'missing'],
    ]);
    expect(states(rig(), [clue(macOf(1), '10.1.0.31'), clue(macOf(7), '10.1.0.31'), clue(macOf(2), null)])).toEqual([
      ['a', 'two_owners'],
      ['b', 'no_address'],
      ['c', 'missing'],
    ]);
  });

  test('then by name, then by address; a MAC that was learnt so can be written down', () => {
    const show = rig();
    const found = compare(show, [clue(macOf(8), '10.1.0.50', { name: 'camera-C.local' })]);
    const [third] = [...found.items.values()].slice(2);
    expect([third?.by, third?.state, third?.newMac]).toEqual(['name', 'wrong_address', macOf(8)]);
    const byAddress = [...compare(show, [clue(macOf(8), '10.1.0.33')]).items.values()][2];
    expect([byAddress?.by, byAddress?.state]).toEqual(['address', 'present']);
    // a unit whose MAC is known is never taken for another that sits on its address
    const stranger = compare(show, [clue(macOf(8), '10.1.0.31')]);
    expect(stranger.unexpected.map(({ host }) => host.mac)).toEqual([macOf(8)]);
  });

  test('a leased unit is present anywhere in its network', () => {
    const leased = rig({ addresses: [address('a', null, { method: 'dhcp' })] });
    expect(states(leased, [clue(macOf(1), '10.1.0.140')])).toEqual([['a', 'present']]);
  });

  test('a stranger at a factory address is connected with the units that come from there', () => {
    const { unexpected } = compare(rig(), [clue(macOf(9), '10.9.0.40'), clue(macOf(1), '10.1.0.31')]);
    expect(unexpected.map(({ maybe }) => maybe.map(({ id }) => id))).toEqual([['b', 'c']]);
  });

  test('each finding is said in whole sentences and its fix takes it away', () => {
    const show = rig();
    const found = compare(show, [
      clue(macOf(1), '10.1.0.99', { prefix: 16 }),
      clue(macOf(8), '10.1.0.33', { version: '1.9', prefix: 16 }),
      clue(macOf(7), '10.1.0.200'),
    ]);
    const findings = findFound(show, found);
    expect(findings.map(({ code }) => code)).toEqual([
      'found_elsewhere',
      'found_mask',
      'found_version',
      'found_mac',
      'found_missing',
      'found_strangers',
    ]);
    for (const finding of findings) {
      const { what, why, fix } = addressingWords(finding);
      for (const text of [what, why, fix]) expect(text).toMatch(/^\S.*[.!]$/);
      expect(`${what}${why}${fix}`).not.toMatch(/undefined|null|\[object/);
      for (const { change } of finding.fixes) {
        const applied = applyChange(show, change);
        if (!applied.ok) throw new Error('does not apply');
        const hosts = Object.fromEntries(
          [...found.items.values()].flatMap(({ host }) => (host ? [[host.id, host]] : [])),
        );
        const after = findFound(applied.show, matchFound(applied.show, addressingFacts(applied.show), hosts));
        expect(after.some(({ key }) => key === finding.key)).toBe(false);
      }
    }
  });
});

describe('gathering', () => {
  const hosts = (clues: readonly Clue[]): FoundHost[] => gatherHosts(clues, about).hosts;

  test('a router that passes packets on is not taken for the owner of their addresses', () => {
    const passed = Array.from({ length: 9 }, (_, n) => clue(macOf(1), `172.27.5.${n + 10}`, { by: 'ip' }));
    expect(hosts([...passed, clue(macOf(1), '10.1.0.1')])).toMatchObject([
      { ips: [{ ip: '10.1.0.1', prefix: null }], roles: ['gateway'] },
    ]);
  });

  test('what was said of a bare address goes to the host that has it', () => {
    const told = [
      clue(null, '10.1.0.1', { role: 'dhcp_server' }),
      clue(null, '10.1.0.1', { name: 'Router' }),
      clue(macOf(1), '10.1.0.1'),
    ];
    expect(hosts(told)).toMatchObject([{ mac: macOf(1), roles: ['dhcp_server'], names: ['Router'] }]);
  });

  test('memory stays bounded whatever comes', () => {
    const many = Array.from({ length: 20_500 }, (_, n) =>
      clue(
        `02:00:00:${[n >> 16, (n >> 8) & 255, n & 255].map((byte) => byte.toString(16).padStart(2, '0')).join(':')}`,
        null,
      ),
    );
    const { hosts: kept, leftOut } = gatherHosts(many, about);
    expect([kept.length, leftOut]).toEqual([20_000, 500]);
    const busy = Array.from({ length: 500 }, (_, n) => clue(macOf(1), `10.1.${n >> 8}.${n & 255}`));
    expect(hosts(busy)[0]?.ips).toHaveLength(64);
  });

  test('the order of clues does not matter for who has what', () => {
    const clues = [
      clue(macOf(1), '10.1.0.31'),
      clue(macOf(1), '10.1.0.31', { by: 'ip' }),
      clue(null, '10.1.0.31', { name: 'Cam' }),
      clue(macOf(2), '10.1.0.32', { prefix: 24 }),
    ];
    const plain = (list: FoundHost[]) =>
      list.map(({ mac, ips, names }) => ({ mac, ips, names })).sort((a, b) => ((a.mac ?? '') < (b.mac ?? '') ? -1 : 1));
    fc.assert(
      fc.property(fc.shuffledSubarray(clues, { minLength: 4 }), (shuffled) => {
        expect(plain(hosts(shuffled))).toEqual(plain(hosts(clues)));
      }),
    );
  });
});
