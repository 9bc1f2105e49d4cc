import fc from 'fast-check';
import { expect, test } from 'vitest';
import { applyChange, rowsOf, type Content, type Show } from '../show/index.ts';
import { adapter, address, device, network, showOf } from '../show/sample-show.test-data.ts';
import { addressingFacts } from './facts.ts';
import { findAddressing } from './find-addressing.ts';
import { formatIp, hostRange, mustIp, subnetOf } from './ipv4.ts';
import { mendable, planPlacement } from './plan-placement.ts';
import { rulerOf } from './ruler.ts';
import { proposeBlocks } from './propose-blocks.ts';
import { causesOf, waysOut } from './ways-out.ts';
import { casesOf } from '../cases.test-data.ts';

const block = (from: number, to: number, kinds: Content<'blocks'>['kinds']): Content<'blocks'> => ({
  use: 'place',
  id: `b${from}`,
  networkId: 'net',
  label: 'Block',
  kinds,
  first: `10.1.0.${from}`,
  last: `10.1.0.${to}`,
});
const unit = (id: string, n: number | null, ip: string | null, typeId = 'camera') => ({
  device: device(id, typeId, { unit: n }),
  row: address(id, ip),
});
const rigOf = (
  units: ReturnType<typeof unit>[],
  more: { blocks?: Content<'blocks'>[]; network?: Partial<Content<'networks'>> } = {},
) =>
  showOf({
    networks: [network(more.network)],
    blocks: more.blocks ?? [],
    devices: units.map((u) => u.device),
    interfaces: units.map((u) => adapter(u.device.id)),
    addresses: units.map((u) => u.row),
  });
const ips = (show: Show) =>
  Object.fromEntries(rowsOf(show, 'addresses').map((row) => [row.interfaceId.replace('-lan', ''), row.ip]));

function placed(show: Show): Show {
  const { change } = planPlacement(show);
  const applied = change && applyChange(show, change);
  return applied?.ok ? applied.show : show;
}

test('unit 3 of a kind whose block starts at .31 ends in .33', () => {
  const show = rigOf([unit('a', 3, null), unit('b', 1, null), unit('c', null, null)], {
    blocks: [block(31, 46, ['camera'])],
  });
  expect(ips(placed(show))).toEqual({ a: '10.1.0.33', b: '10.1.0.31', c: '10.1.0.32' });
});

test('a block that starts on a ten counts units from it, and a wished place that is taken falls to the next free one', () => {
  const show = rigOf([unit('a', 3, null), unit('b', 3, '10.1.0.43')], { blocks: [block(40, 49, ['camera'])] });
  // .40 itself is the factory address of the camera type only on 10.9.0.0, so it is free here
  expect(ips(placed(show))['a']).toBe('10.1.0.40');
});

test('says who found no room instead of placing outside the block', () => {
  const { noRoom, placed: done } = planPlacement(
    rigOf([unit('a', null, null), unit('b', null, null)], { blocks: [block(31, 31, ['camera'])] }),
  );
  expect([done.length, noRoom.map((item) => item.device.id)]).toEqual([1, ['b']]);
});

const host = fc.integer({ min: 0, max: 255 });
const anyPlan = fc.record({
  units: fc.uniqueArray(
    fc.record({
      n: fc.option(fc.integer({ min: 1, max: 30 })),
      at: fc.option(host),
      held: fc.boolean(),
      type: fc.constantFrom('camera', 'desk', 'host'),
      method: fc.constantFrom(
        'static' as const,
        'static' as const,
        'static' as const,
        'dhcp' as const,
        'self' as const,
      ),
    }),
    { minLength: 1, maxLength: 25 },
  ),
  blockFrom: fc.integer({ min: 1, max: 200 }),
  blockSize: fc.integer({ min: 1, max: 40 }),
  keepFree: fc.option(fc.tuple(host, host)),
  granted: fc.option(fc.tuple(host, host)),
  gateway: fc.option(host),
  pool: fc.option(fc.tuple(host, host)),
  scope: fc.constantFrom('waiting' as const, 'faulty' as const),
});
type Plan = typeof anyPlan extends fc.Arbitrary<infer T> ? T : never;

// the network of the factory addresses, so that they are in the way
const ipAt = (n: number) => formatIp(mustIp('10.9.0.0') + n);
const sorted = (pair: readonly [number, number] | null) => pair && ([Math.min(...pair), Math.max(...pair)] as const);

