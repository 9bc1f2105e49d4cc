import { addressing, links, show as core, type Show } from '@deep-patch/core';
import { diceOf, rigPasswords, rigTypes } from '@deep-patch/demo/rigs';
import { expect, test } from 'vitest';
import { agrees, compare } from './agreement.test-data.ts';

/** A rig in a few words; everything that it does not say is usual. */
interface Brief {
  /** `10.1.1.0/24`, by id. */
  readonly networks?: Readonly<Record<string, Partial<core.Content<'networks'>> & { readonly net: string }>>;
  /** Type by id; a program names its computer behind a blank. */
  readonly units: Readonly<Record<string, string>>;
  /** `unit adapter network address`, where the address may be `dhcp`, `dhcp 10.1.1.7` or `self 169.254.9.1`. */
  readonly at?: readonly string[];
  /** `unit.socket unit.socket`. */
  readonly cables?: readonly string[];
  /** Milliseconds that a cable takes, by its first end. */
  readonly slow?: Readonly<Record<string, number>>;
  /** By `unit key`. */
  readonly services?: Readonly<Record<string, Partial<core.Content<'services'>>>>;
  readonly devices?: Readonly<Record<string, Partial<core.Content<'devices'>>>>;
  /** By `unit adapter network`. */
  readonly addresses?: Readonly<Record<string, Partial<core.Content<'addresses'>>>>;
  readonly link: Partial<core.Content<'links'>> & {
    readonly from: string;
    readonly to: string;
    readonly service: string;
  };
}

function rigOf({
  networks,
  units,
  at = [],
  cables = [],
  slow = {},
  services = {},
  devices = {},
  addresses = {},
  link,
}: Brief): Show {
  const tables: Record<string, Record<string, core.Row>> = {};
  const put = (table: core.TableName, row: object) => {
    const { id } = row as { id: string };
    (tables[table] ??= {})[id] = { ...core.filledRow(table, row as never), rev: 1 };
  };
  const types = rigTypes(diceOf(1)).map((type) => ({ ...type, drives: [...core.protocols] }));
  const typeOf = (unit: string) => types.find(({ id }) => id === units[unit]?.split(' ')[0]);
  const wanted = networks ?? { net: { net: '10.1.1.0/24' } };
  for (const [id, { net, ...more }] of Object.entries(wanted)) {
    const [network = '', prefix] = net.split('/');
    const nothing = { vlan: null, purpose: '', gateway: null, poolFrom: null, poolTo: null };
    put('networks', { id, name: id, network, prefix: Number(prefix), ...nothing, ...more });
  }
  for (const [id, kind] of Object.entries(units)) {
    const [typeId, runsOn = null] = kind.split(' ');
    put('devices', { id, typeId, runsOn, name: id, unit: null, place: '', firmware: null, note: '', ...devices[id] });
    for (const { key, receivePort, sendPort } of typeOf(id)?.services ?? []) {
      const usual = { enabled: true, receivePort, sendPort, sendTo: null, account: null, secretId: null };
      put('services', { id: `${id}-${key}`, deviceId: id, key, ...usual, ...services[`${id} ${key}`] });
    }
  }
  for (const [n, place] of at.entries()) {
    const [deviceId = '', adapter = '', networkId = '', first = '', second] = place.split(' ');
    const isFixed = first !== 'dhcp' && first !== 'self';
    put('interfaces', { id: `${deviceId}-${adapter}`, deviceId, adapter, mac: null });
    put('addresses', {
      id: `a${n}`,
      interfaceId: `${deviceId}-${adapter}`,
      networkId,
      ip: isFixed ? first : (second ?? null),
      prefix: null,
      gateway: null,
      held: false,
      method: isFixed ? 'static' : first,
      ...addresses[`${deviceId} ${adapter} ${networkId}`],
    });
  }
  for (const [n, cable] of cables.entries()) {
    const [[fromDevice, fromSocket] = [], [toDevice, toSocket] = []] = cable.split(' ').map((end) => end.split('.'));
    const delayMs = slow[`${fromDevice}.${fromSocket}`] ?? null;
    put('cables', { id: `c${n}`, fromDevice, fromSocket, toDevice, toSocket, medium: 'copper', lengthM: 5, delayMs });
  }
  const { from, to, service, ...more } = link;
  const own = tables['services']?.[`${to}-${service}`] as unknown as core.Service;
  put('links', {
    id: 'link',
    controllerId: from,
    targetId: to,
    serviceKey: service,
    slot: null,
    host: null,
    port: own.receivePort,
    replyPort: own.sendPort,
    account: own.account,
    secretId: own.secretId,
    command: 'mute',
    args: [true],
    ...more,
  });
  return {
    ...core.emptyShow({ id: 'rig', name: 'Rig' }),
    libraries: { rigs: { id: 'rigs', name: 'Rigs', position: 0, rev: 1 } },
    types: Object.fromEntries(types.map((type) => [type.id, type])),
    rev: 1,
    ...tables,
  };
}

