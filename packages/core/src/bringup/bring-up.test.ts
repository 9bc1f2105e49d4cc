import { describe, expect, test } from 'vitest';
import { addressingFacts } from '../addressing/index.ts';
import { applyChange, type Content, type Show } from '../show/index.ts';
import { adapter, address, cable, device, link, network, showOf, typeWith } from '../show/sample-show.test-data.ts';
import { bringUp, type BringUp } from './bring-up.ts';
import { paceOf } from './pace.ts';
import {
  planComputer,
  planLeaveStep,
  planReset,
  planShowsOther,
  planStepDone,
  planTakeStep,
  planTakeUp,
} from './record-step.ts';
import { repeatOf } from './repeats.ts';
import { stepNotes } from './step-notes.ts';
import { blockedWords, figuresOf, stepWords } from './step-words.ts';

const said = { by: 'Ines', at: 1_000_000 };

const boxed = (id: string, ip: string, more: object = {}) =>
  typeWith(id, {
    name: id,
    kind: 'camera',
    factory: { mode: 'static', ip, prefix: 24 },
    ways: [{ way: 'web', note: '', alone: false }],
    ...more,
  });
const laptop = typeWith('laptop', {
  name: 'Laptop',
  kind: 'computer',
  factory: { mode: 'dhcp', ip: null, prefix: null },
  ways: [{ way: 'system', note: '', alone: false }],
});
const hub = typeWith('hub', {
  name: 'Hub',
  kind: 'switch',
  factory: { mode: 'none', ip: null, prefix: null },
  adapters: [],
  sockets: Array.from({ length: 8 }, (_, at) => ({ key: `p-${at + 1}`, label: `p${at + 1}`, adapter: null })),
  forwards: true,
});

interface Unit {
  readonly type: Content<'types'>;
  readonly ip: string | null;
}

/** Units on one switch with the technician's laptop; each on its planned address of 10.1.0.0/24. */
function rig(units: Readonly<Record<string, Unit>>, own = '10.1.0.200', links: readonly Content<'links'>[] = []): Show {
  const ids = Object.keys(units);
  const all = [...ids, 'book'];
  return showOf({
    types: [...new Set([laptop, hub, ...Object.values(units).map(({ type }) => type)])],
    networks: [network()],
    devices: [device('hub', 'hub'), device('book', 'laptop'), ...ids.map((id) => device(id, units[id]?.type.id ?? ''))],
    interfaces: all.map((id) => adapter(id)),
    addresses: [address('book', own), ...ids.map((id) => address(id, units[id]?.ip ?? null))],
    cables: all.map((id, at) => cable(id, `p-${at + 1}`)),
    links,
  });
}

const keys = ({ steps }: BringUp): string[] => steps.map(({ key }) => key);
const stepOf = (plan: BringUp, key: string) => plan.steps.find((step) => step.key === key) ?? expect.fail(`no ${key}`);

function after(show: Show, change: ReturnType<typeof planStepDone>): Show {
  const applied = applyChange(show, change ?? expect.fail('no change'));
  return applied.ok ? applied.show : expect.fail('refused');
}

const done = (show: Show, key: string): Show => {
  const plan = bringUp(show);
  return after(show, planStepDone(show, addressingFacts(show), plan, stepOf(plan, key), said));
};

/** Does everything in the order that is worked out anew each time, and answers the order in which it was done. */
function allOf(start: Show): { order: string[]; show: Show } {
  const order: string[] = [];
  let show = start;
  for (let plan = bringUp(show); plan.steps[0]; plan = bringUp(show)) {
    order.push(plan.steps[0].key);
    show = done(show, plan.steps[0].key);
    if (order.length > 200) expect.fail('it never ends');
  }
  return { order, show };
}

