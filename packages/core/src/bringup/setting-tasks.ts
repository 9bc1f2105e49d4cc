import { servedFrom, type Access } from './access.ts';
import { meantimeOf } from './circles.ts';
import type { Work } from './work.ts';
import { nowhere, reachWhy } from './reach.ts';
import type { Task, Why } from './tasks.ts';
import { isPlace, type Place } from './unit-now.ts';
import { actsOf, hostIdOf, secondsOf, type UnitPlan } from './unit-plan.ts';

/** Power and cable; of several that are on one address now, all but the first come off again before anything else. */
export function bringOnto(work: Work, plan: UnitPlan): void {
  const { device, type, now } = plan;
  const alike = work.crowd.alikeWith(plan);
  const chain = work.list.chainOf(device.id);
  const joined = alike.filter((other) => other.now.joined);
  const names = alike.map((other) => other.device.id);
  const clashes = now.joined && joined.some((other) => other.device.id < device.id);
  if (now.joined && !clashes) return;
  const part = clashes ? work.list.add(plan, 'part', { why: { code: 'clash_now', units: names } }) : undefined;
  const why: Why =
    alike.length > 0
      ? { code: 'one_at_a_time', units: names }
      : { code: type.forwards ? 'on_the_way' : 'needs_no_computer', units: [] };
  chain.join = work.list.add(plan, 'join', { why, waits: type.startsInSeconds ?? 0, after: part ? [part] : [] });
}

/** What others are reached through is powered even where it cannot be set, after those that it would clash with. */
export function powerUp(work: Work, plan: UnitPlan): void {
  const { device, type, now } = plan;
  const isLeftOut = work.crowd.blocked.some(({ deviceId, code }) => deviceId === device.id && code === 'left_out');
  if (!work.crowd.out.has(device.id) || !type.forwards || now.joined || isLeftOut) return;
  work.list.chainOf(device.id).join = work.list.add(plan, 'join', {
    ...{ waits: type.startsInSeconds ?? 0, why: { code: 'on_the_way', units: [] } },
  });
}

/** A program is started on its computer, once that is on. */
export function startOn(work: Work, plan: UnitPlan): void {
  if (plan.now.joined) return;
  const host = hostIdOf(work.ground.show, plan.device);
  const on = work.list.chains.get(host)?.join;
  work.list.chainOf(plan.device.id).join = work.list.add(plan, 'join', {
    ...{ after: on ? [on] : [], waits: plan.type.startsInSeconds ?? 0 },
    why: { code: 'needs_no_computer', units: [] },
  });
}

