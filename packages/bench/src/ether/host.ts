import { everybody, groupMac, type Arp, type Frame, type Ip, type Tcp, type Udp } from '@deep-patch/codecs';
import type { Port } from './cable.ts';
import { Echoes } from './echoes.ts';
import { broadcastOf, everyHost, isGroup, isLoopback, wayTo, type Adapter, type Way } from './ways.ts';
import type { Scheduler } from './scheduler.ts';
import { TcpStack } from './tcp.ts';

export interface Datagram {
  readonly source: number;
  readonly sourcePort: number;
  readonly destination: number;
  readonly bytes: Uint8Array;
  readonly adapter: Adapter | undefined;
}

/** What arrives from outside and may be kept out. */
export interface Inbound {
  readonly transport: 'udp' | 'tcp' | 'icmp';
  readonly port: number;
}

export type { Adapter, OwnAddress } from './ways.ts';
export type Resolution = { readonly macs: readonly string[] } | 'no_address' | 'no_route' | 'silent';

const arpWaitMs = 400;
const announceAgainMs = 2000;
const loopback = 0x7f000001;
const mostHops = 64;
/** A neighbour table that is full starts anew. */
const mostNeighbours = 4096;

/** One machine on the simulated network: adapters with several addresses, ARP, ICMP echo, UDP, groups and TCP. */
export class Host {
  readonly adapters: Adapter[] = [];
  readonly tcp: TcpStack;
  /** Peers beyond the simulated network by the address that they go by here: what is sent there leaves through a jack. */
  readonly outside = new Map<number, (ports: { from: number; to: number }, bytes: Uint8Array) => void>();
  /** Own addresses that somebody else claims too, with the MAC address of that claim (RFC 5227). */
  readonly conflicts = new Map<number, string>();
  /** A router passes on what is not for itself. */
  routes = false;
  /** The firewall: false keeps a packet from outside out, without a word. */
  admits: (inbound: Inbound) => boolean = () => true;
  /** Set while the machine is off but its adapters are not: told of every frame that comes in, and nothing else happens. */
  asleep: ((frame: Frame) => void) | undefined;
  /** Told of every frame that leaves, and of what stays on the machine. */
  onSend: ((frame: Frame) => void) | undefined;
  private readonly udp = new Map<number, (datagram: Datagram) => void>();
  private readonly groups = new Map<number, string>();
  private readonly cache = new Map<number, string>();
  private readonly asking = new Map<number, { macs: Set<string>; done: (() => void)[] }>();
  private readonly claims = new Map<number, () => void>();
  private readonly echoes: Echoes;
  private readonly refusals = new Map<number, () => void>();
  private readonly pins = new Map<number, string>();
  readonly scheduler: Scheduler;

  constructor(scheduler: Scheduler) {
    this.scheduler = scheduler;
    this.echoes = new Echoes(scheduler);
    this.tcp = new TcpStack(scheduler, (to, segment) => void this.sendIp(to, segment));
  }

  addAdapter(key: string, mac: string, addresses: Adapter['addresses'], isPowered: () => boolean): Port {
    const port: Port = { cable: undefined, isPowered, receive: (frame) => this.receive(adapter, frame) };
    const adapter: Adapter = { key, mac, port, addresses };
    this.adapters.push(adapter);
    return port;
  }

  /** Forgets all that a power cut takes away: open ports, streams, what it learnt. Addresses stay with who set them. */
  shutDown(): void {
    this.tcp.reset();
    for (const map of [
      this.outside,
      this.udp,
      this.groups,
      this.cache,
      this.claims,
      this.refusals,
      this.pins,
      this.conflicts,
    ])
      map.clear();
  }

