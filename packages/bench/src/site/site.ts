import { type contract, addressing, links, type show as core } from '@deep-patch/core';
import type { Scheduler } from '../ether/scheduler.ts';
import { sound } from '../soundings/sound.ts';
import type { SoundRequest } from '../protocols/steps.ts';
import { soundBack } from '../soundings/touch.ts';
import { Turns } from '../soundings/turns.ts';
import { Tap } from '../tap/tap.ts';
import { lampsOf } from '../units/lamps.ts';
import { AirLog } from '../units/air-log.ts';
import type { Memory } from '../units/memory.ts';
import type { BenchPlan } from '../units/plan.ts';
import { isUp, type Standin } from '../units/standin.ts';
import { stateOf } from '../units/state-of.ts';
import { build } from './build.ts';
import type { Ground } from './ground.ts';
import { laidOut, type Lead } from './laid-out.ts';
import { Naming } from './naming.ts';
import { Power } from './power.ts';
import { Wiring, type SiteCable } from './wiring.ts';

/** The simulated site of one show: stand-ins, switches and cables as planned. A new plan rebuilds it; power and faces stay. */
export class Site implements Ground {
  readonly standins = new Map<string, Standin>();
  readonly memories = new Map<string, Memory>();
  readonly byMac = new Map<string, Standin>();
  wiring: Wiring;
  readonly tap: Tap;
  readonly scheduler: Scheduler;
  readonly random: () => number;
  readonly air = new AirLog();
  readonly clock: () => number;
  startUps: 'skipped' | 'real' = 'skipped';
  /** What lies there now: of the plan that was given, the runs of this stage. */
  plan: BenchPlan;
  given: BenchPlan;
  stage: 'setup' | 'show' = 'show';
  /** Cables that lead elsewhere for the meantime. */
  private leads: readonly Lead[] = [];
  /** Runs after the site was built anew, to set again what is not in the plan. */
  onBuilt: () => void = () => undefined;
  /** Runs before a link is sounded, once every unit has its addresses: what happened until then is no news afterwards. */
  onSettled: () => void = () => undefined;
  private readonly naming = new Naming(this.standins, this.byMac);
  private readonly unitPower = new Power(this);
  private settledAt = 0;
  private known: links.LinkFacts | undefined;
  private readonly turns = new Turns();

  constructor(plan: BenchPlan, scheduler: Scheduler, random: () => number, epoch = Date.now()) {
    this.given = plan;
    this.plan = laidOut(plan, this.stage, this.leads);
    this.scheduler = scheduler;
    this.random = random;
    this.wiring = new Wiring(scheduler, random);
    const began = epoch - scheduler.now();
    this.clock = () => began + scheduler.now();
    this.tap = new Tap((frame) => this.naming.ofFrame(frame), this.clock);
    this.build();
  }

  get rev(): number {
    return this.plan.show.rev;
  }

  /** What the world outside the network says: levels of lighting channels, and pages of the web. */
  readonly outside = { levels: new Map<string, number>(), pages: new Map<string, string>() };

  get cables(): ReadonlyMap<string, SiteCable> {
    return this.wiring.cables;
  }

  get heard(): readonly contract.HeardMessage[] {
    return this.tap.last(200);
  }

  /** Changes over: runs of the other time are unplugged, those of this one plugged in. */
  changeOver(stage: 'setup' | 'show'): void {
    this.stage = stage;
    this.load(this.given);
  }

  /** Leads the cable of a socket elsewhere for the meantime, or back to where it is planned. */
  lead(deviceId: string, socket: string, to: Lead['to'] | null): void {
    const others = this.leads.filter((lead) => lead.deviceId !== deviceId || lead.socket !== socket);
    this.leads = to ? [...others, { deviceId, socket, to }] : others;
    this.load(this.given);
  }

  /** The plan says something else that nothing here depends on: everything stays as it is. */
  renew(plan: BenchPlan): void {
    this.given = plan;
    this.plan = laidOut(plan, this.stage, this.leads);
    this.known = undefined;
    for (const { renewers } of this.standins.values()) for (const renew of renewers) renew();
  }