function showOfPlan({ units, blockFrom, blockSize, keepFree, granted, gateway, pool }: Plan): Show {
  const [from, to] = sorted(pool) ?? [null, null];
  const kept = sorted(keepFree);
  const allowed = sorted(granted);
  return showOf({
    networks: [
      network({
        network: '10.9.0.0',
        gateway: gateway === null ? null : ipAt(gateway),
        poolFrom: from === null ? null : ipAt(from),
        poolTo: to === null ? null : ipAt(to),
        granted: allowed ? [{ first: ipAt(allowed[0]), last: ipAt(allowed[1]) }] : [],
      }),
    ],
    blocks: [
      { ...block(1, 2, ['camera']), first: ipAt(blockFrom), last: ipAt(Math.min(254, blockFrom + blockSize)) },
      ...(kept ? [{ ...block(3, 4, []), first: ipAt(kept[0]), last: ipAt(kept[1]), use: 'keep_free' as const }] : []),
    ],
    devices: units.map(({ n, type }, at) => device(`u${at}`, type, { unit: n })),
    interfaces: units.map((_, at) => adapter(`u${at}`)),
    addresses: units.map(({ at: place, held, method }, at) =>
      address(`u${at}`, place === null ? null : ipAt(place), { held, method }),
    ),
  });
}

const plans = casesOf(10_000);

test(`${plans} random plans: never a taken, reserved, network, broadcast or factory address, never a held or valid one moved`, () => {
  fc.assert(
    fc.property(anyPlan, (plan) => {
      const show = showOfPlan(plan);
      const placement = planPlacement(show, { scope: plan.scope });
      const { change } = placement;
      const applied = change && applyChange(show, change);
      const [before, after] = [ips(show), ips(applied?.ok ? applied.show : show)];
      const faulty = new Set(
        findAddressing(show, addressingFacts(show)).flatMap(({ code, subjects }) =>
          mendable.has(code) ? subjects.map(({ id }) => id.replace('-a', '')) : [],
        ),
      );
      const [pool, kept, granted] = [plan.pool, plan.keepFree, plan.granted].map(sorted);
      const inside = (range: readonly [number, number] | null | undefined, n: number) =>
        range != null && n >= range[0] && n <= range[1];
      const taken = new Set(
        Object.entries(after).flatMap(([id, ip]) => (ip !== null && ip === before[id] ? [ip] : [])),
      );
      plan.units.forEach(({ held, method }, at) => {
        const [id, was, now] = [`u${at}`, before[`u${at}`] ?? null, after[`u${at}`] ?? null];
        if (was === now) return;
        // what moved was waiting, or could not work and was not held
        expect(was === null || (plan.scope === 'faulty' && !held && faulty.has(id))).toBe(true);
        expect(method === 'static' || was !== null).toBe(true);
        expect(now === null || taken.has(now)).toBe(false);
        taken.add(now ?? '');
        const n = mustIp(now ?? '') - mustIp('10.9.0.0');
        const { first, last } = hostRange(subnetOf(mustIp('10.9.0.0'), 24));
        expect(mustIp(now ?? '') >= first && mustIp(now ?? '') <= last).toBe(true);
        expect(
          n === plan.gateway || inside(pool, n) || inside(kept, n) || (granted != null && !inside(granted, n)),
        ).toBe(false);
        const factories = plan.units.map(({ type }) => ({ camera: 40, desk: 60, host: -1 })[type]);
        expect(factories).not.toContain(n);
      });
      expect(placement.noRoom.length === 0).toBe(placement.crowds.length === 0);
    }),
    { numRuns: plans },
  );
}, 300_000);