describe('the order', () => {
  const one = boxed('one', '10.9.0.50');

  test('equal factory addresses come one at a time; the computer goes to them once, and home once', () => {
    const plan = bringUp(rig({ a: { type: one, ip: '10.1.0.1' }, b: { type: one, ip: '10.1.0.2' } }));
    expect(keys(plan)).toEqual([
      'join:hub',
      'join:a',
      'computer:lan 10.9.0.250/24',
      'key_in:a',
      'join:b',
      'key_in:b',
      'computer:lan 10.1.0.200/24',
      'confirm:b-a',
      'confirm:a-a',
    ]);
    expect([plan.changes, plan.cables, plan.bound, plan.exact, plan.blocked]).toEqual([2, 0, 2, true, []]);
    expect(stepOf(plan, 'join:b').why).toEqual({ code: 'one_at_a_time', units: ['a'] });
  });

  test('where an adapter holds two addresses the second is no change', () => {
    const show = rig({ a: { type: one, ip: '10.1.0.1' } });
    const two = after(show, planComputer(show, 'book', 2));
    expect([bringUp(show).changes, bringUp(two).changes]).toEqual([2, 1]);
  });

  test('whoever is due at the factory address of another waits until that has left it', () => {
    const two = boxed('two', '10.1.0.60');
    const { order } = allOf(rig({ a: { type: one, ip: '10.1.0.60' }, b: { type: two, ip: '10.1.0.80' } }));
    expect(order.indexOf('key_in:b')).toBeLessThan(order.indexOf('key_in:a'));
  });

  test('of a circle one gets an address for the meantime, and the planned one in the end', () => {
    const two = boxed('two', '10.1.0.60', { ways: [{ way: 'menu', note: '', alone: false }] });
    const three = boxed('three', '10.1.0.61', { ways: [{ way: 'menu', note: '', alone: false }] });
    const show = rig({ a: { type: two, ip: '10.1.0.61' }, b: { type: three, ip: '10.1.0.60' } });
    const { order, show: end } = allOf(show);
    const meantime = order.filter((key) => key.startsWith('meantime:'));
    expect(meantime).toHaveLength(1);
    expect(order.filter((key) => key.startsWith('key_in:'))).toHaveLength(2);
    expect(Object.values(end.progress).every((row) => row.meantime === null)).toBe(true);
    const lent = stepOf(bringUp(show), meantime[0] ?? '');
    expect(stepWords(show, bringUp(show), lent).why).toContain('steps aside first');
    // the one that stepped aside is nowhere that anybody else is planned
    expect(figuresOf(lent)[0]?.value).not.toMatch(/\.6[01]$/);
  });

  test('who is planned on one address, or on none that a unit can have, is told and kept out', () => {
    const show = rig({
      a: { type: one, ip: '10.1.0.1' },
      b: { type: boxed('two', '10.9.0.51'), ip: '10.1.0.1' },
      c: { type: boxed('three', '10.9.0.52'), ip: '10.1.0.255' },
    });
    const { blocked } = bringUp(show);
    expect(blocked.map(({ deviceId, code }) => `${deviceId} ${code}`).sort()).toEqual([
      'b planned_twice',
      'c not_a_host',
    ]);
    expect(blockedWords(show, blocked.find(({ deviceId }) => deviceId === 'b') ?? expect.fail())).toContain(
      'on one address',
    );
  });

  test('whoever is joined through a unit waits until that has the mode in which it leads on', () => {
    const relay = boxed('relay', '10.9.0.60', {
      ...{ forwards: true, adapters: ['lan', 'aux'].map((key) => ({ key, label: key })) },
      sockets: ['in', 'on'].map((key) => ({
        key,
        label: key,
        connector: 'rj45',
        adapter: key === 'in' ? 'lan' : 'aux',
      })) as never,
      variants: [{ key: 'chain', label: 'Chain', sockets: [{ key: 'on', adapter: 'lan' }] }],
    });
    const far = boxed('far', '10.9.0.50');
    const show = rig({ r: { type: relay, ip: '10.1.0.1' }, a: { type: far, ip: '10.1.0.2' } });
    const row = show.devices['r'] ?? expect.fail('no row');
    const wires = [
      { ...cable('r', 'p-1'), id: 'c-r', fromSocket: 'in' },
      { ...cable('a', 'on'), id: 'c-a', toDevice: 'r' },
    ].map((wire) => [wire.id, { ...show.cables['c-r'], ...wire }]);
    const inMode = (variant: string | null): Show => ({
      ...show,
      devices: { ...show.devices, r: { ...row, variant } },
      cables: { ...show.cables, ...Object.fromEntries(wires) } as Show['cables'],
    });
    const plan = bringUp(inMode('chain'));
    expect(stepOf(plan, 'key_in:a').after).toContain('key_in:r');
    expect(keys(plan).indexOf('key_in:r')).toBeLessThan(keys(plan).indexOf('key_in:a'));
  });

  test('who is to take VLAN tags is set where frames come without them', () => {
    const found = boxed('found', '10.9.0.50', { ways: [{ way: 'search', note: '', alone: false }] });
    const show = rig({ a: { type: found, ip: '10.1.0.1' } });
    const [control, light] = [network({ vlan: 20 }), network({ id: 'light', network: '10.2.0.0', vlan: 30 })];
    const tagged: Show = {
      ...show,
      networks: Object.fromEntries([control, light].map((row) => [row.id, { ...row, rev: 1 }])),
      addresses: { ...show.addresses, b: { ...address('a', '10.2.0.1'), id: 'b', networkId: 'light', rev: 1 } },
      types: { ...show.types, hub: { ...(show.types['hub'] ?? expect.fail()), managed: true } },
    };
    const [own, both] = [show, tagged].map((each) => stepOf(bringUp(each), 'key_in:a').access[0]?.need?.segment);
    // nothing else is planned where it is without a tag: the computer is joined to it alone
    expect([own, both]).toEqual(['"hub', 'alone a lan']);
    const { segment, segmentNow } = bringUp(tagged).units.get('a') ?? expect.fail('no unit');
    expect([segment, segmentNow]).toEqual(['!hub 20', '!hub 1']);
  });

  test('an adapter that nothing is planned for keeps its factory address, and who has the same one is not joined', () => {
    const two = boxed('two', '10.9.0.50', {
      adapters: ['lan', 'out'].map((key) => ({ key, label: key })),
    });
    const show = rig({ a: { type: two, ip: '10.1.0.1' }, b: { type: boxed('plain', '10.9.0.50'), ip: '10.1.0.2' } });
    const own = show.interfaces['a-lan'] ?? expect.fail();
    const other = { ...show, interfaces: { ...show.interfaces, 'a-lan': { ...own, adapter: 'out' } } };
    expect(keys(bringUp(show)).filter((key) => key.startsWith('join:'))).toEqual(['join:hub', 'join:a', 'join:b']);
    expect(bringUp(other).blocked.map(({ deviceId }) => deviceId)).toContain('b');
    expect(keys(bringUp(other))).not.toContain('key_in:b');
  });

  test('a unit without a free socket for the computer is joined to it directly', () => {
    const far = boxed('far', '10.9.0.50');
    const show = rig({ a: { type: far, ip: '10.1.0.1' } });
    const loose = {
      ...show,
      cables: Object.fromEntries(Object.entries(show.cables).filter(([id]) => id !== 'c-a')),
    };
    const plan = bringUp(loose);
    const [step] = plan.steps.filter(({ kind }) => kind === 'computer');
    expect(step?.computer?.cable).toMatchObject({ deviceId: 'a' });
  });
});

