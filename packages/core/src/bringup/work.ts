import type { Crowd } from './crowd.ts';
import type { Ground } from './ground.ts';
import type { Reach } from './reach.ts';
import type { TaskList } from './task-list.ts';

/** What the makers of tasks share. */
export interface Work {
  readonly ground: Ground;
  readonly crowd: Crowd;
  readonly reach: Reach;
  readonly list: TaskList;
}
