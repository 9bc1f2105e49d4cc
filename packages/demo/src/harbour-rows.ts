import { show } from '@deep-patch/core';

type Content<T extends show.TableName> = show.Content<T>;
const { filledRow } = show;

export const networks: Content<'networks'>[] = [
  filledRow('networks', {
    id: 'control',
    name: 'Control',
    network: '10.61.20.0',
    prefix: 24,
    vlan: 20,
    purpose: 'Remotes, show software and what they drive',
    carries: 'control',
    gateway: '10.61.20.1',
    needsOutside: true,
    poolFrom: '10.61.20.120',
    poolTo: '10.61.20.159',
  }),
  filledRow('networks', {
    id: 'audio',
    name: 'Audio',
    network: '10.61.30.0',
    prefix: 24,
    vlan: 30,
    purpose: 'Mixer, racks and amplifiers',
    carries: 'audio',
    gateway: null,
    poolFrom: null,
    poolTo: null,
  }),
  filledRow('networks', {
    id: 'led',
    name: 'LED',
    network: '10.61.40.0',
    prefix: 24,
    vlan: 40,
    purpose: 'Processors of both walls',
    carries: 'management',
    gateway: null,
    poolFrom: null,
    poolTo: null,
  }),
  filledRow('networks', {
    id: 'harbour',
    name: 'Harbour office',
    network: '172.27.5.0',
    prefix: 24,
    vlan: null,
    purpose: 'The way to the internet for callers and updates',
    carries: 'guest',
    gateway: '172.27.5.1',
    needsOutside: true,
    poolFrom: '172.27.5.100',
    poolTo: '172.27.5.199',
    owner: 'house',
    contact: 'Harbour office, ask for the network desk',
    rules: 'Two addresses for the show. No DHCP server of our own, no wireless.',
    granted: [{ first: '172.27.5.60', last: '172.27.5.61' }],
  }),
];

const block = (
  networkId: string,
  label: string,
  from: number,
  to: number,
  kinds: Content<'blocks'>['kinds'],
): Content<'blocks'> => {
  const root = { control: '10.61.20', audio: '10.61.30', led: '10.61.40' }[networkId] ?? '';
  return filledRow('blocks', {
    id: `${networkId}-${from}`,
    networkId,
    label,
    kinds,
    first: `${root}.${from}`,
    last: `${root}.${to}`,
    use: kinds.length > 0 ? 'place' : 'keep_free',
  });
};

export const blocks: Content<'blocks'>[] = [
  block('control', 'Switches', 2, 9, ['switch', 'router', 'access-point']),
  block('control', 'Audio', 10, 15, ['mixer']),
  block('control', 'Remotes', 16, 29, ['camera-remote', 'fader-bank', 'button-panel', 'tablet', 'switcher']),
  block('control', 'Cameras', 31, 46, ['camera']),
  block('control', 'Lighting', 60, 69, ['lighting']),
  block('control', 'Graphics', 70, 79, ['media', 'lyrics', 'timecode', 'recorder']),
  block('control', 'Callers', 80, 89, ['caller']),
  block('control', 'Playout', 90, 99, ['playout']),
  block('control', 'Radio crew', 210, 219, []),
  block('control', 'Computers', 200, 209, ['show-host', 'computer']),
  block('audio', 'Mixing', 10, 19, ['mixer', 'stage-rack']),
  block('audio', 'Amplifiers', 41, 60, ['amplifier']),
  block('led', 'Processors', 51, 60, ['led-processor']),
  block('led', 'Computers', 200, 209, ['show-host', 'computer']),
];

/** What the units of a place hang on. */
const circuits: Readonly<Record<string, string>> = {
  'Commentary booth': 'Booth',
  'Quay stage': 'Quay A',
  Marquee: 'Marquee',
};

const device = (
  id: string,
  typeId: string,
  name: string,
  place: string,
  unit: number | null = null,
  firmware: string | null = null,
  more: Partial<Content<'devices'>> = {},
): Content<'devices'> =>
  filledRow('devices', {
    ...{ id, typeId, name, unit, place, firmware, note: '', circuit: circuits[place] ?? '' },
    ...more,
  });

