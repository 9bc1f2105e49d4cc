import type { findings } from '@deep-patch/core';

/** The rail: the order in which the job is done. A stop appears when its screen is built. */
export const stops: readonly {
  readonly path: string;
  readonly label: string;
  readonly key: string;
  readonly room: findings.Room | undefined;
}[] = [
  { path: 'rig', label: 'Rig', key: 'r', room: 'rig' },
  { path: 'addresses', label: 'Addresses', key: 'a', room: 'addressing' },
  { path: 'links', label: 'Links', key: 'l', room: 'links' },
  { path: 'bench', label: 'Bench', key: 'b', room: undefined },
];
