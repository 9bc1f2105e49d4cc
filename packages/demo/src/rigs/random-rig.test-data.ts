import { show as core, type Show } from '@deep-patch/core';
import { diceOf, type Dice } from './dice.test-data.ts';
import { rigTypes } from './rig-types.test-data.ts';

export interface RandomRig {
  readonly seed: number;
  readonly show: Show;
  readonly passwords: Readonly<Record<string, string>>;
}

export const rigPasswords = { 'secret-a': 'low tide', 'secret-b': 'high tide' } as const;
/** Kinds of controllers that some services ask to be opened for. */
const openable = ['computer', 'show-host', 'media'] as const;
const secrets = [null, ...Object.keys(rigPasswords)];

/** Networks that overlap and lie within one another, from /8 to /31. */
const ranges: readonly (readonly [string, number])[] = [
  ['10.1.1.0', 24],
  ['10.1.2.0', 24],
  ['10.1.0.0', 16],
  ['10.0.0.0', 8],
  ['10.1.1.128', 25],
  ['10.1.1.16', 28],
  ['192.168.7.0', 30],
  ['192.168.7.8', 31],
  ['169.254.0.0', 16],
];
/** Where controllers wait for a target that opens the connection. */
const waitsAt = 8600;
const prefixes = [8, 16, 20, 24, 25, 28, 30, 31, 32];
const vlans = [null, null, 1, 20, 30];
const ports = [8300, 8301, 8310, 8400, 5004, 5005, 5006, 7400, 80, 8080, 9000, 5353];
const typed = ['127.0.0.1', '127.0.0.9', '10.1.1.255', '255.255.255.255', '10.1.1.77', '192.168.7.9', '0.0.0.0'];

/** A small rig from the whole of the data model; the same seed makes the same rig. */
export function randomRig(seed: number): RandomRig {
  const dice = diceOf(seed);
  return { seed, show: new RigMaker(dice, diceOf(seed ^ 0x2545f491)).make(), passwords: rigPasswords };
}

/** Runs that somebody pulled out of a rig: none of most, one or two of every third. */
export function pulledOf(show: Show, seed: number): ReadonlySet<string> {
  const dice = diceOf(seed ^ 0x51ed270b);
  const runs = Object.keys(show.cables);
  if (runs.length === 0 || !dice.chance(1 / 3)) return new Set();
  return new Set(dice.chance(0.3) ? [dice.pick(runs), dice.pick(runs)] : [dice.pick(runs)]);
}

type Content<T extends core.TableName> = core.Content<T>;

class RigMaker {
  private readonly dice: Dice;
  private readonly tables: Record<string, Record<string, core.Row>> = {};
  private readonly types: core.DeviceType[];
  /** How often something is off: some rigs are nearly right, some are wild. */
  private readonly wild: number;
  private readonly free = new Map<string, string[]>();
  private readonly ips: string[] = [];

  /** What was added later has dice of its own: of the rest, a seed makes what it made before. */
  private readonly later: Dice;
  /** Routers stand in a row, each between two networks, and send on to the next one what they do not know. */
  private isRow = false;

  constructor(dice: Dice, later: Dice) {
    this.dice = dice;
    this.later = later;
    this.types = rigTypes(dice);
    this.wild = dice.pick([0, 0.01, 0.04, 0.15]);
  }

  make(): Show {
    const { dice } = this;
    this.put('libraries', { id: 'rigs', name: 'Rigs', position: 0 });
    this.networks();
    const hubs = Array.from({ length: dice.chance(0.08) ? 0 : 1 + dice.below(4) }, (_, at) =>
      this.device(`hub-${at}`, dice.pick(['managed', 'managed', 'bare', 'plain', 'plain', 'point'])),
    );
    this.isRow = this.rows('networks').length > 2 && this.later.chance(0.35);
    const routers = Array.from({ length: this.isRow ? 2 : dice.below(3) }, (_, at) =>
      this.device(`router-${at}`, 'router'),
    );
    const units = Array.from({ length: 2 + dice.below(4) }, (_, at) =>
      this.device(`unit-${at}`, dice.pick(['desk', 'desk', 'camera', 'processor'])),
    );
    const computers = Array.from({ length: 1 + dice.below(2) }, (_, at) => this.device(`computer-${at}`, 'computer'));
    const programs = Array.from({ length: dice.below(4) }, (_, at) =>
      this.device(`program-${at}`, dice.pick(['player', 'sequencer']), this.off() ? null : dice.pick(computers)),
    );
    for (const id of [...hubs, ...routers, ...units, ...computers]) this.interfaces(id);
    this.cables(hubs, routers, [...units, ...computers]);
    for (const hub of hubs) if (this.typeOf(hub).managed && this.later.chance(0.15)) this.setByHand(hub);
    this.services();
    this.links([...hubs, ...routers, ...units, ...computers, ...programs]);
    return {
      ...core.emptyShow({ id: 'rig', name: 'Rig' }),
      rev: 1,
      types: Object.fromEntries(this.types.map((type) => [type.id, type])),
      ...this.tables,
    };
  }

