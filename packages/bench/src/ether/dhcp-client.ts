import { readDhcpMessage, writeDhcp, type DhcpMessage } from '@deep-patch/codecs';
import type { Adapter, Datagram, Host } from './host.ts';
import { selfAssign } from './self-assign.ts';

export const clientPort = 68;
const serverPort = 67;
const answersWithinMs = 600;
const attempts = 3;
const asksAgainMs = 10_000;

/**
 * Gets an address for an adapter by RFC 2131: discover, request, renew after half of the lease. Without an answer the
 * host gives itself one of 169.254/16 and keeps asking, as operating systems do.
 */
export class DhcpClient {
  private readonly host: Host;
  private readonly adapter: Adapter;
  private readonly hostName: string;
  private readonly onChange: () => void;
  private transaction: number;
  private hear: ((message: DhcpMessage) => void) | undefined;
  private close: (() => void) | undefined;
  private running = 0;

  constructor(host: Host, adapter: Adapter, hostName: string, onChange: () => void = () => undefined) {
    this.host = host;
    this.adapter = adapter;
    this.hostName = hostName;
    this.onChange = onChange;
    this.transaction = parseInt(adapter.mac.replaceAll(':', '').slice(-8), 16);
  }

  /** `self` asks nobody and takes one of its own at once. */
  start(method: 'dhcp' | 'self', remembered: number | null = null): void {
    this.running += 1;
    if (method === 'self') {
      const run = this.running;
      void selfAssign(this.host, this.adapter, () => this.running === run, remembered).then(this.onChange);
      return;
    }
    const take = ({ bytes }: Datagram): void => {
      const message = readDhcpMessage(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
      if (message?.clientMac === this.adapter.mac && message.transaction === this.transaction) this.hear?.(message);
    };
    // one client of the system serves every adapter
    this.close = this.host.listen(clientPort, take) ?? this.host.tapInto(clientPort, take);
    void this.work(this.running);
  }

  stop(): void {
    this.running += 1;
    this.close?.();
    this.close = undefined;
  }

  /** Until it is stopped: an address from a server, its renewal, or one of its own. */
  private async work(run: number): Promise<void> {
    while (this.running === run) {
      const lease = await this.obtain();
      if (this.running !== run) return;
      if (lease) {
        this.take(lease);
        await this.wait(((lease.leaseSeconds ?? 600) * 1000) / 2);
        continue;
      }
      if (!this.adapter.addresses.some(({ leased }) => leased)) {
        await selfAssign(this.host, this.adapter, () => this.running === run);
        this.onChange();
      }
      await this.wait(asksAgainMs);
    }
  }

  private async obtain(): Promise<DhcpMessage | undefined> {
    for (let attempt = 0; attempt < attempts; attempt += 1) {
      const offer = await this.ask({ type: 'discover' }, 'offer');
      if (!offer) continue;
      const ack = await this.ask(
        {
          type: 'request',
          requestedIp: offer.yourIp,
          ...(offer.serverIp === undefined ? {} : { serverIp: offer.serverIp }),
        },
        'ack',
      );
      if (ack) return ack;
    }
    return undefined;
  }

  private ask(
    message: Pick<DhcpMessage, 'type' | 'requestedIp' | 'serverIp'>,
    wanted: DhcpMessage['type'],
  ): Promise<DhcpMessage | undefined> {
    this.transaction = (this.transaction + 1) >>> 0;
    const { transaction, hostName } = this;
    const bytes = writeDhcp({
      ...message,
      transaction,
      hostName,
      clientMac: this.adapter.mac,
      clientIp: 0,
      yourIp: 0,
    });
    return new Promise((done) => {
      const cancel = this.host.scheduler.after(answersWithinMs, () => done(undefined));
      this.hear = (answer) => {
        if (answer.type !== wanted && answer.type !== 'nak') return;
        cancel();
        done(answer.type === wanted ? answer : undefined);
      };
      this.host.broadcast(this.adapter, { from: clientPort, to: serverPort }, bytes);
    });
  }

  private take({ yourIp, mask, router }: DhcpMessage): void {
    const prefix = mask === undefined ? 24 : Math.clz32(~mask >>> 0);
    const known = this.adapter.addresses.find(({ leased }) => leased);
    if (known?.ip === yourIp && known.prefix === prefix) return;
    const fixed = this.adapter.addresses.filter(({ leased }) => !leased);
    this.adapter.addresses = [...fixed, { ip: yourIp, prefix, gateway: router ?? null, tag: null, leased: true }];
    this.host.neighbours.announce(this.adapter);
    this.onChange();
  }

  private wait(ms: number): Promise<void> {
    return new Promise((done) => void this.host.scheduler.after(ms, done));
  }
}
