import { mustIp, type AddressingFacts, type Planned } from '../addressing/index.ts';
import { byName, once, rowsBy, rowsOf, typeOf, type Device, type Show } from '../show/index.ts';
import { runGraph, type CablingFacts } from '../cabling/index.ts';
import { routedWay, type LinkFacts } from '../links/index.ts';
import { accessTo, aloneWith, servedFrom, subnetNear, tagOf, type Access } from './access.ts';
import type { ComputerAdapter } from './computer.ts';
import type { Landings } from './landings.ts';
import type { Need } from './moves.ts';
import { spotKey, type Blocked, type Task, type TaskKind, type Why } from './tasks.ts';
import { unitNow, isHostAddress, isPlace, subnetText, type FoundAt, type Place, type Standing } from './unit-now.ts';
import { actsOf, hostIdOf, leavesSpot, secondsOf, spotNow, spotOf, unitPlan, type UnitPlan } from './unit-plan.ts';

export interface Ground {
  readonly show: Show;
  readonly addressing: AddressingFacts;
  readonly cabling: CablingFacts;
  readonly links: LinkFacts;
  readonly computer: Device;
  readonly adapters: readonly ComputerAdapter[];
  readonly landings: Landings;
  readonly foundAt: FoundAt;
}

export interface Built {
  readonly tasks: readonly Task[];
  readonly blocked: readonly Blocked[];
  readonly units: ReadonlyMap<string, UnitPlan>;
}

/** The tasks of one unit that others wait for. */
interface Chain {
  join: Task | undefined;
  /** It is no longer where it was. */
  leaves: Task | undefined;
  /** All that is planned counts. */
  inForce: Task | undefined;
  updated: Task | undefined;
}

const handsFor: Readonly<Record<TaskKind, number>> = {
  part: 30,
  join: 60,
  sign_in: 60,
  meantime: 60,
  meantime_restart: 5,
  key_in: 60,
  restart: 5,
  update: 60,
  register: 30,
  register_restart: 5,
  confirm: 10,
  home: 0,
};
const updateSeconds = 180;

/** Steps without which nothing more can be done at a unit. */
const carrying: ReadonlySet<string> = new Set(['join', 'sign_in', 'meantime', 'meantime_restart', 'key_in', 'restart']);

/** Everything that is to be done, with what each waits for, in no order yet. */
export function buildTasks(ground: Ground): Built {
  return new Builder(ground).build();
}

class Builder {
  private readonly tasks: Task[] = [];
  private readonly blocked: Blocked[] = [];
  private readonly units = new Map<string, UnitPlan>();
  private readonly chains = new Map<string, Chain>();
  private readonly ground: Ground;
  private readonly out = new Set<string>();
  /** Addresses for the meantime that were given away. */
  private readonly lent = new Set<number>();

  constructor(ground: Ground) {
    this.ground = ground;
  }

  build(): Built {
    const { show, addressing, cabling, computer, foundAt } = this.ground;
    for (const device of rowsOf(show, 'devices')) {
      const now = device.id === computer.id ? undefined : unitNow(show, device, foundAt);
      if (now) this.units.set(device.id, unitPlan(show, addressing, cabling, now));
    }
    this.leaveOut();
    const order = this.circlesBroken();
    const plans = [...this.units.values()].filter(({ device }) => !this.out.has(device.id));
    for (const plan of plans) if (!plan.isProgram) this.bringOnto(plan);
    for (const plan of this.units.values()) this.powerUp(plan);
    for (const plan of plans) if (plan.isProgram) this.startOn(plan);
    for (const plan of plans) this.set(plan, order);
    for (const plan of plans) this.waitForOthers(plan, order);
    for (const plan of plans) this.finish(plan);
    this.comeHome();
    return { tasks: this.tasks, blocked: this.blocked, units: this.units };
  }

