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

const leaseSeconds = 600;
const mostTries = 16;
/** The answer of a unit at the far end of a slow network has to make it; small routers wait as long. */
const asksForMs = 250;
const [serverPort, clientPort] = [67, 68];

/**
 * Hands out addresses by RFC 2131: the reserved one, the one that the client has, else the lowest that nobody has. It
 * keeps its leases in working memory, as small routers do: after a power cut they are forgotten and addresses may move.
 */
export class DhcpServer {
  readonly leases = new Map<string, number>();
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
    if (message.type === 'discover') await this.offer(message, adapter, places);
    else if (message.type === 'request') this.confirm(message, adapter, places);
    else if (message.type === 'release') this.leases.delete(message.clientMac);
  }

  /** From the first network that has room. */
  private async offer(message: DhcpMessage, adapter: Adapter, places: readonly Place[]): Promise<void> {
    for (const { own, pool } of places) {
      const ip = await this.pickFree(adapter, message.clientMac, pool, own.tag);
      if (ip === undefined) continue;
      this.say(adapter, message, 'offer', { ip, pool, own });
      return;
    }
  }

  private confirm(message: DhcpMessage, adapter: Adapter, places: readonly Place[]): void {
    const wanted = message.requestedIp ?? message.clientIp;
    const addressed = places.filter(({ own }) => message.serverIp === undefined || message.serverIp === own.ip);
    const known = addressed.find(({ pool }) => this.pick(message.clientMac, pool) === wanted) ?? addressed[0];
    if (!known) return;
    const ip = this.pick(message.clientMac, known.pool);
    // somebody who asks for what is another's by now has to start anew
    this.say(adapter, message, ip !== undefined && ip === wanted ? 'ack' : 'nak', { ip: ip ?? 0, ...known });
  }

  /** That of the subnet in which its own address is (RFC 2131 section 4.3.1). */
  private poolOf({ ip, prefix }: OwnAddress): Pool | undefined {
    return this.pools
      .filter((pool) => pool.prefix === prefix && (ip ^ pool.network) >>> (32 - prefix) === 0)
      .sort((a, b) => (a.id < b.id ? -1 : 1))[0];
  }

  /** Before it offers an address for the first time it asks whether anybody has it (RFC 2131 section 3.1). */
  private async pickFree(adapter: Adapter, mac: string, pool: Pool, tag: number | null): Promise<number | undefined> {
    for (let tries = 0; tries < mostTries; tries += 1) {
      const before = pool.reserved.has(mac) || this.leases.has(mac);
      const ip = this.pick(mac, pool);
      if (ip === undefined || before || !(await this.host.neighbours.isTaken(adapter, ip, asksForMs, tag))) return ip;
      this.leases.delete(mac);
      this.leases.set(`taken ${ip}`, ip);
    }
    return undefined;
  }

  private pick(mac: string, pool: Pool): number | undefined {
    const { from, to, reserved } = pool;
    const own = reserved.get(mac);
    const kept = own !== undefined && isHost(pool, own) ? own : this.leases.get(mac);
    if (kept !== undefined) return kept;
    const taken = new Set([...this.leases.values(), ...reserved.values()]);
    for (let ip = from; ip <= to; ip += 1)
      if (isHost(pool, ip) && !taken.has(ip) && !this.host.owns(ip)) {
        this.leases.set(mac, ip);
        return ip;
      }
    return undefined;
  }

  private say(
    adapter: Adapter,
    { transaction, clientMac }: DhcpMessage,
    type: 'offer' | 'ack' | 'nak',
    { ip, pool, own }: { ip: number; pool: Pool; own: OwnAddress },
  ): void {
    const lease =
      type === 'nak'
        ? {}
        : {
            mask: (0xffffffff << (32 - pool.prefix)) >>> 0,
            leaseSeconds,
            ...(pool.gateway === null ? {} : { router: pool.gateway }),
          };
    const yourIp = type === 'nak' ? 0 : ip;
    const bytes = writeDhcp({ type, transaction, clientMac, clientIp: 0, yourIp, serverIp: own.ip, ...lease });
    this.host.broadcast(adapter, { from: serverPort, to: clientPort }, bytes, own);
  }
}

/** No server hands out the name of a network, the address of everybody in it, or one that is not in it (RFC 1122). */
function isHost({ network, prefix }: Pool, ip: number): boolean {
  const size = 2 ** (32 - prefix);
  const edge = prefix >= 31 ? 0 : 1;
  return ip >= network + edge && ip < network + size - edge;
}