export const devices: Content<'devices'>[] = [
  device('remote', 'camera-remote', 'Camera remote', 'Commentary booth', 1, '2.3'),
  device('host', 'show-host', 'Show host', 'Commentary booth', 1, '5.1', { system: 'macos', systemVersion: '14.2' }),
  device('faders-left', 'fader-bank', 'Fader bank left', 'Commentary booth', 1, '1.8'),
  device('faders-right', 'fader-bank', 'Fader bank right', 'Commentary booth', 2, '1.8'),
  device('callers', 'caller-gateway', 'Caller gateway', 'Commentary booth', 1, '3.0', { sources: 6 }),
  device('booth-tablet', 'tablet', 'Commentary tablet', 'Commentary booth', 1),
  device('switch-booth', 'managed-switch', 'Switch booth', 'Commentary booth', 2, '4.2'),
  device('switcher', 'production-switcher', 'Production switcher', 'Quay stage', 1, '9.2', {
    features: ['decks'],
    sources: 7,
    savedOn: '2026-11-20',
    rate: '25',
    takeDelay: 4,
    inputs: [
      { number: 1, label: 'Camera 1', kind: 'picture' },
      { number: 2, label: 'Camera 2', kind: 'picture' },
      { number: 3, label: 'Camera 3 finish line', kind: 'picture' },
      { number: 5, label: 'Playout A', kind: 'player' },
      { number: 7, label: 'Playout B', kind: 'player' },
    ],
  }),
  device('mixer', 'audio-mixer', 'Audio mixer', 'Quay stage', 1, '4.0', {
    savedOn: '2026-11-21',
    sharing: 'left bank: speech, right bank: music',
  }),
  device('stage-rack', 'stage-rack', 'Stage rack', 'Quay stage', 2, '4.1'),
  device('desk', 'lighting-desk', 'Lighting desk', 'Quay stage', 1, '7.4', { rate: '30' }),
  device('led-quay', 'led-processor', 'LED processor, quay', 'Quay stage', 1, '3.3'),
  device('media', 'media-server', 'Media server', 'Quay stage', 1, '6.0', {
    system: 'windows',
    systemVersion: '11.0',
    features: ['second-output', 'wall-map'],
    rate: '25',
  }),
  device('lyrics-quay', 'presentation-computer', 'Lyrics, quay', 'Quay stage', 2, '12.1', {
    system: 'macos',
    systemVersion: '14.2',
    features: ['linked', 'output'],
    usedFor: 'lyrics',
  }),
  device('amp-1', 'amplifier', 'Amplifier 1', 'Quay stage', 1, '2.0'),
  device('amp-2', 'amplifier', 'Amplifier 2', 'Quay stage', 2, '2.0'),
  device('amp-3', 'amplifier', 'Amplifier 3', 'Quay stage', 3, '2.0'),
  device('amp-4', 'amplifier', 'Amplifier 4', 'Quay stage', 4, '2.0'),
  device('switch-quay', 'managed-switch', 'Switch quay', 'Quay stage', 1, '4.2'),
  device('switch-audio', 'plain-switch', 'Switch audio', 'Quay stage'),
  device('timecode', 'timecode-source', 'Timecode source', 'Quay stage', 5, null, { rate: '25', leads: true }),
  device('camera-1', 'pan-tilt-camera', 'Camera 1 pan-tilt', 'Quay stage', 1, '2.1'),
  device('camera-2', 'pan-tilt-camera', 'Camera 2 pan-tilt', 'Quay stage', 2, '2.1'),
  device('deck-a', 'playout-machine', 'Playout A', 'Quay stage', 1, '1.12'),
  device('deck-b', 'playout-machine', 'Playout B', 'Quay stage', 2, '1.12'),
  device('recorder', 'network-recorder', 'Recorder', 'Quay stage', 6, '1.3'),
  device('panel', 'button-panel', 'Button panel', 'Quay stage', 8),
  device('router', 'router', 'Router', 'Quay stage', 1, '1.0'),
  device('ap-quay', 'access-point', 'Access point, quay', 'Quay stage', 7, '2.2'),
  device('laptop', 'technician-computer', 'Technician’s computer', 'Quay stage', 9, null, {
    system: 'linux',
    systemVersion: '12.0',
  }),
  device('camera-3', 'pan-tilt-camera', 'Camera 3 finish line', 'Finish tower', 3, '2.1'),
  device('camera-4', 'pan-tilt-camera', 'Camera 4 jury boat', 'Jury boat', 4, '1.2'),
  device('ap-boat', 'access-point', 'Access point, boat', 'Jury boat', 8, '2.2'),
  device('lyrics-marquee', 'presentation-computer', 'Lyrics, marquee', 'Marquee', 3, '12.1', {
    system: 'macos',
    systemVersion: '12.6',
    features: ['linked', 'output'],
    usedFor: 'overflow room',
  }),
  device('led-marquee', 'small-led-processor', 'LED processor, marquee', 'Marquee', 2, '3.3'),
  device('amp-5', 'amplifier', 'Amplifier 5', 'Marquee', 5, '2.0'),
  device('amp-6', 'amplifier', 'Amplifier 6', 'Marquee', 6, '2.0'),
  device('switch-marquee', 'managed-switch', 'Switch marquee', 'Marquee', 3, '4.2'),
  device('camera-5', 'pan-tilt-camera', 'Camera 5 shoulder', 'Marquee', 5, '2.1'),
  device('monitor', 'message-monitor', 'Message monitor', 'Quay stage', null, '1.4', { runsOn: 'laptop' }),
  device('wall-setup', 'wall-program', 'Wall program', 'Quay stage', null, '3.2', { runsOn: 'laptop' }),
];

