import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { applyChange, type Change, type Content, type Feedback, type Show } from '../show/index.ts';
import { device, link, network, showOf, typeWith } from '../show/sample-show.test-data.ts';
import { crowdingOf, rulersOf } from './banks.ts';
import { controlAt, controlsOf, regionAt } from './controls.ts';
import { destinationName } from './destination-name.ts';
import { findSurfaces, surfaceWords } from './find-surfaces.ts';
import { lampFor } from './lamps.ts';
import { meaningsOf, offerOf } from './meanings.ts';
import { offersTyped } from './offers-typed.ts';
import { argsWithName, controlFrom, planAssign, planAssignSeveral, planBanks, planControl } from './plan-assign.ts';
import { meaningWords } from './surface-words.ts';

const strips = 4;
const control = (
  key: string,
  kind: 'fader' | 'key' | 'encoder' | 'pad',
  row: number,
  column: number,
  more: object = {},
) => ({
  ...{ key, label: key, kind, row, column, rows: 1, screen: false, lamp: 'none', least: 0, greatest: 127 },
  ...{ strip: null, odd: false },
  ...more,
});
const bank = typeWith('bank', {
  ...{
    name: 'Bank',
    kind: 'fader-bank',
    factory: { mode: 'dhcp', ip: null, prefix: null },
    drives: ['osc'],
    layers: 2,
  },
  controls: [
    ...[1, 2, 3, 4].map((n) => control(`f-${n}`, 'fader', 1, n - 1, { strip: n })),
    control('odd', 'fader', 1, 5, { odd: true }),
    control('k-1', 'key', 0, 0, { lamp: 'lamp' }),
    control('e-1', 'encoder', 0, 1),
    control('p-1', 'pad', 0, 2),
  ] as never,
});
const argument = (name: string, type: 'i' | 'f' | 's' | 'T', more: object = {}) => ({
  name,
  type,
  example: type === 's' ? 'a' : 1,
  ...more,
});
const command = (key: string, args: object[], more: object = {}) => ({
  ...{ key, label: key, address: `/${key}${args.length > 1 ? '/{channel}' : ''}`, args, sets: [], reply: null },
  ...more,
});
const mixer = typeWith('mix', {
  ...{ name: 'Mix', kind: 'mixer', factory: { mode: 'static', ip: '10.9.0.9', prefix: 24 } },
  services: [
    {
      ...{ key: 'osc', label: 'OSC', protocol: 'osc', transport: 'udp', receivePort: 5000, sendPort: null },
      ...{ logins: ['none'], onByDefault: true, lowestFirmware: null },
      commands: [
        command('level', [
          argument('channel', 'i', { min: 1, max: 10 }),
          argument('level', 'f', { min: -90, max: 10 }),
        ]),
        command('mute', [argument('on', 'T')]),
        command('start', [], { counterpart: 'stop' }),
        command('stop', []),
        command('say', [argument('text', 's')]),
        command('save', [], { essential: true }),
      ],
      feedback: [{ key: 'state', label: 'State', parameter: 'state', means: 'it runs', lit: ['on'] }],
    },
  ] as never,
});

const base = showOf({
  types: [bank, mixer],
  networks: [network()],
  devices: [device('left', 'bank'), device('right', 'bank'), device('mix', 'mix')],
  links: [link('mix', { controllerId: 'left' }), link('mix', { id: 'r', controllerId: 'right' })],
});
/** The mixer tells its state in another way. */
const withFeedback = (feedback: Partial<Feedback>): Show => {
  const type = base.types['mix'] ?? expect.fail('no type');
  const services = type.services.map((service) => ({
    ...service,
    feedback: service.feedback?.map((own) => ({ ...own, ...feedback })),
  }));
  return { ...base, types: { ...base.types, mix: { ...type, services } } };
};
const after = (show: Show, change: Change | undefined): Show => {
  const applied = applyChange(show, change ?? expect.fail('no change'));
  return applied.ok ? applied.show : expect.fail('refused');
};
const offered = (show: Show, key: string) =>
  offerOf(show, { targetId: 'mix', serviceKey: 'osc', command: key }) ?? expect.fail(`no ${key}`);