const pair = { units: { hub: 'plain', pc: 'computer', desk: 'desk' }, cables: ['pc.p-1 hub.p-1', 'desk.p-1 hub.p-2'] };
const fixed = ['pc wired-1 net 10.1.1.2', 'desk lan net 10.1.1.60'];
const remote = { from: 'pc', to: 'desk', service: 'remote' } as const;
const routed = {
  networks: { net: { net: '10.1.1.0/24', gateway: '10.1.1.254' }, far: { net: '10.1.2.0/24', gateway: '10.1.2.254' } },
  units: { ...pair.units, router: 'router' },
  cables: [...pair.cables, 'router.p-1 hub.p-3'],
  at: ['pc wired-1 net 10.1.1.2', 'desk lan far 10.1.2.60', 'router lan net 10.1.1.254', 'router lan far 10.1.2.254'],
} as const;
const onOne = { units: { pc: 'computer', one: 'player pc', two: 'sequencer pc' } } as const;

/** What was found on the way to no disagreement: the rig, and where it stops and why. */
const cases: readonly (readonly [string, Brief, string])[] = [
  [
    'a switch cabled to itself floods what hangs on it',
    { ...pair, cables: [...pair.cables, 'hub.p-3 hub.p-4'], at: fixed, link: remote },
    'segment flooded',
  ],
  [
    'two cables between two plain switches flood both',
    {
      units: { ...pair.units, box: 'plain' },
      cables: ['pc.p-1 hub.p-1', 'desk.p-1 box.p-1', 'hub.p-5 box.p-5', 'hub.p-6 box.p-6'],
      at: fixed,
      link: remote,
    },
    'segment flooded',
  ],
  [
    'a unit with both sockets in one plain switch floods it',
    { ...pair, cables: [...pair.cables, 'desk.p-2 hub.p-3'], at: fixed, link: remote },
    'segment flooded',
  ],
  [
    'a managed switch cuts the same unit’s second cable',
    {
      ...pair,
      units: { ...pair.units, hub: 'managed' },
      cables: [...pair.cables, 'desk.p-2 hub.p-3'],
      at: fixed,
      link: remote,
    },
    'bottom',
  ],
  [
    'a loop in VLAN 1 leaves another VLAN of the same managed switch alone',
    {
      networks: { net: { net: '10.1.1.0/24', vlan: 20 } },
      units: { ...pair.units, hub: 'managed', box: 'plain' },
      cables: [...pair.cables, 'box.p-1 hub.p-4', 'box.p-2 box.p-3'],
      at: fixed,
      link: remote,
    },
    'bottom',
  ],
  [
    'a controller on DHCP is served by a router with a pool',
    {
      ...routed,
      networks: { ...routed.networks, net: { net: '10.1.1.0/24', poolFrom: '10.1.1.100', poolTo: '10.1.1.120' } },
      at: ['pc wired-1 net dhcp', 'desk lan net 10.1.1.60', 'router lan net 10.1.1.254'],
      link: remote,
    },
    'bottom',
  ],
  [
    'a reservation holds nothing without a server',
    {
      ...pair,
      networks: { net: { net: '10.1.1.0/24', poolFrom: '10.1.1.100', poolTo: '10.1.1.120' } },
      at: ['pc wired-1 net 10.1.1.2', 'desk lan net dhcp 10.1.1.60'],
      link: remote,
    },
    'address not_known',
  ],
  [
    'a client that finds its reserved address taken declines it, and has another one',
    {
      ...pair,
      networks: { net: { net: '10.1.1.0/24', poolFrom: '10.1.1.100', poolTo: '10.1.1.110' } },
      units: { ...pair.units, router: 'router', other: 'router' },
      cables: [...pair.cables, 'router.p-1 hub.p-3', 'other.p-1 hub.p-4'],
      at: [
        'router lan net 10.1.1.254',
        'other lan net dhcp 10.1.1.60',
        'pc wired-1 net 10.1.1.2',
        'desk lan net 10.1.1.60',
      ],
      link: remote,
    },
    'bottom',
  ],
  [
    'a self-assigned address that is remembered is taken again',
    { ...pair, at: ['pc wired-1 net self 169.254.9.2', 'desk lan net self 169.254.9.60'], link: remote },
    'bottom',
  ],
  [
    'of several ways the narrowest subnet is taken',
    {
      networks: { net: { net: '10.0.0.0/8' }, part: { net: '10.1.1.0/24' } },
      ...pair,
      cables: ['pc.p-1 hub.p-1', 'desk.p-1 hub.p-2', 'pc.p-2 hub.p-3'],
      at: ['pc wired-1 net 10.9.9.9', 'pc wired-2 part 10.1.1.2', 'desk lan part 10.1.1.60'],
      link: remote,
    },
    'bottom',
  ],
  [
    'a dead adapter leads nowhere while a gateway does',
    { ...routed, at: [...routed.at, 'pc wired-2 far 10.1.2.9'], link: { ...remote, host: '10.1.2.60' } },
    'bottom',
  ],
  [
    'nobody is his own gateway',
    {
      ...pair,
      networks: { net: { net: '10.1.1.0/24', gateway: '10.1.1.2' } },
      at: ['pc wired-1 net 10.1.1.2', 'desk lan net 10.9.1.60'],
      link: remote,
    },
    'address other_subnet',
  ],
  ['through a router there and back', { ...routed, link: remote }, 'bottom'],
  [
    'a switch that gets its own address asks through every socket that has a link, whenever that came up',
    {
      networks: { net: { net: '10.1.1.0/24', poolFrom: '10.1.1.100', poolTo: '10.1.1.129' } },
      units: { hub: 'managed', router: 'router', unit: 'desk', pc: 'computer', other: 'desk' },
      cables: ['router.p-1 hub.p-2', 'unit.p-1 hub.p-6', 'pc.p-1 unit.p-2', 'other.p-1 hub.p-5'],
      slow: { 'router.p-1': 7, 'unit.p-1': 7 },
      at: [
        'router lan net 10.1.1.254',
        'hub lan net dhcp 10.1.1.4',
        'pc wired-1 net 10.1.1.4',
        'other lan net 10.1.1.6',
      ],
      link: { from: 'pc', to: 'other', service: 'remote' },
    },
    'bottom',
  ],
  [
    'the first answer through a far router comes late: it is asked again before anything is concluded',
    {
      networks: { net: routed.networks.net, far: routed.networks.far },
      units: { pc: 'computer', desk: 'desk', one: 'plain', two: 'plain', three: 'plain', router: 'router' },
      cables: ['pc.p-1 desk.p-1', 'desk.p-2 one.p-5', 'one.p-1 two.p-2', 'two.p-1 three.p-2', 'router.p-1 three.p-3'],
      slow: { 'pc.p-1': 7, 'desk.p-2': 20, 'one.p-1': 20, 'two.p-1': 20, 'router.p-1': 20 },
      at: [
        'pc wired-1 far 10.1.2.25',
        'desk lan net 10.1.1.24',
        'router lan net 10.1.1.254',
        'router lan far 10.1.2.254',
      ],
      link: { from: 'pc', to: 'desk', service: 'deaf', command: null, args: [] },
    },
    'bottom',
  ],
  [
    'the first question through a router waits until that has found the next hop over slow cables',
    {
      networks: {
        net: { ...routed.networks.net, vlan: 1 },
        far: { ...routed.networks.far, vlan: 30 },
      },
      units: { ...routed.units, hub: 'bare', near: 'managed', mid: 'managed', end: 'managed' },
      cables: [
        'pc.p-1 hub.p-4',
        'router.p-3 hub.p-3',
        'near.p-9 hub.p-2',
        'mid.p-1 near.p-2',
        'end.p-1 mid.p-4',
        'desk.p-1 end.p-3',
      ],
      slow: { 'pc.p-1': 20, 'router.p-3': 20, 'mid.p-1': 20, 'end.p-1': 20, 'desk.p-1': 7 },
      at: ['near lan far 10.1.2.16', ...routed.at],
      link: { from: 'pc', to: 'near', service: 'panel', host: '10.1.2.60' },
    },
    'address aims_elsewhere',
  ],
  [
    'a request arrives through the router and the answer is lost',
    { ...routed, addresses: { 'desk lan far': { gateway: '10.1.2.9' } }, link: remote },
    'address answer_not_passed_on',
  ],
  [
    'a router takes a tagged network and an untagged one on one cable',
    {
      ...routed,
      networks: { net: { ...routed.networks.net, vlan: 20 }, far: routed.networks.far },
      units: { ...routed.units, hub: 'managed' },
      link: remote,
    },
    'bottom',
  ],
  [
    'a socket that leads nowhere in this variant has no lamp',
    {
      units: { hub: 'plain', pc: 'computer', wall: 'processor' },
      devices: { wall: { variant: 'second' } },
      cables: ['pc.p-1 hub.p-1', 'wall.p-3 hub.p-2'],
      at: ['pc wired-1 net 10.1.1.2', 'wall lan net 10.1.1.60'],
      link: { from: 'pc', to: 'wall', service: 'lines', command: 'stop', args: [] },
    },
    'cable target_unplugged',
  ],
  [
    'of two programs on one port the first by id has it',
    {
      ...onOne,
      units: { ...onOne.units, three: 'player pc' },
      link: { from: 'two', to: 'three', service: 'lines', command: 'stop', args: [] },
    },
    'port two_listeners',
  ],
  [
    'a reply port that the controller’s own service has',
    { ...pair, at: fixed, services: { 'pc remote': { receivePort: 8310 } }, link: { ...remote, replyPort: 8310 } },
    'reply reply_port_taken',
  ],
  [
    'the second port of a MIDI session is taken as well',
    {
      ...onOne,
      services: { 'one osc': { receivePort: 5005 } },
      link: { from: 'pc', to: 'two', service: 'midi', command: 'level', args: [90] },
    },
    'port two_listeners',
  ],
  ...(
    [
      ['wired-1', '10.1.1.5', 'bottom'],
      ['wired-2', '10.1.1.5', 'port opens_elsewhere'],
      ['wired-1', '127.0.0.1', 'port opens_elsewhere'],
    ] as const
  ).map(([adapter, sendTo, wanted]): [string, Brief, string] => [
    `a session bound to ${adapter} that opens to ${sendTo} on its own machine`,
    {
      units: onOne.units,
      at: ['pc wired-1 net 10.1.1.5'],
      devices: { two: { adapter } },
      services: { 'two midi': { role: 'opens', sendTo, sendPort: 8600 } },
      link: { from: 'pc', to: 'two', service: 'midi', command: 'level', args: [90], role: 'waits', port: 8600 },
    },
    wanted,
  ]),
  [
    'a session that opens, whose own two ports another program of its computer has',
    {
      units: { ...onOne.units, one: 'sequencer pc' },
      at: ['pc wired-1 net 10.1.1.5'],
      services: {
        'one midi': { receivePort: 5005 },
        'two midi': { role: 'opens', sendTo: '10.1.1.5', sendPort: 8600 },
      },
      link: { from: 'pc', to: 'two', service: 'midi', command: 'level', args: [90], role: 'waits', port: 8600 },
    },
    'port session_port_taken',
  ],
  [
    'a reply to the sender needs no port of its own',
    { ...pair, at: fixed, link: { ...remote, replyPort: null } },
    'bottom',
  ],
  [
    'a program bound to another adapter hears nothing',
    {
      units: { ...pair.units, show: 'player pc' },
      cables: pair.cables,
      devices: { show: { adapter: 'wired-2' } },
      at: fixed,
      link: { from: 'desk', to: 'show', service: 'lines', command: 'stop', args: [], host: '10.1.1.2' },
    },
    'port other_adapter',
  ],
  [
    'a password without an account is a login',
    {
      units: { hub: 'plain', pc: 'computer', camera: 'camera' },
      cables: ['pc.p-1 hub.p-1', 'camera.p-1 hub.p-2'],
      at: ['pc wired-1 net 10.1.1.2', 'camera lan net 10.1.1.60'],
      services: { 'camera web': { secretId: 'secret-a' } },
      link: { from: 'pc', to: 'camera', service: 'web', command: 'state', args: [], secretId: 'secret-b' },
    },
    'access password_differs',
  ],
  [
    'a blank, a stroke and an umlaut in a line of text',
    { ...onOne, link: { from: 'pc', to: 'one', service: 'lines', command: 'record', args: ['Föhn a/b?\nstop'] } },
    'bottom',
  ],
  [
    'a surplus argument in a line of text',
    { ...onOne, link: { from: 'pc', to: 'one', service: 'lines', command: 'stop', args: ['now'] } },
    'message argument_count',
  ],
  [
    'a stroke within an OSC address is another address',
    { ...pair, at: fixed, link: { ...remote, command: 'name', args: ['a/b'] } },
    'message argument_spelling',
  ],
  [
    'a limit of 0.7 is rounded as the value is',
    { ...pair, at: fixed, link: { ...remote, command: 'start', args: [3, 0.7] } },
    'bottom',
  ],
  [
    'a whole number beyond 32 bits',
    { ...pair, at: fixed, link: { ...remote, command: 'count', args: [4_000_000_000] } },
    'message argument_range',
  ],
  [
    'a router keeps what it takes for one to everybody in its own subnet',
    {
      ...routed,
      at: ['pc wired-1 far 10.1.2.2', 'desk lan net 10.1.1.255', ...routed.at.slice(2)],
      addresses: { 'desk lan net': { prefix: 20 } },
      link: remote,
    },
    'address one_way',
  ],
  [
    'a router knows the owner of an address for each of its interfaces apart',
    {
      networks: {
        net: { net: '10.1.1.0/24', vlan: 30, gateway: '10.1.1.254' },
        far: { net: '10.1.2.0/24', vlan: 20, gateway: '10.1.2.254' },
      },
      units: { hub: 'managed', router: 'router', pc: 'computer', one: 'desk', two: 'processor' },
      cables: ['router.p-1 hub.p-1', 'one.p-1 hub.p-2', 'two.p-1 one.p-2', 'pc.p-1 hub.p-6'],
      at: [
        'hub lan net 10.1.1.33',
        'router lan net 10.1.1.254',
        'router lan far 10.1.2.254',
        'one lan net 10.1.1.33',
        'two lan far 10.1.2.6',
        'pc wired-1 far 10.1.2.2',
      ],
      services: { 'hub panel': { openFor: ['computer'] } },
      link: { from: 'pc', to: 'hub', service: 'panel', command: 'tag', args: ['final', 2], account: null },
    },
    'bottom',
  ],
  [
    'a server asks in the VLAN of its pool whether somebody has an address',
    {
      networks: {
        net: { net: '10.1.1.0/24', vlan: 30, poolFrom: '10.1.1.100', poolTo: '10.1.1.110' },
        flat: { net: '10.1.2.0/24' },
      },
      units: { hub: 'managed', router: 'router', pc: 'computer', desk: 'desk' },
      cables: ['router.p-1 hub.p-1', 'desk.p-1 hub.p-2', 'pc.p-1 hub.p-4'],
      at: ['router lan net 10.1.1.254', 'router lan flat 10.1.2.254', 'desk lan net 10.1.1.100', 'pc wired-1 net dhcp'],
      link: remote,
    },
    'bottom',
  ],
  [
    'two servers that probe one address in two VLANs at once do not take it from each other',
    {
      networks: {
        net: { net: '10.1.1.0/24', vlan: 30, poolFrom: '10.1.1.100', poolTo: '10.1.1.101' },
        flat: { net: '10.1.0.0/16', vlan: 1 },
      },
      units: {
        hub: 'managed',
        box: 'plain',
        near: 'router',
        far: 'router',
        pc: 'computer',
        desk: 'desk',
        one: 'camera',
      },
      cables: [
        'box.p-1 hub.p-1',
        'near.p-1 box.p-2',
        'one.p-1 box.p-3',
        'far.p-1 hub.p-2',
        'desk.p-1 hub.p-3',
        'pc.p-1 hub.p-4',
      ],
      at: [
        'near lan net 10.1.1.254',
        'near lan flat 10.1.0.254',
        'far lan net 10.1.1.254',
        'far lan flat 10.1.0.253',
        'one lan net dhcp',
        'desk lan net 10.1.1.33',
        'pc wired-1 net dhcp',
      ],
      link: remote,
    },
    'bottom',
  ],
  [
    'a cable into a socket that leads to no network chains nothing on, and the adapter still takes tags',
    {
      networks: { net: { net: '10.1.1.0/24', vlan: 20 }, far: { net: '10.1.2.0/24', vlan: 30 } },
      units: { hub: 'managed', box: 'bare', cam: 'camera', pc: 'computer' },
      cables: ['box.p-1 hub.p-2', 'cam.p-1 box.p-3', 'pc.p-2 hub.p-4', 'cam.air cam.usb'],
      at: ['cam lan net 10.1.1.5', 'cam lan far 10.1.2.30'],
      devices: { pc: { adapter: 'wired-2' } },
      link: { from: 'pc', to: 'cam', service: 'midi', command: 'level', args: [90] },
    },
    'address on_no_network',
  ],
  [
    'a server hands out no address of everybody, though it was reserved',
    {
      ...pair,
      networks: { net: { net: '10.1.1.0/24', poolFrom: '10.1.1.100', poolTo: '10.1.1.110' } },
      units: { ...pair.units, router: 'router' },
      cables: [...pair.cables, 'router.p-1 hub.p-3'],
      at: ['router lan net 10.1.1.254', 'pc wired-1 net 10.1.1.2', 'desk lan net dhcp 10.1.1.255'],
      link: remote,
    },
    'address not_a_host',
  ],
  [
    'what stands for everybody where the controller sits is no address of one unit, whatever mask that has',
    {
      ...pair,
      at: ['pc wired-1 net 10.1.1.2', 'desk lan net 10.1.1.255'],
      addresses: { 'desk lan net': { prefix: 20 } },
      link: remote,
    },
    'address one_way',
  ],
  [
    'whoever sends to everybody hears it, though the cables are flooded',
    {
      units: { pc: 'computer', two: 'sequencer pc', hub: 'plain' },
      cables: ['pc.p-1 hub.p-1', 'hub.p-3 hub.p-4'],
      at: ['pc wired-1 net 10.1.1.2'],
      services: { 'two remote': { sendTo: '10.1.1.255', receivePort: 8302 } },
      link: { from: 'pc', to: 'two', service: 'remote' },
    },
    'bottom',
  ],
  [
    'whoever sends to everybody hears it, though the cable leads to a socket of no network',
    {
      units: { pc: 'computer', two: 'sequencer pc', cam: 'camera' },
      cables: ['pc.p-1 cam.usb'],
      at: ['pc wired-1 net 10.1.1.2'],
      services: { 'two remote': { sendTo: '10.1.1.255', receivePort: 8302 } },
      link: { from: 'pc', to: 'two', service: 'remote' },
    },
    'bottom',
  ],
  [
    'a slow circle floods whoever is behind sockets that open a moment later',
    {
      networks: {
        net: { net: '10.1.1.0/24', gateway: '10.1.1.254', poolFrom: '10.1.1.100', poolTo: '10.1.1.120' },
        far: { net: '10.1.2.0/24' },
      },
      units: { near: 'managed', far: 'managed', ring: 'plain', pc: 'computer', desk: 'desk', router: 'router' },
      cables: [
        'far.p-1 near.p-2',
        'ring.p-1 far.p-2',
        'ring.p-3 ring.p-4',
        'pc.p-1 near.p-1',
        'router.p-1 near.p-3',
        'desk.p-1 ring.p-2',
      ],
      slow: { 'far.p-1': 7, 'ring.p-3': 7 },
      // without a lease nothing but the dark radio leads there
      at: [
        'router lan net 10.1.1.254',
        'pc wired-1 net dhcp 10.1.1.6',
        'pc radio far 10.1.2.31',
        'desk lan far 10.1.2.9',
      ],
      link: remote,
    },
    'cable controller_unplugged',
  ],
  [
    'a router hands out the pool of the subnet that its own address is in, and of no wider one',
    {
      ...pair,
      networks: {
        net: { net: '10.1.0.0/24' },
        wide: { net: '10.1.0.0/16', poolFrom: '10.1.0.100', poolTo: '10.1.0.109' },
      },
      units: { ...pair.units, router: 'router' },
      cables: [...pair.cables, 'router.p-1 hub.p-3'],
      at: ['router lan net 10.1.0.254', 'pc wired-1 net dhcp', 'desk lan net 10.1.0.9'],
      link: remote,
    },
    'address other_subnet',
  ],
  [
    'a server waits long enough for whoever has the address already, at the far end of a slow network',
    {
      ...pair,
      networks: { net: { net: '10.1.1.0/24', poolFrom: '10.1.1.100', poolTo: '10.1.1.104' } },
      units: { ...pair.units, router: 'router', cam: 'camera' },
      cables: [...pair.cables, 'router.p-1 hub.p-3', 'cam.p-1 hub.p-4'],
      slow: { 'router.p-1': 20, 'cam.p-1': 20 },
      at: ['router lan net 10.1.1.254', 'cam lan net 10.1.1.100', 'pc wired-1 net dhcp', 'desk lan net 10.1.1.9'],
      link: remote,
    },
    'bottom',
  ],
  [
    'one computer that has an address twice is one owner',
    { ...pair, cables: [...pair.cables, 'pc.p-2 hub.p-3'], at: [...fixed, 'pc wired-2 net 10.1.1.2'], link: remote },
    'bottom',
  ],
  [
    'a list with one entry gets the replies, and whoever asks does not, even where no port is entered',
    {
      units: { pc: 'computer', one: 'player pc' },
      services: { 'one osc': { sendPort: null, alsoTo: ['10.1.1.12'] } },
      link: { from: 'pc', to: 'one', service: 'osc', command: 'start', args: [3, 0.5] },
    },
    'reply replies_elsewhere',
  ],
  [
    'of a pool of two addresses one is the router’s own: the client has the other, and a gateway',
    {
      networks: {
        net: { net: '10.1.1.0/24' },
        two: { net: '192.168.7.8/31', gateway: '192.168.7.8', poolFrom: '192.168.7.8', poolTo: '192.168.7.9' },
      },
      units: { hub: 'managed', router: 'router', desk: 'desk' },
      cables: ['router.p-1 hub.p-1', 'desk.p-1 hub.p-2'],
      at: ['router lan net 10.1.1.254', 'router lan two 192.168.7.8', 'desk lan net dhcp'],
      services: { 'router panel': { openFor: ['lighting'] } },
      link: { from: 'desk', to: 'router', service: 'panel', command: 'zoom', args: [1.5, true] },
    },
    'bottom',
  ],
  ...(
    [
      ['typed to its own second address', { host: '10.1.2.5' }, { sendTo: '127.0.0.1' }, 'bottom'],
      ['typed to an address that nobody has', { host: '10.1.1.3' }, {}, 'address aims_away'],
      ['told to reply to its own real address', {}, { sendTo: '10.1.1.5' }, 'bottom'],
      ['told to reply to its own second address', {}, { sendTo: '10.1.2.5' }, 'bottom'],
      ['told to reply to the address that it had before', {}, { sendTo: '10.1.1.3' }, 'reply replies_elsewhere'],
    ] as const
  ).map(([what, link, osc, wanted]): (typeof cases)[number] => [
    `controller and target on one computer, ${what}`,
    {
      networks: { net: { net: '10.1.1.0/24' }, far: { net: '10.1.2.0/24' } },
      units: { hub: 'plain', ...onOne.units },
      cables: ['pc.p-1 hub.p-1'],
      at: ['pc wired-1 net 10.1.1.5', 'pc wired-2 far 10.1.2.5'],
      services: { 'one osc': osc },
      link: { from: 'two', to: 'one', service: 'osc', command: 'start', args: [3, 0.5], ...link },
    },
    wanted,
  ]),
];