export const licences: Content<'licences'>[] = [
  filledRow('licences', { id: 'seat', model: 'presentation-computer', bundle: 'seat', owned: 1 }),
  filledRow('licences', { id: 'outputs', model: 'media-server', bundle: 'outputs', owned: 1 }),
  filledRow('licences', { id: 'mapping', model: 'media-server', bundle: 'mapping', owned: 1 }),
];

type AddressPatch = Partial<Pick<Content<'addresses'>, 'prefix' | 'held' | 'gateway' | 'method'>>;
const at = (
  networkId: string,
  interfaceId: string,
  last: number | null,
  patch: AddressPatch = {},
): Content<'addresses'> => {
  const root = { control: '10.61.20', audio: '10.61.30', led: '10.61.40', harbour: '172.27.5' }[networkId] ?? '';
  return filledRow('addresses', {
    id: `${networkId}-${interfaceId}`.slice(0, 40),
    interfaceId,
    networkId,
    ip: last === null ? null : `${root}.${last}`,
    prefix: null,
    gateway: null,
    held: false,
    ...patch,
  });
};

export const addresses: Content<'addresses'>[] = [
  at('control', 'router-lan', 1, { held: true }),
  at('control', 'switch-quay-lan', 2),
  at('control', 'switch-booth-lan', 3),
  at('control', 'switch-marquee-lan', 4),
  at('control', 'ap-quay-lan', 7),
  at('control', 'ap-boat-lan', 8),
  at('control', 'mixer-control', 11),
  at('control', 'remote-lan', 17),
  at('control', 'faders-left-lan', 21),
  at('control', 'faders-right-lan', 22),
  at('control', 'booth-tablet-lan', 24),
  at('control', 'switcher-lan', 26, { held: true }),
  at('control', 'panel-lan', null),
  at('control', 'camera-1-lan', 31),
  at('control', 'camera-2-lan', 32),
  at('control', 'camera-3-lan', 33, { held: true }),
  at('control', 'camera-4-lan', 34),
  at('control', 'camera-5-lan', 33),
  at('control', 'desk-lan', 61),
  at('control', 'media-lan', 71),
  at('control', 'lyrics-quay-lan', 72),
  at('control', 'lyrics-marquee-lan', null),
  at('control', 'timecode-lan', 75),
  at('control', 'recorder-lan', 76),
  at('control', 'callers-lan', 81),
  at('control', 'deck-a-lan', 91),
  at('control', 'deck-b-lan', 92),
  at('control', 'host-wired-1', 200, { held: true }),
  at('control', 'laptop-lan', 128),
  at('harbour', 'callers-lan', 60),
  at('audio', 'mixer-audio', 11),
  at('audio', 'stage-rack-lan', 12),
  at('audio', 'amp-1-lan', 41),
  at('audio', 'amp-2-lan', 42),
  at('audio', 'amp-3-lan', 43),
  at('audio', 'amp-4-lan', 44),
  at('audio', 'amp-5-lan', 45),
  at('audio', 'amp-6-lan', 255),
  at('led', 'host-wired-2', 200, { held: true }),
  at('led', 'led-quay-lan', 51),
  at('led', 'led-marquee-lan', 52, { prefix: 16 }),
];

