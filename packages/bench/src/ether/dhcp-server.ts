import { readDhcpMessage, writeDhcp, type DhcpMessage } from '@deep-patch/codecs';
import type { Adapter, Host } from './host.ts';
import type { OwnAddress } from './ways.ts';

export interface Pool {
  readonly id: string;
  readonly network: number;
  readonly prefix: number;
  readonly from: number;
  readonly to: number;
  readonly gateway: number | null;
  /** Addresses that are kept for one MAC address each. */
  readonly reserved: ReadonlyMap<string, number>;
}

/** An address of the router, and the pool of its network. */
interface Place {
  readonly own: OwnAddress;
  readonly pool: Pool;
}

/** An address that a client has, or that was offered to it; `until` is simulated time. */
interface Lease {
  readonly ip: number;
  readonly until: number;
  readonly isBound: boolean;
}

const leaseSeconds = 600;
/** A mere question keeps an address back for so long only. */
const offersForMs = 10_000;
const declinedForMs = 600_000;
const mostTries = 16;
/** The answer of a unit at the far end of a slow network has to make it; small routers wait as long. */
const asksForMs = 250;
const [serverPort, clientPort] = [67, 68];
/** Options (RFC 2132). */
const [mask, router, t1, t2] = [1, 3, 58, 59];

/**
 * Hands out addresses by RFC 2131: the reserved one, the one that the client has or had, the one that it asks for, else
 * the lowest that nobody has. Leases end. It keeps them in working memory, as small routers do: after a power cut they
 * are forgotten and addresses may move.
 */
export class DhcpServer {
  private readonly leases = new Map<string, Lease>();
  /** Addresses that somebody has without asking, and until when nobody is given them. */
  private readonly declined = new Map<number, number>();
  private readonly host: Host;
  private readonly pools: readonly Pool[];
  /** Gives its port back, once it was started. */
  stop: (() => void) | undefined;
  /** Switched off it stays silent. */
  active = true;

  constructor(host: Host, pools: readonly Pool[]) {
    this.host = host;
    this.pools = pools;
  }

