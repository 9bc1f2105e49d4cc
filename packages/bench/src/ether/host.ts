import { everybody, groupMac, type Frame, type Ip, type Tcp, type Udp } from '@deep-patch/codecs';
import type { Port } from './cable.ts';
import { Echoes } from './echoes.ts';
import { Neighbours } from './neighbours.ts';
import { floods } from './switch.ts';
import {
  broadcastOf,
  everyHost,
  isGroup,
  isLoopback,
  routeTo,
  type Adapter,
  type OwnAddress,
  type Route,
} from './ways.ts';
import type { Scheduler } from './scheduler.ts';
import { TcpStack } from './tcp.ts';

export interface Datagram {
  readonly source: number;
  readonly sourcePort: number;
  readonly destination: number;
  readonly bytes: Uint8Array;
  readonly adapter: Adapter | undefined;
  /** The VLAN tag that it came with. */
  readonly tag: number | null;
}

/** Who hears a UDP port: whoever opened it, and those who listen along. */
interface Door {
  owner: ((datagram: Datagram) => void) | undefined;
  readonly taps: Set<(datagram: Datagram) => void>;
}

/** What arrives from outside and may be kept out. */
export interface Inbound {
  readonly transport: 'udp' | 'tcp' | 'icmp';
  readonly port: number;
}

export type { Adapter, OwnAddress } from './ways.ts';
export type Resolution = { readonly macs: readonly string[] } | 'no_address' | 'no_route' | 'silent';

const loopback = 0x7f000001;
const mostHops = 64;
/** A table of conversations that is full starts anew. */
const mostConversations = 4096;
/** How long a firewall lets answers to a datagram in. */
const answersForMs = 60_000;

/** One machine on the simulated network: adapters with several addresses, ARP, ICMP echo, UDP, groups and TCP. */
export class Host {
  readonly adapters: Adapter[] = [];
  readonly tcp: TcpStack;
  readonly neighbours: Neighbours;
  /** Peers beyond the simulated network by the address that they go by here: what is sent there leaves through a jack. */
  readonly outside = new Map<number, (packet: Ip) => void>();
  /** A router passes on what is not for itself. */
  routes = false;
  /** The firewall: false keeps a packet from outside out, without a word. */
  admits: (inbound: Inbound) => boolean = () => true;
  /** Set while the machine is off but its adapters are not: told of every frame that comes in, and nothing else happens. */
  asleep: ((frame: Frame) => void) | undefined;
  private readonly sentWatchers = new Set<(frame: Frame) => void>();
  private readonly takenWatchers = new Set<(packet: Ip) => void>();
  private readonly udp = new Map<number, Door>();
  private readonly groups = new Map<number, string>();
  private readonly echoes: Echoes;
  /** Who wants to know that a port is closed, by own port, address and port. */
  private readonly refusals = new Map<string, () => void>();
  private readonly pins = new Map<number, string>();
  private readonly bound = new Map<string, string>();
  /** Where datagrams went lately, by own port and far end: a firewall that keeps state lets their answers in. */
  private readonly conversations = new Map<string, number>();
  readonly scheduler: Scheduler;

  constructor(scheduler: Scheduler) {
    this.scheduler = scheduler;
    this.echoes = new Echoes(scheduler);
    this.neighbours = new Neighbours(scheduler, this.adapters, (adapter, frame) => this.send(adapter, frame));
    this.tcp = new TcpStack(scheduler, (to, segment, from) => void this.sendIp(to, segment, mostHops, from), {
      sourceFor: (to) => (this.owns(to) ? to : this.adapterFor(to)?.own.ip),
      refuses: (port, destination) => this.isBoundElsewhere('tcp', port, destination),
    });
  }

  addAdapter(key: string, mac: string, addresses: Adapter['addresses'], isPowered: () => boolean): Port {
    const port: Port = { cable: undefined, isPowered, receive: (frame) => this.receive(adapter, frame) };
    const adapter: Adapter = { key, mac, port, addresses };
    this.adapters.push(adapter);
    return port;
  }

