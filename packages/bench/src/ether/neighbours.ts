import { everybody, type Arp, type Frame } from '@deep-patch/codecs';
import type { Scheduler } from './scheduler.ts';
import type { Adapter, OwnAddress, Route } from './ways.ts';

const arpWaitMs = 400;
const announceAgainMs = 2000;
const defendsEveryMs = 10_000;
/** A neighbour table that is full starts anew. */
const mostNeighbours = 4096;

/**
 * Who has which address where the adapters of one machine sit: it asks, answers for its own addresses, probes those
 * that it may take and defends those that it has (RFC 826, RFC 5227). Each interface knows its neighbours apart.
 */
export class Neighbours {
  /** Own addresses that somebody else claims too, with the MAC address of that claim (RFC 5227). */
  readonly conflicts = new Map<number, string>();
  private readonly known = new Map<string, string>();
  private readonly asking = new Map<string, { macs: Set<string>; done: (() => void)[] }>();
  /** Addresses that are being probed, by interface. */
  private readonly claims = new Map<string, () => void>();
  private readonly defended = new Map<number, number>();
  /** Who wants to know that an address of an adapter is contradicted. */
  private readonly watched = new Map<string, { readonly ip: number; readonly onClash: () => void }>();
  private readonly scheduler: Scheduler;
  private readonly adapters: readonly Adapter[];
  private readonly send: (adapter: Adapter, frame: Frame) => void;

  constructor(scheduler: Scheduler, adapters: readonly Adapter[], send: (adapter: Adapter, frame: Frame) => void) {
    this.scheduler = scheduler;
    this.adapters = adapters;
    this.send = send;
  }

  /** A power cut takes away all that was learnt. */
  forget(): void {
    for (const map of [this.known, this.claims, this.conflicts, this.defended, this.watched]) map.clear();
  }

  /** The MAC address of a next hop, where it was learnt. */
  knownMacOf({ adapter, own, next }: Route): string | undefined {
    return this.known.get(neighbour(adapter, own.tag, next));
  }

  /** What was learnt of a next hop may be of the past. */
  doubt({ adapter, own, next }: Route): void {
    this.known.delete(neighbour(adapter, own.tag, next));
  }

  /** The MAC address of a next hop: as it is known, or whoever answers first. */
  async macOf(way: Route): Promise<string | undefined> {
    return this.knownMacOf(way) ?? (await this.ask(way, false))[0];
  }

  /** Asks through one adapter, or one VLAN of it, whether anybody has an address, claiming none (RFC 5227 section 2.1.1). */
  async isTaken(adapter: Adapter, ip: number, waitMs = 200, tag: number | null = null): Promise<boolean> {
    let taken = false;
    const probed = neighbour(adapter, tag, ip);
    this.claims.set(probed, () => (taken = true));
    this.sendArp(adapter, { asks: true, senderIp: 0, targetIp: ip }, tag);
    await new Promise<void>((done) => void this.scheduler.after(waitMs, done));
    this.claims.delete(probed);
    return taken;
  }

  /** Tells whenever somebody else claims the address that an adapter gave itself. */
  watch({ key }: Adapter, ip: number, onClash: () => void): void {
    this.watched.set(key, { ip, onClash });
  }

  unwatch({ key }: Adapter): void {
    this.watched.delete(key);
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

  /** Asks who has an address; after the whole wait two answers are two owners: then it asks twice, since a frame may be lost. */
  ask({ adapter, own, next }: Route, wholeWait: boolean): Promise<string[]> {
    const key = neighbour(adapter, own.tag, next);
    const open = this.asking.get(key) ?? { macs: new Set<string>(), done: [] };
    this.asking.set(key, open);
    // whoever was restarted meanwhile asks in the name of no address that it has no more
    const question = () => {
      if (adapter.addresses.some(({ ip }) => ip === own.ip))
        this.sendArp(adapter, { asks: true, senderIp: own.ip, targetIp: next }, own.tag);
    };
    question();
    return new Promise((done) => {
      const stopAgain = wholeWait ? this.scheduler.after(arpWaitMs / 2, question) : undefined;
      const finish = () => {
        cancel();
        stopAgain?.();
        this.asking.delete(key);
        done([...open.macs]);
      };
      const cancel = this.scheduler.after(arpWaitMs, finish);
      if (!wholeWait) open.done.push(finish);
    });
  }

  /** Takes in what was asked, answered or claimed. */
  take(adapter: Adapter, arp: Arp, vlan: number | null): void {
    // an address belongs to the VLAN of its tagged interface only
    const own = adapter.addresses.find(({ ip, tag }) => ip === arp.targetIp && tag === vlan);
    this.claims.get(neighbour(adapter, vlan, arp.senderIp))?.();
    // two who probe for one address at once are a conflict as well (RFC 5227 section 2.1.1)
    const isOurs = this.adapters.some(({ mac }) => mac === arp.senderMac);
    if (arp.asks && arp.senderIp === 0 && !isOurs) this.claims.get(neighbour(adapter, vlan, arp.targetIp))?.();
    const claimed = adapter.addresses.find(({ ip, tag }) => ip === arp.senderIp && tag === vlan);
    if (claimed && arp.senderMac !== adapter.mac) {
      this.conflicts.set(arp.senderIp, arp.senderMac);
      this.defend(adapter, claimed);
      const watch = this.watched.get(adapter.key);
      if (watch?.ip === arp.senderIp) watch.onClash();
    }
    const sender = neighbour(adapter, vlan, arp.senderIp);
    if (arp.asks) {
      if (this.known.has(sender)) this.known.set(sender, arp.senderMac);
      if (!own) return;
      const body: Arp = { kind: 'arp', asks: false, senderMac: adapter.mac, senderIp: own.ip, targetIp: arp.senderIp };
      this.send(adapter, { to: arp.senderMac, from: adapter.mac, vlan, body });
      return;
    }
    if (this.known.size >= mostNeighbours) this.known.clear();
    this.known.set(sender, arp.senderMac);
    const open = this.asking.get(sender);
    open?.macs.add(arp.senderMac);
    for (const done of open?.done ?? []) done();
  }

  /** Says once in a while whose an address is, so that others do not keep a wrong answer (RFC 5227 section 2.4). */
  private defend(adapter: Adapter, { ip, tag }: OwnAddress): void {
    const now = this.scheduler.now();
    if (now - (this.defended.get(ip) ?? -Infinity) < defendsEveryMs) return;
    this.defended.set(ip, now);
    this.sendArp(adapter, { asks: true, senderIp: ip, targetIp: ip }, tag);
  }

  private sendArp(adapter: Adapter, arp: Pick<Arp, 'asks' | 'senderIp' | 'targetIp'>, vlan: number | null): void {
    const body: Arp = { kind: 'arp', senderMac: adapter.mac, ...arp };
    this.send(adapter, { to: everybody, from: adapter.mac, vlan, body });
  }
}

/** An address as one interface of an adapter knows it. */
const neighbour = ({ key }: Adapter, tag: number | null, ip: number): string => `${key} ${tag} ${ip}`;