test.each(cases)('%s', async (_what, brief, wanted) => {
  const show = rigOf(brief);
  const facts = links.linkFacts(show, addressing.addressingFacts(show));
  const stop = links.forecast(show, facts, show.links['link'] as core.Link).stopsAt;
  expect(stop ? `${stop.layer} ${stop.code}` : 'bottom').toBe(wanted);
  expect((await compare(show, rigPasswords)).filter((one) => !agrees(one))).toEqual([]);
});

const byChance: readonly (readonly [string, Brief])[] = [
  [
    'an address is reserved for two clients, and the later one declines it',
    {
      networks: { net: { net: '10.1.1.0/24', poolFrom: '10.1.1.100', poolTo: '10.1.1.129' } },
      units: { ...pair.units, hub: 'bare', router: 'router', cam: 'camera' },
      cables: [...pair.cables, 'router.p-1 hub.p-3', 'cam.p-1 hub.p-4'],
      slow: { 'cam.p-1': 27 },
      at: [
        'router lan net 10.1.1.254',
        'pc wired-1 net 10.1.1.2',
        'desk lan net dhcp 10.1.1.20',
        'cam lan net dhcp 10.1.1.20',
      ],
      link: remote,
    },
  ],
  [
    'a stranger’s answer through a gateway goes to whichever owner of the controller’s address spoke last',
    {
      networks: routed.networks,
      units: { ...routed.units, hub: 'managed', away: 'plain' },
      cables: ['pc.p-1 hub.p-1', 'router.p-1 hub.p-3', 'desk.p-1 away.p-1'],
      at: ['pc wired-1 net 10.1.1.2', 'hub lan net 10.1.1.2', 'router lan net 10.1.1.254', 'router lan far 10.1.2.254'],
      link: { ...remote, host: '10.1.2.254' },
    },
  ],
  [
    'somebody may be given the address that another one aims at in vain',
    {
      networks: { net: { net: '10.1.1.0/24', poolFrom: '10.1.1.100', poolTo: '10.1.1.129' } },
      units: { ...pair.units, router: 'router', cam: 'camera' },
      cables: ['pc.p-1 hub.p-1', 'router.p-1 hub.p-3', 'cam.p-1 hub.p-4'],
      at: ['router lan net 10.1.1.254', 'cam lan net dhcp', 'pc wired-1 net 10.1.1.2', 'desk lan net 10.1.1.100'],
      link: remote,
    },
  ],
  [
    'two who ask for the last address of one pool, each in a VLAN of its own',
    {
      networks: Object.fromEntries(
        ['a', 'b'].map((id, at) => [
          id,
          { net: '10.1.1.0/24', vlan: 20 + at, poolFrom: '10.1.1.100', poolTo: '10.1.1.100' },
        ]),
      ),
      units: { hub: 'managed', pc: 'computer', cam: 'camera', router: 'router' },
      cables: ['pc.p-1 hub.p-1', 'cam.p-1 hub.p-2', 'router.p-1 hub.p-3'],
      at: ['router lan a 10.1.1.254', 'router lan b 10.1.1.253', 'pc wired-1 a dhcp', 'cam lan b dhcp'],
      link: { from: 'pc', to: 'router', service: 'panel' },
    },
  ],
];