  load(plan: BenchPlan): void {
    this.given = plan;
    const { devices } = plan.show;
    this.leads = this.leads.filter(({ deviceId, to }) => devices[deviceId] && devices[to.deviceId]);
    this.plan = laidOut(plan, this.stage, this.leads);
    this.known = undefined;
    for (const standin of this.standins.values()) {
      this.unitPower.halt(standin);
      standin.bridge?.end();
      // with the site its routers are new, and remember nobody
      standin.memory.leases.clear();
    }
    this.wiring.end();
    this.standins.clear();
    this.byMac.clear();
    this.naming.forget();
    this.build();
    this.onBuilt();
  }

  /** Switches units on or off. */
  power(deviceIds: readonly string[], on: boolean): void {
    this.unitPower.set(deviceIds, on);
  }

  restart(deviceIds: readonly string[]): void {
    this.power(deviceIds, false);
    this.power(deviceIds, true);
  }

  /** Takes a unit's settings in again, as after something was keyed in at it. */
  refresh(standin: Standin): void {
    this.unitPower.refresh(standin);
  }

  /** Links came up or went down: whoever has an address says so again, and switches learn where it is now. */
  linksChanged(): void {
    this.unitPower.heedLinks();
    for (const { host, computer } of this.standins.values())
      if (!computer) for (const adapter of host.adapters) host.neighbours.announce(adapter, false);
  }

  states(): contract.StandinState[] {
    return [...this.standins.values()].map((standin) =>
      stateOf(standin, this.wiring.bridgesOf(standin), lampsOf(this, standin)),
    );
  }

  /** Sounds one link after the other: two at once would hear each other's replies. */
  sound(linkId: string): Promise<core.MeasuredSounding | undefined> {
    return this.turns.byItself(() => this.soundNow(linkId, false));
  }

  /** Sounds a link as far as that changes nothing at either end, so that it may be repeated by itself. */
  soundQuietly(linkId: string): Promise<core.MeasuredSounding | undefined> {
    return this.turns.beside(() => this.soundNow(linkId, true));
  }

  private async soundNow(linkId: string, quiet: boolean): Promise<core.MeasuredSounding | undefined> {
    const { show } = this.plan;
    const link = show.links[linkId];
    if (!link) return undefined;
    await this.settled();
    this.onSettled();
    // what happens from now on makes it one of the past
    const at = Date.now();
    const basis = links.basisOf(show, this.linkFacts(), link);
    const request = { ...this.requestFor(link), quiet };
    const { controller } = request;
    const result = await sound(request);
    const measured = { linkId, source: 'bench', at, rev: show.rev, basis, ...result } as const;
    if (quiet) return measured;
    const stoppedAt = result.layers.find(({ state }) => state === 'fail')?.layer ?? null;
    controller?.memory.tried.set(linkId, { at: this.scheduler.now(), stoppedAt });
    const back = stoppedAt === null ? await soundBack(request).catch(() => null) : null;
    return { ...measured, back };
  }

  /** A link with both its ends as they stand here, and what stands in its controller's list. */
  requestFor(link: core.Link): SoundRequest {
    const { show, passwords } = this.plan;
    const [controller, target] = [this.standins.get(link.controllerId), this.standins.get(link.targetId)];
    return { show, link, passwords, controller, target, entry: links.entryOf(this.linkFacts(), link) };
  }

  async settled(): Promise<void> {
    const wait = this.settledAt - this.scheduler.now();
    if (wait > 0) await new Promise<void>((done) => void this.scheduler.after(wait, done));
    await Promise.all([...this.standins.values()].flatMap(({ clients }) => clients.map(({ settled }) => settled)));
  }

  settleBy(at: number): void {
    this.settledAt = Math.max(this.settledAt, at);
  }

  standinAt(ip: number): Standin | undefined {
    return this.naming.at(ip);
  }

  /** What the plan has keyed into controllers follows from the whole of it: worked out once. */
  private linkFacts(): links.LinkFacts {
    const { show } = this.plan;
    return (this.known ??= links.linkFacts(show, addressing.addressingFacts(show), () => ({ change: undefined })));
  }

  private build(): void {
    this.wiring = new Wiring(this.scheduler, this.random);
    build(this, (standin, { from, ...words }) => this.tap.note(this.naming.ofReport(standin, from), words));
    for (const standin of this.standins.values()) if (!standin.computer) this.unitPower.fallAsleep(standin);
    // a computer starts its programs itself
    for (const standin of this.standins.values())
      if (standin.memory.powered && !(standin.computer && isUp(standin.computer))) this.unitPower.start(standin);
  }
}
