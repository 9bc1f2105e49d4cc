import type { Task, TaskKind } from './tasks.ts';
import type { UnitPlan } from './unit-plan.ts';

/** The tasks of one unit that others wait for. */
export interface Chain {
  join: Task | undefined;
  /** It is no longer where it was. */
  leaves: Task | undefined;
  /** All that is planned counts. */
  inForce: Task | undefined;
  updated: Task | undefined;
}

/** Seconds that somebody is busy with a task. */
export const handsFor: Readonly<Record<TaskKind, number>> = {
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
  sync: 120,
  name_endpoint: 45,
  confirm: 10,
  home: 0,
};

/** The tasks so far, and by unit those that others wait for. */
export class TaskList {
  readonly tasks: Task[] = [];
  readonly chains = new Map<string, Chain>();

  add({ device }: Pick<UnitPlan, 'device'>, kind: TaskKind, more: Partial<Task> & Pick<Task, 'why'>): Task {
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
      basis: more.basis,
      partnerId: more.partnerId,
      ...(more.key === undefined ? {} : { key: more.key }),
    };
    this.tasks.push(task);
    return task;
  }

  chainOf(id: string): Chain {
    const known = this.chains.get(id) ?? { join: undefined, leaves: undefined, inForce: undefined, updated: undefined };
    this.chains.set(id, known);
    return known;
  }
}