  /** A tap at its sockets is told of every frame that leaves, and of what stays on the machine. Answers what ends it. */
  watchSent(watch: (frame: Frame) => void): () => void {
    this.sentWatchers.add(watch);
    return () => void this.sentWatchers.delete(watch);
  }

  /** The same for every packet that is for this machine, before a firewall keeps it out. */
  watchTaken(watch: (packet: Ip) => void): () => void {
    this.takenWatchers.add(watch);
    return () => void this.takenWatchers.delete(watch);
  }

  /** Forgets all that a power cut takes away: open ports, streams, what it learnt. Addresses stay with who set them. */
  shutDown(): void {
    this.tcp.reset();
    this.neighbours.forget();
    for (const map of [this.outside, this.udp, this.groups, this.refusals, this.pins, this.conversations, this.bound])
      map.clear();
  }

  /**
   * Which adapter and next hop lead to an address. An adapter without carrier is used only when no other leads there,
   * as operating systems drop its routes. A pinned destination has its one adapter. What is in no own subnet goes to
   * a gateway that is.
   */
  adapterFor(ip: number): Route | undefined {
    return routeTo(this.adapters, ip, this.pins.get(ip));
  }

  /** Does what goes to an address leave by a gateway? */
  leavesByGateway(ip: number): boolean {
    const way = this.adapterFor(ip);
    return way !== undefined && way.next !== ip;
  }

  /** Sends to one destination through a named adapter, as a program does that was told which to use; null ends it. */
  pin(ip: number, adapterKey: string | null): void {
    if (adapterKey === null) this.pins.delete(ip);
    else this.pins.set(ip, adapterKey);
  }

  /** The address that it goes by where none was named. */
  firstIp(): number {
    for (const { addresses } of this.adapters) if (addresses[0]) return addresses[0].ip;
    return loopback;
  }

  owns(ip: number): boolean {
    return isLoopback(ip) || this.adapters.some(({ addresses }) => addresses.some((address) => address.ip === ip));
  }

  /** Lets a port hear what is sent to an address of one adapter only, as a socket that is bound to it does. */
  bind(transport: 'udp' | 'tcp', port: number, adapterKey: string): void {
    this.bound.set(`${transport} ${port}`, adapterKey);
  }

  private isBoundElsewhere(transport: 'udp' | 'tcp', port: number, destination: number): boolean {
    const key = this.bound.size === 0 ? undefined : this.bound.get(`${transport} ${port}`);
    if (key === undefined || destination === everyHost || isGroup(destination) || this.isBroadcast(destination))
      return false;
    return !this.adapters.some(
      (adapter) => adapter.key === key && adapter.addresses.some(({ ip }) => ip === destination),
    );
  }

  /** Opens a UDP port and answers what closes it; undefined when another service has it. */
  listen(port: number, receive: (datagram: Datagram) => void): (() => void) | undefined {
    if (this.udp.get(port)?.owner) return undefined;
    const door = this.doorAt(port);
    door.owner = receive;
    return () => {
      if (door.owner !== receive) return;
      door.owner = undefined;
      this.bound.delete(`udp ${port}`);
      this.dropUnused(port, door);
    };
  }

  /** Hears what a port hears beside whoever has it open, as sockets that share a group's port do. */
  tapInto(port: number, receive: (datagram: Datagram) => void): () => void {
    const door = this.doorAt(port);
    door.taps.add(receive);
    return () => {
      door.taps.delete(receive);
      this.dropUnused(port, door);
    };
  }

  private doorAt(port: number): Door {
    const door = this.udp.get(port) ?? { owner: undefined, taps: new Set() };
    this.udp.set(port, door);
    return door;
  }

  private dropUnused(port: number, door: Door): void {
    if (!door.owner && door.taps.size === 0 && this.udp.get(port) === door) this.udp.delete(port);
  }

