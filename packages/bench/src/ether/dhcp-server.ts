import { readDhcpMessage, writeDhcp, type DhcpMessage } from '@deep-patch/codecs';
import type { Adapter, Host } from './host.ts';

export interface Pool {
  readonly network: number;
  readonly prefix: number;
  readonly from: number;
  readonly to: number;
  readonly gateway: number | null;
  /** Addresses that are kept for one MAC address each. */
  readonly reserved: ReadonlyMap<string, number>;
}

const leaseSeconds = 600;
const [serverPort, clientPort] = [67, 68];

/**
 * Hands out addresses by RFC 2131: the reserved one, the one that the client has, else the lowest that nobody has. It
 * keeps its leases in working memory, as small routers do: after a power cut they are forgotten and addresses may move.
 */
export class DhcpServer {
  readonly leases = new Map<string, number>();
  private readonly host: Host;
  private readonly pools: readonly Pool[];
  /** Switched off it stays silent. */
  active = true;

  constructor(host: Host, pools: readonly Pool[]) {
    this.host = host;
    this.pools = pools;
  }

  start(): void {
    this.leases.clear();
    this.host.listen(serverPort, ({ bytes, adapter }) => {
      const message = readDhcpMessage(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
      if (message && adapter && this.active) this.answer(message, adapter);
    });
  }

  private answer(message: DhcpMessage, adapter: Adapter): void {
    const own = adapter.addresses.find((address) => this.poolOf(address.ip) !== undefined);
    const pool = own && this.poolOf(own.ip);
    if (!own || !pool) return;
    const wanted = message.requestedIp ?? message.clientIp;
    if (message.type === 'request' && message.serverIp !== undefined && message.serverIp !== own.ip) return;
    if (message.type === 'discover') {
      const ip = this.pick(message.clientMac, pool);
      if (ip !== undefined) this.say(adapter, message, 'offer', { ip, pool, own: own.ip });
    } else if (message.type === 'request') {
      const ip = this.pick(message.clientMac, pool);
      // somebody who asks for what is another's by now has to start anew
      this.say(adapter, message, ip !== undefined && ip === wanted ? 'ack' : 'nak', { ip: ip ?? 0, pool, own: own.ip });
    } else if (message.type === 'release') this.leases.delete(message.clientMac);
  }

  private poolOf(ip: number): Pool | undefined {
    return this.pools.find(({ network, prefix }) => (ip ^ network) >>> (32 - prefix) === 0);
  }

  private pick(mac: string, { from, to, reserved }: Pool): number | undefined {
    const kept = reserved.get(mac) ?? this.leases.get(mac);
    if (kept !== undefined) return kept;
    const taken = new Set([...this.leases.values(), ...reserved.values()]);
    for (let ip = from; ip <= to; ip += 1)
      if (!taken.has(ip)) {
        this.leases.set(mac, ip);
        return ip;
      }
    return undefined;
  }

  private say(
    adapter: Adapter,
    { transaction, clientMac }: DhcpMessage,
    type: 'offer' | 'ack' | 'nak',
    { ip, pool, own }: { ip: number; pool: Pool; own: number },
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
    const bytes = writeDhcp({ type, transaction, clientMac, clientIp: 0, yourIp, serverIp: own, ...lease });
    this.host.broadcast(adapter, { from: serverPort, to: clientPort }, bytes);
  }
}
