import { expect, test } from 'vitest';
import {
  contentWith,
  emptyShow,
  filledRow,
  type Clip,
  type Content,
  type DeviceType,
  type Show,
} from '../show/index.ts';
import { findOnAir } from './find-on-air.ts';
import { airInputs, callerNames, callerOn, callersOf, linkOf, listsOf, offeredList } from './inputs.ts';
import { linkedGroups, openItems, outputsOf, planOutput } from './linked.ts';
import { planFollowFolder, planMoveClip, unplayable } from './lists.ts';

type Type = Partial<Content<'types'>>;
type Device = Partial<Content<'devices'>> & { readonly typeId: string };

const byId = <Item extends { readonly id: string }>(rows: readonly Item[]) =>
  Object.fromEntries(rows.map((row) => [row.id, { ...row, rev: 1 }])) as Record<string, Item & { rev: number }>;
const picture = (key: string, label: string, direction: 'in' | 'out') =>
  ({ ...{ key, label, adapter: null, role: 'video', connector: 'sdi', direction } }) as DeviceType['sockets'][number];
const plays = { startMs: 100, jitterMs: 20, codecs: ['H.264'], most: { width: 1920, height: 1080, fps: 50 } };

const models: Record<string, Type> = {
  mix: {
    kind: 'switcher',
    sockets: [1, 2, 3, 4].map((at) => picture(`in-${at}`, `input ${at}`, 'in')),
    drives: ['http'],
  },
  deck: { kind: 'playout', sockets: [picture('out', 'out', 'out')], plays: { ...plays, togetherFrom: '2.0' } },
  eye: { kind: 'camera', sockets: [picture('out', 'out', 'out')] },
  booth: {
    ...{ kind: 'caller', sockets: [picture('out', 'out', 'out')] },
    lists: [
      { key: 'channels', label: 'channels', names: ['One', 'Two'] },
      { key: 'callers', label: 'callers', names: ['Ann'] },
    ],
  },
  words: { kind: 'lyrics', form: 'program', sockets: [] },
  pc: { kind: 'computer', sockets: [picture('screen', 'screen', 'out'), picture('grab', 'grab', 'in')] },
};

interface Parts {
  readonly devices: Record<string, Device>;
  /** From whose `out` into which input of `mix`. */
  readonly fed?: Record<string, number>;
  readonly entries?: readonly (readonly [targetId: string, slot: number])[];
  readonly rules?: readonly (Partial<Content<'inputRules'>> & { readonly input: number })[];
  readonly clips?: readonly (Partial<Content<'clips'>> & { readonly id: string })[];
}

function showOf({ devices, fed = {}, entries = [], rules = [], clips = [] }: Parts): Show {
  const types = Object.entries(models).map(([id, type]) =>
    filledRow('types', {
      ...{ id, libraryId: 'ours', model: id, version: '1', name: id, kind: 'computer', adapters: [], sockets: [] },
      ...{ factory: { mode: 'none', ip: null, prefix: null }, ...type },
    }),
  );
  const units = Object.entries(devices).map(([id, device]) =>
    filledRow('devices', { ...{ id, name: id, unit: null, place: '', firmware: null, note: '' }, ...device }),
  );
  const cables = Object.entries(fed).map(([from, input]) =>
    contentWith('cables', {
      ...{ id: `run-${from}`, fromDevice: from, fromSocket: 'out', toDevice: 'mix', toSocket: `in-${input}` },
      ...{ medium: 'copper', lengthM: null },
    }),
  );
  const links = entries.map(([targetId, slot], at) =>
    contentWith('links', {
      ...{ id: `link-${at}`, controllerId: 'mix', targetId, serviceKey: 'web', slot, host: null, port: 80 },
      ...{ replyPort: null, account: null, secretId: null, command: null, args: [] },
    }),
  );
  return {
    ...emptyShow({ id: 's', name: 's' }),
    ...{ types: byId(types), devices: byId(units), cables: byId(cables), links: byId(links) },
    inputRules: byId(
      rules.map((rule) => contentWith('inputRules', { id: `rule-${rule.input}`, switcherId: 'mix', ...rule })),
    ),
    clips: byId(
      clips.map((clip) => contentWith('clips', { deviceId: 'deck', list: 'A', place: 0, name: clip.id, ...clip })),
    ),
  };
}
const mix: Device = { typeId: 'mix' };
const deck: Device = { typeId: 'deck', firmware: '2.0' };
const declared = (...inputs: readonly (readonly [number, string, Content<'devices'>['inputs'][number]['kind']])[]) => ({
  ...mix,
  inputs: inputs.map(([number, label, kind]) => ({ number, label, kind })),
});
const codes = (show: Show): string[] => findOnAir(show).map(({ code }) => code);