  private hear(door: Door | undefined, datagram: Datagram): void {
    door?.owner?.(datagram);
    if (door && door.taps.size > 0) for (const receive of [...door.taps]) receive(datagram);
  }

  /** Takes part in a group, whose datagrams then reach its open ports. */
  join(group: number): void {
    this.groups.set(group, groupMac(group));
  }

  /** Sends a datagram; `onRefused` runs when the far end answers that the port is closed. */
  async sendUdp(
    to: number,
    ports: { from: number; to: number },
    bytes: Uint8Array,
    onRefused?: () => void,
  ): Promise<void> {
    if (onRefused) this.refusals.set(`${ports.from} ${to} ${ports.to}`, onRefused);
    this.remember(ports.from, to, ports.to);
    const payload = { kind: 'udp', sourcePort: ports.from, destinationPort: ports.to, bytes } as const;
    if (isGroup(to)) for (const adapter of this.adapters) this.sendToAll(adapter, to, payload);
    else if (to === everyHost || (this.isBroadcast(to) && !this.owns(to))) {
      for (const adapter of this.adapters) this.sendToAll(adapter, to, payload);
    } else await this.sendIp(to, payload);
  }

  private remember(own: number, to: number, port: number): void {
    if (this.conversations.size >= mostConversations) this.conversations.clear();
    this.conversations.set(`${own} ${to} ${port}`, this.scheduler.now() + answersForMs);
  }

  /** Takes a packet that came through a jack as if it had come over the network; what is off hears nothing. */
  takeFromOutside(packet: Ip): void {
    if (!this.asleep) this.receiveIp(packet, undefined);
  }

  /**
   * Sends through one adapter without asking who is where, from one of its addresses or without one, as DHCP has to: to
   * everybody, or to somebody whose MAC address is known.
   */
  broadcast(
    adapter: Adapter,
    ports: { from: number; to: number },
    bytes: Uint8Array,
    own?: OwnAddress,
    to: { readonly mac: string; readonly ip: number } = { mac: everybody, ip: everyHost },
  ): void {
    const payload = { kind: 'udp', sourcePort: ports.from, destinationPort: ports.to, bytes } as const;
    const body: Ip = { kind: 'ip', source: own?.ip ?? 0, destination: to.ip, ttl: mostHops, payload };
    this.send(adapter, { to: to.mac, from: adapter.mac, vlan: own?.tag ?? null, body });
  }

  /** Asks who owns an address and collects every answer: two of them are a clash. */
  async resolve(ip: number): Promise<Resolution> {
    if (this.adapters.every((adapter) => adapter.addresses.length === 0)) return 'no_address';
    const way = this.adapterFor(ip);
    if (!way) return this.hasOwnFor(ip) ? 'no_route' : 'no_address';
    if (this.isBroadcast(ip)) return 'no_route';
    const macs = await this.neighbours.ask(way, true);
    return macs.length > 0 ? { macs } : 'silent';
  }

  /** Everybody else who answers for an address where one adapter sits. */
  whoHas(adapter: Adapter, ip: number): Promise<string[]> {
    const own = adapter.addresses.find((address) => address.ip === ip) ?? adapter.addresses[0];
    return own ? this.neighbours.ask({ adapter, own, next: ip }, true) : Promise.resolve([]);
  }

  /** Milliseconds until an echo came back, or undefined after the wait (RFC 792). */
  async ping(ip: number, waitMs = 600): Promise<number | undefined> {
    const { id, answer } = this.echoes.expect(waitMs);
    await this.sendIp(ip, { kind: 'icmp', type: 'echo', id });
    return answer;
  }

  /** Asks anew who has an address before the next datagram: somebody else may have it by now (RFC 1122 section 2.3.2.1). */
  doubt(ip: number): void {
    const way = this.adapterFor(ip);
    if (way) this.neighbours.doubt(way);
  }

