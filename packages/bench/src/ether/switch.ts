import { bridgeGroup, everybody, type Frame } from '@deep-patch/codecs';
import type { Port } from './cable.ts';
import type { Scheduler } from './scheduler.ts';
import { SpanningTree } from './spanning-tree.ts';

const agesAfterMs = 300_000;
/** In a tree a switch floods each frame once; one that comes by so often runs in circles. */
const mostPasses = 6;
const stormMs = 2000;
/** As many places as a small switch remembers. */
const mostLearnt = 8192;
const nativeVlan = 1;

/** `access`: one VLAN without tags; `trunk`: several with tags (IEEE 802.1Q), the native one without. */
export type Membership =
  { readonly mode: 'access'; readonly vlan: number } | { readonly mode: 'trunk'; readonly vlans: readonly number[] };

export interface SwitchPort extends Port {
  readonly key: string;
  readonly number: number;
}

/**
 * A bridge that learns which MAC address sits behind which socket and floods what it does not know (IEEE 802.1D
 * section 7). Learnt places age out after five minutes. A managed one also honours VLANs and runs spanning tree; a
 * plain one passes tags and bridge messages on like anything else. Where frames run in circles it lights all lamps
 * and passes nothing for a while, as a flooded network does.
 */
export class Switch {
  readonly ports = new Map<string, SwitchPort>();
  readonly tree: SpanningTree | undefined;
  /** By socket; a managed switch puts sockets without an entry into VLAN 1. Set by whoever configures it. */
  membership = new Map<string, Membership>();
  private readonly learnt = new Map<string, { readonly port: Port; readonly at: number }>();
  private readonly passes = new WeakMap<Frame['body'], number>();
  private stormUntil = 0;
  private readonly scheduler: Scheduler;
  private readonly isPowered: () => boolean;
  private readonly managed: boolean;

  /** `bridge` is the MAC address by which a managed switch takes part in spanning tree; a plain one has none. */
  constructor(scheduler: Scheduler, isPowered: () => boolean, bridge?: string) {
    this.scheduler = scheduler;
    this.isPowered = isPowered;
    this.managed = bridge !== undefined;
    if (bridge !== undefined) this.tree = new SpanningTree(scheduler, bridge, isPowered, () => this.learnt.clear());
  }

  addPort(key: string, joinsTree = true): Port {
    const port: SwitchPort = {
      key,
      number: this.ports.size + 1,
      cable: undefined,
      isPowered: this.isPowered,
      receive: (frame) => this.take(port, frame),
    };
    this.ports.set(key, port);
    if (joinsTree) this.tree?.add(port);
    return port;
  }

  isStorming(): boolean {
    return this.scheduler.now() < this.stormUntil;
  }

  /** Ends a storm at once, as when the loop is pulled out. */
  calm(): void {
    this.stormUntil = 0;
    this.learnt.clear();
  }

  private take(from: SwitchPort, frame: Frame): void {
    if (this.tree?.active && frame.to === bridgeGroup) {
      if (frame.body.kind === 'bpdu') this.tree.hear(from, frame.body);
      return;
    }
    if (this.isStorming() || !this.forwards(from)) return;
    const vlan = this.managed ? this.vlanIn(from, frame) : null;
    if (vlan === undefined) return;
    this.forward(from, frame, vlan);
  }

  private forward(from: SwitchPort, frame: Frame, vlan: number | null): void {
    if (this.learnt.size >= mostLearnt) this.learnt.clear();
    this.learnt.set(`${vlan} ${frame.from}`, { port: from, at: this.scheduler.now() });
    const known = isGroup(frame.to) ? undefined : this.learnt.get(`${vlan} ${frame.to}`);
    if (known && this.scheduler.now() - known.at < agesAfterMs) {
      if (known.port !== from) this.emit(known.port as SwitchPort, frame, vlan);
      return;
    }
    if (this.circles(frame)) return;
    for (const port of this.ports.values()) if (port !== from) this.emit(port, frame, vlan);
  }

  /** Notices a frame that keeps coming back, and contains the storm: it would fill every cable at once. */
  private circles({ body }: Frame): boolean {
    const passes = (this.passes.get(body) ?? 0) + 1;
    this.passes.set(body, passes);
    if (passes <= mostPasses) return false;
    this.stormUntil = this.scheduler.now() + stormMs;
    return true;
  }

  private emit(port: SwitchPort, frame: Frame, vlan: number | null): void {
    if (!port.cable || !this.forwards(port)) return;
    if (vlan === null) port.cable.send(port, frame);
    else {
      const tag = this.tagOut(port, vlan);
      if (tag !== undefined) port.cable.send(port, frame.vlan === tag ? frame : { ...frame, vlan: tag });
    }
  }

  private forwards(port: SwitchPort): boolean {
    return this.tree?.forwards(port) ?? true;
  }

  private vlanIn(port: SwitchPort, { vlan }: Frame): number | undefined {
    const member = this.membership.get(port.key) ?? { mode: 'access', vlan: nativeVlan };
    if (member.mode === 'access') return vlan === null || vlan === member.vlan ? member.vlan : undefined;
    const inner = vlan ?? nativeVlan;
    return inner === nativeVlan || member.vlans.includes(inner) ? inner : undefined;
  }

  /** The tag that a frame leaves with, null for none, undefined where the VLAN does not leave. */
  private tagOut(port: SwitchPort, vlan: number): number | null | undefined {
    const member = this.membership.get(port.key) ?? { mode: 'access', vlan: nativeVlan };
    if (member.mode === 'access') return member.vlan === vlan ? null : undefined;
    if (vlan === nativeVlan) return null;
    return member.vlans.includes(vlan) ? vlan : undefined;
  }
}

const isGroup = (mac: string): boolean => mac === everybody || (parseInt(mac.slice(0, 2), 16) & 1) === 1;