const unit = (show: Show, id: string) => show.devices[id] ?? expect.fail(`no ${id}`);
const movable = (show: Show, key: string, id = 'left') =>
  controlsOf(show, unit(show, id)).find((own) => own.key === key) ?? expect.fail(`no ${key}`);
let ids = 0;
const assign = (show: Show, key: string, what: string, patch: Partial<Content<'assignments'>> = {}): Show => {
  const id = `as-${(ids += 1)}`;
  const intent = {
    id,
    control: movable(show, key),
    layer: patch.layer ?? null,
    part: patch.part ?? ('whole' as const),
  };
  const done = after(
    show,
    planAssign(show, unit(show, 'left'), { ...intent, offer: offered(show, what), instead: false }),
  );
  const row = done.assignments[id] ?? expect.fail();
  return { ...done, assignments: { ...done.assignments, [id]: { ...row, ...patch } } };
};
const codes = (show: Show): string[] =>
  findSurfaces(show)
    .map(({ code }) => code)
    .sort();

describe('what a control does', () => {
  test('a fader is scaled end to end, a key sends its values, and both say what they do', () => {
    const show = assign(assign(base, 'f-1', 'level', { args: [3, -6] }), 'k-1', 'start');
    const [level] = meaningsOf(show, unit(show, 'left'), movable(show, 'f-1'), 0);
    expect(level?.transfer).toMatchObject({ fromMin: 0, fromMax: 127, toMin: -90, toMax: 10 });
    expect(level && meaningWords(show, level)).toBe('level 3');
    expect(codes(show)).toEqual(['essential_missing', 'without_counterpart']);
    expect(codes(assign(assign(show, 'e-1', 'stop', { part: 'up' }), 'e-1', 'save', { part: 'down' }))).toEqual([]);
  });

  test('two things for one unit clash on one layer and movement only', () => {
    const whole = assign(assign(base, 'k-1', 'start'), 'k-1', 'stop');
    expect(codes(whole)).toContain('two_meanings');
    const apart = assign(assign(base, 'k-1', 'start', { layer: 0 }), 'k-1', 'stop', { layer: 1 });
    expect(codes(apart)).not.toContain('two_meanings');
    const turned = assign(assign(base, 'e-1', 'start', { part: 'up' }), 'e-1', 'stop', { part: 'down' });
    expect(codes(turned)).not.toContain('two_meanings');
  });

  test('a control that is gone, a command that is gone, a value that does not fit, and a way that is missing', () => {
    const show = assign(base, 'k-1', 'start');
    expect(codes(assign(base, 'k-1', 'start', { control: 'k-9' }))).toContain('control_gone');
    expect(codes(assign(base, 'k-1', 'start', { command: 'leap' }))).toContain('command_gone');
    expect(codes(assign(base, 'k-1', 'level', { args: [11, 0] }))).toContain('value_unfit');
    expect(codes(assign(base, 'k-1', 'level', { args: [10, 0] }))).not.toContain('value_unfit');
    const { 'left-mix': _, ...links } = show.links;
    const without = { ...show, links: Object.fromEntries(Object.entries(links).filter(([id]) => id === 'r')) };
    const [found] = findSurfaces(without).filter(({ code }) => code === 'surface_no_way');
    expect(surfaceWords(found ?? expect.fail('not found')).what).toBe('left is to drive mix, and no link leads there.');
  });

  test('what fits whole, with a loss, and not at all (C60)', () => {
    expect(codes(assign(base, 'f-1', 'mute', { drives: 'on' }))).toContain('control_lossy');
    expect(codes(assign(base, 'k-1', 'level', { drives: 'level' }))).toContain('control_lossy');
    expect(codes(assign(base, 'f-1', 'say', { drives: 'text' }))).toContain('control_unfit');
    expect(codes(assign(base, 'p-1', 'level', { drives: 'level' }))).toContain('control_unfit');
    expect(codes(assign(base, 'p-1', 'level', { drives: 'level', part: 'x', transfer: null }))).toContain(
      'sends_beyond',
    );
  });

  test('a sliver is told and scaled away; a tenth of the range is not (C51)', () => {
    const transfer = {
      ...(assign(base, 'f-1', 'level').assignments[`as-${ids}`]?.transfer ?? expect.fail()),
      toMin: 0,
    };
    const little = assign(base, 'f-1', 'level', { args: [1, 0], transfer: { ...transfer, toMax: 9.9 } });
    const [found] = findSurfaces(little).filter(({ code }) => code === 'moves_little');
    expect(found?.facts['percent']).toBe(10);
    expect(codes(after(little, found?.fixes[0]?.change))).not.toContain('moves_little');
    expect(codes(assign(base, 'f-1', 'level', { args: [1, 0], transfer: { ...transfer, toMax: 10 } }))).not.toContain(
      'moves_little',
    );
  });

  test('a lamp that means something has a name, or it is told', () => {
    expect(codes(assign(base, 'k-1', 'start', { feedback: 'state' }))).toContain('lamp_unlabelled');
    expect(codes(assign(base, 'k-1', 'start', { feedback: 'state', label: 'Go' }))).not.toContain('lamp_unlabelled');
  });

  test('a lamp shows a state in its colour, in its one colour, or not at all, and what is lost is told', () => {
    const colours = [
      { says: 'playing', colour: 'green' as const },
      { says: 'paused', colour: 'amber' as const },
    ];
    const state = { lit: ['playing', 'paused'], colours };
    const shown = (says: string | undefined, lamp: 'none' | 'lamp' | 'colour') =>
      Object.values(lampFor(state, says, lamp)).join(' ');
    expect([shown('playing 3', 'colour'), shown('paused', 'lamp'), shown('stopped', 'colour')]).toEqual([
      'true green',
      'true ',
      'false ',
    ]);
    expect([
      shown(undefined, 'colour'),
      lampFor(undefined, '0', 'lamp').lit,
      lampFor(undefined, '7', 'lamp').lit,
    ]).toEqual(['false ', false, true]);
    const on = (control: string, feedback: Partial<Feedback>) =>
      codes(assign(withFeedback(feedback), control, 'start', { feedback: 'state', label: 'Go' }));
    expect(on('k-1', state)).toContain('lamp_one_colour');
    expect(on('k-1', { ...state, lit: ['playing'] })).not.toContain('lamp_one_colour');
    expect(on('k-1', { lit: [] })).not.toContain('lamp_one_colour');
    expect([on('k-1', state).includes('lamp_none'), on('f-1', state).includes('lamp_none')]).toEqual([false, true]);
  });

  test('a client of limited scope sends only what it can (C61)', () => {
    const limited = (sendsOnly: string[]) => ({
      ...base,
      types: { ...base.types, bank: { ...(base.types['bank'] ?? expect.fail()), sendsOnly } },
    });
    expect(codes(assign(limited(['stop']), 'k-1', 'start'))).toContain('client_scope');
    expect(codes(assign(limited(['start']), 'k-1', 'start'))).not.toContain('client_scope');
  });
});