  start(): void {
    this.leases.clear();
    this.declined.clear();
    this.stop = this.host.listen(serverPort, ({ bytes, adapter, tag }) => {
      const message = readDhcpMessage(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
      if (message && adapter && this.active) void this.answer(message, adapter, tag);
    });
  }

  /** It serves the networks in which it has a fixed address, each on the VLAN of that address. */
  private async answer(message: DhcpMessage, adapter: Adapter, tag: number | null): Promise<void> {
    const places = adapter.addresses.flatMap((own) => {
      const pool = own.tag === tag && !own.leased ? this.poolOf(own) : undefined;
      return pool ? [{ own, pool }] : [];
    });
    const client = clientOf(message);
    switch (message.type) {
      case 'discover':
        return this.offer(message, adapter, places);
      case 'request':
        this.confirm(message, adapter, places);
        return;
      case 'inform':
        this.inform(message, adapter, places);
        return;
      case 'release':
        if (this.leases.get(client)?.ip === message.clientIp) this.leases.delete(client);
        return;
      case 'decline':
        this.leases.delete(client);
        if (message.requestedIp !== undefined)
          this.declined.set(message.requestedIp, this.host.scheduler.now() + declinedForMs);
        return;
      default:
    }
  }

  /** From the first network that has room. */
  private async offer(message: DhcpMessage, adapter: Adapter, places: readonly Place[]): Promise<void> {
    for (const place of places) {
      const ip = await this.pickFree(adapter, message, place);
      if (ip === undefined) continue;
      const client = clientOf(message);
      if (!this.leases.get(client)?.isBound) this.grant(client, ip, offersForMs, false);
      this.say(adapter, message, 'offer', ip, place);
      return;
    }
  }

  private confirm(message: DhcpMessage, adapter: Adapter, places: readonly Place[]): void {
    const client = clientOf(message);
    const wanted = message.requestedIp ?? message.clientIp;
    if (message.serverIp !== undefined && !places.some(({ own }) => own.ip === message.serverIp)) {
      // the client took another server's offer (section 3.1.4)
      if (!this.leases.get(client)?.isBound) this.leases.delete(client);
      return;
    }
    const place = places.find(({ own, pool }) => (message.serverIp ?? own.ip) === own.ip && isIn(pool, wanted));
    const [first] = places;
    // somebody who comes from another network has to start anew (section 4.3.2)
    if (!place) {
      if (first) this.say(adapter, message, 'nak', 0, first);
      return;
    }
    const due = this.reservedFor(message, place.pool) ?? this.leaseOf(client)?.ip;
    // a client that is not on record: whoever handed that address out may answer
    if (due === undefined) return;
    if (due !== wanted) {
      this.say(adapter, message, 'nak', 0, place);
      return;
    }
    this.grant(client, wanted, leaseSeconds * 1000, true);
    this.say(adapter, message, 'ack', wanted, place);
  }

  /** Somebody with an address of its own asks for the rest (section 3.4): no lease goes with the answer. */
  private inform(message: DhcpMessage, adapter: Adapter, places: readonly Place[]): void {
    const place = places.find(({ pool }) => isIn(pool, message.clientIp));
    if (place) this.say(adapter, message, 'ack', 0, place);
  }

  /** That of the subnet in which its own address is (RFC 2131 section 4.3.1). */
  private poolOf({ ip, prefix }: OwnAddress): Pool | undefined {
    return this.pools
      .filter((pool) => pool.prefix === prefix && (ip ^ pool.network) >>> (32 - prefix) === 0)
      .sort((a, b) => (a.id < b.id ? -1 : 1))[0];
  }

  /** Before it offers an address for the first time it asks whether anybody has it (RFC 2131 section 3.1). */
  private async pickFree(
    adapter: Adapter,
    message: DhcpMessage,
    { pool, own: { tag } }: Place,
  ): Promise<number | undefined> {
    const client = clientOf(message);
    for (let tries = 0; tries < mostTries; tries += 1) {
      const ip = this.pick(message, pool);
      const isKnown = ip === this.reservedFor(message, pool) || ip === this.leaseOf(client)?.ip;
      if (ip === undefined || isKnown) return ip;
      // while it asks around, nobody else is offered that address
      this.grant(client, ip, offersForMs, false);
      if (!(await this.host.neighbours.isTaken(adapter, ip, asksForMs, tag))) return ip;
      this.leases.delete(client);
      this.declined.set(ip, this.host.scheduler.now() + declinedForMs);
    }
    return undefined;
  }

  private pick(message: DhcpMessage, pool: Pool): number | undefined {
    const client = clientOf(message);
    const now = this.host.scheduler.now();
    const own = this.reservedFor(message, pool);
    if (own !== undefined) return own;
    const others = [...this.leases].filter(([key, { until }]) => key !== client && until > now);
    const taken = new Set([...others.map(([, { ip }]) => ip), ...pool.reserved.values()]);
    const isFree = (ip: number) =>
      isHost(pool, ip) && !taken.has(ip) && (this.declined.get(ip) ?? 0) <= now && !this.host.owns(ip);
    // what it has or had, then what it asks for (section 4.3.1)
    for (const ip of [this.leases.get(client)?.ip, message.requestedIp])
      if (ip !== undefined && ip >= pool.from && ip <= pool.to && isFree(ip)) return ip;
    for (let ip = pool.from; ip <= pool.to; ip += 1) if (isFree(ip)) return ip;
    return undefined;
  }

  /** Kept for this client, unless it was found out that somebody else has it. */
  private reservedFor({ clientMac }: DhcpMessage, pool: Pool): number | undefined {
    const own = pool.reserved.get(clientMac);
    if (own === undefined || !isHost(pool, own)) return undefined;
    return (this.declined.get(own) ?? 0) > this.host.scheduler.now() ? undefined : own;
  }

  /** A lease that is not over. */
  private leaseOf(client: string): Lease | undefined {
    const lease = this.leases.get(client);
    return lease && lease.until > this.host.scheduler.now() ? lease : undefined;
  }

  private grant(client: string, ip: number, forMs: number, isBound: boolean): void {
    this.leases.set(client, { ip, until: this.host.scheduler.now() + forMs, isBound });
  }

  /** Options that the client asked for, or all; to its address where it has one, else as it can hear (section 4.1). */
  private say(
    adapter: Adapter,
    message: DhcpMessage,
    type: 'offer' | 'ack' | 'nak',
    yourIp: number,
    { pool, own }: Place,
  ): void {
    const { transaction, clientMac, clientIp, wants } = message;
    const asksFor = (code: number) => type !== 'nak' && (wants === undefined || wants.includes(code));
    const isLease = type !== 'nak' && yourIp !== 0;
    const bytes = writeDhcp({
      type,
      transaction,
      clientMac,
      clientIp: type === 'ack' ? clientIp : 0,
      yourIp,
      serverIp: own.ip,
      ...(asksFor(mask) ? { mask: (0xffffffff << (32 - pool.prefix)) >>> 0 } : {}),
      ...(asksFor(router) && pool.gateway !== null ? { router: pool.gateway } : {}),
      ...(isLease ? { leaseSeconds } : {}),
      ...(isLease && asksFor(t1) ? { renewSeconds: leaseSeconds / 2 } : {}),
      ...(isLease && asksFor(t2) ? { rebindSeconds: (leaseSeconds * 7) / 8 } : {}),
      ...(message.broadcast === undefined ? {} : { broadcast: message.broadcast }),
    });
    const ports = { from: serverPort, to: clientPort };
    if (clientIp !== 0 && type === 'ack') void this.host.sendUdp(clientIp, ports, bytes);
    else if (type === 'nak' || message.broadcast) this.host.broadcast(adapter, ports, bytes, own);
    else this.host.broadcast(adapter, ports, bytes, own, { mac: clientMac, ip: yourIp });
  }
}

/** A client goes by its identifier, else by its MAC address (RFC 2131 section 4.2). */
const clientOf = ({ clientId, clientMac }: DhcpMessage): string => clientId ?? clientMac;

const isIn = ({ network, prefix }: Pool, ip: number): boolean => prefix === 0 || (ip ^ network) >>> (32 - prefix) === 0;

/** No server hands out the name of a network, the address of everybody in it, or one that is not in it (RFC 1122). */
function isHost({ network, prefix }: Pool, ip: number): boolean {
  const size = 2 ** (32 - prefix);
  const edge = prefix >= 31 ? 0 : 1;
  return ip >= network + edge && ip < network + size - edge;
}