test('each mistake on air is told by its own words, and nothing else is', () => {
  const fixed = { input: 1, offers: 'fixed' } as const;
  const one = { devices: { mix, deck }, fed: { deck: 1 }, entries: [['deck', 1]] } as const;
  const two = [{ id: 'a' }, { id: 'b', list: 'B' }];
  const form = { container: 'MPEG-4', codec: 'H.264', width: 1920, height: 1080, fps: 25 };
  const action = (at: number, lasts: number | null = null) => ({ at, text: 'x', lasts });
  const booth: Device = { typeId: 'booth' };
  const linked = (firmware: string | null): Device => ({ typeId: 'deck', firmware, features: ['linked', 'output'] });
  const cases: readonly (readonly [string, Parts])[] = [
    ['', one],
    ['', { ...one, devices: { mix: declared([1, 'Deck', 'player']), deck } }],
    ['input_kind_differs', { ...one, devices: { mix: declared([1, 'Deck', 'picture']), deck } }],
    [
      'input_kind_differs',
      { devices: { mix: declared([2, 'Eye', 'caller']), eye: { typeId: 'eye' } }, fed: { eye: 2 } },
    ],
    ['', { devices: { mix: declared([2, 'Eye', 'graphics']), pc: { typeId: 'pc' } } }],
    ['input_label_doubled', { devices: { mix: declared([1, 'Eye', 'picture'], [2, 'eye ', 'picture']) } }],
    ['', { devices: { mix: declared([1, '', 'picture'], [2, '', 'picture']) } }],
    ['channel_unknown', { devices: { mix, booth }, rules: [{ input: 1, channel: 'Three' }] }],
    ['channel_doubled', { devices: { mix, booth }, rules: [1, 2].map((input) => ({ input, channel: 'One' })) }],
    ['', { devices: { mix, booth }, rules: ['One', 'Two'].map((channel, at) => ({ input: at + 1, channel })) }],
    ['list_unknown', { ...one, clips: two, rules: [{ ...fixed, list: 'C' }] }],
    ['list_follows_selection', { ...one, clips: two }],
    ['', { ...one, clips: two, rules: [{ ...fixed, list: 'B' }] }],
    ['', { ...one, clips: two.slice(0, 1) }],
    ['', { ...one, clips: two, rules: [{ input: 1, goes: 'nothing' }] }],
    ['clip_unplayable', { ...one, clips: [{ id: 'a', form: { ...form, codec: 'VC-3' } }] }],
    ['clip_unplayable', { ...one, clips: [{ id: 'a', form: { ...form, height: 2160 } }] }],
    ['clip_unplayable', { ...one, clips: [{ id: 'a', form: { ...form, fps: 60 } }] }],
    ['', { ...one, clips: [{ id: 'a', form: { ...form, codec: 'h.264', fps: 50 } }] }],
    ['action_beyond', { ...one, clips: [{ id: 'a', seconds: 9, actions: [action(9)] }] }],
    ['action_runs_over', { ...one, clips: [{ id: 'a', seconds: 9, actions: [action(5, 5)] }] }],
    ['actions_close', { ...one, clips: [{ id: 'a', seconds: 9, actions: [action(5), action(5.5)] }] }],
    ['not_frame_accurate', { devices: { a: linked('1.9'), b: linked('2.0') } }],
    ['', { devices: { a: linked('2.0'), b: linked('2.1') } }],
    ['', { devices: { a: linked('1.0'), b: { ...linked('1.0'), features: ['linked'] } } }],
  ];
  for (const [code, parts] of cases) expect([code, codes(showOf(parts))]).toEqual([code, code === '' ? [] : [code]]);
});

test('two actions of one moment are two findings, each with a key of its own', () => {
  const twice = [5, 5].map((at) => ({ at, text: 'x', lasts: null }));
  const found = findOnAir(showOf({ devices: { deck }, clips: [{ id: 'a', seconds: 4, actions: twice }] }));
  expect([found.length, new Set(found.map(({ key }) => key)).size]).toEqual([3, 3]);
});

test('the player of an input is whoever is entered under its number and plays, before anybody else', () => {
  const show = showOf({
    ...{ devices: { mix, eye: { typeId: 'eye' }, deck }, fed: { eye: 2 } },
    entries: [
      ['eye', 1],
      ['deck', 1],
      ['eye', 2],
    ],
  });
  const seen = airInputs(show).map(({ number, player, line, link }) => [number, player?.id, line.source?.id, link?.id]);
  expect(seen).toEqual([
    [1, 'deck', undefined, 'link-1'],
    [2, undefined, 'eye', 'link-2'],
    ...[3, 4].map((number) => [number, undefined, undefined, undefined]),
  ]);
  expect([linkOf(show, 'mix', 3), linkOf(show, 'deck', 1)]).toEqual([undefined, undefined]);
});