test('controls are found by row and column from zero, and regions by a point, the smallest first (C58, 8.24)', () => {
  const left = controlsOf(base, unit(base, 'left'));
  expect([controlAt(left, 0, 1)?.key, controlAt(left, 1, 3)?.key, controlAt(left, 2, 0)?.key]).toEqual([
    'e-1',
    'f-4',
    undefined,
  ]);
  const region = (id: string, x: number, width: number) => ({
    ...controlFrom(base, unit(base, 'left'), id, { address: `/${id}`, least: 0, greatest: 1 }),
    region: { screenWidth: 100, screenHeight: 100, x, y: 0, width, height: 50 },
  });
  const show = [region('wide', 0, 60), region('small', 40, 20)].reduce(
    (own, content) => after(own, planControl(unit(own, 'left'), content)),
    base,
  );
  const all = controlsOf(show, unit(show, 'left'));
  const hit = [10, 39, 40, 59, 60].map((x) => regionAt(all, { x, y: 49 })?.key);
  expect([...hit, regionAt(all, { x: 10, y: 50 })?.key]).toEqual([
    'wide',
    'wide',
    'small',
    'small',
    undefined,
    undefined,
  ]);
});

test('one command on several controls counts up, and stops where the argument ends', () => {
  const controls = ['f-1', 'f-2', 'f-3'].map((key) => movable(base, key));
  const intent = { controls, layer: null, offer: offered(base, 'level'), counts: 'channel', from: 9, by: 1, each: [] };
  const { change, left } = planAssignSeveral(base, unit(base, 'left'), intent, () => `b-${(ids += 1)}`);
  const rows = Object.values(after(base, change).assignments);
  expect([rows.map(({ control: own, args }) => [own, args[0]]), left]).toEqual([
    [
      ['f-1', 9],
      ['f-2', 10],
    ],
    1,
  ]);
  const units = [unit(base, 'mix'), unit(base, 'right')];
  const layered = planAssignSeveral(base, unit(base, 'left'), { ...intent, each: units }, () => `b-${(ids += 1)}`);
  expect(
    Object.values(after(base, layered.change).assignments).map((row) => [
      row.control,
      row.layer,
      row.targetId,
      row.args[0],
    ]),
  ).toEqual([
    ['f-1', 0, 'mix', 9],
    ['f-1', 1, 'right', 9],
    ['f-2', 0, 'mix', 10],
    ['f-2', 1, 'right', 10],
  ]);
});

