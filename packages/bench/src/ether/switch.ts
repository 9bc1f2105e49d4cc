import { bridgeGroup, everybody, type Frame } from '@deep-patch/codecs';
import type { Port } from './cable.ts';
import type { Scheduler } from './scheduler.ts';
import { SpanningTree } from './spanning-tree.ts';
import type { SwitchPort } from './switch-port.ts';

const agesAfterMs = 300_000;
/** In a tree a switch floods each frame once; one that comes by so often runs in circles. */
const mostPasses = 3;
const stormMs = 2000;
/** After it was noticed, as long as switches need to open their sockets one after the other. */
const floodsAgainMs = [80, 160, 240];
/** So long before a storm would end, a frame is sent to see whether it still runs in circles. */
const looksBeforeMs = 100;
/** So long after a storm was noticed, the sockets of its circle are looked for: all switches know of it by then. */
const findsAfterMs = 300;
/** As many places as a small switch remembers. */
const mostLearnt = 8192;
const nativeVlan = 1;

/** `access`: one VLAN without tags; `trunk`: several with tags (IEEE 802.1Q), the native one without. */
export type Membership =
  | { readonly mode: 'access'; readonly vlan: number }
  | { readonly mode: 'trunk'; readonly vlans: readonly number[] }
  /** Set by hand: what comes without a tag belongs to one VLAN or is dropped, tags pass where they are listed. */
  | { readonly mode: 'by-hand'; readonly untagged: number | null; readonly tagged: readonly number[] };

/**
 * A bridge that learns which MAC address sits behind which socket and floods what it does not know (IEEE 802.1D
 * section 7). Learnt places age out after five minutes. A managed one also honours VLANs and runs spanning tree; a
 * plain one passes tags and bridge messages on like anything else. Where frames run in circles it lights all lamps
 * and passes nothing, as a flooded network does, and so does every switch of that broadcast domain: until the circle
 * is broken.
 */