  private off(share = 1): boolean {
    return this.dice.chance(this.wild * share);
  }

  private put<T extends core.TableName>(table: T, row: Parameters<typeof core.filledRow<T>>[1] & { id: string }): void {
    (this.tables[table] ??= {})[row.id] = { ...core.filledRow(table, row), rev: 1 } as unknown as core.Row;
  }

  private rows<T extends core.TableName>(table: T): core.Row<T>[] {
    return Object.values(this.tables[table] ?? {}) as unknown as core.Row<T>[];
  }

  private typeOf(deviceId: string): core.DeviceType {
    const device = this.tables['devices']?.[deviceId] as core.Device | undefined;
    const type = this.types.find(({ id }) => id === device?.typeId);
    if (!type) throw new Error(`no type of ${deviceId}`);
    return type;
  }

  private networks(): void {
    const { dice } = this;
    const count = 1 + dice.below(4);
    const withVlans = dice.chance(0.5);
    for (let at = 0; at < count; at += 1) {
      const [network, prefix] = this.off() ? dice.pick(ranges) : (ranges[at % 3] ?? dice.pick(ranges));
      const host = (last: number) => hostIn(network, prefix, last);
      const pool = dice.chance(0.4) ? [100, 100 + dice.below(30)] : null;
      this.put('networks', {
        id: `net-${at}`,
        name: `Net ${at}`,
        network,
        prefix,
        vlan: withVlans ? dice.pick(vlans) : null,
        purpose: dice.pick(['', 'show']),
        carries: dice.pick(['mixed', 'control', 'led']),
        gateway: dice.chance(0.5) ? (this.off() ? host(dice.below(9)) : host(254)) : null,
        needsOutside: dice.chance(0.2),
        poolFrom: pool ? host(pool[0] ?? 1) : null,
        poolTo: pool ? host(this.off(0.3) ? 90 : (pool[1] ?? 1)) : null,
        owner: dice.pick(['ours', 'ours', 'house']),
        contact: dice.pick(['', 'harbour office']),
        rules: dice.pick(['', 'ask first']),
        granted: dice.chance(0.1) ? [{ first: host(1), last: host(50) }] : [],
        growth: dice.below(50),
      });
    }
  }

  private device(id: string, typeId: string, runsOn: string | null = null): string {
    const { dice } = this;
    const type = this.types.find((one) => one.id === typeId);
    const computer = runsOn === null ? undefined : this.typeOf(runsOn);
    const adapterKeys = (computer ?? type)?.adapters.map(({ key }) => key) ?? [];
    this.put('devices', {
      id,
      typeId,
      name: `${id} ${typeId}`,
      unit: dice.chance(0.5) ? dice.below(40) : null,
      place: dice.pick(['', 'quay', 'booth']),
      firmware: dice.pick([null, '1.5', '2.1', 'beta']),
      note: dice.pick(['', 'spare']),
      serial: dice.pick(['', 'A1']),
      // without the dice: rigs that a seed names stay what they were
      swaps: id.length % 3,
      hostName: id.length % 2 === 0 ? '' : `host-${id}`,
      variant: dice.chance(0.3) ? (type?.variants[0]?.key ?? null) : null,
      runsOn,
      adapter: this.off() && adapterKeys.length > 0 ? dice.pick(adapterKeys) : null,
      system: dice.pick([null, 'linux', 'windows']),
      systemVersion: dice.pick([null, '11']),
      features: [],
      sources: dice.pick([null, 4]),
      packed: [],
      feed: dice.pick([null, 'mains', 'poe']),
      circuit: id.length % 3 === 0 ? 'Quay B' : '',
      inputs: id.length % 4 === 0 ? [{ number: 1, label: 'Pier', kind: 'picture' }] : [],
      sharing: id.length % 5 === 0 ? 'the last touch wins' : '',
      peers: id.length % 6 === 0 ? 'crew' : '',
      names: id.length % 3 === 1 ? [{ list: 'names', names: ['north', 'east', 'twin'] }] : [],
      savedOn: dice.pick([null, '2026-08-01']),
      done: [],
      ipv6: dice.pick(['as_delivered', 'off']),
      accounts: [],
    } as never);
    this.free.set(
      id,
      (type?.sockets ?? []).map(({ key }) => key),
    );
    return id;
  }