describe('a mixer over several surfaces (C56, C57)', () => {
  const aim = { targetId: 'mix', serviceKey: 'osc', command: 'level', channel: 'channel', level: 'level' };
  const both = after(
    base,
    planBanks(base, aim, ['left', 'right'], () => `bank-${(ids += 1)}`),
  );
  const bankOf = (show: Show, deviceId: string) =>
    Object.values(show.banks).find((own) => own.deviceId === deviceId) ?? expect.fail('no bank');
  const changed = (deviceId: string, patch: Partial<Content<'banks'>>): Show => {
    const row = bankOf(both, deviceId);
    return { ...both, banks: { ...both.banks, [row.id]: { ...row, ...patch } } };
  };

  test('a strip moves its channel on each layer, the odd one the next, fixed or with the layer', () => {
    const channelAt = (show: Show, key: string, id: string, layer: number) =>
      meaningsOf(show, unit(show, id), movable(show, key, id), layer)[0]?.args[0];
    expect([0, 1].map((layer) => channelAt(both, 'f-1', 'right', layer))).toEqual([5, 13]);
    expect(channelAt(both, 'odd', 'right', 0)).toBeUndefined();
    const [fixed, moving] = (['channel', 'channel_of_layer'] as const).map((odd) => changed('right', { odd }));
    expect([0, 1].map((layer) => channelAt(fixed ?? both, 'odd', 'right', layer))).toEqual([9, 9]);
    expect([0, 1].map((layer) => channelAt(moving ?? both, 'odd', 'right', layer))).toEqual([9, 17]);
  });

  test('what overlaps, what lies between, and what the mixer does not have', () => {
    expect(codes(both)).toEqual(['odd_unassigned', 'odd_unassigned']);
    expect(codes(changed('left', { odd: 'channel' }))).toEqual(['banks_overlap', 'odd_unassigned']);
    expect(codes(changed('right', { offset: 3 }))).toContain('banks_overlap');
    expect(codes(changed('right', { offset: 5 }))).toContain('banks_gap');
    expect(codes(changed('right', { offset: 6 }))).not.toContain('banks_beyond');
    expect(codes(changed('right', { offset: 7 }))).toContain('banks_beyond');
    const [found] = findSurfaces(changed('right', { offset: 7 })).filter(({ code }) => code === 'banks_gap');
    expect(codes(after(changed('right', { offset: 7 }), found?.fixes[0]?.change))).not.toContain('banks_gap');
  });

  test('as counting through all channels one by one says, for any order and any offset', () => {
    const cases = fc.record({
      offsets: fc.array(fc.option(fc.nat(14)), { minLength: 2, maxLength: 2 }),
      layer: fc.nat(1),
    });
    let ran = 0;
    fc.assert(
      fc.property(cases, ({ offsets, layer }) => {
        ran += 1;
        const rows = ['left', 'right'].map((id, at) => ({ ...bankOf(both, id), offset: offsets[at] ?? null }));
        const show = { ...both, banks: Object.fromEntries(rows.map((row) => [row.id, row])) };
        const [ruler] = rulersOf(show, layer);
        const starts = [offsets[0] ?? 0, offsets[1] ?? (offsets[0] ?? 0) + strips].map(
          (own) => own + layer * 2 * strips,
        );
        const counts = new Map<number, number>();
        for (const start of starts)
          for (let n = 1; n <= strips; n += 1) counts.set(start + n, (counts.get(start + n) ?? 0) + 1);
        const each = (list: readonly { first: number; last: number }[]) =>
          list.flatMap(({ first, last }) => Array.from({ length: last - first + 1 }, (_, n) => first + n));
        const { overlaps, gaps, beyond } = crowdingOf(ruler ?? expect.fail('no ruler'));
        const all = [...counts.keys()].sort((a, b) => a - b);
        const between = Array.from({ length: (all.at(-1) ?? 0) - (all[0] ?? 0) }, (_, n) => (all[0] ?? 0) + n);
        expect(each(overlaps)).toEqual(all.filter((n) => counts.get(n) === 2));
        expect(each(gaps)).toEqual(between.filter((n) => !counts.has(n)));
        expect([...new Set(each(beyond))].sort((a, b) => a - b)).toEqual(all.filter((n) => n > 10));
      }),
      { numRuns: 300 },
    );
    expect(ran).toBe(300);
  });
});