test.each(byChance)('the plan says that it is up to chance: %s', (_what, brief) => {
  const show = rigOf(brief);
  const facts = links.linkFacts(show, addressing.addressingFacts(show));
  expect(links.forecast(show, facts, show.links['link'] as core.Link).chance).toBe(true);
});

test('what the target still answers to another controller is no answer to a message that it does not take', async () => {
  const show = rigOf({
    units: { hub: 'plain', pc: 'computer', one: 'player pc', two: 'sequencer pc', cam: 'camera' },
    cables: ['pc.p-1 hub.p-1', 'cam.p-1 hub.p-2'],
    // whoever else wants replies is found after the first link is done, and while the second one waits
    slow: { 'cam.p-1': 100 },
    at: ['pc wired-1 net 10.1.1.37', 'cam lan net 10.1.1.8'],
    services: { 'one osc': { sendTo: '10.1.1.37', alsoTo: ['10.1.1.8'] } },
    link: { from: 'two', to: 'one', service: 'osc', command: 'count', args: [''] },
  });
  const wrong = show.links['link'] as core.Link;
  const early = { ...wrong, id: 'early', command: 'flag', args: [false] };
  const compared = await compare({ ...show, links: { early, link: wrong } }, rigPasswords);
  expect(compared.map((one) => [one.linkId, agrees(one), one.forecast])).toEqual([
    ['early', true, 'bottom'],
    ['link', true, 'message'],
  ]);
});