  private interfaces(deviceId: string): void {
    const { dice } = this;
    for (const { key } of this.typeOf(deviceId).adapters) {
      if (this.off(0.5)) continue;
      const id = `${deviceId}-${key}`;
      const serial = this.rows('interfaces').length;
      const mac = `02:aa:00:00:${dice.below(256).toString(16).padStart(2, '0')}:${serial.toString(16).padStart(2, '0')}`;
      this.put('interfaces', { id, deviceId, adapter: key, mac: dice.chance(0.5) ? mac : null });
      this.addresses(id, deviceId, key);
    }
  }

  private addresses(interfaceId: string, deviceId: string, adapter: string): void {
    const { dice } = this;
    const networks = this.rows('networks');
    const isRouter = this.typeOf(deviceId).kind === 'router';
    const isFirst = this.typeOf(deviceId).adapters[0]?.key === adapter;
    if (isRouter && this.isRow) {
      this.inARow(interfaceId, deviceId, networks);
      return;
    }
    const wanted = isRouter ? networks.length : isFirst || dice.chance(0.15) ? 1 + Number(this.off()) : 0;
    for (let at = 0; at < wanted; at += 1) {
      const network = isRouter
        ? networks[at]
        : this.off(0.5)
          ? dice.pick(networks)
          : (networks[dice.below(2)] ?? networks[0]);
      if (!network || (isRouter && this.off())) continue;
      const method = isRouter ? (this.off(0.3) ? 'dhcp' : 'static') : this.method();
      const last = this.off(0.5) ? dice.pick([0, 255, 1, 100]) : isRouter ? 254 : 1 + dice.below(40);
      const other = this.off(0.3) ? dice.pick(networks) : network;
      const planned = hostIn(other.network, other.prefix, last);
      const ip = method === 'self' ? `169.254.${this.off() ? 0 : 9}.${last}` : planned;
      const isOpen = method === 'static' ? this.off(0.5) : dice.chance(0.6);
      if (!isOpen) this.ips.push(ip);
      this.put('addresses', {
        id: `${interfaceId}-${at}`,
        interfaceId,
        networkId: network.id,
        ip: isOpen ? null : ip,
        prefix: this.off() ? dice.pick(prefixes) : null,
        gateway: this.off() ? hostIn(network.network, network.prefix, dice.pick([254, 1, 3])) : null,
        held: dice.chance(0.2),
        method,
      });
    }
  }

  /** The first router is in the first two networks, the second one in the next two; what they do not know goes on. */
  private inARow(interfaceId: string, deviceId: string, networks: readonly core.Network[]): void {
    const first = deviceId.endsWith('0') ? 0 : 1;
    for (const [at, { id, network, prefix }] of networks.slice(first, first + 2).entries()) {
      const isBetween = first + at === 1;
      const [own, other] = first === 0 ? [253, 254] : [254, 253];
      const [last, gateway] = isBetween ? [own, hostIn(network, prefix, other)] : [254, null];
      this.put('addresses', {
        ...{ id: `${interfaceId}-${at}`, interfaceId, networkId: id, ip: hostIn(network, prefix, last) },
        ...{ prefix: null, gateway, held: false },
      });
    }
  }

  private method(): Content<'addresses'>['method'] {
    const { dice } = this;
    return dice.chance(0.8) ? 'static' : dice.pick(['dhcp', 'dhcp', 'self'] as const);
  }

  private cables(hubs: readonly string[], routers: readonly string[], units: readonly string[]): void {
    const { dice } = this;
    hubs.forEach((hub, at) => {
      if (at > 0 && !this.off(2)) this.cable(hub, hubs[dice.below(at)] ?? hub);
    });
    // a second way: between managed switches spanning tree cuts it, elsewhere it floods
    if (hubs.length > 1 && dice.chance(0.15)) this.cable(dice.pick(hubs), dice.pick(hubs));
    // a ring: of managed switches one run is held back, of others it floods
    if (hubs.length > 2 && this.later.chance(0.15)) this.cable(hubs[0] ?? '', hubs.at(-1) ?? '');
    for (const router of routers) if (hubs.length > 0 && !this.off()) this.cable(router, dice.pick(hubs));
    if (routers.length > 1 && this.off()) this.cable(routers[0] ?? '', routers[1] ?? '');
    for (const [at, unit] of units.entries()) {
      const above = units.slice(0, at).filter((other) => (this.free.get(other) ?? []).length > 0);
      const places = hubs.length > 0 && !dice.chance(0.12) ? hubs : above;
      if (places.length > 0 && !this.off(0.7)) this.cable(unit, dice.pick(places));
      if (dice.chance(0.12) && places.length > 0) this.cable(unit, dice.pick(places));
    }
    if (this.off()) this.cable(dice.pick([...hubs, ...units]), dice.pick([...routers, ...units]));
  }

