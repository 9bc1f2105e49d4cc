import { rowsBy } from '../show/index.ts';
import type { Planned } from '../addressing/index.ts';
import { routedWay } from '../links/index.ts';
import { tagOf, type Access } from './access.ts';
import type { Work } from './work.ts';
import type { Need } from './moves.ts';
import { listedOn } from './endpoints.ts';
import { partnersIn, partnersKey, syncBasis, type Partners } from './first-sync.ts';
import { nowhere } from './reach.ts';
import { nothingPasses, passesAfter } from './setting-tasks.ts';
import { handsFor, type Chain } from './task-list.ts';
import type { Task } from './tasks.ts';
import { subnetText } from './unit-now.ts';
import { actsOf, hostIdOf, secondsOf, spotOf, type UnitPlan } from './unit-plan.ts';

const updateSeconds = 180;

/** A unit gets the version that what is used of it asks for, before anybody counts on it. */
export function update(work: Work, plan: UnitPlan): void {
  if (plan.update === undefined || isLeft(plan, 'update') || plan.isProgram) return;
  const chain = work.list.chainOf(plan.device.id);
  // at whichever of its addresses the computer meets it
  const ways = confirmNeeds(work, plan);
  chain.updated = work.list.add(plan, 'update', {
    needs: ways.length > 0 ? ways.flatMap(({ needs }) => needs) : work.reach.needsAt(plan),
    after: [...readyOf(chain), ...ways.flatMap(({ after }) => after)],
    waits: updateSeconds,
    why: { code: 'firmware_first', units: plan.update.by },
  });
}

/** What comes once a unit is as planned and runs its version: its list of targets, and proof. */
export function finish(work: Work, plan: UnitPlan): void {
  const chain = work.list.chainOf(plan.device.id);
  const proved = chain.updated ? [chain.updated] : readyOf(chain);
  for (const { addressId, basis, place, needs, after } of confirmNeeds(work, plan)) {
    const key = `confirm:${addressId}`;
    if (isProved(plan, key, basis) || isLeft(plan, key)) continue;
    work.list.add(plan, 'confirm', {
      ...{ key, addressId, basis, place, needs, after: [...proved, ...after] },
      why: { code: 'proves_it', units: [] },
    });
  }
  if (plan.entries.length > 0 && !isLeft(plan, 'register')) register(work, plan, plan.type);
}

const readyOf = ({ inForce, join }: Chain): Task[] => [inForce ?? join].flatMap((task) => task ?? []);

/** What is in one unit comes into its partner, once both are set and reach each other. */
export function bringIntoStep(work: Work): void {
  const { units, out } = work.crowd;
  for (const partners of partnersIn(work.ground.show)) {
    const { one, other } = partners;
    const [key, basis] = [partnersKey(partners), syncBasis(partners)];
    const plan = units.get(one.id);
    if (!plan || !units.has(other.id) || out.has(one.id) || out.has(other.id)) continue;
    if (isProved(plan, key, basis) || isLeft(plan, key)) continue;
    const ready = [one.id, other.id].flatMap((id) => {
      const chain = work.list.chains.get(id);
      return chain?.updated ?? chain?.inForce ?? chain?.join ?? [];
    });
    const meeting = meetingOf(work, partners);
    work.list.add(plan, 'sync', {
      ...{ key, basis, partnerId: other.id, needs: meeting.needs, after: [...ready, ...meeting.after] },
      why: { code: 'sets_match', units: [other.id] },
    });
  }
}

/** What a computer lists by bare numbers gets a name as soon as it appears. */
export function nameEndpoint(work: Work, plan: UnitPlan): void {
  const { show } = work.ground;
  const on = listedOn(show, plan.device);
  const [key, basis] = [`name:${plan.device.id}`, `${plan.device.swaps} ${on?.swaps}`];
  if (!on || work.crowd.out.has(on.id) || isProved(plan, key, basis) || isLeft(plan, key)) return;
  const after = [plan.device.id, on.id].flatMap((id) => work.list.chains.get(id)?.join ?? []);
  work.list.add(plan, 'name_endpoint', {
    ...{ key, basis, partnerId: on.id, after, why: { code: 'bare_numbers', units: [on.id] } },
  });
}

