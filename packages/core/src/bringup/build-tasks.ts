import { rowsOf } from '../show/index.ts';
import { circlesBroken } from './circles.ts';
import { Crowd } from './crowd.ts';
import { bringIntoStep, comeHome, finish, nameEndpoint, update } from './finishing-tasks.ts';
import type { Ground } from './ground.ts';
import type { Work } from './work.ts';
import { leaveOut } from './left-out.ts';
import { Reach } from './reach.ts';
import { bringOnto, powerUp, set, startOn, waitForOthers } from './setting-tasks.ts';
import { TaskList } from './task-list.ts';
import type { Blocked, Task } from './tasks.ts';
import { unitNow } from './unit-now.ts';
import { unitPlan, type UnitPlan } from './unit-plan.ts';

export interface Built {
  readonly tasks: readonly Task[];
  readonly blocked: readonly Blocked[];
  readonly units: ReadonlyMap<string, UnitPlan>;
}

/** Everything that is to be done, with what each waits for, in no order yet. */
export function buildTasks(ground: Ground): Built {
  const units = unitsOf(ground);
  const work: Work = { ground, crowd: new Crowd(units), reach: new Reach(ground), list: new TaskList() };
  leaveOut(work);
  const meantime = circlesBroken(work);
  const plans = [...units.values()].filter(({ device }) => !work.crowd.out.has(device.id));
  for (const plan of plans) if (!plan.isProgram) bringOnto(work, plan);
  for (const plan of units.values()) powerUp(work, plan);
  for (const plan of plans) if (plan.isProgram) startOn(work, plan);
  for (const plan of plans) set(work, plan, meantime);
  for (const plan of plans) waitForOthers(work, plan, meantime);
  for (const plan of plans) update(work, plan);
  for (const plan of plans) finish(work, plan);
  for (const plan of plans) nameEndpoint(work, plan);
  bringIntoStep(work);
  comeHome(work);
  return { tasks: work.list.tasks, blocked: work.crowd.blocked, units };
}

/** What is to become of every unit but the computer. */
function unitsOf({ show, addressing, cabling, computer, foundAt }: Ground): Map<string, UnitPlan> {
  const units = new Map<string, UnitPlan>();
  for (const device of rowsOf(show, 'devices')) {
    const now = device.id === computer.id ? undefined : unitNow(show, device, foundAt);
    if (now) units.set(device.id, unitPlan(show, addressing, cabling, now));
  }
  return units;
}