describe('what makes units fit together', () => {
  const web = {
    ...{ key: 'web', label: 'Web', protocol: 'http', transport: 'tcp', receivePort: 80 },
    logins: ['none'],
  };
  const recent = boxed('recent', '10.9.0.50', { services: [{ ...web, lowestFirmware: '3.0' }] });
  const panel = boxed('panel', '10.9.0.51', { drives: ['http'] });

  test('whoever is asked for a newer version gets it before it is confirmed and before its controller enters it', () => {
    const wanted = link('a', { controllerId: 'ctl', serviceKey: 'web', port: 80 });
    const show = rig({ ctl: { type: panel, ip: '10.1.0.3' }, a: { type: recent, ip: '10.1.0.1' } }, undefined, [
      wanted,
    ]);
    const plan = bringUp(show);
    expect(stepOf(plan, 'update:a').after).toContain('key_in:a');
    expect(stepOf(plan, 'update:a').why).toEqual({ code: 'firmware_first', units: ['ctl'] });
    expect(stepOf(plan, 'confirm:a-a').after).toContain('update:a');
    expect(stepOf(plan, 'register:ctl').after).toContain('update:a');
    expect(keys(bringUp(done(show, 'update:a')))).not.toContain('update:a');
    expect(stepNotes(show, plan, stepOf(plan, 'update:a'), 0)).toEqual([
      'Update nothing else beside it, and leave its power alone until it answers again.',
      'ctl does without it meanwhile.',
    ]);
  });

  test('what a computer lists by bare numbers is named right after it was joined', () => {
    const keys4 = boxed('keys', '10.9.0.80', { drives: ['midi'] });
    const notes = { ...web, key: 'notes', label: 'Notes', protocol: 'midi', transport: 'udp', receivePort: 5004 };
    const player = typeWith('player', {
      ...{ name: 'Player', kind: 'computer', factory: { mode: 'dhcp', ip: null, prefix: null } },
      ...{ ways: laptop.ways, services: [{ ...notes, lowestFirmware: null }] as never },
    });
    const show = rig({ k: { type: keys4, ip: '10.1.0.1' }, p: { type: player, ip: '10.1.0.2' } }, undefined, [
      link('p', { controllerId: 'k', serviceKey: 'notes', port: 5004 }),
    ]);
    const { order } = allOf(show);
    expect(order[order.indexOf('name:k') - 1]).toMatch(/^join:[kp]$/);
    expect(stepWords(show, bringUp(show), stepOf(bringUp(show), 'name:k')).title).toBe('Name k on p');
  });

  const mixer = boxed('mixer', '10.9.0.60', { erases: ['scenes'], matches: [{ model: 'rack', rule: 'equal' }] });
  const rack = boxed('rack', '10.9.0.61', { erases: ['gains'] });
  const words = boxed('words', '10.9.0.70', {
    matches: [{ model: 'words', rule: 'equal' }],
    features: [{ key: 'linked', label: 'move together', lowest: null, bundle: null }],
  });

  test('partners are brought into step once both are set, and again only when one is another box', () => {
    const show = rig({ m: { type: mixer, ip: '10.1.0.1' }, r: { type: rack, ip: '10.1.0.2' } });
    const step = stepOf(bringUp(show), 'sync:m+r');
    expect([...step.after].sort()).toEqual(['join:hub', 'key_in:m', 'key_in:r']);
    expect(stepWords(show, bringUp(show), step).title).toBe('Bring m and r into step');
    const older = {
      ...show,
      devices: { ...show.devices, r: { ...(show.devices['r'] ?? expect.fail()), firmware: '1.4' } },
    };
    // 1.4 does not go with the 2.0 of its mixer: it is updated first, with its gains saved
    expect(stepOf(bringUp(older), 'sync:m+r').after).toContain('update:r');
    expect(stepNotes(older, bringUp(older), stepOf(bringUp(older), 'update:r'), 0)[0]).toContain(
      'no copy of its gains',
    );
    const { show: end } = allOf(show);
    const row = end.devices['r'] ?? expect.fail('no row');
    const swapped = { ...end, devices: { ...end.devices, r: { ...row, swaps: row.swaps + 1 } } };
    expect([keys(bringUp(end)), keys(bringUp(swapped)).includes('sync:m+r')]).toEqual([[], true]);
  });

  test('of several of both sides only those that are linked are partners; alike ones in a row have the same open', () => {
    const two = { m: { type: mixer, ip: '10.1.0.1' }, n: { type: mixer, ip: '10.1.0.2' } };
    const four = { ...two, r: { type: rack, ip: '10.1.0.3' }, s: { type: rack, ip: '10.1.0.4' } };
    const syncs = (show: Show) => keys(bringUp(show)).filter((key) => key.startsWith('sync:'));
    expect(syncs(rig(four))).toEqual([]);
    expect(syncs(rig(four, undefined, [link('m', { controllerId: 's' })]))).toEqual(['sync:s+m']);
    expect(syncs(rig(four, undefined, [link('r', { controllerId: 'n' })]))).toEqual(['sync:n+r']);
    const three = rig(
      Object.fromEntries(['x', 'y', 'z'].map((id, at) => [id, { type: words, ip: `10.1.0.${at + 1}` }])),
    );
    const linked = Object.fromEntries(
      Object.entries(three.devices).map(([id, row]) => [
        id,
        ['x', 'z'].includes(id) ? { ...row, features: ['linked'] } : row,
      ]),
    );
    expect(syncs({ ...three, devices: linked })).toEqual(['sync:x+z']);
    // only those of one group meet, and their step says which name each asks for (5.7)
    const grouped = (x: string, z: string) => {
      const put = (id: string, peers: string) => ({ ...(linked[id] ?? expect.fail()), peers });
      return { ...three, devices: { ...linked, x: put('x', x), z: put('z', z) } };
    };
    expect(syncs(grouped('quay', 'pier'))).toEqual([]);
    const meeting = grouped('quay', 'quay');
    expect(stepWords(meeting, bringUp(meeting), stepOf(bringUp(meeting), 'sync:x+z')).then).toContain(
      'type “quay” at both',
    );
  });
});

