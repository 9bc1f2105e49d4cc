import { readDhcpMessage, writeDhcp, type DhcpMessage } from '@deep-patch/codecs';
import type { Adapter, Datagram, Host } from './host.ts';
import { SelfAssignment } from './self-assign.ts';

export const clientPort = 68;
const serverPort = 67;
/** The bench does not try the patience of those who watch: RFC 2131 section 4.1 would wait for 4, 8 and 16 seconds. */
const answersWithinMs = 600;
const attempts = 3;
const asksAgainMs = 10_000;
/** After an address was declined (RFC 2131 section 3.1.5). */
const declinedMs = 10_000;
const leastRenewalMs = 60_000;
/** Subnet mask, router, lease time, T1 and T2 (RFC 2132). */
const wanted = [1, 3, 51, 58, 59];
const everyLease = 600;

/** What a unit remembers of its leases over a restart, by adapter. */
export type LeaseMemory = Map<string, number>;

interface Exchange {
  readonly transaction: number;
  readonly startedAt: number;
}

/**
 * Gets an address for an adapter and keeps it by RFC 2131: asks for the one that it remembers, else discovers;
 * probes what it is given and declines what somebody has; renews with its server after half of the lease, with any
 * server after seven eighths, and lets go of the address when the lease is over. Without an answer the host gives
 * itself one of 169.254/16 and keeps asking, as operating systems do.
 */
export class DhcpClient {
  /** Fulfilled when it has an address for the first time, or has ended. */
  readonly settled: Promise<void>;
  private readonly host: Host;
  private readonly adapter: Adapter;
  private readonly hostName: string;
  private readonly memory: LeaseMemory;
  private readonly own: SelfAssignment;
  private settle: () => void = () => undefined;
  private exchange: Exchange = { transaction: 0, startedAt: 0 };
  private hear: ((message: DhcpMessage) => void) | undefined;
  private close: (() => void) | undefined;
  private running = 0;
  /** Ends what it waits for: half a lease may be half a day, and whoever waits is kept. */
  private wake: (() => void) | undefined;
  private transaction: number;

  constructor(host: Host, adapter: Adapter, hostName: string, memory: LeaseMemory = new Map()) {
    this.host = host;
    this.adapter = adapter;
    this.hostName = hostName;
    this.memory = memory;
    this.own = new SelfAssignment(host, adapter);
    this.transaction = parseInt(adapter.mac.replaceAll(':', '').slice(-8), 16);
    this.settled = new Promise((done) => (this.settle = done));
  }

