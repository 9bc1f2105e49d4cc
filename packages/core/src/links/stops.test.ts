import { expect, test } from 'vitest';
import { addressingFacts } from '../addressing/index.ts';
import { filledRow, type Content, type Show } from '../show/index.ts';
import {
  adapter,
  address,
  cable,
  device,
  link,
  network,
  programType,
  service,
  showOf,
  soundRows,
  types,
  typeWith,
} from '../show/sample-show.test-data.ts';
import { forecast, linkFacts } from './forecast.ts';
import { layerWords } from './side-words.ts';

type Rows = Parameters<typeof showOf>[0];
type Patch<Table extends keyof Rows & ('links' | 'services' | 'addresses' | 'devices')> = Partial<Content<Table>>;

const router = typeWith('router', {
  name: 'Router',
  kind: 'router',
  factory: { mode: 'none', ip: null, prefix: null },
  forwards: true,
});
const all = [...types, programType, router];
const show = (patch: Rows): Show => showOf({ types: all, ...soundRows, ...patch });

/** Where a link stops or what endangers it: code, both ends as words, ways out. */
function told(at: Show, id: string): string {
  const row = at.links[id] ?? expect.fail(`no link ${id}`);
  const { stopsAt, risks } = forecast(at, linkFacts(at, addressingFacts(at)), row);
  const worst = stopsAt ?? risks[0];
  if (!worst) return 'bottom';
  const { left, right, between } = layerWords(worst);
  const ways = worst.fixes.map(({ label }) => label).join(' / ');
  return `${worst.layer} ${worst.code}: ${left} ↔ ${right} (${between})${ways && ` → ${ways}`}`;
}

const desk = (patch: Patch<'links'>): Rows => ({ links: [link('desk', patch)] });
const web = (patch: Patch<'links'>): Rows => ({
  links: [link('camera', { serviceKey: 'web', port: 80, replyPort: null, account: 'ops', secretId: 's1', ...patch })],
});
const deskService = (patch: Patch<'services'>): Rows => ({ services: [service('desk', patch)] });
const webService = (patch: Patch<'services'>): Rows => ({
  ...web({}),
  services: [
    service('camera', {
      key: 'web',
      receivePort: 80,
      sendPort: null,
      sendTo: null,
      account: 'ops',
      secretId: 's1',
      ...patch,
    }),
  ],
});
const placed = (host: Patch<'addresses'>, target: Patch<'addresses'>): Rows => ({
  addresses: [address('host', '10.1.0.2', host), address('desk', '10.1.0.60', target)],
});
const unplugged = (...ids: string[]): Rows => ({
  cables: soundRows.cables.filter(({ fromDevice }) => !ids.includes(fromDevice)),
});
const unit = (id: string, patch: Patch<'devices'>): Rows => ({
  devices: soundRows.devices.map((row) => (row.id === id ? { ...row, ...patch } : row)),
});
const onHost = (patch: Patch<'links'>, own: Patch<'devices'> = {}): Rows => ({
  devices: [...soundRows.devices, device('play', 'program', { runsOn: 'host', ...own })],
  services: [service('play', { sendTo: '127.0.0.1', receivePort: 8100 })],
  links: [link('play', { id: 'to-desk', port: 8100, ...patch })],
});