export class Switch {
  readonly ports = new Map<string, SwitchPort>();
  readonly tree: SpanningTree | undefined;
  /** By socket; a managed switch puts sockets without an entry into VLAN 1. Set by whoever configures it. */
  membership = new Map<string, Membership>();
  private readonly learnt = new Map<string, Place>();
  private readonly passes = new WeakMap<Frame['body'], number>();
  /** By VLAN, or by tag where a switch passes tags on without knowing them. */
  private readonly stormUntil = new Map<number | null, number>();
  private readonly looking = new Set<number | null>();
  /** Sockets by which frames came back that had passed here. */
  private readonly cameBack = new Set<SwitchPort>();
  /** Sockets that frames left by and came back through another one: both ends of a circle. */
  private readonly circle = new Set<string>();
  private ended = false;
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
      passesOn: true,
      receive: (frame) => this.take(port, frame),
    };
    this.ports.set(key, port);
    if (joinsTree) this.tree?.add(port);
    return port;
  }

  /** Takes sockets away that somebody added. */
  drop(...keys: readonly string[]): void {
    for (const key of keys) {
      this.ports.delete(key);
      this.membership.delete(key);
    }
  }

  isStorming(): boolean {
    return [...this.stormUntil.values()].some((until) => this.scheduler.now() < until);
  }

  /** Sockets that lie on a circle: what leaves by one of them comes back through another one. */
  circling(): string[] {
    return this.isStorming() ? [...this.circle] : [];
  }

  /** Ends a storm at once, as when the loop is pulled out. */
  calm(): void {
    this.stormUntil.clear();
    this.cameBack.clear();
    this.circle.clear();
    this.learnt.clear();
  }

  /** Ends everything that it would still do by itself. */
  end(): void {
    this.ended = true;
    this.tree?.stop();
  }

  private take(from: SwitchPort, frame: Frame): void {
    if (this.tree?.active && frame.to === bridgeGroup && !floods.has(frame.body)) {
      if (frame.body.kind === 'bpdu') this.tree.hear(from, frame.body);
      return;
    }
    const sent = probes.get(frame.body);
    if (sent?.by === this && sent.out !== from) for (const { key } of [sent.out, from]) this.circle.add(key);
    const isFlood = floods.has(frame.body);
    // a socket that is not open yet is flooded all the same; one that is shut keeps the storm out
    if (!this.forwards(from) && !(isFlood && !this.tree?.isShut(from))) return;
    const vlan = this.managed ? this.vlanIn(from, frame) : null;
    if (vlan === undefined) return;
    if (isFlood) this.flooded(from, frame, vlan);
    else if (!this.stormsIn(vlan ?? frame.vlan) || circling.has(frame.body) || frame.to === bridgeGroup)
      this.forward(from, frame, vlan);
    else this.pushBack(from, frame, vlan);
  }

  /** A flooded switch fills every cable all the time: whoever talks to it is flooded as well. */
  private pushBack(from: SwitchPort, frame: Frame, vlan: number | null): void {
    const flood = { ...frame, to: everybody, body: { ...frame.body } };
    floods.add(flood.body);
    this.passes.set(flood.body, 1);
    this.emit(from, flood, vlan);
  }

  private stormsIn(vlan: number | null): boolean {
    return this.scheduler.now() < (this.stormUntil.get(vlan) ?? 0);
  }

  private forward(from: SwitchPort, frame: Frame, vlan: number | null): void {
    if (this.learnt.size >= mostLearnt) this.learnt.clear();
    this.learnt.set(`${vlan} ${frame.from}`, { port: from, link: from.cable?.links, at: this.scheduler.now() });
    const known = isGroup(frame.to) ? undefined : this.placeOf(`${vlan} ${frame.to}`);
    if (known) {
      if (known.port !== from) this.emit(known.port, frame, vlan);
      return;
    }
    if (this.passes.has(frame.body)) this.cameBack.add(from);
    if (this.circles(frame, vlan)) return;
    for (const port of this.ports.values()) if (port !== from) this.emit(port, frame, vlan);
  }

  /** A socket whose link went down forgets what was behind it. */
  private placeOf(key: string): Place | undefined {
    const place = this.learnt.get(key);
    const holds =
      place &&
      this.scheduler.now() - place.at < agesAfterMs &&
      place.port.cable &&
      place.port.cable.links === place.link;
    if (place && !holds) this.learnt.delete(key);
    return holds ? place : undefined;
  }

  /** Notices a frame that keeps coming back, and contains the storm: it would fill every cable at once. */
  private circles(frame: Frame, vlan: number | null): boolean {
    const passes = (this.passes.get(frame.body) ?? 0) + 1;
    this.passes.set(frame.body, passes);
    if (passes <= mostPasses) return false;
    const flood = { ...frame, body: { ...frame.body } };
    floods.add(flood.body);
    this.flooded(undefined, flood, vlan);
    this.floodAgain(frame, vlan);
    this.lookAgain(frame, vlan);
    return true;
  }

  /** What circles keeps coming: sockets that open a moment later are flooded too. */
  private floodAgain(frame: Frame, vlan: number | null): void {
    for (const wait of floodsAgainMs)
      this.scheduler.after(wait, () => {
        if (this.ended || !this.isPowered() || !this.stormsIn(vlan ?? frame.vlan)) return;
        const flood = { ...frame, body: { ...frame.body } };
        floods.add(flood.body);
        this.passes.set(flood.body, 1);
        for (const port of this.ports.values()) this.emit(port, flood, vlan);
      });
  }

  /** Whatever is flooded passes nothing else, and floods what hangs on it. */
  private flooded(from: SwitchPort | undefined, frame: Frame, vlan: number | null): void {
    if (this.passes.has(frame.body)) return;
    this.passes.set(frame.body, 1);
    this.stormUntil.set(vlan ?? frame.vlan, this.scheduler.now() + stormMs);
    for (const port of this.ports.values()) if (port !== from) this.emit(port, frame, vlan);
  }

  private lookAgain(frame: Frame, vlan: number | null): void {
    const tag = vlan ?? frame.vlan;
    if (this.looking.has(tag)) return;
    this.looking.add(tag);
    this.scheduler.after(findsAfterMs, () => this.findCircle(frame, vlan));
    this.scheduler.after(stormMs - looksBeforeMs, () => {
      this.looking.delete(tag);
      if (this.ended || !this.isPowered() || !this.stormsIn(tag)) return;
      const again = { ...frame, body: { ...frame.body } };
      circling.add(again.body);
      for (const port of this.ports.values()) this.emit(port, again, vlan);
    });
  }

  /** Sends a frame of its own out of each socket by which others came back, and sees where it returns. */
  private findCircle(frame: Frame, vlan: number | null): void {
    if (this.ended || !this.isPowered() || !this.stormsIn(vlan ?? frame.vlan)) return;
    this.circle.clear();
    for (const out of this.cameBack) {
      const probe = { ...frame, body: { ...frame.body } };
      circling.add(probe.body);
      probes.set(probe.body, { by: this, out });
      this.emit(out, probe, vlan);
    }
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
    const isByHand = member.mode === 'by-hand';
    if (vlan === null) return isByHand ? (member.untagged ?? undefined) : nativeVlan;
    const listed = isByHand ? member.tagged : member.vlans.filter((one) => one !== nativeVlan);
    return listed.includes(vlan) ? vlan : undefined;
  }

  /** The tag that a frame leaves with, null for none, undefined where the VLAN does not leave. */
  private tagOut(port: SwitchPort, vlan: number): number | null | undefined {
    const member = this.membership.get(port.key) ?? { mode: 'access', vlan: nativeVlan };
    if (member.mode === 'access') return member.vlan === vlan ? null : undefined;
    if (member.mode === 'by-hand')
      return member.untagged === vlan ? null : member.tagged.includes(vlan) ? vlan : undefined;
    if (vlan === nativeVlan) return null;
    return member.vlans.includes(vlan) ? vlan : undefined;
  }
}

/** Where a MAC address was seen, on which of the link's lives, and when. */
interface Place {
  readonly port: SwitchPort;
  readonly link: number | undefined;
  readonly at: number;
}

/** Frames that stand for a storm, of which a host makes nothing, and frames that look whether it goes on. */
export const floods = new WeakSet<Frame['body']>();
const circling = new WeakSet<Frame['body']>();
const probes = new WeakMap<Frame['body'], { readonly by: Switch; readonly out: SwitchPort }>();

const isGroup = (mac: string): boolean => mac === everybody || (parseInt(mac.slice(0, 2), 16) & 1) === 1;