  /**
   * Which adapter and next hop lead to an address. An adapter without carrier is used only when no other leads there,
   * as operating systems drop its routes. A pinned destination has its one adapter. What is in no own subnet goes to
   * a gateway that is.
   */
  adapterFor(ip: number): Way | undefined {
    return wayTo(this.adapters, ip, this.pins.get(ip));
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

  owns(ip: number): boolean {
    return isLoopback(ip) || this.adapters.some(({ addresses }) => addresses.some((address) => address.ip === ip));
  }

  /** Opens a UDP port; false when another service has it. */
  listen(port: number, receive: (datagram: Datagram) => void): boolean {
    if (this.udp.has(port)) return false;
    this.udp.set(port, receive);
    return true;
  }

  close(port: number): void {
    this.udp.delete(port);
  }

  /** Hears what a port hears beside whoever has it open already, as sockets that share a group's port do. */
  tapInto(port: number, receive: (datagram: Datagram) => void): () => void {
    const owner = this.udp.get(port);
    const both = (datagram: Datagram) => {
      owner?.(datagram);
      receive(datagram);
    };
    this.udp.set(port, both);
    return () => {
      if (this.udp.get(port) !== both) return;
      if (owner) this.udp.set(port, owner);
      else this.udp.delete(port);
    };
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
    const jack = this.outside.get(to);
    if (jack) {
      jack(ports, bytes);
      return;
    }
    if (onRefused) this.refusals.set(ports.to, onRefused);
    const payload = { kind: 'udp', sourcePort: ports.from, destinationPort: ports.to, bytes } as const;
    if (isGroup(to)) for (const adapter of this.adapters) this.sendToAll(adapter, to, payload);
    else if (to === everyHost || this.isBroadcast(to)) {
      for (const adapter of this.adapters)
        if (to === everyHost || adapter.addresses.some((own) => broadcastOf(own) === to))
          this.sendToAll(adapter, to, payload);
    } else await this.sendIp(to, payload);
  }

  /** Takes a datagram that came through a jack as if it had come over the network. */
  takeFromOutside(source: number, ports: { from: number; to: number }, bytes: Uint8Array): void {
    this.udp.get(ports.to)?.({ source, sourcePort: ports.from, destination: loopback, bytes, adapter: undefined });
  }

  /** Sends to everybody through one adapter without owning an address yet, as a DHCP client has to. */
  broadcast(adapter: Adapter, ports: { from: number; to: number }, bytes: Uint8Array): void {
    this.sendToAll(adapter, everyHost, { kind: 'udp', sourcePort: ports.from, destinationPort: ports.to, bytes });
  }

  /** Asks who owns an address and collects every answer: two of them are a clash. */
  async resolve(ip: number): Promise<Resolution> {
    if (this.adapters.every((adapter) => adapter.addresses.length === 0)) return 'no_address';
    const way = this.adapterFor(ip);
    if (!way) return this.hasOwnFor(ip) ? 'no_route' : 'no_address';
    const macs = await this.ask(way, true);
    return macs.length > 0 ? { macs } : 'silent';
  }

  /** Asks through one adapter whether anybody has an address, without claiming one (RFC 5227 section 2.1.1). */
  async isTaken(adapter: Adapter, ip: number, waitMs = 200): Promise<boolean> {
    let taken = false;
    this.claims.set(ip, () => (taken = true));
    this.sendArp(adapter, { asks: true, senderIp: 0, targetIp: ip }, null);
    await new Promise<void>((done) => void this.scheduler.after(waitMs, done));
    this.claims.delete(ip);
    return taken;
  }

  /** Tells everybody its addresses, twice (RFC 5227 section 2.3), and hears of it when one of them has another owner. */
  announce(adapter: Adapter, again = true): void {
    const { addresses } = adapter;
    if (again)
      this.scheduler.after(announceAgainMs, () => {
        if (adapter.addresses === addresses) this.announce(adapter, false);
      });
    for (const { ip, tag } of adapter.addresses) this.sendArp(adapter, { asks: true, senderIp: ip, targetIp: ip }, tag);
  }

  /** Milliseconds until an echo came back, or undefined after the wait (RFC 792). */
  async ping(ip: number, waitMs = 600): Promise<number | undefined> {
    const { id, answer } = this.echoes.expect(waitMs);
    await this.sendIp(ip, { kind: 'icmp', type: 'echo', id });
    return answer;
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

  private isBroadcast(ip: number): boolean {
    return this.adapters.some(({ addresses }) => addresses.some((own) => broadcastOf(own) === ip));
  }

  private async sendIp(to: number, payload: Ip['payload'], ttl = mostHops, from?: number): Promise<void> {
    if (this.owns(to)) {
      const source = from ?? (isLoopback(to) ? loopback : to);
      const inside: Ip = { kind: 'ip', source, destination: to, ttl, payload };
      this.onSend?.({ to: nobody, from: nobody, vlan: null, body: inside });
      this.scheduler.after(0.01, () => this.receiveIp(inside, undefined));
      return;
    }
    const way = this.adapterFor(to);
    if (!way) return;
    const mac = this.cache.get(way.next) ?? (await this.ask(way, false))[0];
    if (!mac) return;
    const body = { kind: 'ip', source: from ?? way.own.ip, destination: to, ttl, payload } as const;
    this.send(way.adapter, { to: mac, from: way.adapter.mac, vlan: way.own.tag, body });
  }

  private sendToAll(adapter: Adapter, to: number, payload: Udp): void {
    const froms = adapter.addresses.length > 0 ? adapter.addresses : [{ ip: 0, tag: null }];
    const mac = isGroup(to) ? groupMac(to) : everybody;
    for (const { ip, tag } of isGroup(to) ? froms : froms.slice(0, 1))
      this.send(adapter, {
        to: mac,
        from: adapter.mac,
        vlan: tag,
        body: { kind: 'ip', source: ip, destination: to, ttl: isGroup(to) ? 255 : mostHops, payload },
      });
  }

  private send(adapter: Adapter, frame: Frame): void {
    if (!adapter.port.cable?.hasCarrier()) return;
    this.onSend?.(frame);
    adapter.port.cable.send(adapter.port, frame);
  }

  private sendArp(adapter: Adapter, arp: Pick<Arp, 'asks' | 'senderIp' | 'targetIp'>, vlan: number | null): void {
    const body: Arp = { kind: 'arp', senderMac: adapter.mac, ...arp };
    this.send(adapter, { to: everybody, from: adapter.mac, vlan, body });
  }

  private ask({ adapter, own, next }: Way, wholeWait: boolean): Promise<string[]> {
    const open = this.asking.get(next) ?? { macs: new Set<string>(), done: [] };
    this.asking.set(next, open);
    this.sendArp(adapter, { asks: true, senderIp: own.ip, targetIp: next }, own.tag);
    return new Promise((done) => {
      const finish = () => {
        cancel();
        this.asking.delete(next);
        done([...open.macs]);
      };
      const cancel = this.scheduler.after(arpWaitMs, finish);
      if (!wholeWait) open.done.push(finish);
    });
  }

  private receive(adapter: Adapter, frame: Frame): void {
    if (this.asleep) {
      this.asleep(frame);
      return;
    }
    const { to, from, vlan, body } = frame;
    if (to !== everybody && to !== adapter.mac && ![...this.groups.values()].includes(to)) return;
    if (vlan !== null && !adapter.addresses.some(({ tag }) => tag === vlan)) return;
    if (body.kind === 'arp') this.receiveArp(adapter, body, vlan);
    else if (body.kind === 'ip') this.receiveFromCable(adapter, body);
    else if (body.kind === 'probe') {
      if (body.asks) this.send(adapter, { to: from, from: adapter.mac, vlan, body: { ...body, asks: false } });
      else this.echoes.settle(body.id);
    }
  }

  private receiveFromCable(adapter: Adapter, packet: Ip): void {
    const { destination, payload, ttl, source } = packet;
    const forAll = destination === everyHost || isGroup(destination) || this.isBroadcast(destination);
    if (forAll || this.owns(destination)) this.receiveIp(packet, adapter);
    else if (this.routes && ttl > 1) void this.sendIp(destination, payload, ttl - 1, source);
  }

  private receiveArp(adapter: Adapter, arp: Arp, vlan: number | null): void {
    const own = adapter.addresses.find(({ ip }) => ip === arp.targetIp);
    this.claims.get(arp.senderIp)?.();
    if (adapter.addresses.some(({ ip }) => ip === arp.senderIp)) this.conflicts.set(arp.senderIp, arp.senderMac);
    if (arp.asks) {
      if (this.cache.has(arp.senderIp)) this.cache.set(arp.senderIp, arp.senderMac);
      if (!own) return;
      const body: Arp = { kind: 'arp', asks: false, senderMac: adapter.mac, senderIp: own.ip, targetIp: arp.senderIp };
      this.send(adapter, { to: arp.senderMac, from: adapter.mac, vlan, body });
      return;
    }
    if (this.cache.size >= mostNeighbours) this.cache.clear();
    this.cache.set(arp.senderIp, arp.senderMac);
    const open = this.asking.get(arp.senderIp);
    open?.macs.add(arp.senderMac);
    for (const done of open?.done ?? []) done();
  }

  private receiveIp({ source, destination, payload }: Ip, adapter: Adapter | undefined): void {
    // answers to what was asked from here come in whatever the firewall says, as on real ones
    if (adapter && !this.expects(payload) && !this.admits(inboundOf(payload))) return;
    if (payload.kind === 'udp') this.receiveUdp({ source, destination, adapter }, payload);
    else if (payload.kind === 'tcp') this.tcp.receive(source, payload);
    else if (payload.type === 'echo') void this.sendIp(source, { ...payload, type: 'echo-reply' });
    else if (payload.type === 'echo-reply') this.echoes.settle(payload.id);
    else if (payload.type === 'port-unreachable') {
      this.refusals.get(payload.destinationPort)?.();
      this.refusals.delete(payload.destinationPort);
    }
  }

  private expects(payload: Ip['payload']): boolean {
    if (payload.kind === 'tcp') return !payload.flags.includes('syn') || payload.flags.includes('ack');
    return payload.kind === 'icmp' && payload.type !== 'echo';
  }

  private receiveUdp(
    { source, destination, adapter }: Pick<Datagram, 'source' | 'destination' | 'adapter'>,
    { sourcePort, destinationPort, bytes }: Udp,
  ): void {
    const receive = this.udp.get(destinationPort);
    if (receive) receive({ source, sourcePort, destination, bytes, adapter });
    else if (this.owns(destination))
      void this.sendIp(source, {
        kind: 'icmp',
        type: 'port-unreachable',
        source,
        destination,
        sourcePort,
        destinationPort,
      });
  }
}

const nobody = '00:00:00:00:00:00';

const inboundOf = (payload: Udp | Tcp | { kind: 'icmp' }): Inbound =>
  payload.kind === 'icmp' ? { transport: 'icmp', port: 0 } : { transport: payload.kind, port: payload.destinationPort };
