import { spotKey, type Spot, type Task } from './tasks.ts';
import type { UnitPlan } from './unit-plan.ts';
import { spotNow } from './unit-plan.ts';

/** A task with its place in time; seconds from the beginning, waits included. */
export interface Timed {
  readonly task: Task;
  readonly startS: number;
}

export interface Sequenced {
  readonly stations: readonly (readonly Timed[])[];
  /** Tasks that nothing but a clash would let begin. */
  readonly stuck: readonly Task[];
  readonly seconds: number;
}

/** Seconds that it takes to go to the next station: the computer's adapter, or its cable too. */
const goingS = 60;

/**
 * The order inside each station. Whoever can be set is set while others restart; a unit that somebody is at is finished
 * first. It plays through what is on which address: nobody is joined, and nobody takes an address, where a powered unit
 * of the segment has the same.
 */
export function sequence(
  stations: readonly (readonly Task[])[],
  units: ReadonlyMap<string, UnitPlan>,
  rankOf: (deviceId: string) => number,
  own: (station: number) => readonly Spot[],
): Sequenced {
  const site = new Played(units);
  const done = new Map<Task, number>();
  let clock = 0;
  let last = '';
  const result: Timed[][] = [];
  const stuck: Task[] = [];
  stations.forEach((tasks, at) => {
    if (at > 0) clock += goingS;
    const open = new Set(tasks);
    const timed: Timed[] = [];
    const here = own(at);
    while (open.size > 0) {
      const possible = [...open].filter((task) => task.after.every((before) => done.has(before)));
      const free = possible.filter((task) => site.allows(task, here));
      const ready = free.filter((task) => readyAt(task, done) <= clock);
      const [next] = (ready.length > 0 ? ready : free).sort(
        (a, b) =>
          (ready.length > 0 ? 0 : readyAt(a, done) - readyAt(b, done)) ||
          late(a) - late(b) ||
          Number(a.deviceId !== last) - Number(b.deviceId !== last) ||
          rankOf(a.deviceId) - rankOf(b.deviceId) ||
          (a.key < b.key ? -1 : 1),
      );
      if (!next) {
        stuck.push(...open);
        break;
      }
      open.delete(next);
      clock = Math.max(clock, readyAt(next, done));
      timed.push({ task: next, startS: clock });
      clock += next.hands;
      done.set(next, clock + next.waits);
      site.play(next);
      last = next.deviceId;
    }
    result.push(timed);
  });
  return { stations: result, stuck, seconds: Math.max(clock, ...done.values()) };
}

const readyAt = (task: Task, done: ReadonlyMap<Task, number>): number =>
  task.after.reduce((latest, before) => Math.max(latest, done.get(before) ?? 0), 0);

/** Proof and lists come when nothing else can be done: meanwhile units restart. */
const late = ({ kind }: Task): number =>
  kind === 'home' ? 3 : kind === 'confirm' ? 2 : kind.startsWith('register') ? 1 : 0;

/** Who is powered, and on which addresses. */
class Played {
  private readonly at = new Map<string, readonly Spot[]>();
  private readonly byKey = new Map<string, Set<string>>();
  private readonly units: ReadonlyMap<string, UnitPlan>;

  constructor(units: ReadonlyMap<string, UnitPlan>) {
    this.units = units;
    for (const plan of units.values()) if (plan.now.joined) this.put(plan.device.id, spotNow(plan));
  }

  private put(id: string, spots: readonly Spot[]): void {
    for (const spot of this.at.get(id) ?? []) this.byKey.get(spotKey(spot))?.delete(id);
    this.at.set(id, spots);
    for (const spot of spots) {
      const there = this.byKey.get(spotKey(spot)) ?? new Set();
      this.byKey.set(spotKey(spot), there.add(id));
    }
  }

  /** Where a unit is once it is powered: what it has is known of the plan until a task moved it. */
  private readonly moved = new Map<string, readonly Spot[]>();
  private spotsOf(id: string): readonly Spot[] {
    const plan = this.units.get(id);
    return this.moved.get(id) ?? (plan ? spotNow(plan) : []);
  }

  allows({ kind, deviceId, takes }: Task, computer: readonly Spot[]): boolean {
    const wanted = kind === 'join' ? this.spotsOf(deviceId) : takes;
    return wanted.every((spot) => {
      const others = this.byKey.get(spotKey(spot));
      const isAlone = !others || others.size === 0 || (others.size === 1 && others.has(deviceId));
      return isAlone && !computer.some((own) => spotKey(own) === spotKey(spot));
    });
  }

  play({ kind, deviceId, takes }: Task): void {
    if (takes.length > 0) this.moved.set(deviceId, takes);
    if (kind === 'part') this.put(deviceId, []);
    else if (kind === 'join') this.put(deviceId, this.spotsOf(deviceId));
    else if (takes.length > 0 && this.at.has(deviceId)) this.put(deviceId, takes);
  }
}
