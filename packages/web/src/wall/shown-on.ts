import type { contract, wall as core } from '@deep-patch/core';
import type { Shown } from './paint-wall.worker.ts';

/** What a wall of the bench shows of what one of both sends. */
export const shownOn = (there: contract.WallOnBench, sender: core.Sender = there.sender): Shown => {
  const { runs, real, start, dark } = there;
  return { sender, running: { runs, real, start, isDark: dark[sender] !== null } };
};