test('a list is offered in the order of its places, as it is ruled or selected', () => {
  const clips = [
    { id: 'late', list: 'B', place: 1 },
    { id: 'other', list: 'A', place: 5 },
    { id: 'early', list: 'B', place: 0 },
  ];
  const show = showOf({ devices: { mix, deck }, entries: [['deck', 1]], clips });
  expect([...listsOf(show, 'deck')].map(([name, items]) => [name, items.map(({ id }) => id)])).toEqual([
    ['A', ['other']],
    ['B', ['early', 'late']],
  ]);
  const [input] = airInputs(show);
  if (!input) throw new Error('no input');
  const offered = (rule: object, selected?: string) =>
    offeredList(show, { ...input, rule: { ...input.rule, ...rule } }, selected)?.name;
  expect([offered({}), offered({}, 'B'), offered({ offers: 'fixed', list: 'B' }, 'A'), offered({}, 'gone')]).toEqual([
    ...['A', 'B', 'B', undefined],
  ]);
});

test('a folder brings its files in at the end by name, takes others out, and an item is moved within its list', () => {
  const show = showOf({ devices: { deck }, clips: ['x', 'y', 'z'].map((id, place) => ({ id, place, seconds: 3 })) });
  const named = (name: string): Clip => show.clips[name] ?? expect.fail(name);
  const file = (name: string) => ({ name, seconds: 7, form: null });
  const change = planFollowFolder(
    show,
    { deviceId: 'deck', list: 'A', ids: ['n1', 'n2'] },
    {
      added: [file('b'), file('a')],
      removed: [named('x')],
      held: [],
      changed: [{ clip: named('z'), file: file('z') }],
    },
  );
  expect(
    change?.edits.map(({ id, after }) => [id, after && 'seconds' in after ? [after.place, after.name] : after]),
  ).toEqual([
    ['x', null],
    ['y', [0, 'y']],
    ['z', [1, 'z']],
    ['n1', [2, 'a']],
    ['n2', [3, 'b']],
  ]);
  const moved = (by: number) => planMoveClip(show, named('y'), by)?.edits.map(({ id }) => id);
  expect([moved(1), moved(-9), moved(0)]).toEqual([['z', 'y'], ['y', 'x'], undefined]);
  expect(unplayable(show, show.devices['deck'] ?? expect.fail('deck'), { form: null })).toBeUndefined();
});

test('a channel is of the gateway that feeds its input, before another that reports the same name', () => {
  const booth: Device = { typeId: 'booth' };
  const own = {
    ...booth,
    names: [
      { list: 'channels', names: ['Two', 'Six'] },
      { list: 'callers', names: ['Bo'] },
    ],
  };
  const show = showOf({
    ...{ devices: { mix, a: booth, b: own }, fed: { b: 2 } },
    rules: ['Two', 'Two', 'Six', 'No'].map((channel, at) => ({ input: at + 1, channel })),
  });
  expect(airInputs(show).map((input) => callerOn(show, input)?.id)).toEqual(['a', 'b', 'b', undefined]);
  expect(callersOf(show).map(({ channels }) => channels)).toEqual([
    ['One', 'Two'],
    ['Two', 'Six'],
  ]);
  const names = ['a', 'b'].map((id) => callerNames(show, show.devices[id] ?? expect.fail(id)));
  expect(names).toEqual([['Ann'], ['Bo']]);
});

test('machines that move together are grouped by the name of their group, with their outputs and what is open', () => {
  const words = (more: Partial<Device>): Device => ({ typeId: 'words', ...more });
  const show = showOf({
    devices: {
      ...{ pc: { typeId: 'pc' }, alone: words({ peers: 'Other', features: ['linked'] }) },
      ...{ idle: words({}), spare: words({}) },
      a: words({ peers: 'Quay', features: ['linked'], runsOn: 'pc', outputs: [{ socket: 'screen', form: 'band' }] }),
      b: words({ peers: 'Quay', usedFor: 'notices' }),
      c: { ...deck, features: ['linked'], firmware: '2.0' },
      d: { ...deck, features: ['linked'], firmware: null },
    },
  });
  const groups = linkedGroups(show);
  expect(groups.map(({ name, members, together }) => [name, members.map(({ device }) => device.id), together])).toEqual(
    [
      ['Quay', ['a', 'b'], 'unknown'],
      ['deck', ['c', 'd'], 'unknown'],
    ],
  );
  const [a, b] = groups[0]?.members ?? [];
  if (!a || !b) throw new Error('no members');
  expect([a, b].map(({ outputs }) => outputs.map(({ socket, form }) => [socket.key, form]))).toEqual([
    [['screen', 'band']],
    [],
  ]);
  const open = (...items: [string, string][]) => openItems([a, b], new Map(items)).state;
  expect([open(), open(['a', '1']), open(['a', '1'], ['b', '1']), open(['a', '1'], ['b', '2'])]).toEqual([
    ...['unknown', 'unknown', 'same', 'different'],
  ]);
  const [screen] = outputsOf(show, a.device);
  if (!screen) throw new Error('no output');
  const planned = (form: typeof screen.form) => planOutput(a.device, { ...screen, form })?.edits[0]?.after;
  expect([planned('full'), planned('words')]).toEqual([
    expect.objectContaining({ outputs: [] }),
    expect.objectContaining({ outputs: [{ socket: 'screen', form: 'words' }] }),
  ]);
});