  private cable(from: string, to: string): void {
    const { dice } = this;
    const fromSocket = this.plug(from);
    const toSocket = fromSocket === undefined ? undefined : this.plug(to);
    if (fromSocket === undefined || toSocket === undefined) return;
    const medium = this.off() ? dice.pick(['copper', 'fibre', 'wireless'] as const) : 'copper';
    const at = this.rows('cables').length;
    this.put('cables', {
      id: `cable-${at}`,
      fromDevice: from,
      fromSocket,
      toDevice: to,
      toSocket,
      medium,
      lengthM: dice.pick([null, 0, 5, 100, ...(this.off() ? [101, 10_001] : [])]),
      delayMs: dice.pick([null, null, 0, 7, 20]),
      // without the dice: rigs that a seed names stay what they were
      grade: medium === 'fibre' ? 'om3' : medium === 'copper' && at % 4 === 3 ? 'cat6' : null,
      stage: this.later.pick([
        'both',
        'both',
        'both',
        'show' as const,
        ...(this.later.chance(0.1) ? (['setup'] as const) : []),
      ]),
    });
  }

  /** VLANs of some sockets of a managed switch, as somebody set them. */
  private setByHand(hub: string): void {
    const { later } = this;
    const row = this.tables['devices']?.[hub] as core.Device;
    const sockets = this.typeOf(hub).sockets.filter(() => later.chance(0.3));
    const socketVlans = sockets.map(({ key }) => {
      const untagged = later.pick([null, 1, 20, 30]);
      return { socket: key, untagged, tagged: [1, 20, 30].filter((vlan) => vlan !== untagged && later.chance(0.4)) };
    });
    this.put('devices', { ...core.contentOf(row), socketVlans } as never);
  }

  /** Mostly the first free socket: that is where the adapter is which has the addresses. */
  private plug(deviceId: string): string | undefined {
    const sockets = this.free.get(deviceId) ?? [];
    const at = this.dice.chance(0.9) ? 0 : this.dice.below(sockets.length);
    return sockets.splice(at, 1)[0];
  }

  private services(): void {
    const { dice } = this;
    for (const { id } of this.rows('devices'))
      for (const type of this.typeOf(id).services) {
        if (this.off(0.5)) continue;
        const isAsked = dice.chance(0.5) && type.logins[0] !== 'none';
        this.put('services', {
          id: `${id}-${type.key}`,
          deviceId: id,
          key: type.key,
          enabled: !this.off(),
          receivePort: this.off() ? dice.pick(ports) : this.usualPort(id, type.receivePort),
          sendPort: this.off() ? dice.pick([null, ...ports]) : type.sendPort,
          sendTo:
            dice.chance(0.6) && this.ips.length > 0 ? dice.pick([...this.ips, ...(this.off() ? typed : [])]) : null,
          alsoTo: dice.chance(0.3) && this.ips.length > 0 ? [dice.pick(this.ips)] : [],
          login: this.off() ? dice.pick([...core.loginMethods]) : null,
          role: this.later.chance(0.2) ? this.later.pick([...core.connectionRoles]) : null,
          openFor: openable.filter((_, at) => (id.length + type.key.length + at) % 3 === 0),
          account: isAsked || this.off() ? dice.pick(['ops', 'admin', null]) : null,
          secretId: isAsked || this.off() ? dice.pick(secrets) : null,
        });
      }
  }

  /** Two programs of one type on one computer are mostly told to use different ports. */
  private usualPort(deviceId: string, port: number): number {
    const at = Number(/^program-(\d+)$/.exec(deviceId)?.[1] ?? 0);
    return this.dice.chance(0.85) ? port + at * 10 : port;
  }

  private links(ids: readonly string[]): void {
    const { dice } = this;
    const services = this.rows('services');
    const controllers = ids.filter((id) => this.typeOf(id).drives.length > 0);
    if (services.length === 0 || controllers.length === 0) return;
    const computers = controllers.filter((id) => /^(computer|program)/.test(id));
    for (let at = 0; at < 1 + dice.below(4); at += 1) {
      const controllerId = dice.pick(dice.chance(0.1) || computers.length === 0 ? controllers : computers);
      const others = services.filter(({ deviceId }) => deviceId !== controllerId);
      const service = dice.pick(others.length > 0 && !this.off(0.3) ? others : services);
      this.link(`link-${at}`, controllerId, service);
    }
  }