  /** Asks one adapter by its MAC address whether it is in the same segment, whatever its IP address. */
  async probe(adapterKey: string, mac: string, waitMs = 300): Promise<boolean> {
    const adapter = this.adapters.find(({ key }) => key === adapterKey);
    if (!adapter) return false;
    const { id, answer } = this.echoes.expect(waitMs);
    for (const vlan of new Set(adapter.addresses.length > 0 ? adapter.addresses.map(({ tag }) => tag) : [null]))
      this.send(adapter, { to: mac, from: adapter.mac, vlan, body: { kind: 'probe', asks: true, id } });
    return (await answer) !== undefined;
  }

  /** Has the adapter that this destination is pinned to an address of its own? */
  private hasOwnFor(ip: number): boolean {
    const pinned = this.pins.get(ip);
    return this.adapters.some(({ key, addresses }) => (pinned === undefined || key === pinned) && addresses.length > 0);
  }

  /** Everybody, or everybody in one of its subnets. */
  isForAll(ip: number): boolean {
    return ip === everyHost || this.isBroadcast(ip);
  }

  private isBroadcast(ip: number): boolean {
    return this.adapters.some(({ addresses }) => addresses.some((own) => broadcastOf(own) === ip));
  }

  private async sendIp(to: number, payload: Ip['payload'], ttl = mostHops, from?: number): Promise<void> {
    const beyond = this.outside.get(to);
    if (beyond) {
      beyond({ kind: 'ip', source: from ?? this.firstIp(), destination: to, ttl, payload });
      return;
    }
    if (this.owns(to)) {
      const source = from ?? (isLoopback(to) ? loopback : to);
      const inside: Ip = { kind: 'ip', source, destination: to, ttl, payload };
      this.told({ to: nobody, from: nobody, vlan: null, body: inside });
      this.scheduler.after(0.01, () => this.receiveIp(inside, undefined));
      return;
    }
    const way = this.adapterFor(to);
    // what stands for everybody is no address of one (RFC 1122 section 3.3.6)
    if (!way || this.isBroadcast(to)) return;
    // what is known is not waited for: the frame leaves in the turn in which it was sent
    const mac = this.neighbours.knownMacOf(way) ?? (await this.neighbours.macOf(way));
    if (!mac) return;
    const body = { kind: 'ip', source: from ?? way.own.ip, destination: to, ttl, payload } as const;
    this.send(way.adapter, { to: mac, from: way.adapter.mac, vlan: way.own.tag, body });
  }

  /** From each address to whose subnet it goes: a group and everybody are in all of them. */
  private sendToAll(adapter: Adapter, to: number, payload: Udp): void {
    const everywhere = isGroup(to) || to === everyHost;
    const froms = adapter.addresses.filter((own) => everywhere || broadcastOf(own) === to);
    const mac = isGroup(to) ? groupMac(to) : everybody;
    for (const { ip, tag } of froms.length > 0 || !everywhere ? froms : [{ ip: 0, tag: null }])
      this.send(adapter, {
        to: mac,
        from: adapter.mac,
        vlan: tag,
        body: { kind: 'ip', source: ip, destination: to, ttl: isGroup(to) ? 255 : mostHops, payload },
      });
    // the sender is one of everybody
    const heardHere: Ip = { kind: 'ip', source: froms[0]?.ip ?? loopback, destination: to, ttl: mostHops, payload };
    if (!isGroup(to) && froms.length > 0 && adapter.port.cable?.hasCarrier())
      this.scheduler.after(0.01, () => this.receiveIp(heardHere, undefined));
  }

  private told(frame: Frame): void {
    for (const watch of this.sentWatchers) watch(frame);
  }

  private send(adapter: Adapter, frame: Frame): void {
    if (!adapter.port.cable?.hasCarrier()) return;
    this.told(frame);
    adapter.port.cable.send(adapter.port, frame);
  }