/** Partners meet over what lies between them; a program on the technician's own computer is carried to where they do. */
function meetingOf(work: Work, { one, other }: Partners): { needs: Need[]; after: Task[] } {
  const { show, computer, adapters } = work.ground;
  const [host, otherHost] = [hostIdOf(show, one), hostIdOf(show, other)];
  const [near, far] = [work.crowd.units.get(host), work.crowd.units.get(otherHost)];
  if (near && far && near !== far) {
    const passed = work.reach.between(near, far);
    const isDark = passed.some((id) => nothingPasses(work, id));
    // not while a cable of theirs is out because the computer’s is in its place
    const home = adapters.flatMap(({ home: { segment } }): Need[] =>
      segment === null ? [] : [{ segment, subnet: null }],
    );
    return { needs: isDark ? [nowhere] : home, after: passed.flatMap((id) => passesAfter(work, id) ?? []) };
  }
  const plan = host === computer.id ? far : otherHost === computer.id ? near : undefined;
  const [way] = plan ? confirmNeeds(work, plan) : [];
  return way ? { needs: way.needs, after: way.after } : { needs: [], after: [] };
}

const isProved = ({ now }: UnitPlan, key: string, basis: string): boolean =>
  now.progress?.confirmed.some((one) => one.step === key && one.basis === basis) ?? false;

function register(work: Work, plan: UnitPlan, type: UnitPlan['type']): void {
  const chain = work.list.chainOf(plan.device.id);
  const targets = targetsOf(work, plan);
  const ready = targets.flatMap((id) => {
    const its = work.list.chains.get(id);
    return its?.updated ?? its?.inForce ?? its?.join ?? [];
  });
  const { atOnce, restarts } = actsOf(type, plan.entries);
  const access = plan.isProgram ? [] : work.reach.accessTo(plan, plan.target);
  const task = work.list.add(plan, 'register', {
    access,
    after: [...(chain.inForce ? [chain.inForce] : []), ...ready, ...joinsOnTheWay(work, plan, access)],
    lines: plan.entries,
    acts: atOnce,
    hands: handsFor.register * plan.entries.filter(({ key }) => !key.endsWith(':password')).length,
    why: { code: type.looksUpOnce ? 'looks_up_once' : 'targets_first', units: targets },
  });
  if (restarts.length > 0)
    work.list.add(plan, 'register_restart', {
      ...{ after: [task], acts: restarts, waits: secondsOf(type, restarts) },
      why: { code: 'only_then_counts', units: [] },
    });
}

function joinsOnTheWay(work: Work, plan: UnitPlan, access: readonly Access[]): Task[] {
  if (access.length === 0 || access.some(({ need }) => need === null)) return [];
  return work.reach.wayTo(plan).flatMap((id) => passesAfter(work, id) ?? []);
}

/** Machines whose programs or services stand in a controller's list. */
function targetsOf(work: Work, { device, entries }: UnitPlan): string[] {
  const { show } = work.ground;
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

/** Where the computer meets each address of a unit: beside it, or through routers from where it belongs. */
function confirmNeeds(work: Work, plan: UnitPlan) {
  const { cabling, links, computer, adapters } = work.ground;
  if (plan.isProgram) return [];
  return plan.planned.flatMap((item) => {
    const { ip, prefix, address } = item;
    const [spot] = spotOf(cabling, item);
    if (ip === null || !spot || address.method !== 'static') return [];
    const segment = work.reach.placeFor(spot.segment, plan.device.id, item.interface.adapter);
    const direct = subnetsBeside(item).map((subnet): Need => ({ segment, subnet }));
    const way = tagOf(cabling, item) === null ? routedWay(links, computer.id, plan.device.id, ip) : undefined;
    const home = way && adapters.find(({ key }) => key === way.adapter)?.home.segment;
    const routed: Need[] =
      way && home != null && way.routers.length > 0 && !way.routers.includes(plan.device.id)
        ? [{ segment: home, subnet: way.from }]
        : [];
    const routers = routed.length > 0 ? (way?.routers ?? []) : [];
    const passed = [...work.reach.wayTo(plan), ...routers];
    const joins = passed.flatMap((id) => passesAfter(work, id) ?? []);
    const isDark = passed.some((id) => nothingPasses(work, id));
    const set = routers.flatMap((id) => work.list.chains.get(id)?.inForce ?? []);
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

/** The computer is put back to where it belongs, once everything else is done. */
export function comeHome(work: Work): void {
  const { adapters, computer } = work.ground;
  const others = [...work.list.tasks];
  for (const { key, home } of adapters)
    for (const place of home.places) {
      if (home.segment === null || others.length === 0) continue;
      work.list.add({ device: computer }, 'home', {
        ...{ key: `home:${key} ${subnetText(place)}`.slice(0, 120), after: others, place },
        needs: [{ segment: home.segment, subnet: subnetText(place) }],
        why: { code: 'as_it_was', units: [] },
      });
    }
}

/** What a confirmation proved: as soon as any of it is another, it has to be proved again. */
function confirmBasis({ planned, device, type }: UnitPlan, addressId: string): string {
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

const isLeft = ({ now, device }: UnitPlan, step: string): boolean =>
  now.progress?.left.some((left) => left.step === step || left.step === `${step}:${device.id}`) ?? false;
