import { bridgeGroup, type Bpdu, type Frame } from '@deep-patch/codecs';
import type { SwitchPort } from './switch-port.ts';
import type { Scheduler } from './scheduler.ts';

const helloMs = 2000;
const forgetsAfterMs = 3 * helloMs;
/** A port stays shut until its neighbours had time to speak: no loop even for a moment. */
const listensMs = 60;
const hopCost = 4;
/** Changes are passed on so often at most: where frames run in circles, news of them would as well. */
const tellsEveryMs = 200;

type Role = 'root' | 'designated' | 'alternate';

interface PortState {
  readonly port: SwitchPort;
  role: Role;
  heard: { readonly bpdu: Bpdu; readonly at: number } | undefined;
  opensAt: number;
  hadCarrier: boolean;
}

/**
 * Spanning tree between managed switches (messages of IEEE 802.1D, point-to-point links that open without the long
 * wait, as in 802.1w): the lowest MAC address becomes root, every switch keeps its best way there, and of several
 * ways into one segment all but one are shut. Hosts never answer, so their ports are always designated.
 */
export class SpanningTree {
  private readonly ports = new Map<SwitchPort, PortState>();
  private root: string;
  private cost = 0;
  private cancel: (() => void) | undefined;
  private mayTellAt = 0;
  private cancelTelling: (() => void) | undefined;
  /** Who has still to be told of a change. */
  private readonly owed = new Set<SwitchPort>();
  private readonly scheduler: Scheduler;
  private readonly bridge: string;
  private readonly isPowered: () => boolean;
  private readonly onChange: () => void;
  /** Told of every message that leaves. */
  onSend: ((frame: Frame) => void) | undefined;
  /** Switched off, its switch behaves like a plain one. */
  active = true;

  constructor(scheduler: Scheduler, bridge: string, isPowered: () => boolean, onChange: () => void) {
    this.scheduler = scheduler;
    this.bridge = this.root = bridge;
    this.isPowered = isPowered;
    this.onChange = onChange;
  }

  add(port: SwitchPort): void {
    this.ports.set(port, { port, role: 'designated', heard: undefined, opensAt: 0, hadCarrier: false });
  }

  /** Starts anew, as after power came. */
  start(): void {
    this.cancel?.();
    const opensAt = this.scheduler.now() + listensMs;
    for (const state of this.ports.values())
      Object.assign(state, { role: 'designated', heard: undefined, opensAt, hadCarrier: hasCarrier(state) });
    [this.root, this.cost] = [this.bridge, 0];
    this.hello();
  }

  stop(): void {
    this.cancel?.();
    this.cancelTelling?.();
    this.cancel = this.cancelTelling = undefined;
    this.owed.clear();
  }

  forwards(port: SwitchPort): boolean {
    if (!this.active) return true;
    const state = this.ports.get(port);
    if (state) this.heedCarrier(state);
    return !state || (state.role !== 'alternate' && this.scheduler.now() >= state.opensAt);
  }

  isShut(port: SwitchPort): boolean {
    return this.active && this.ports.get(port)?.role === 'alternate';
  }

  /** Sockets that it shuts because another way leads there. */
  shut(): string[] {
    return [...this.ports.values()].flatMap(({ role, port }) =>
      this.active && role === 'alternate' ? [port.key] : [],
    );
  }

  hear(port: SwitchPort, bpdu: Bpdu): void {
    const state = this.ports.get(port);
    if (!state) return;
    this.heedCarrier(state);
    const known = state.heard?.bpdu;
    const replaces = !known || isSame(known, bpdu) || compare(bpdu, known) <= 0;
    if (replaces) state.heard = { bpdu, at: this.scheduler.now() };
    if (!known || !replaces || compare(bpdu, known) !== 0) this.decide();
    if (bpdu.change && bpdu.bridge !== this.bridge && state.role !== 'alternate') {
      this.onChange();
      this.tellChange(port);
    }
  }

  /** Looks at the lamps of its ports, as soon as anything was switched or plugged. */
  heedLinks(): void {
    if (!this.isPowered() || !this.active) return;
    for (const state of this.ports.values()) this.heedCarrier(state);
  }