  /** Units whose steps were skipped or failed, those that cannot be set at all, and those that wait for them in vain. */
  private leaveOut(): void {
    for (const plan of this.units.values()) {
      const { device, now } = plan;
      const isLeft = now.progress?.left.some(({ step }) => carrying.has(step.split(':')[0] ?? ''));
      if (isLeft) this.block(device.id, 'left_out');
      else if (plan.lines.length > 0 && plan.type.ways.length > 0 && this.accessTo(plan, now.at).length === 0)
        this.block(device.id, 'no_way');
      else if (plan.isProgram && this.isHomeless(plan)) this.block(device.id, 'no_computer');
      else if (
        plan.planned.some(
          (item) =>
            item.ip !== null &&
            item.address.method === 'static' &&
            !isHostAddress({ ip: item.ip, prefix: item.prefix }),
        )
      )
        this.block(device.id, 'not_a_host');
      else if (plan.planned.some(({ ip, address }) => ip === null && address.method === 'static'))
        this.blocked.push({ deviceId: device.id, code: 'not_placed', units: [] });
    }
    for (const [first, ...others] of this.doubles())
      for (const plan of others) this.block(plan.device.id, 'planned_twice', first ? [first.device.id] : []);
    const { addressing, computer } = this.ground;
    // wherever the computer goes it may have its own address with it
    const mine = new Set((addressing.byDevice.get(computer.id) ?? []).map(({ ip }) => ip));
    for (const plan of this.units.values())
      if (!this.out.has(plan.device.id) && plan.takes.some(({ ip }) => mine.has(ip)))
        this.block(plan.device.id, 'planned_twice', [computer.id]);
    // whoever holds an address for good keeps others from it, and those keep others again
    for (let before = -1; before !== this.out.size;) {
      before = this.out.size;
      for (const plan of this.units.values())
        if (plan.isProgram && !this.out.has(plan.device.id) && this.out.has(hostIdOf(this.ground.show, plan.device)))
          this.block(plan.device.id, 'no_computer', [hostIdOf(this.ground.show, plan.device)]);
      for (const plan of this.units.values()) {
        if (this.out.has(plan.device.id) || !this.moves(plan)) continue;
        const holders = this.holdersOf(plan).filter((other) => this.out.has(other.device.id) || !leavesSpot(other));
        const standing = holders.filter(({ now, device }) => now.joined || !this.out.has(device.id));
        if (standing.length > 0)
          this.block(
            plan.device.id,
            'held_for_good',
            standing.map(({ device }) => device.id),
          );
      }
    }
  }

  /** It runs on no computer, or on one that is not set itself. */
  private isHomeless({ device }: UnitPlan): boolean {
    const { show, computer } = this.ground;
    const host = hostIdOf(show, device);
    return host === device.id || (host !== computer.id && !this.units.has(host));
  }

  /** Units that are planned on one address: whoever is there already goes first, else the first by name. */
  private doubles(): UnitPlan[][] {
    const byKey = new Map<string, UnitPlan[]>();
    for (const plan of this.units.values())
      for (const spot of plan.isProgram ? [] : plan.wants) {
        const there = byKey.get(spotKey(spot)) ?? [];
        there.push(plan);
        byKey.set(spotKey(spot), there);
      }
    const isThere = (plan: UnitPlan): number => Number(this.moves(plan));
    return [...byKey.values()]
      .map((list) => [...new Set(list)].filter(({ device }) => !this.out.has(device.id)))
      .filter((list) => list.length > 1)
      .map((list) => list.sort((a, b) => isThere(a) - isThere(b) || byName(a.device, b.device)));
  }

  private block(deviceId: string, code: Blocked['code'], units: readonly string[] = []): void {
    this.out.add(deviceId);
    this.blocked.push({ deviceId, code, units });
  }

  private readonly moves = ({ lines, isProgram }: UnitPlan): boolean =>
    !isProgram && lines.some(({ of }) => of === 'address');

  /** Who stands now where a unit is planned. */
  private holdersOf({ device, takes }: UnitPlan): UnitPlan[] {
    return takes
      .flatMap((spot) => this.standingAt().get(spot.ip) ?? [])
      .filter((other) => other.device.id !== device.id);
  }

  /**
   * Who stands on which address now, in whatever segment: as long as somebody is not set, nobody can be sure in which one
   * that is.
   */
  private readonly standingAt = once(() => {
    const standing = new Map<number, UnitPlan[]>();
    for (const plan of this.units.values())
      for (const { ip } of spotNow(plan)) standing.set(ip, [...(standing.get(ip) ?? []), plan]);
    return standing;
  });

