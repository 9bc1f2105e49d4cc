import { show as core } from '@deep-patch/core';
import type { Dice } from './dice.test-data.ts';

type Type = core.DeviceType;
type Sockets = Type['sockets'];
type Service = Type['services'][number];
type Command = Service['commands'][number];

const socket = (
  key: string,
  adapter: string | null,
  connector: Sockets[number]['connector'] = 'rj45',
): Sockets[number] => ({
  key,
  label: key,
  adapter,
  role: adapter === null ? 'setup' : 'any',
  connector,
  rateMbps: connector === 'sfp' ? 10_000 : null,
  direction: null,
});
const many = (count: number, adapter: string | null) =>
  Array.from({ length: count }, (_, at) => socket(`p-${at + 1}`, adapter, at === count - 1 ? 'sfp' : 'rj45'));
const adapters = (...keys: string[]) => keys.map((key) => ({ key, label: `${key} adapter` }));

const argument = (
  name: string,
  type: Command['args'][number]['type'],
  example: number | string | boolean,
  more = {},
) => ({
  name,
  type,
  example,
  ...more,
});
const does = (key: string, address: string, args: Command['args'], more: Partial<Command> = {}): Command => ({
  key,
  label: `${key} it`,
  address,
  args,
  sets: [{ parameter: 'state', value: args[0] ? `{${args[0].name}}` : key }],
  reply: { address: '/told', args: ['T'] },
  ...more,
});

const oscCommands: Command[] = [
  does('start', '/cue/{number}/start', [
    argument('number', 'i', 3, { min: 1, max: 99 }),
    argument('fade', 'f', 0.5, { min: 0, max: 0.7 }),
  ]),
  does('name', '/name/{name}', [argument('name', 's', 'north')]),
  does('mute', '/mute', [argument('on', 'T', true)]),
  does('quiet', '/quiet', [argument('text', 's', 'hush')], { reply: null }),
  does('flag', '/flag/{on}', [argument('on', 'T', false)]),
  does('count', '/count', [argument('count', 'i', 7)]),
  does('level', '/level/{level}', [argument('level', 'f', -3.5, { max: 10 })]),
];
const webCommands: Command[] = [
  does('look', '/look/{place}', [argument('place', 's', 'pier')], { method: 'PUT' }),
  does('zoom', '/zoom', [argument('factor', 'f', 1.5, { min: 1, max: 30 }), argument('soft', 'T', true)], {
    method: 'POST',
  }),
  does('state', '/state', [], { method: 'GET', reply: null }),
  does('tag', '/tag', [argument('text', 's', 'final'), argument('count', 'i', 2)], { method: 'PUT' }),
];
const textCommands: Command[] = [
  does('record', 'record {clip}', [argument('clip', 's', 'race')], {
    reply: { address: 'recording {clip}', args: [] },
  }),
  does('stop', 'stop', [], { reply: null }),
  does('mark', 'mark', [argument('at', 'f', 2.5), argument('note', 's', 'gybe')]),
];
const midiCommands: Command[] = [
  does('level', 'control-change 1 7 {level}', [argument('level', 'i', 90, { min: 0, max: 127 })], {
    reply: { address: 'control-change 1 7 {level}', args: [] },
  }),
  does('scene', 'program-change {channel} 4', [argument('channel', 'i', 2)], { reply: null }),
  does('bend', 'pitch-bend 3', [argument('value', 'i', 120)], { reply: { address: 'note-on 1 60 100', args: [] } }),
];

function service(key: string, protocol: Service['protocol'], port: number, more: Partial<Service> = {}): Service {
  const commands = { osc: oscCommands, http: webCommands, text: textCommands, midi: midiCommands }[protocol];
  return {
    key,
    label: `${key} control`,
    protocol,
    transport: protocol === 'osc' || protocol === 'midi' ? 'udp' : 'tcp',
    receivePort: port,
    sendPort: null,
    logins: ['none'],
    onByDefault: true,
    lowestFirmware: null,
    commands,
    ...more,
  };
}

