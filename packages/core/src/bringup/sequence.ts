import { memoFor } from '../show/index.ts';
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
  // what needs nothing of the computer and would clash as yet is done at the next station
  let carried: Task[] = [];
  const { after, missing } = waitingFor(stations.flat());
  const possible = (open: ReadonlySet<Task>): Task[] => [...open].filter((task) => missing.get(task) === 0);
  // once everything before it is done, the time from which a task is ready stands
  const readyOf = memoFor((task: Task) => readyAt(task, done));
  stations.forEach((tasks, at) => {
    if (at > 0) clock += goingS;
    const open = new Set([...carried, ...tasks]);
    carried = [];
    const timed: Timed[] = [];
    const here = own(at);
    while (open.size > 0) {
      const next = best(
        possible(open),
        (task) => site.allows(task, here),
        (a, b) => {
          const [readyA, readyB] = [readyOf(a), readyOf(b)];
          // whoever need not be waited for comes first, else whoever is ready first
          const waits = Number(readyA > clock) - Number(readyB > clock) || (readyA > clock ? readyA - readyB : 0);
          return (
            waits ||
            late(a) - late(b) ||
            Number(a.deviceId !== last) - Number(b.deviceId !== last) ||
            rankOf(a.deviceId) - rankOf(b.deviceId) ||
            (a.key < b.key ? -1 : 1)
          );
        },
      );
      if (!next) {
        const isLast = at === stations.length - 1;
        carried = isLast ? [] : [...open].filter(({ needs }) => needs.length === 0);
        stuck.push(...[...open].filter((task) => !carried.includes(task)));
        break;
      }
      open.delete(next);
      clock = Math.max(clock, readyOf(next));
      timed.push({ task: next, startS: clock });
      clock += next.hands;
      done.set(next, clock + next.waits);
      for (const later of after.get(next) ?? []) missing.set(later, (missing.get(later) ?? 1) - 1);
      site.play(next);
      last = next.deviceId;
    }
    result.push(timed);
  });
  return { stations: result, stuck, seconds: Math.max(clock, ...done.values()) };
}

/** Who waits for each task, and for how many others each waits. */
function waitingFor(tasks: readonly Task[]) {
  const after = new Map<Task, Task[]>();
  const missing = new Map<Task, number>();
  for (const task of tasks) {
    const before = new Set(task.after);
    missing.set(task, before.size);
    for (const one of before) {
      const known = after.get(one);
      if (known) known.push(task);
      else after.set(one, [task]);
    }
  }
  return { after, missing };
}

/** The first of those that fit, by an order, in one walk. */
function best(
  tasks: Iterable<Task>,
  fits: (task: Task) => boolean,
  order: (a: Task, b: Task) => number,
): Task | undefined {
  let found: Task | undefined;
  for (const task of tasks) if ((!found || order(task, found) < 0) && fits(task)) found = task;
  return found;
}

const readyAt = (task: Task, done: ReadonlyMap<Task, number>): number =>
  task.after.reduce((latest, before) => Math.max(latest, done.get(before) ?? 0), 0);

/** Proof and lists come when nothing else can be done: meanwhile units restart. */
const late = ({ kind }: Task): number =>
  kind === 'home' ? 3 : kind === 'confirm' ? 2 : kind.startsWith('register') ? 1 : 0;

/**
 * Who is powered, and on which addresses. Where a unit is that nobody has set yet is known by its address alone; who is
 * set is where the plan has it, in a segment.
 */
class Played {
  private readonly here = new Map<string, readonly string[]>();
  private readonly byKey = new Map<string, Set<string>>();
  private readonly moved = new Map<string, readonly Spot[]>();
  private readonly units: ReadonlyMap<string, UnitPlan>;

  constructor(units: ReadonlyMap<string, UnitPlan>) {
    this.units = units;
    for (const plan of units.values()) if (plan.now.joined) this.put(plan.device.id);
  }

  /** The unit is on at what it has now, each address under its own name and, while it is not set, under any segment's. */
  private put(id: string): void {
    this.take(id);
    const keys = this.keysOf(id);
    this.here.set(id, keys);
    for (const key of keys) this.byKey.set(key, (this.byKey.get(key) ?? new Set()).add(id));
  }

  private take(id: string): void {
    for (const key of this.here.get(id) ?? []) this.byKey.get(key)?.delete(id);
    this.here.delete(id);
  }

  private keysOf(id: string): string[] {
    const moved = this.moved.get(id);
    if (moved) return moved.flatMap((spot) => [spotKey(spot), `set ${spot.ip}`]);
    const plan = this.units.get(id);
    return plan ? spotNow(plan).flatMap((spot) => [spotKey(spot), anywhere(spot)]) : [];
  }

  /** Nobody else is under any of these names. */
  private isFree(id: string, keys: readonly string[]): boolean {
    for (const key of keys) {
      const there = this.byKey.get(key);
      if (there && there.size > 0 && !(there.size === 1 && there.has(id))) return false;
    }
    return true;
  }

  /** Under which names somebody else would be in the way of a task; they are others once its unit is set. */
  private readonly namesFor = [false, true].map((isSet) =>
    memoFor(({ kind, deviceId, takes }: Task) => {
      const plan = this.units.get(deviceId);
      const own = kind === 'join' ? ((isSet ? this.moved.get(deviceId) : plan && spotNow(plan)) ?? []) : takes;
      const isLoose = kind === 'join' && !isSet;
      return {
        own,
        keys: own.flatMap((spot) => [spotKey(spot), anywhere(spot), ...(isLoose ? [`set ${spot.ip}`] : [])]),
      };
    }),
  );

  allows(task: Task, computer: readonly Spot[]): boolean {
    const names = this.namesFor[Number(this.moved.has(task.deviceId))]?.(task);
    if (!names || names.keys.length === 0) return true;
    return (
      this.isFree(task.deviceId, names.keys) && !names.own.some(({ ip }) => computer.some((mine) => mine.ip === ip))
    );
  }

  play({ kind, deviceId, takes }: Task): void {
    if (takes.length > 0) this.moved.set(deviceId, takes);
    if (kind === 'part') this.take(deviceId);
    else if (kind === 'join' || this.here.has(deviceId)) this.put(deviceId);
  }
}

const anywhere = ({ ip }: Spot): string => `anywhere ${ip}`;