  /** Units that need an address for the meantime, since everybody in a circle waits for the next. */
  private circlesBroken(): ReadonlyMap<string, Place> {
    const meantime = new Map<string, Place>();
    for (const plan of this.units.values()) {
      const place = meantimeOf(plan);
      if (place) meantime.set(plan.device.id, place);
    }
    const state = new Map<string, 'open' | 'closed'>();
    const visit = (plan: UnitPlan): void => {
      state.set(plan.device.id, 'open');
      for (const holder of this.holdersOf(plan)) {
        const { id } = holder.device;
        if (this.out.has(id) || meantime.has(id) || !this.moves(holder)) continue;
        if (state.get(id) === 'open') this.lend(holder, meantime);
        else if (state.get(id) === undefined) visit(holder);
      }
      state.set(plan.device.id, 'closed');
    };
    for (const plan of this.units.values())
      if (!this.out.has(plan.device.id) && this.moves(plan) && state.get(plan.device.id) === undefined) visit(plan);
    return meantime;
  }

  private lend(plan: UnitPlan, meantime: Map<string, Place>): void {
    const first = plan.planned.find(({ ip }) => ip !== null);
    if (!first) return;
    const { addressing } = this.ground;
    const free = addressing
      .lowestFree(first.network.id, undefined)
      .concat(spareHosts(addressing, first.network.id))
      .find((ip) => !this.lent.has(ip) && !addressing.factory.has(ip) && !addressing.byIp.has(ip));
    if (free === undefined) return;
    this.lent.add(free);
    meantime.set(plan.device.id, { ip: free, prefix: first.prefix });
  }

  private add({ device }: Pick<UnitPlan, 'device'>, kind: TaskKind, more: Partial<Task> & Pick<Task, 'why'>): Task {
    const { id } = device;
    const access = more.access ?? [];
    const needed = access.some(({ need }) => need === null) ? [] : access.flatMap(({ need }) => need ?? []);
    const task: Task = {
      key: `${kind}:${id}`,
      kind,
      deviceId: id,
      access,
      needs: [...(more.needs ?? needed)],
      after: more.after ?? [],
      hands: more.hands ?? handsFor[kind],
      waits: more.waits ?? 0,
      lines: more.lines ?? [],
      acts: more.acts ?? [],
      takes: more.takes ?? [],
      place: more.place,
      why: more.why,
      addressId: more.addressId,
      ...(more.key === undefined ? {} : { key: more.key }),
    };
    this.tasks.push(task);
    return task;
  }

  private chainOf(id: string): Chain {
    const known = this.chains.get(id) ?? { join: undefined, leaves: undefined, inForce: undefined, updated: undefined };
    this.chains.set(id, known);
    return known;
  }

  /** Power and cable; of several that are on one address now, all but the first come off again before anything else. */
  private bringOnto(plan: UnitPlan): void {
    const { device, type, now } = plan;
    const alike = this.alikeWith(plan);
    const chain = this.chainOf(device.id);
    const joined = alike.filter((other) => other.now.joined);
    const names = alike.map((other) => other.device.id);
    const clashes = now.joined && joined.some((other) => other.device.id < device.id);
    if (now.joined && !clashes) return;
    const part = clashes ? this.add(plan, 'part', { why: { code: 'clash_now', units: names } }) : undefined;
    const why: Why =
      alike.length > 0
        ? { code: 'one_at_a_time', units: names }
        : { code: type.forwards ? 'on_the_way' : 'needs_no_computer', units: [] };
    chain.join = this.add(plan, 'join', { why, waits: type.startsInSeconds ?? 0, after: part ? [part] : [] });
  }

  /** What others are reached through is powered even where it cannot be set, after those that it would clash with. */
  private powerUp(plan: UnitPlan): void {
    const { device, type, now } = plan;
    const isLeftOut = this.blocked.some(({ deviceId, code }) => deviceId === device.id && code === 'left_out');
    if (!this.out.has(device.id) || !type.forwards || now.joined || isLeftOut) return;
    this.chainOf(device.id).join = this.add(plan, 'join', {
      ...{ waits: type.startsInSeconds ?? 0, why: { code: 'on_the_way', units: [] } },
    });
  }

  /** A program is started on its computer, once that is on. */
  private startOn(plan: UnitPlan): void {
    if (plan.now.joined) return;
    const host = hostIdOf(this.ground.show, plan.device);
    const on = this.chains.get(host)?.join;
    this.chainOf(plan.device.id).join = this.add(plan, 'join', {
      ...{ after: on ? [on] : [], waits: plan.type.startsInSeconds ?? 0 },
      why: { code: 'needs_no_computer', units: [] },
    });
  }