test('the same plan is placed the same way twice, and a full block names its cause and real ways out', () => {
  const units = Array.from({ length: 5 }, (_, at) => unit(`c${at}`, at + 1, null));
  const show = rigOf([...units, unit('guest', null, '10.1.0.32', 'host')], { blocks: [block(31, 33, ['camera'])] });
  const placement = planPlacement(show);
  expect(planPlacement(show)).toEqual(placement);
  expect([placement.placed.length, placement.noRoom.length]).toEqual([2, 3]);
  expect(causesOf(show, placement)).toEqual([
    { code: 'block_full', network: 'Control', block: 'Block', units: 5, room: 2, squatters: ['guest'] },
  ]);
  const ways = waysOut(show, placement);
  expect(ways.map(({ label }) => label)).toEqual([
    'Widen Block to 10.1.0.31 – 10.1.0.36',
    'Take the block Block away',
    'Move guest out of it',
  ]);
  for (const { change } of ways) {
    const applied = applyChange(show, change);
    if (!applied.ok) throw new Error('a way out conflicts');
    expect(planPlacement(applied.show).noRoom.length).toBeLessThan(placement.noRoom.length);
  }
});

test('the last figure of a unit is the same on every network where that costs nothing above it', () => {
  const second = network({ id: 'audio', name: 'Audio', network: '10.1.1.0' });
  const show = showOf({
    networks: [network(), second],
    devices: [device('a', 'camera', { unit: null }), device('b', 'camera', { unit: null })],
    interfaces: [adapter('a'), adapter('b')],
    addresses: [
      address('a', '10.1.0.77'),
      address('b', '10.1.0.12'),
      { ...address('a', null), id: 'a-2', networkId: 'audio' },
      { ...address('b', null), id: 'b-2', networkId: 'audio' },
    ],
  });
  const applied = applyChange(show, planPlacement(show).change ?? { label: '', edits: [] });
  expect(applied.ok && [applied.show.addresses['a-2']?.ip, applied.show.addresses['b-2']?.ip]).toEqual([
    '10.1.1.77',
    '10.1.1.12',
  ]);
});

test('asked for one network it leaves the others alone', () => {
  const second = network({ id: 'audio', name: 'Audio', network: '10.1.1.0' });
  const show = showOf({
    networks: [network(), second],
    devices: [device('a', 'camera')],
    interfaces: [adapter('a')],
    addresses: [address('a', null), { ...address('a', null), id: 'a-2', networkId: 'audio' }],
  });
  const { change } = planPlacement(show, { networkIds: ['audio'] });
  expect(change?.edits.map(({ id }) => id)).toEqual(['a-2']);
});

test('of two networks that overlap, both placed at once, nobody gets what the other gave away', () => {
  const show = showOf({
    networks: [network(), network({ id: 'again', name: 'Again' })],
    devices: [device('a', 'camera', { unit: null }), device('b', 'camera', { unit: null })],
    interfaces: [adapter('a'), adapter('b')],
    addresses: [address('a', null), { ...address('b', null), networkId: 'again' }],
  });
  const { placed } = planPlacement(show, { networkIds: ['again', 'net'] });
  expect(placed).toHaveLength(2);
  expect(new Set(placed.map(({ ip }) => ip)).size).toBe(2);
});

test('each faulty address is explained by one finding whose fix removes it', () => {
  const cases: Record<string, ReturnType<typeof rigOf>> = {
    duplicate_ip: rigOf([unit('a', 1, '10.1.0.33'), unit('b', 2, '10.1.0.33')]),
    network_address: rigOf([unit('a', 1, '10.1.0.0')]),
    broadcast_address: rigOf([unit('a', 1, '10.1.0.255')]),
    outside_subnet: rigOf([unit('a', 1, '10.2.0.5')]),
    unusable_kind: rigOf([unit('a', 1, '127.0.0.5')]),
    on_gateway: rigOf([unit('a', 1, '10.1.0.1')], { network: { gateway: '10.1.0.1', needsOutside: true } }),
    in_pool: rigOf([unit('a', 1, '10.1.0.150')], { network: { poolFrom: '10.1.0.100', poolTo: '10.1.0.199' } }),
    on_factory: showOf({
      networks: [network({ network: '10.9.0.0' })],
      devices: [device('a', 'camera')],
      interfaces: [adapter('a')],
      addresses: [address('a', '10.9.0.40')],
    }),
    mask_differs: showOf({
      networks: [network()],
      devices: [device('a', 'camera')],
      interfaces: [adapter('a')],
      addresses: [address('a', '10.1.0.9', { prefix: 16 })],
    }),
    gateway_outside: rigOf([unit('a', 1, '10.1.0.9')], { network: { gateway: '10.5.0.1' } }),
    waiting: rigOf([unit('a', 1, null)]),
  };
  for (const [code, show] of Object.entries(cases)) {
    const findings = findAddressing(show, addressingFacts(show));
    const known = findings.filter((finding) => finding.code !== 'factory_inside');
    expect([code, known.map((finding) => finding.code)]).toEqual([code, [code]]);
    const change = findings[0]?.fixes[0]?.change;
    if (!change) throw new Error(`${code} has no fix`);
    const applied = applyChange(show, change);
    const left = applied.ok ? findAddressing(applied.show, addressingFacts(applied.show)) : findings;
    expect([code, left.filter((finding) => finding.code !== 'factory_inside')]).toEqual([code, []]);
  }
});