  /** A cable that was plugged in leads who knows where: its port stays shut until the neighbour had time to speak. */
  private heedCarrier(state: PortState): void {
    const now = hasCarrier(state);
    if (now === state.hadCarrier) return;
    state.hadCarrier = now;
    state.heard = undefined;
    state.opensAt = this.scheduler.now() + listensMs;
    this.decide();
    this.speak();
  }

  private hello(): void {
    if (this.isPowered() && this.active) {
      const now = this.scheduler.now();
      let forgot = false;
      this.heedLinks();
      for (const state of this.ports.values())
        if (state.heard && now - state.heard.at > forgetsAfterMs) {
          state.heard = undefined;
          forgot = true;
        }
      if (forgot) this.decide();
      this.speak();
    }
    this.cancel = this.scheduler.after(helloMs, () => this.hello());
  }

  /** Passed on along the tree, away from where it came from (IEEE 802.1w section 17.19.43): never back, or it would never end. */
  private tellChange(from?: SwitchPort): void {
    for (const { port } of this.ports.values()) if (port !== from) this.owed.add(port);
    const wait = this.mayTellAt - this.scheduler.now();
    if (wait <= 0) this.tellOwed();
    // what comes too early is told later
    else this.cancelTelling ??= this.scheduler.after(wait, () => this.tellOwed());
  }

  private tellOwed(): void {
    this.cancelTelling = undefined;
    this.mayTellAt = this.scheduler.now() + tellsEveryMs;
    const owed = [...this.owed];
    this.owed.clear();
    for (const port of owed) {
      const role = this.ports.get(port)?.role;
      if (role !== undefined && role !== 'alternate' && port.cable) this.send(port, true);
    }
  }

  private speak(): void {
    for (const { port, role } of this.ports.values()) if (role === 'designated' && port.cable) this.send(port, false);
  }

  private send(port: SwitchPort, change: boolean): void {
    const body = { ...this.says(port), change };
    if (!port.cable?.hasCarrier()) return;
    const frame: Frame = { to: bridgeGroup, from: portMac(this.bridge, port.number), vlan: null, body };
    this.onSend?.(frame);
    port.cable.send(port, frame);
  }

  private says(port: SwitchPort): Bpdu {
    const { root, cost, bridge } = this;
    return { kind: 'bpdu', root, cost, bridge, port: port.number, change: false };
  }

  private decide(): void {
    const before = this.summary();
    const ways = [...this.ports.values()].flatMap((state) =>
      state.heard && state.heard.bpdu.bridge !== this.bridge ? [{ state, bpdu: state.heard.bpdu }] : [],
    );
    ways.sort((a, b) => compare(a.bpdu, b.bpdu) || a.state.port.number - b.state.port.number);
    const best = ways[0];
    const hasBetter = best !== undefined && best.bpdu.root < this.bridge;
    this.root = hasBetter ? best.bpdu.root : this.bridge;
    this.cost = hasBetter ? best.bpdu.cost + hopCost : 0;
    for (const state of this.ports.values()) {
      const heard = state.heard?.bpdu;
      if (hasBetter && state === best.state) state.role = 'root';
      else state.role = heard && compare(heard, this.says(state.port)) < 0 ? 'alternate' : 'designated';
    }
    if (this.summary() === before) return;
    this.onChange();
    this.speak();
    this.tellChange();
  }

  private summary(): string {
    return [this.root, this.cost, ...[...this.ports.values()].map(({ role }) => role)].join(' ');
  }
}

/**
 * The address of a port (IEEE 802.1D section 7.12.1): another one than that of the switch's own adapter, so that nobody
 * learns from bridge messages where that is.
 */
export const portMac = (bridge: string, port: number): string =>
  ['06', port.toString(16).padStart(2, '0'), ...bridge.split(':').slice(2)].join(':');

const hasCarrier = ({ port }: PortState): boolean => port.cable?.hasCarrier() ?? false;

/** The better message is the lesser: by root, cost, bridge and port (IEEE 802.1D section 8.6.2). */
function compare(a: Bpdu, b: Bpdu): number {
  if (a.root !== b.root) return a.root < b.root ? -1 : 1;
  if (a.cost !== b.cost) return a.cost - b.cost;
  if (a.bridge !== b.bridge) return a.bridge < b.bridge ? -1 : 1;
  return a.port - b.port;
}

const isSame = (a: Bpdu, b: Bpdu): boolean => a.bridge === b.bridge && a.port === b.port;