  /** Others that stand on the same address in the same segment now. */
  private alikeWith(plan: UnitPlan): UnitPlan[] {
    const [spot] = spotNow(plan);
    const there = spot ? (this.standingAt().get(spot.ip) ?? []) : [];
    return there.filter((other) => other.device.id !== plan.device.id && !this.out.has(other.device.id));
  }

  private set(plan: UnitPlan, meantime: ReadonlyMap<string, Place>): void {
    const { show } = this.ground;
    const { device, type, now, lines } = plan;
    const chain = this.chainOf(device.id);
    const before = chain.join ? [chain.join] : [];
    const signsIn = type.factory.login === 'create' && !now.signedIn && show.keyedIn[device.id] === undefined;
    const access = this.accessTo(plan, now.at);
    const owed = this.owed(plan, before);
    if (owed) {
      chain.leaves = owed;
      if (owed.kind === 'restart') chain.inForce = owed;
      if (lines.length === 0) return;
    }
    if (lines.length === 0 && !signsIn) {
      chain.inForce ??= chain.join;
      return;
    }
    const after = owed ? [owed] : before;
    const signed = signsIn ? this.add(plan, 'sign_in', { access, after, why: reachWhy(access) }) : undefined;
    const own = signed ? [signed] : after;
    const place = meantime.get(device.id);
    const isHere = owed?.kind === 'meantime_restart';
    const lent = isHere ? owed : place ? this.meanwhile(plan, place, access, own) : undefined;
    if (lent) chain.leaves = lent;
    if (lines.length === 0) {
      chain.inForce = signed;
      return;
    }
    const { atOnce, restarts } = actsOf(type, lines);
    const isProgram = plan.isProgram;
    const later = lent && place ? this.accessTo(plan, place) : access;
    const moves = lines.some(({ of }) => of === 'address');
    const keyed = this.add(plan, 'key_in', {
      access: isProgram ? [] : later,
      after: lent ? [lent] : own,
      lines,
      acts: atOnce,
      takes: restarts.length === 0 && moves ? plan.takes : [],
      place: isPlace(plan.target) ? plan.target : undefined,
      why: reachWhy(isProgram ? [] : later),
    });
    const restarted =
      restarts.length === 0
        ? keyed
        : this.add(plan, 'restart', {
            after: [keyed],
            acts: restarts,
            waits: secondsOf(type, restarts),
            takes: moves ? plan.takes : [],
            why: { code: 'only_then_counts', units: [] },
          });
    chain.inForce = restarted;
    chain.leaves ??= restarted;
  }

  /** What was keyed in and does not count yet: the acts for that come first, unless something else is to be keyed in anyway. */
  private owed(plan: UnitPlan, after: readonly Task[]): Task | undefined {
    const { type, now, lines, segment } = plan;
    const meantime = meantimeOf(plan);
    if (now.due.length === 0 || (!meantime && lines.some(({ of }) => of === 'address'))) return undefined;
    const known = type.commits.flatMap(({ acts }) => acts);
    const acts = now.due.map((act) => known.find((one) => one.act === act) ?? { act, seconds: null });
    return this.add(plan, meantime ? 'meantime_restart' : 'restart', {
      ...{ after: [...after], acts, waits: secondsOf(type, acts), place: meantime },
      takes: meantime ? [{ segment, ip: meantime.ip }] : plan.takes,
      why: { code: 'only_then_counts', units: [] },
    });
  }

  private meanwhile(plan: UnitPlan, place: Place, access: readonly Access[], after: readonly Task[]): Task {
    const { type, segment } = plan;
    const lines = [{ of: 'address' as const }];
    const { atOnce, restarts } = actsOf(type, lines);
    const takes = [{ segment, ip: place.ip }];
    const keyed = this.add(plan, 'meantime', {
      ...{ access, place, acts: atOnce, after: [...after], takes: restarts.length === 0 ? takes : [] },
      why: { code: 'circle', units: this.holdersOf(plan).map(({ device }) => device.id) },
    });
    if (restarts.length === 0) return keyed;
    return this.add(plan, 'meantime_restart', {
      ...{ after: [keyed], acts: restarts, waits: secondsOf(type, restarts), takes, place },
      why: { code: 'only_then_counts', units: [] },
    });
  }