test('a held address stays, the other one of a clash moves', () => {
  const show = showOf({
    networks: [network()],
    devices: [device('a', 'camera'), device('b', 'camera')],
    interfaces: [adapter('a'), adapter('b')],
    addresses: [address('a', '10.1.0.33'), address('b', '10.1.0.33', { held: true })],
  });
  const [finding] = findAddressing(show, addressingFacts(show));
  expect(finding?.fixes.map(({ label }) => label)).toEqual(['Move a to 10.1.0.1']);
});

test('proposed blocks start on tens, hold their units with room to grow and do not overlap', () => {
  const show = rigOf(Array.from({ length: 14 }, (_, at) => unit(`c${at}`, at + 1, null)));
  const blocks = proposeBlocks(
    show,
    { networkId: 'net', subnet: subnetOf(mustIp('10.1.0.0'), 24), members: Object.keys(show.devices) },
    () => 'x',
  );
  expect(blocks.map(({ label, first, last }) => [label, first, last])).toEqual([['Cameras', '10.1.0.10', '10.1.0.39']]);
});

test('a network of /5 and 20,000 units for a small block are placed on ranges, never host by host', () => {
  const crowd = Array.from({ length: 20_000 }, (_, at) => unit(`u${at}`, null, null));
  const show = rigOf(crowd, {
    network: { network: '8.0.0.0', prefix: 5 },
    blocks: [{ ...block(0, 0, ['camera']), first: '8.1.0.0', last: '8.1.0.99' }],
  });
  const { placed: done, noRoom, crowds } = planPlacement(show);
  expect([done.length, noRoom.length, crowds.length, crowds[0]?.items.length]).toEqual([100, 19_900, 1, 20_000]);
  const open = planPlacement({ ...show, blocks: {} });
  expect([open.placed.length, open.placed.at(-1)?.ip]).toEqual([20_000, mustIp('8.0.78.32')]);
  const facts = addressingFacts(show);
  const on = facts.networks[0];
  if (!on) throw new Error('no network');
  // all hosts but the factory address of the cameras
  expect(rulerOf(facts, on).free).toBe(2 ** 27 - 3);
});

test('whoever is left without room keeps the address, and nobody else is put on it', () => {
  // two share .31, and the block has no other place for the third
  const show = rigOf([unit('a', null, '10.1.0.31'), unit('b', null, '10.1.0.31'), unit('c', null, null)], {
    blocks: [block(31, 31, ['camera'])],
  });
  const { placed: done, noRoom } = planPlacement(show, { scope: 'faulty' });
  expect([done.map(({ item }) => item.device.id), noRoom.map(({ device: { id } }) => id)]).toEqual([[], ['b', 'c']]);
});

test('the order of rows decides nothing', () => {
  const dice = fc.sample(
    fc.array(fc.tuple(fc.nat(5), fc.option(fc.nat(12), { nil: null })), { minLength: 6, maxLength: 12 }),
    200,
  );
  const reversed = (show: Show): Show =>
    Object.fromEntries(
      Object.entries(show).map(([name, rows]) => [
        name,
        typeof rows === 'object' ? Object.fromEntries(Object.entries(rows as object).reverse()) : (rows as unknown),
      ]),
    ) as unknown as Show;
  for (const units of dice) {
    const rig = units.map(([n, last], at) => unit(`u${at}`, n, last === null ? null : `10.1.0.${30 + last}`));
    const show = rigOf(rig, { blocks: [block(31, 36, ['camera']), block(33, 38, ['camera'])] });
    const edits = (one: Show) =>
      planPlacement(one, { scope: 'faulty' })
        .change?.edits.map(({ id, after }) => [id, after])
        .sort();
    expect(edits(reversed(show))).toEqual(edits(show));
  }
});