const cable = (
  from: string,
  to: string,
  medium: Content<'cables'>['medium'] = 'copper',
  lengthM: number | null = null,
  delayMs: number | null = null,
): Content<'cables'> => {
  const [fromDevice = '', fromSocket = ''] = from.split(' ');
  const [toDevice = '', toSocket = ''] = to.split(' ');
  return {
    id: `c-${fromDevice}-${fromSocket}`,
    fromDevice,
    fromSocket,
    toDevice,
    toSocket,
    medium,
    grade: null,
    lengthM,
    delayMs,
    stage: 'both',
  };
};

export const cables: Content<'cables'>[] = [
  cable('switch-booth p-24', 'switch-quay p-24', 'fibre', 180),
  cable('switch-marquee p-24', 'switch-quay p-23', 'fibre', 240),
  cable('router p-1', 'switch-quay p-22', 'copper', 5),
  cable('ap-quay p-16', 'switch-quay p-21', 'copper', 30),
  cable('ap-boat p-16', 'ap-quay p-15', 'wireless', 420, 9),
  cable('remote port-1', 'switch-booth p-1', 'copper', 3),
  cable('host port-1', 'switch-booth p-2', 'copper', 3),
  cable('host port-2', 'switch-booth p-3', 'copper', 3),
  cable('faders-left port-1', 'switch-booth p-4', 'copper', 2),
  cable('faders-right port-1', 'switch-booth p-5', 'copper', 2),
  cable('callers port-1', 'switch-booth p-6', 'copper', 4),
  cable('booth-tablet port-1', 'ap-quay p-1', 'wireless', 60),
  cable('switcher port-1', 'switch-quay p-1', 'copper', 6),
  cable('mixer port-1', 'switch-quay p-2', 'copper', 8),
  cable('mixer port-2', 'switch-audio p-1', 'copper', 8),
  cable('stage-rack port-1', 'switch-audio p-2', 'copper', 35),
  cable('amp-1 port-1', 'switch-audio p-3', 'copper', 12),
  cable('amp-2 port-1', 'switch-audio p-4', 'copper', 12),
  cable('amp-3 port-1', 'switch-audio p-5', 'copper', 14),
  cable('amp-4 port-1', 'switch-audio p-6', 'copper', 14),
  cable('amp-5 port-1', 'switch-audio p-7', 'copper', 85),
  cable('amp-6 port-1', 'switch-audio p-8', 'copper', 85),
  cable('desk port-1', 'switch-quay p-3', 'copper', 20),
  cable('led-quay port-1', 'switch-quay p-4', 'copper', 25),
  cable('media port-1', 'switch-quay p-5', 'copper', 5),
  cable('lyrics-quay port-1', 'switch-quay p-6', 'copper', 5),
  cable('timecode port-1', 'switch-quay p-7', 'copper', 2),
  cable('camera-1 port-1', 'switch-quay p-8', 'copper', 40),
  cable('camera-2 port-1', 'switch-quay p-9', 'copper', 55),
  cable('camera-3 port-1', 'switch-quay p-10', 'copper', 61),
  cable('deck-a port-1', 'switch-quay p-11', 'copper', 2),
  cable('deck-b port-1', 'switch-quay p-12', 'copper', 2),
  cable('recorder port-1', 'switch-quay p-15', 'copper', 2),
  cable('panel port-1', 'switch-quay p-13', 'copper', 3),
  cable('laptop port-1', 'switch-quay p-14', 'copper', 3),
  cable('camera-4 port-1', 'ap-boat p-1', 'copper', 4),
  cable('lyrics-marquee port-1', 'switch-marquee p-1', 'copper', 10),
  cable('led-marquee port-1', 'switch-marquee p-2', 'copper', 15),
  cable('camera-5 port-1', 'switch-marquee p-3', 'copper', 20),
  cable('camera-1 sdi-out', 'switcher in-1', 'copper', 40),
  cable('camera-2 sdi-out', 'switcher in-2', 'copper', 55),
  cable('camera-3 sdi-out', 'switcher in-3', 'copper', 60),
  cable('deck-a out-1', 'switcher in-5', 'copper', 3),
  cable('deck-b out-1', 'switcher in-7', 'copper', 3),
];