const cases: readonly (readonly [string, Rows, string])[] = [
  ['nothing in the way', {}, 'bottom'],
  [
    'the target is not plugged in',
    unplugged('desk'),
    'cable target_unplugged: port 1 → hub p1 ↔ not plugged in (no cable) → Plug desk into hub',
  ],
  [
    'the controller is not',
    unplugged('host'),
    'cable controller_unplugged: not plugged in ↔ port 1 → hub p2 (no cable) → Plug host into hub',
  ],
  [
    'neither is',
    unplugged('host', 'desk'),
    'cable both_unplugged: not plugged in ↔ not plugged in (no cable) → Plug host and desk into hub',
  ],
  [
    'a run is too long',
    { cables: soundRows.cables.map((row) => ({ ...row, lengthM: row.fromDevice === 'desk' ? 101 : 5 })) },
    'cable too_long: port 1 → hub p1 ↔ not plugged in (101 m, 100 m at most)',
  ],
  ['its service is gone', { services: [] }, 'cable no_service: — ↔ — (no such service)'],
  [
    'the target is on no network',
    { addresses: [address('host', '10.1.0.2')] },
    'address on_no_network: 10.1.0.2 /24 ↔ no address (on no network)',
  ],
  [
    'the controller is on none',
    { addresses: [address('desk', '10.1.0.60')] },
    'address on_no_network: no address ↔ 10.1.0.60 /24 (on no network)',
  ],
  [
    'the target waits to be placed',
    placed({}, { ip: null }),
    'address not_placed: 10.1.0.2 /24 ↔ no address (not placed yet) → Place desk',
  ],
  [
    'both wait',
    placed({ ip: null }, { ip: null }),
    'address not_placed: no address ↔ no address (not placed yet) → Place 2 addresses',
  ],
  [
    'nobody knows the target’s address',
    placed({}, { ip: null, method: 'dhcp' }),
    'address not_known: 10.1.0.2 /24 ↔ no address (address not known beforehand) → Give desk a fixed address',
  ],
  [
    'the target is called everybody',
    placed({}, { ip: '10.1.0.255' }),
    'address not_a_host: 10.1.0.2 /24 ↔ 10.1.0.255 /24 (not a host address) → Move desk to 10.1.0.1',
  ],
  [
    'the entry is another address',
    desk({ host: '10.1.0.66' }),
    'address aims_elsewhere: 10.1.0.2 /24 ↔ aims at 10.1.0.66 (not the target) → Aim it at 10.1.0.60',
  ],
  [
    'the entry is another unit',
    { ...desk({ host: '10.1.0.31' }), ...{} },
    'address aims_elsewhere: 10.1.0.2 /24 ↔ aims at 10.1.0.31 (not the target) → Aim it at 10.1.0.60',
  ],
  [
    'the entry means the controller itself',
    desk({ host: '127.0.0.1' }),
    'address loopback_elsewhere: 127.0.0.1 ↔ aims at 127.0.0.1 (points back at itself) → Aim it at 10.1.0.60',
  ],
  [
    'two have the target’s address',
    { addresses: [address('host', '10.1.0.2'), address('desk', '10.1.0.60'), address('camera', '10.1.0.60')] },
    'address two_owners: 10.1.0.2 /24 ↔ 10.1.0.60 /24 (two units own it) → Move desk to 10.1.0.1',
  ],
  [
    'two have the controller’s',
    { addresses: [address('host', '10.1.0.2'), address('desk', '10.1.0.60'), address('camera', '10.1.0.2')] },
    'address two_owners: 10.1.0.2 /24 ↔ 10.1.0.60 /24 (two units own it) → Move host to 10.1.0.1',
  ],
  [
    'one mask is narrower',
    placed({ prefix: 30 }, {}),
    'address one_way: 10.1.0.2 /30 ↔ 10.1.0.60 /24 (only one side sees the other) → Give host the mask of Control',
  ],
  [
    'the target strayed',
    placed({}, { ip: '10.2.0.60' }),
    'address other_subnet: 10.1.0.2 /24 ↔ 10.2.0.60 /24 (different subnets) → Move desk to 10.1.0.1',
  ],
  [
    'one port is off by a figure',
    desk({ port: 800 }),
    'port slip: asks UDP 800 ↔ listens UDP 8000 (one figure dropped) → Send to 8000',
  ],
  [
    'its sending port is asked',
    desk({ port: 8001, replyPort: 8000 }),
    'port interchanged: asks UDP 8001 ↔ listens UDP 8000 (that is its sending port) → Send to 8000',
  ],
  [
    'the default is asked still',
    deskService({ receivePort: 9000 }),
    'port still_default: asks UDP 8000 ↔ listens UDP 9000 (the type’s default, changed on this unit) → Send to 9000',
  ],
  [
    'any other port is asked',
    desk({ port: 1234 }),
    'port other_port: asks UDP 1234 ↔ listens UDP 8000 (different ports) → Send to 8000',
  ],
  [
    'it is switched off',
    deskService({ enabled: false }),
    'port switched_off: asks UDP 8000 ↔ switched off (nothing listens) → Turn OSC on',
  ],
  [
    'a program at a port that its computer has',
    {
      ...onHost({}),
      services: [service('play', { sendTo: '127.0.0.1', receivePort: 5353 })],
      links: [link('play', { id: 'to-desk', port: 5353 })],
    },
    'port two_listeners: asks UDP 5353 ↔ listens UDP 5353 (DNS-SD of host has it)',
  ],
  [
    'the controller does not speak that',
    { types: all.map((type) => (type.id === 'host' ? { ...type, drives: ['http'] } : type)) },
    'service cannot_speak: needs OSC ↔ on · fw 2.0 (does not speak OSC)',
  ],
  [
    'old firmware',
    { ...web({}), ...unit('camera', { firmware: '1.3' }) },
    'service version_below: needs Web ↔ on · fw 1.3 (1.4 or later asked)',
  ],
  [
    'no login',
    web({ account: null, secretId: null }),
    'access missing: no login entered ↔ user ops · password set (digest asked, nothing entered) → Send the login of camera to host',
  ],
  [
    'no login in a numbered list',
    web({ account: null, secretId: null, slot: 4 }),
    'access missing: no login entered ↔ user ops · password set (digest asked, nothing entered) → Send the login of camera to slot 4',
  ],
  [
    'another account',
    web({ account: 'admin' }),
    'access account_differs: user admin · password set ↔ user ops · password set (accounts differ) → Send the login of camera to host',
  ],
  [
    'another password',
    web({ secretId: 's2' }),
    'access password_differs: user ops · password set ↔ user ops · password set (passwords differ) → Send the login of camera to host',
  ],
  [
    'a login that nobody asks for',
    desk({ account: 'ops' }),
    'access not_required: user ops · no password ↔ no login asked (filled in, not asked for) → Empty the login in host',
  ],
  [
    'a login at an open door',
    webService({ account: null, secretId: null }),
    'access open_but_filled: user ops · password set ↔ no login asked (filled in, not asked for) → Empty the login in host',
  ],
  [
    'an open door',
    { ...webService({ account: null, secretId: null }), ...web({ account: null, secretId: null }) },
    'access left_open: no login entered ↔ no login asked (digest offered, left open)',
  ],
  [
    'an unknown command',
    desk({ command: 'gone' }),
    'message unknown_command: gone ↔ 1 command known (not in its command list) → Use “/cue/3”',
  ],
  [
    'none to test with',
    desk({ command: null }),
    'message none_chosen: no test message ↔ 1 command known (choose one to test with) → Use “/cue/3”',
  ],
  [
    'a value too many',
    desk({ args: [3, 4] }),
    'message argument_count: /cue/3 ↔ /cue/{cue} (2 arguments, 1 taken) → Use “/cue/3”',
  ],
  [
    'a value out of range',
    desk({ args: [100] }),
    'message argument_range: /cue/100 ↔ /cue/{cue} (cue goes from 1 to 99) → Use “/cue/3”',
  ],
  [
    'nowhere to reply to',
    deskService({ sendTo: null }),
    'reply no_way_back: hears on 8001 ↔ sends to nobody, port 8001 (no address entered) → Send replies to 10.1.0.2',
  ],
  [
    'replies go elsewhere',
    deskService({ sendTo: '10.1.0.3' }),
    'reply replies_elsewhere: hears on 8001 ↔ sends to 10.1.0.3:8001 (goes elsewhere) → Send replies to 10.1.0.2',
  ],
  [
    'replies to another port',
    desk({ replyPort: 9999 }),
    'reply other_reply_port: hears on 9999 ↔ sends to 10.1.0.2:8001 (different ports) → Listen on 8001',
  ],
  [
    'replies to a closed ear',
    desk({ replyPort: null }),
    'reply other_reply_port: hears on no port ↔ sends to 10.1.0.2:8001 (different ports) → Listen on 8001',
  ],
  [
    'replies to a port that is taken',
    { ...desk({ replyPort: 5353 }), ...deskService({ sendPort: 5353 }) },
    'reply reply_port_taken: hears on 5353 ↔ sends to 10.1.0.2:5353 (DNS-SD has it)',
  ],
  ['a program on the controller’s own machine', onHost({}), 'bottom'],
  ['the same by an address of that machine', onHost({ host: '10.1.0.2' }), 'bottom'],
  [
    'the same aimed away',
    onHost({ host: '10.1.0.9' }),
    'address aims_away: 127.0.0.1 ↔ aims at 10.1.0.9 (leaves the machine) → Use the machine’s own address',
  ],
  [
    'a program that no computer runs',
    { ...onHost({ host: '10.1.0.31' }, { runsOn: null }) },
    'cable no_adapter: port 1 → hub p1 ↔ not plugged in (no cable)',
  ],
];