  private receive(adapter: Adapter, frame: Frame): void {
    if (this.asleep) {
      this.asleep(frame);
      return;
    }
    const { to, from, vlan, body } = frame;
    if (to !== everybody && to !== adapter.mac && ![...this.groups.values()].includes(to)) return;
    if (vlan !== null && !adapter.addresses.some(({ tag }) => tag === vlan)) return;
    if (floods.has(body)) return;
    if (body.kind === 'arp') this.neighbours.take(adapter, body, vlan);
    else if (body.kind === 'ip') this.receiveFromCable(adapter, body, vlan);
    else if (body.kind === 'probe') {
      if (body.asks) this.send(adapter, { to: from, from: adapter.mac, vlan, body: { ...body, asks: false } });
      else this.echoes.settle(body.id);
    }
  }

  private receiveFromCable(adapter: Adapter, packet: Ip, tag: number | null): void {
    const { destination, payload, ttl, source } = packet;
    const forAll = destination === everyHost || isGroup(destination) || this.isBroadcast(destination);
    if (forAll || this.owns(destination)) this.receiveIp(packet, adapter, tag);
    else if (this.routes && ttl > 1) void this.sendIp(destination, payload, ttl - 1, source);
  }

  private receiveIp(packet: Ip, adapter: Adapter | undefined, tag: number | null = null): void {
    const { source, destination, payload } = packet;
    // a tap at the socket sees what a firewall behind it keeps out
    for (const watch of this.takenWatchers) watch(packet);
    // answers to what was asked from here come in whatever the firewall says, as on real ones
    if (adapter && !this.expects(source, payload) && !this.admits(inboundOf(payload))) return;
    if (payload.kind === 'udp') {
      this.receiveUdp(packet, payload, adapter, tag);
      return;
    }
    const called = this.owns(destination) ? destination : undefined;
    // streams and echoes are for one machine, never for everybody (RFC 1122 sections 3.2.2.6 and 4.2.3.10)
    if (called === undefined && (payload.kind === 'tcp' || payload.type === 'echo')) return;
    else if (payload.kind === 'tcp') this.tcp.receive(source, payload, destination);
    // the answer comes from the address that was called (RFC 1122 section 3.2.2.6)
    else if (payload.type === 'echo') void this.sendIp(source, { ...payload, type: 'echo-reply' }, mostHops, called);
    else if (payload.type === 'echo-reply') this.echoes.settle(payload.id);
    else if (payload.type === 'port-unreachable') {
      const key = `${payload.sourcePort} ${payload.destination} ${payload.destinationPort}`;
      this.refusals.get(key)?.();
      this.refusals.delete(key);
    }
  }

  private expects(source: number, payload: Ip['payload']): boolean {
    if (payload.kind === 'tcp') return !payload.flags.includes('syn') || payload.flags.includes('ack');
    if (payload.kind === 'udp') {
      const until = this.conversations.get(`${payload.destinationPort} ${source} ${payload.sourcePort}`);
      return until !== undefined && this.scheduler.now() < until;
    }
    return payload.kind === 'icmp' && payload.type !== 'echo';
  }

  private receiveUdp(
    { source, destination }: Ip,
    { sourcePort, destinationPort, bytes }: Udp,
    adapter: Adapter | undefined,
    tag: number | null,
  ): void {
    const door = this.udp.get(destinationPort);
    if (door && !this.isBoundElsewhere('udp', destinationPort, destination))
      this.hear(door, { source, sourcePort, destination, bytes, adapter, tag });
    else if (this.owns(destination))
      void this.sendIp(
        source,
        { kind: 'icmp', type: 'port-unreachable', source, destination, sourcePort, destinationPort, bytes },
        mostHops,
        destination,
      );
  }
}

const nobody = '00:00:00:00:00:00';

const inboundOf = (payload: Udp | Tcp | { kind: 'icmp' }): Inbound =>
  payload.kind === 'icmp' ? { transport: 'icmp', port: 0 } : { transport: payload.kind, port: payload.destinationPort };