  /** What a unit waits for at others: who stands where it goes, who is on the way to it, and who is like it there. */
  private waitForOthers(plan: UnitPlan, meantime: ReadonlyMap<string, Place>): void {
    const { id } = plan.device;
    const own = this.tasks.filter(({ deviceId }) => deviceId === id);
    const { join } = this.chainOf(id);
    const taking = own.find(({ kind }) => kind === 'key_in');
    if (taking && this.moves(plan))
      for (const holder of this.holdersOf(plan)) {
        const left = this.chains.get(holder.device.id)?.leaves;
        if (left && !(meantime.has(id) && left.deviceId === id)) taking.after.push(left);
      }
    if (plan.now.at === 'asks' && join) {
      const { addressing, cabling } = this.ground;
      const server = servedFrom(addressing, cabling, plan)?.device.id;
      const ready = server && this.chains.get(server)?.inForce;
      // it asks as soon as it is on, and waits for an answer no longer than it likes
      if (ready && server !== id && own.some(({ needs }) => needs.length > 0)) join.after.push(ready);
    }
    const path = this.wayTo(plan);
    const alike = new Set(this.alikeWith(plan).map(({ device }) => device.id));
    for (const on of path) {
      const before = this.chains.get(on);
      if (alike.has(on) && join && before?.leaves) join.after.push(before.leaves);
      const isDark = this.isDark(on);
      for (const task of own)
        if (task.needs.length > 0) {
          if (isDark) task.needs.splice(0, task.needs.length, nowhere);
          else if (before?.join) task.after.push(before.join);
        }
    }
    const host = hostIdOf(this.ground.show, plan.device);
    if (plan.isProgram && host !== id && taking) {
      const ready = this.chains.get(host)?.inForce;
      if (ready) taking.after.push(ready);
    }
  }

  /** Nobody powers it: nothing passes. */
  private isDark(id: string): boolean {
    return this.out.has(id) && !this.chains.get(id)?.join && !this.units.get(id)?.now.joined;
  }

  private graph: ReturnType<typeof runGraph> | undefined;
  private readonly wayTo = memoUnit((plan: UnitPlan): string[] => {
    const { show, cabling, computer, adapters, landings } = this.ground;
    const graph = (this.graph ??= runGraph(show, cabling.domains()));
    const home = adapters.find(({ home: { segment } }) => segment === plan.segment);
    const landing = home ? undefined : landings.of(plan.segment);
    const from = home ? `${computer.id}/${home.key}` : (landing?.deviceId ?? '');
    const to = plan.type.forwards
      ? plan.device.id
      : `${plan.device.id}/${plan.planned[0]?.interface.adapter ?? plan.type.adapters[0]?.key ?? ''}`;
    if (from === to) return [];
    const between = graph.path(from, to)?.between ?? [];
    const hub = landing && typeOf(show, show.devices[landing.deviceId])?.forwards ? [landing.deviceId] : [];
    return [...new Set([...hub, ...between.map((node) => node.split('/')[0] ?? node)])].filter(
      (id) => id !== plan.device.id,
    );
  });

  /** What comes once a unit is as planned: its newer version, its list of targets, and proof. */
  private finish(plan: UnitPlan): void {
    const { device, type } = plan;
    const chain = this.chainOf(device.id);
    const ready = chain.inForce ?? chain.join;
    const before = ready ? [ready] : [];
    const ways = this.confirmNeeds(plan);
    if (plan.update !== undefined && !isLeft(plan, 'update') && !plan.isProgram) {
      const needs = ways[0]?.needs ?? this.needsAt(plan);
      const joins = ways[0]?.after ?? [];
      chain.updated = this.add(plan, 'update', {
        ...{ needs, after: [...before, ...joins], waits: updateSeconds },
        why: { code: 'firmware_first', units: this.controllersOf(device.id) },
      });
    }
    const proved = chain.updated ? [chain.updated] : before;
    for (const { addressId, basis, place, needs, after } of ways) {
      const key = `confirm:${addressId}`;
      if (plan.now.progress?.confirmed.some((one) => one.step === key && one.basis === basis)) continue;
      if (isLeft(plan, key)) continue;
      this.add(plan, 'confirm', {
        ...{ key, addressId, place, needs, after: [...proved, ...after] },
        why: { code: 'proves_it', units: [] },
      });
    }
    if (plan.entries.length > 0 && !isLeft(plan, 'register')) this.register(plan, type);
  }