test('a message that somebody types is a function with its values, of every target that understands it', () => {
  const offers = ['level', 'mute', 'say', 'start'].map((key) => offered(base, key));
  const typed = (text: string) => offersTyped(offers, text).map(({ offer, args }) => [offer.command.key, ...args]);
  expect([typed('/level/3 -20'), typed('/say "good evening"')]).toEqual([
    [['level', 3, -20]],
    [['say', 'good evening']],
  ]);
  // words that look for a function are no message, and what nobody understands is none either
  expect([typed('level'), typed('set level'), typed('/nothing 1')]).toEqual([[], [], []]);
  const intent = { id: 'typed', control: movable(base, 'k-1'), layer: null, part: 'whole', instead: true } as const;
  const put = { ...intent, offer: offered(base, 'say'), args: argsWithName(offered(base, 'say').command, 'Rosa') };
  const next = after(base, planAssign(base, unit(base, 'left'), put));
  // only an argument that takes a name from a list gets it
  expect(next.assignments['typed']?.args).toEqual(['a']);
});

describe('names of destinations (5.2)', () => {
  const two = showOf({
    types: [
      bank,
      {
        ...mixer,
        services: [...mixer.services, ...mixer.services.map((own) => ({ ...own, key: 'b', label: 'MIDI' }))],
      },
    ],
    networks: [network()],
    devices: [device('left', 'bank', { name: 'Left' }), device('mix', 'mix', { name: 'Mixer' })],
    links: [
      link('mix', { controllerId: 'left' }),
      link('mix', { id: 'b', controllerId: 'left', serviceKey: 'b', port: 5004 }),
    ],
  });
  const aimAtLevels = { targetId: 'mix', serviceKey: 'osc', command: 'level', channel: 'channel', level: 'level' };
  const doubled = (show: Show) => findSurfaces(show).filter(({ code }) => code === 'destination_doubled');

  test('say the machine, what it is for and the channels, and two that read the same are told apart', () => {
    const [found] = doubled(two);
    expect(found?.facts).toMatchObject({ controller: 'Left', name: 'Mixer', functions: ['MIDI', 'OSC'] });
    const named = after(two, found?.fixes[0]?.change);
    expect(
      Object.values(named.links)
        .map(({ label }) => label)
        .sort(),
    ).toEqual(['Mixer, MIDI', 'Mixer, OSC']);
    expect(doubled(named)).toEqual([]);
    const row = { ...(two.links['b'] ?? expect.fail('no link')) };
    const banked = after(
      two,
      planBanks(two, aimAtLevels, ['left'], () => 'bk'),
    );
    expect(destinationName(banked, row)).toBe('Mixer, MIDI, channels 1 to 4');
    // where even that is taken, the port tells them apart
    const other = { ...two, links: { ...two.links, b: { ...row, label: 'mixer,osc' } } };
    expect(destinationName(other, Object.values(other.links).find(({ id }) => id !== 'b') ?? row)).toMatch(
      /^Mixer, OSC, port \d+$/,
    );
  });
});