  private link(id: string, controllerId: string, service: core.Service): void {
    const { dice } = this;
    const type = this.typeOf(service.deviceId).services.find(({ key }) => key === service.key);
    const copies = !dice.chance(0.12);
    const command = type && type.commands.length > 0 && !dice.chance(0.07) ? dice.pick(type.commands) : undefined;
    // mostly what the target answers to is where this controller is
    const own = this.rows('addresses').find(
      ({ interfaceId, ip }) => ip !== null && interfaceId.startsWith(`${this.machineOf(controllerId)}-`),
    );
    if (own && service.sendPort !== null && dice.chance(0.85))
      this.put('services', { ...core.contentOf(service), sendTo: own.ip } as never);
    const role = this.roleFor(id, service, own?.ip ?? null);
    this.put('links', {
      id,
      controllerId,
      targetId: service.deviceId,
      serviceKey: service.key,
      slot: dice.chance(0.5) ? dice.below(20) : null,
      // told by the id, so that the dice fall as before
      slotGroup: id.endsWith('3') ? 2 : null,
      // only what names no command is kept as it was typed
      typed: command === undefined && id.length % 2 === 0 ? '/tide/now "high, soon" 4' : '',
      host: this.off(2) ? dice.pick([...typed, ...this.ips]) : null,
      role,
      port: dice.chance(0.05)
        ? dice.pick(ports)
        : role === 'waits' && type && core.isConnection(type)
          ? waitsAt
          : service.receivePort,
      replyPort: dice.chance(0.07) ? dice.pick([null, ...ports]) : service.sendPort,
      account: copies ? service.account : dice.pick([null, 'ops', 'admin']),
      secretId: copies ? service.secretId : dice.pick(secrets),
      label: dice.pick(['', 'main']),
      mustHold: id.endsWith('1'),
      after: id.endsWith('2') ? id.replace('2', '1') : null,
      command: command?.key ?? dice.pick([null, 'nothing']),
      args: command ? this.args(command) : [],
    });
  }

  /** Mostly one end waits for the other; a target that opens mostly goes to where this controller waits. */
  private roleFor(id: string, service: core.Service, ownIp: string | null): Content<'links'>['role'] {
    const type = this.typeOf(service.deviceId).services.find(({ key }) => key === service.key);
    if (!type || !core.isConnection(type)) return id.endsWith('3') ? 'waits' : 'opens';
    const opens = core.roleOf(service, type) === 'opens';
    if (opens && ownIp !== null && this.later.chance(0.85)) {
      const now = this.tables['services']?.[service.id] as core.Service;
      this.put('services', { ...core.contentOf(now), sendTo: ownIp, sendPort: waitsAt } as never);
    }
    if (this.later.chance(0.05)) return this.later.pick([...core.connectionRoles]);
    return opens ? 'waits' : 'opens';
  }

  private machineOf(deviceId: string): string {
    return (this.tables['devices']?.[deviceId] as core.Device | undefined)?.runsOn ?? deviceId;
  }

  private args(command: core.Command): Content<'links'>['args'] {
    const { dice } = this;
    const args = command.args.map(({ example }) => example);
    if (!dice.chance(0.2)) return args;
    if (dice.chance(0.3)) return dice.chance(0.5) ? [...args, dice.pick([1, 'more', true])] : args.slice(1);
    const at = dice.below(Math.max(1, args.length));
    return args.map((value, n) => (n === at ? dice.pick(awkward) : value));
  }
}

const awkward: readonly (number | string | boolean)[] = [
  'quay side',
  'a/b',
  'what?',
  'Föhn',
  '',
  '31',
  '0x10',
  'true',
  'a\nstop',
  '%41',
  '*',
  '{x}',
  0,
  -1,
  0.1,
  0.7,
  30,
  31,
  127,
  128,
  300,
  1e-7,
  1e21,
  4_000_000_000,
  3.5,
  true,
  false,
];

/** A host by its last figure, wherever its network starts; small networks wrap round. */
function hostIn(network: string, prefix: number, last: number): string {
  const parts = network.split('.').map(Number);
  const size = Math.min(256, 2 ** (32 - prefix));
  const start = parts[3] ?? 0;
  return [...parts.slice(0, 3), start + (last % size)].join('.');
}