  /** `self` asks nobody and takes one of its own at once. */
  start(method: 'dhcp' | 'self', remembered: number | null = null): void {
    this.running += 1;
    if (method === 'self') {
      void this.own.start(remembered).then(this.settle);
      return;
    }
    const take = ({ bytes }: Datagram): void => {
      const message = readDhcpMessage(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
      if (message?.clientMac === this.adapter.mac && message.transaction === this.exchange.transaction)
        this.hear?.(message);
    };
    // one client of the system serves every adapter
    this.close = this.host.listen(clientPort, take) ?? this.host.tapInto(clientPort, take);
    void this.work(this.running);
  }

  stop(): void {
    this.running += 1;
    this.wake?.();
    this.own.stop();
    this.close?.();
    this.close = undefined;
    this.settle();
  }

  /** Until it is stopped: an address from a server, its renewal, or one of its own. */
  private async work(run: number): Promise<void> {
    let known = this.memory.get(this.adapter.key);
    let declined = 0;
    while (this.running === run) {
      const lease = (known === undefined ? undefined : await this.reboot(known)) ?? (await this.obtain());
      known = undefined;
      if (this.running !== run) return;
      if (!lease) {
        await this.doWithout(run);
        continue;
      }
      const isTaken = await this.host.neighbours.isTaken(this.adapter, lease.yourIp);
      if (this.running !== run) return;
      if (isTaken) {
        this.decline(lease);
        // what it gets after that is what it has; somebody who declines again and again has nothing
        if (declined > 0) this.settle();
        declined += 1;
        await this.wait(declinedMs);
        continue;
      }
      declined = 0;
      this.own.stop();
      this.take(lease);
      this.settle();
      await this.keep(lease, run);
      if (this.running === run) this.letGo();
    }
  }

  private async doWithout(run: number): Promise<void> {
    if (!this.adapter.addresses.some(({ leased }) => leased)) await this.own.start(null);
    if (this.running !== run) return;
    this.settle();
    await this.wait(asksAgainMs);
  }

  /** Asks whether it may use the address that it remembers (INIT-REBOOT, RFC 2131 section 3.2). */
  private async reboot(requestedIp: number): Promise<DhcpMessage | undefined> {
    this.begin();
    const answer = await this.ask({ type: 'request', requestedIp }, ['ack', 'nak']);
    return answer?.type === 'ack' ? answer : undefined;
  }

  /** Discovers servers and takes the first offer; one transaction number holds the exchange together. */
  private async obtain(): Promise<DhcpMessage | undefined> {
    this.begin();
    for (let attempt = 0; attempt < attempts; attempt += 1) {
      const offer = await this.ask({ type: 'discover' }, ['offer']);
      if (!offer) continue;
      const { yourIp: requestedIp, serverIp } = offer;
      const answer = await this.ask({ type: 'request', requestedIp, ...present(serverIp) }, ['ack', 'nak']);
      if (answer?.type === 'ack') return answer;
      this.begin();
    }
    return undefined;
  }

  /** Renews until the lease is over or a server says no. */
  private async keep(first: DhcpMessage, run: number): Promise<void> {
    let lease = first;
    for (;;) {
      const from = this.host.scheduler.now();
      const seconds = lease.leaseSeconds ?? everyLease;
      const [t1, t2] = [lease.renewSeconds ?? seconds / 2, lease.rebindSeconds ?? (seconds * 7) / 8];
      await this.wait(t1 * 1000);
      if (this.running !== run) return;
      this.begin();
      const answer =
        (await this.renew(lease.yourIp, lease.serverIp, from + t2 * 1000, run)) ??
        (await this.renew(lease.yourIp, undefined, from + seconds * 1000, run));
      if (this.running !== run || answer?.type !== 'ack') return;
      lease = answer;
      this.take(lease);
    }
  }

  /** Asks its server, or anybody, until a time; waits half of what is left between two tries (section 4.4.5). */
  private async renew(
    clientIp: number,
    server: number | undefined,
    until: number,
    run: number,
  ): Promise<DhcpMessage | undefined> {
    for (let left = until - this.host.scheduler.now(); left > 0; left = until - this.host.scheduler.now()) {
      const started = this.host.scheduler.now();
      const answer = await this.ask({ type: 'request', clientIp }, ['ack', 'nak'], server);
      if (answer || this.running !== run) return answer;
      const pause = Math.min(left, Math.max(left / 2, leastRenewalMs));
      await this.wait(started + pause - this.host.scheduler.now());
      if (this.running !== run) return undefined;
    }
    return undefined;
  }

  private decline({ yourIp, serverIp }: DhcpMessage): void {
    this.memory.delete(this.adapter.key);
    this.say({ type: 'decline', requestedIp: yourIp, ...present(serverIp) });
  }

  private begin(): void {
    this.transaction = (this.transaction + 1) >>> 0;
    this.exchange = { transaction: this.transaction, startedAt: this.host.scheduler.now() };
  }

  private ask(
    message: Partial<DhcpMessage> & Pick<DhcpMessage, 'type'>,
    answers: readonly DhcpMessage['type'][],
    server?: number,
  ): Promise<DhcpMessage | undefined> {
    return new Promise((done) => {
      const cancel = this.host.scheduler.after(answersWithinMs, () => done(undefined));
      this.hear = (answer) => {
        if (!answers.includes(answer.type)) return;
        this.hear = undefined;
        cancel();
        done(answer);
      };
      this.say(message, server);
    });
  }

  /** To everybody, or to one server from the address that it has. */
  private say(message: Partial<DhcpMessage> & Pick<DhcpMessage, 'type'>, server?: number): void {
    const { transaction, startedAt } = this.exchange;
    const { mac } = this.adapter;
    const bytes = writeDhcp({
      clientIp: 0,
      yourIp: 0,
      ...message,
      transaction,
      hostName: this.hostName,
      clientMac: mac,
      // the hardware type goes before the address (RFC 2132 section 9.14)
      clientId: `01${mac.replaceAll(':', '')}`,
      wants: message.type === 'decline' ? [] : wanted,
      broadcast: server === undefined && (message.clientIp ?? 0) === 0,
      seconds: Math.round((this.host.scheduler.now() - startedAt) / 1000),
    });
    const ports = { from: clientPort, to: serverPort };
    if (server !== undefined) void this.host.sendUdp(server, ports, bytes);
    else {
      const own = this.adapter.addresses.find(({ ip }) => ip === message.clientIp);
      this.host.broadcast(this.adapter, ports, bytes, own);
    }
  }

  private take({ yourIp, mask, router }: DhcpMessage): void {
    this.memory.set(this.adapter.key, yourIp);
    const prefix = mask === undefined ? 24 : Math.clz32(~mask >>> 0);
    const known = this.adapter.addresses.find(({ leased }) => leased);
    if (known?.ip === yourIp && known.prefix === prefix && known.gateway === (router ?? null)) return;
    const fixed = this.adapter.addresses.filter(({ leased }) => !leased);
    this.adapter.addresses = [...fixed, { ip: yourIp, prefix, gateway: router ?? null, tag: null, leased: true }];
    this.host.neighbours.announce(this.adapter);
  }

  private letGo(): void {
    this.memory.delete(this.adapter.key);
    this.adapter.addresses = this.adapter.addresses.filter(({ leased }) => !leased);
  }

  private wait(ms: number): Promise<void> {
    return new Promise((done) => {
      const cancel = this.host.scheduler.after(Math.max(0, ms), done);
      this.wake = () => {
        cancel();
        done();
      };
    });
  }
}

const present = (serverIp: number | undefined): Pick<DhcpMessage, 'serverIp'> =>
  serverIp === undefined ? {} : { serverIp };