const osc = service('osc', 'osc', 8300, { sendPort: 8310 });
const listed = service('osc', 'osc', 8300, { sendPort: 8310, replies: 'list' });
const toSender = service('remote', 'osc', 8301);
const toAsker = service('asked', 'osc', 8302, { sendPort: 8312, replies: 'sender' });
const toMany = service('told', 'osc', 8303, { sendPort: 8313, replies: 'subscribers' });
const stream = service('stream', 'osc', 8400, { transport: 'tcp', roles: ['waits', 'opens'] });
const web = service('web', 'http', 80, {
  logins: ['digest', 'basic', 'none'],
  lowestFirmware: '2.0',
  needsOpening: ['show-host'],
});
const panel = service('panel', 'http', 8080, { logins: ['basic'], needsOpening: ['computer', 'media'] });
const lines = service('lines', 'text', 7400, { roles: ['waits', 'opens'] });
const midi = service('midi', 'midi', 5004, { roles: ['waits', 'opens'] });
const deaf = service('deaf', 'osc', 8500, { commands: [] });

const everything = [...core.protocols];

/** Gear of all the forms that the data model knows, with what decides whether a packet arrives varied by the dice. */
export function rigTypes(dice: Dice): Type[] {
  const type = (id: string, kind: Type['kind'], more: Partial<Type>): Type => ({
    ...core.filledRow('types', {
      id,
      libraryId: 'rigs',
      model: id,
      version: '1.0',
      name: `${id} type`,
      kind,
      factory: { mode: 'none', ip: null, prefix: null },
      adapters: [],
      sockets: [],
    }),
    face: [{ parameter: 'state', start: 'idle' }],
    ...more,
    rev: 1,
  });
  const drives = () => (dice.chance(0.85) ? everything : everything.filter(() => dice.chance(0.5)));
  const second = {
    key: 'second',
    label: 'second network',
    sockets: [{ key: 'p-2', role: 'any' as const, adapter: dice.pick([null, 'lan']) }],
  };
  return [
    type('managed', 'switch', {
      forwards: true,
      managed: true,
      feedsCables: true,
      adapters: adapters('lan'),
      sockets: many(10, null),
      services: [panel],
    }),
    type('bare', 'switch', { forwards: true, managed: true, sockets: many(10, null) }),
    type('plain', 'switch', { forwards: true, adapters: adapters('lan'), sockets: many(8, null) }),
    type('point', 'access-point', {
      forwards: true,
      sockets: [...many(3, null), ...[1, 2, 3, 4].map((at) => socket(`air-${at}`, null, 'radio'))],
    }),
    type('router', 'router', {
      forwards: true,
      adapters: adapters('lan'),
      sockets: many(5, null),
      services: [panel],
      needsGateway: dice.chance(0.5),
    }),
    type('desk', 'lighting', {
      adapters: adapters('lan'),
      sockets: [socket('p-1', 'lan'), socket('p-2', 'lan')],
      services: [osc, toSender, toMany, deaf],
      chain: dice.chance(0.5) ? { most: 8, delayMs: 0.5 } : null,
      drives: drives(),
    }),
    type('camera', 'camera', {
      adapters: adapters('lan'),
      sockets: [socket('p-1', 'lan'), socket('air', 'lan', 'radio'), socket('usb', null, 'usb')],
      services: [web, midi],
      drives: drives(),
    }),
    type('processor', 'led-processor', {
      adapters: adapters('lan', 'out'),
      sockets: [socket('p-1', 'lan'), socket('p-2', 'out'), socket('p-3', 'out')],
      variants: [second],
      services: [lines, stream],
      drives: drives(),
    }),
    type('computer', 'computer', {
      adapters: adapters('wired-1', 'wired-2', 'radio'),
      sockets: [socket('p-1', 'wired-1'), socket('p-2', 'wired-2'), socket('air', 'radio', 'radio')],
      ways: [{ way: 'system', note: '', alone: false }],
      services: [toSender],
      drives: drives(),
    }),
    type('player', 'media', { form: 'program', services: [listed, lines, web], drives: drives() }),
    type('sequencer', 'show-host', {
      form: 'program',
      services: [midi, stream, toSender, toAsker],
      helpers: [{ label: 'key bridge', purpose: 'passes keys on', system: null }],
      drives: drives(),
    }),
  ];
}