  /** Where a computer meets a unit whose address somebody else picks. */
  private needsAt(plan: UnitPlan): Need[] {
    const { addressing, cabling } = this.ground;
    const subnet = subnetNear(addressing, cabling, plan, plan.target);
    return subnet === undefined ? [nowhere] : [{ segment: plan.segment, subnet }];
  }

  private register(plan: UnitPlan, type: UnitPlan['type']): void {
    const chain = this.chainOf(plan.device.id);
    const targets = this.targetsOf(plan);
    const ready = targets.flatMap((id) => {
      const its = this.chains.get(id);
      return its?.updated ?? its?.inForce ?? its?.join ?? [];
    });
    const { atOnce, restarts } = actsOf(type, plan.entries);
    const access = plan.isProgram ? [] : this.accessTo(plan, plan.target);
    const task = this.add(plan, 'register', {
      access,
      after: [...(chain.inForce ? [chain.inForce] : []), ...ready, ...this.joinsOnTheWay(plan, access)],
      lines: plan.entries,
      acts: atOnce,
      hands: handsFor.register * plan.entries.filter(({ key }) => !key.endsWith(':password')).length,
      why: { code: type.looksUpOnce ? 'looks_up_once' : 'targets_first', units: targets },
    });
    if (restarts.length > 0)
      this.add(plan, 'register_restart', {
        ...{ after: [task], acts: restarts, waits: secondsOf(type, restarts) },
        why: { code: 'only_then_counts', units: [] },
      });
  }

  private joinsOnTheWay(plan: UnitPlan, access: readonly Access[]): Task[] {
    if (access.length === 0 || access.some(({ need }) => need === null)) return [];
    return this.wayTo(plan).flatMap((id) => this.chains.get(id)?.join ?? []);
  }

  /** Machines whose programs or services stand in a controller's list. */
  private targetsOf({ device, entries }: UnitPlan): string[] {
    const { show } = this.ground;
    const due = new Set(entries.map(({ key }) => key.replace(/:password$/, '')));
    const links = rowsBy(show, 'links', 'controllerId').get(device.id) ?? [];
    const ids = links
      .filter(({ id }) => due.has(id))
      .flatMap(({ targetId }) => {
        const target = show.devices[targetId];
        return target ? [target.id, hostIdOf(show, target)] : [];
      });
    return [...new Set(ids)].filter((id) => id !== device.id && id !== hostIdOf(show, device));
  }

  private controllersOf(deviceId: string): string[] {
    const links = rowsBy(this.ground.show, 'links', 'targetId').get(deviceId) ?? [];
    return [...new Set(links.map(({ controllerId }) => controllerId))];
  }

  /** Where the computer meets each address of a unit: beside it, or through routers from where it belongs. */
  private confirmNeeds(plan: UnitPlan) {
    const { cabling, links, computer, adapters } = this.ground;
    if (plan.isProgram) return [];
    return plan.planned.flatMap((item) => {
      const { ip, prefix, address } = item;
      const [spot] = spotOf(cabling, item);
      if (ip === null || !spot || address.method !== 'static') return [];
      const segment = this.placeFor(spot.segment, plan.device.id, item.interface.adapter);
      const direct = subnetsBeside(item).map((subnet): Need => ({ segment, subnet }));
      const way = tagOf(cabling, item) === null ? routedWay(links, computer.id, plan.device.id, ip) : undefined;
      const home = way && adapters.find(({ key }) => key === way.adapter)?.home.segment;
      const routed: Need[] =
        way && home != null && way.routers.length > 0 && !way.routers.includes(plan.device.id)
          ? [{ segment: home, subnet: way.from }]
          : [];
      const routers = routed.length > 0 ? (way?.routers ?? []) : [];
      const passed = [...this.wayTo(plan), ...routers];
      const joins = passed.flatMap((id) => this.chains.get(id)?.join ?? []);
      const isDark = passed.some((id) => this.isDark(id));
      const set = routers.flatMap((id) => this.chains.get(id)?.inForce ?? []);
      return [
        {
          addressId: address.id,
          basis: confirmBasis(plan, address.id),
          place: { ip, prefix },
          needs: isDark ? [nowhere] : [...direct, ...routed],
          after: [...joins, ...set],
        },
      ];
    });
  }