describe('what is done', () => {
  const slow = boxed('slow', '10.9.0.50', {
    commits: [
      {
        of: 'address',
        acts: [
          { act: 'confirm_page', seconds: null },
          { act: 'restart_device', seconds: 40 },
        ],
      },
    ],
  });
  const start = rig({ a: { type: slow, ip: '10.1.0.1' } });

  test('what is keyed in and not restarted is not in force: the restart comes next, and nothing twice', () => {
    let show = start;
    for (const key of ['join:hub', 'join:a', 'computer:lan 10.9.0.250/24', 'key_in:a']) show = done(show, key);
    const plan = bringUp(show);
    expect(keys(plan).slice(0, 1)).toEqual(['restart:a']);
    expect(keys(plan)).not.toContain('key_in:a');
    expect(plan.units.get('a')?.now).toMatchObject({ at: { ip: 0x0a090032 }, from: 'held', due: ['restart_device'] });
    expect(keys(bringUp(done(show, 'restart:a')))).not.toContain('restart:a');
  });

  test('a unit that shows something else is set from there; what was believed keyed in is asked again', () => {
    const { show } = allOf(start);
    const other = after(show, planShowsOther(show, 'a', { ip: 0x0a2c0007, prefix: 24 }, said));
    const again = keys(bringUp(other));
    expect(again).toContain('key_in:a');
    expect(again).toContain('confirm:a-a');
    expect(again.some((key) => key.startsWith('computer:lan 10.44.0.'))).toBe(true);
  });

  test('a unit that was reset is set from its factory address again, and has nothing proved', () => {
    const { show } = allOf(start);
    const reset = after(show, planReset(show, 'a', said));
    expect(keys(bringUp(reset))).toEqual([
      'computer:lan 10.9.0.250/24',
      'key_in:a',
      'restart:a',
      'computer:lan 10.1.0.200/24',
      'confirm:a-a',
    ]);
    expect(reset.progress['a']?.log.at(-1)).toMatchObject({ step: 'reset:a', by: 'Ines' });
  });

  test('the second of alike units shows what is other than at the first', () => {
    const show = done(
      done(
        done(done(rig({ a: { type: slow, ip: '10.1.0.1' }, b: { type: slow, ip: '10.1.0.2' } }), 'join:hub'), 'join:a'),
        'computer:lan 10.9.0.250/24',
      ),
      'key_in:a',
    );
    const step = stepOf(bringUp(show), 'key_in:b');
    const repeat = repeatOf(show, step) ?? expect.fail('no repeat');
    expect([repeat.like.id, repeat.differs.map(({ label, value }) => [label, value])]).toEqual([
      'a',
      [['Address', '10.1.0.2']],
    ]);
    expect([...repeat.differs, ...repeat.same].map(({ label }) => label).sort()).toEqual(
      figuresOf(step)
        .map(({ label }) => label)
        .sort(),
    );
    expect(repeatOf(start, stepOf(bringUp(start), 'key_in:a'))).toBeUndefined();
    // a password is never said to be as it was there: nobody reads it here
    const secret = { of: 'login', key: 'web:password', label: 'Web: password', was: null, now: 's1' } as const;
    const row = show.keyedIn['a'] ?? expect.fail('nothing keyed in');
    const values = [...row.values, { of: secret.of, key: secret.key, label: secret.label, value: secret.now }];
    const known = { ...show, keyedIn: { a: { ...row, values } } };
    const both = repeatOf(known, { ...step, lines: [...step.lines, secret] });
    expect(both?.differs.map(({ label }) => label)).toEqual(['Address', 'Web: password']);
  });

  test('a step that fails takes its unit out, the rest goes on, and it is taken up again', () => {
    const show = rig({ a: { type: slow, ip: '10.1.0.1' }, b: { type: boxed('b', '10.9.0.51'), ip: '10.1.0.2' } });
    const joined = done(show, 'join:hub');
    const failed = after(joined, planLeaveStep(joined, stepOf(bringUp(joined), 'key_in:a'), 'failed', 'dark', said));
    const plan = bringUp(failed);
    expect(keys(plan).some((key) => key.endsWith(':a'))).toBe(false);
    expect(keys(plan)).toContain('key_in:b');
    expect(plan.blocked).toEqual([{ deviceId: 'a', code: 'left_out', units: [] }]);
    expect(keys(bringUp(after(failed, planTakeUp(failed, 'a'))))).toContain('key_in:a');
  });

  test('a plan that moves afterwards asks for what is another, and for proof of it', () => {
    const { show } = allOf(start);
    const row = show.addresses['a-a'] ?? expect.fail('no row');
    const moved = { ...show, addresses: { ...show.addresses, 'a-a': { ...row, ip: '10.1.0.9' } } };
    expect(keys(bringUp(moved))).toEqual(['key_in:a', 'restart:a', 'confirm:a-a']);
    expect(figuresOf(stepOf(bringUp(moved), 'key_in:a'))[0]).toEqual({
      label: 'Address',
      value: '10.1.0.9',
      was: '10.1.0.1',
    });
  });

  test('times that steps really took correct what is still needed, once there are some', () => {
    let show = start;
    expect(paceOf(show)).toBe(1);
    for (let plan = bringUp(show); plan.steps[0]; plan = bringUp(show)) {
      const [step] = plan.steps;
      show = after(show, planTakeStep(show, step, said));
      const late = { ...said, at: said.at + (step.hands + step.waits) * 2000 };
      show = after(show, planStepDone(show, addressingFacts(show), bringUp(show), step, late));
    }
    expect(paceOf(show)).toBe(2);
  });

  test('of two who take one step the second finds the row moved', () => {
    const step = stepOf(bringUp(start), 'join:hub');
    const [mine, yours] = [planTakeStep(start, step, said), planTakeStep(start, step, { ...said, by: 'Tor' })];
    const taken = after(start, mine);
    expect(applyChange(taken, yours ?? expect.fail()).ok).toBe(false);
  });
});
