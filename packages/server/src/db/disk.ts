import { statfsSync } from 'node:fs';

/** What a database needs at least to go on writing. */
const leastRoom = 16 << 20;

/** Is the disk of a folder full? The database itself cannot say so once that made it end. */
export const isDiskFull = (folder: string): boolean => {
  const { bavail, bsize } = statfsSync(folder);
  return bavail * bsize < leastRoom;
};