export function set(work: Work, plan: UnitPlan, meantime: ReadonlyMap<string, Place>): void {
  const { show } = work.ground;
  const { device, type, now, lines } = plan;
  const chain = work.list.chainOf(device.id);
  const before = chain.join ? [chain.join] : [];
  const signsIn = type.factory.login === 'create' && !now.signedIn && show.keyedIn[device.id] === undefined;
  const access = work.reach.accessTo(plan, now.at);
  const owed = owedActs(work, plan, before);
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
  const signed = signsIn ? work.list.add(plan, 'sign_in', { access, after, why: reachWhy(access) }) : undefined;
  const own = signed ? [signed] : after;
  const place = meantime.get(device.id);
  const isHere = owed?.kind === 'meantime_restart';
  const lent = isHere ? owed : place ? meanwhile(work, plan, place, access, own) : undefined;
  if (lent) chain.leaves = lent;
  if (lines.length === 0) {
    chain.inForce = signed;
    return;
  }
  const { atOnce, restarts } = actsOf(type, lines);
  const isProgram = plan.isProgram;
  const later = lent && place ? work.reach.accessTo(plan, place) : access;
  const moves = lines.some(({ of }) => of === 'address');
  const keyed = work.list.add(plan, 'key_in', {
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
      : work.list.add(plan, 'restart', {
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
function owedActs(work: Work, plan: UnitPlan, after: readonly Task[]): Task | undefined {
  const { type, now, lines, segment } = plan;
  const meantime = meantimeOf(plan);
  if (now.due.length === 0 || (!meantime && lines.some(({ of }) => of === 'address'))) return undefined;
  const known = type.commits.flatMap(({ acts }) => acts);
  const acts = now.due.map((act) => known.find((one) => one.act === act) ?? { act, seconds: null });
  return work.list.add(plan, meantime ? 'meantime_restart' : 'restart', {
    ...{ after: [...after], acts, waits: secondsOf(type, acts), place: meantime },
    takes: meantime ? [{ segment, ip: meantime.ip }] : plan.takes,
    why: { code: 'only_then_counts', units: [] },
  });
}

function meanwhile(work: Work, plan: UnitPlan, place: Place, access: readonly Access[], after: readonly Task[]): Task {
  const { type, segment } = plan;
  const lines = [{ of: 'address' as const }];
  const { atOnce, restarts } = actsOf(type, lines);
  const takes = [{ segment, ip: place.ip }];
  const keyed = work.list.add(plan, 'meantime', {
    ...{ access, place, acts: atOnce, after: [...after], takes: restarts.length === 0 ? takes : [] },
    why: { code: 'circle', units: work.crowd.holdersOf(plan).map(({ device }) => device.id) },
  });
  if (restarts.length === 0) return keyed;
  return work.list.add(plan, 'meantime_restart', {
    ...{ after: [keyed], acts: restarts, waits: secondsOf(type, restarts), takes, place },
    why: { code: 'only_then_counts', units: [] },
  });
}

/** What a unit waits for at others: who stands where it goes, who is on the way to it, and who is like it there. */
export function waitForOthers(work: Work, plan: UnitPlan, meantime: ReadonlyMap<string, Place>): void {
  const { id } = plan.device;
  const own = work.list.tasks.filter(({ deviceId }) => deviceId === id);
  const { join } = work.list.chainOf(id);
  const taking = own.find(({ kind }) => kind === 'key_in');
  if (taking && work.crowd.moves(plan))
    for (const holder of work.crowd.holdersOf(plan)) {
      const left = work.list.chains.get(holder.device.id)?.leaves;
      if (left && !(meantime.has(id) && left.deviceId === id)) taking.after.push(left);
    }
  if (plan.now.at === 'asks' && join) {
    const { addressing, cabling } = work.ground;
    const server = servedFrom(addressing, cabling, plan)?.device.id;
    const ready = server && work.list.chains.get(server)?.inForce;
    // it asks as soon as it is on, and waits for an answer no longer than it likes
    if (ready && server !== id && own.some(({ needs }) => needs.length > 0)) join.after.push(ready);
  }
  const path = work.reach.wayTo(plan);
  const alike = new Set(work.crowd.alikeWith(plan).map(({ device }) => device.id));
  for (const on of path) {
    const before = work.list.chains.get(on);
    if (alike.has(on) && join && before?.leaves) join.after.push(before.leaves);
    const isDark = nothingPasses(work, on);
    const passes = passesAfter(work, on);
    for (const task of own)
      if (task.needs.length > 0) {
        if (isDark) task.needs.splice(0, task.needs.length, nowhere);
        else if (passes) task.after.push(passes);
      }
  }
  const host = hostIdOf(work.ground.show, plan.device);
  if (plan.isProgram && host !== id && taking) {
    const ready = work.list.chains.get(host)?.inForce;
    if (ready) taking.after.push(ready);
  }
}

/** Nobody powers it, or nobody sets the mode in which it leads on. */
export function nothingPasses(work: Work, id: string): boolean {
  if (!work.crowd.out.has(id)) return false;
  const isOn = work.list.chains.get(id)?.join !== undefined || work.crowd.units.get(id)?.now.joined;
  return !isOn || isInOtherMode(work, id);
}

/** The task after which a unit passes frames on as planned. */
export function passesAfter(work: Work, id: string): Task | undefined {
  const chain = work.list.chains.get(id);
  return (isInOtherMode(work, id) ? chain?.inForce : undefined) ?? chain?.join;
}

/** Its sockets lead elsewhere until its mode is keyed in. */
const isInOtherMode = (work: Work, id: string): boolean =>
  work.crowd.units.get(id)?.lines.some(({ of }) => of === 'mode') ?? false;