test.each(cases)('%s', (_what, patch, wanted) =>
  expect(told(show(patch), 'to-desk' in show(patch).links ? 'to-desk' : 'to-camera')).toBe(wanted),
);

test('behind a router that does not lead there, the one that loses the packet is named', () => {
  const away = (patch: Rows): Rows => ({
    networks: [
      network({ gateway: '10.1.0.1' }),
      { ...network({ id: 'far', name: 'Far', gateway: '10.2.0.1' }), network: '10.2.0.0' },
    ],
    devices: [...soundRows.devices, device('gate', 'router')],
    interfaces: [...soundRows.interfaces, adapter('gate')],
    addresses: [
      address('host', '10.1.0.2'),
      address('desk', '10.2.0.60', { networkId: 'far' }),
      address('gate', '10.1.0.1'),
    ],
    cables: [...soundRows.cables, cable('gate', 'p-4')],
    ...patch,
  });
  expect(told(show(away({})), 'to-desk')).toBe(
    'address not_passed_on: 10.1.0.2 /24 ↔ 10.2.0.60 /24 (no router leads there)',
  );
  const oneLeg = [
    ...(away({}).addresses ?? []),
    filledRow('addresses', { ...address('gate', '10.2.0.1', { networkId: 'far' }), id: 'gate-b' }),
  ];
  expect(told(show(away({ addresses: oneLeg })), 'to-desk')).toBe('bottom');
  const noWayBack = oneLeg.map((row) => (row.interfaceId === 'desk-lan' ? { ...row, gateway: '10.2.0.9' } : row));
  expect(told(show(away({ addresses: noWayBack })), 'to-desk')).toBe(
    'address answer_not_passed_on: 10.1.0.2 /24 ↔ 10.2.0.60 /24 (no router leads back)',
  );
});