export const passwords: Readonly<Record<string, string>> = {
  'quay-login': 'lantern-tide-31',
  'older-login': 'lantern-tide-30',
};

/** What differs from the type’s own settings on single units. */
export const services: Readonly<Record<string, Partial<Content<'services'>>>> = {
  'camera-1': { account: 'ops', secretId: 'quay-login' },
  'camera-2': { account: 'ops', secretId: 'quay-login' },
  'camera-3': { account: 'ops', secretId: 'quay-login' },
  'camera-4': { account: 'ops', secretId: 'quay-login' },
  'camera-5': { account: 'ops', secretId: 'quay-login' },
  mixer: { sendTo: '10.61.20.21' },
};

const link = (
  controllerId: string,
  targetId: string,
  patch: Partial<Content<'links'>> & Pick<Content<'links'>, 'serviceKey' | 'port' | 'command' | 'args'>,
): Content<'links'> =>
  filledRow('links', {
    id: `${controllerId}-to-${targetId}`,
    controllerId,
    targetId,
    slot: null,
    host: null,
    replyPort: null,
    account: null,
    secretId: null,
    mustHold: holding.has(targetId),
    ...patch,
  });

/** What the show cannot do without: whoever drives these must reach them. */
const holding: ReadonlySet<string> = new Set(['desk', 'media', 'lyrics-quay', 'led-quay', 'mixer', 'recorder']);

const camera = (unit: number, secretId = 'quay-login') =>
  link('remote', `camera-${unit}`, {
    serviceKey: 'web',
    slot: unit,
    port: 80,
    account: 'ops',
    secretId,
    command: 'recall',
    args: [1],
  });
const osc = (
  controllerId: string,
  targetId: string,
  port: number,
  replyPort: number,
  command: string,
  args: Content<'links'>['args'],
) => link(controllerId, targetId, { serviceKey: 'osc', port, replyPort, command, args });

export const links: Content<'links'>[] = [
  camera(1),
  camera(2),
  camera(3, 'older-login'),
  camera(4),
  camera(5),
  osc('host', 'desk', 8300, 8310, 'start-cue', [31, 4]),
  osc('host', 'callers', 9311, 9310, 'show-caller', ['Harbour master']),
  osc('host', 'media', 4710, 4711, 'go-to', [12]),
  osc('host', 'lyrics-quay', 7420, 7421, 'go-to', [1]),
  osc('host', 'lyrics-marquee', 7420, 7421, 'go-to', [1]),
  link('host', 'led-quay', { serviceKey: 'web', port: 80, command: 'picture', args: ['grid'] }),
  link('host', 'led-marquee', { serviceKey: 'web', port: 80, command: 'picture', args: ['grid'] }),
  osc('faders-left', 'mixer', 5020, 5021, 'channel-level', [3, -6]),
  link('switcher', 'deck-a', { serviceKey: 'web', slot: 5, port: 5310, command: 'play', args: [1] }),
  link('switcher', 'deck-b', { serviceKey: 'web', slot: 6, port: 531, command: 'play', args: [1] }),
  link('host', 'switcher', { serviceKey: 'web', port: 8090, command: 'cut', args: [5] }),
  link('host', 'recorder', { serviceKey: 'text', port: 9700, command: 'record', args: ['final'] }),
  link('faders-right', 'mixer', { serviceKey: 'midi', port: 5004, command: 'fader', args: [3, 90] }),
  link('timecode', 'media', { serviceKey: 'timecode', port: 5004, command: 'source', args: [1] }),
];