  private accessTo(plan: UnitPlan, at: Standing): Access[] {
    const { show } = this.ground;
    const isNow = at === plan.now.at && plan.segmentNow !== plan.segment;
    const adapter = isNow ? plan.type.adapters[0]?.key : accessAdapter(plan);
    const segment = this.placeFor(isNow ? plan.segmentNow : plan.segment, plan.device.id, adapter);
    return accessTo(show, this.ground, { ...plan, segment }, at);
  }

  /** The segment of a unit, or the unit alone where no socket of a switch is free for the computer. */
  private placeFor(segment: string, deviceId: string, adapter: string | undefined): string {
    const { adapters, landings, cabling } = this.ground;
    // where frames run in circles a cable of one's own does not help
    if (cabling.domains().loopIn(segment)) return segment;
    const isOpen = adapters.some((own) => own.segment === segment || own.home.segment === segment);
    return isOpen || landings.of(segment) ? segment : aloneWith(deviceId, adapter);
  }

  /** The computer is put back to where it belongs, once everything else is done. */
  private comeHome(): void {
    const { adapters, computer } = this.ground;
    const others = [...this.tasks];
    for (const { key, home } of adapters)
      for (const place of home.places) {
        if (home.segment === null || others.length === 0) continue;
        this.add({ device: computer }, 'home', {
          ...{ key: `home:${key} ${subnetText(place)}`.slice(0, 120), after: others, place },
          needs: [{ segment: home.segment, subnet: subnetText(place) }],
          why: { code: 'as_it_was', units: [] },
        });
      }
  }
}

/** A place that does not exist. */
const nowhere: Need = { segment: 'nowhere', subnet: null };

/** What a confirmation proved: as soon as any of it is another, it has to be proved again. */
export function confirmBasis({ planned, device, type }: UnitPlan, addressId: string): string {
  const its = planned.find(({ address }) => address.id === addressId);
  return [its?.ip, its?.prefix, device.firmware, device.swaps, type.model].join(' ').slice(0, 200);
}

/** The subnets from which a unit is met: its own, or the narrower one of its network where its mask is too wide. */
function subnetsBeside({ ip, prefix, network }: Planned): string[] {
  if (ip === null) return [];
  const own = subnetText({ ip, prefix });
  const its = subnetText({ ip, prefix: network.prefix });
  return network.prefix > prefix && its === `${network.network}/${network.prefix}` ? [own, its] : [own];
}

/** The adapter by which its settings are reached. */
const accessAdapter = ({ planned, type }: UnitPlan): string | undefined =>
  planned[0]?.interface.adapter ?? type.adapters[0]?.key;

/** An address for the meantime that is keyed in and does not count yet. */
const meantimeOf = ({ now: { progress, due } }: UnitPlan): Place | undefined =>
  progress?.meantime && due.length > 0
    ? { ip: mustIp(progress.meantime.ip), prefix: progress.meantime.prefix }
    : undefined;

const isLeft = ({ now, device }: UnitPlan, step: string): boolean =>
  now.progress?.left.some((left) => left.step === step || left.step === `${step}:${device.id}`) ?? false;

const reachWhy = (access: readonly Access[]): Why => ({
  code: access.length === 0 || access.some(({ need }) => need === null) ? 'needs_no_computer' : 'computer_here',
  units: [],
});

function memoUnit(work: (plan: UnitPlan) => string[]): (plan: UnitPlan) => string[] {
  const known = new Map<string, string[]>();
  return (plan) => {
    const found = known.get(plan.device.id) ?? work(plan);
    known.set(plan.device.id, found);
    return found;
  };
}

/** Hosts of a network from its end down, where crews rarely number anything. */
function spareHosts({ byNetwork }: AddressingFacts, networkId: string): number[] {
  const on = byNetwork.get(networkId);
  if (!on) return [];
  const count = Math.min(64, on.last - on.first + 1);
  const inPool = (ip: number) => on.pool !== null && ip >= on.pool.from && ip <= on.pool.to;
  return Array.from({ length: count }, (_, at) => on.last - at).filter((ip) => !inPool(ip) && ip !== on.gateway);
}
