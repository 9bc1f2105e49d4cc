import type { Device, DeviceType } from '../show/index.ts';
import { compareVersions } from './compare-versions.ts';

export type PlatformFit = 'usable' | 'too_old' | 'too_new' | 'other_system' | 'unknown' | 'unsaid';

/**
 * Does a program run on a computer, by its system and version (C39)? `unknown` where nobody wrote those down, `unsaid`
 * where its type names no system.
 */
export function platformFit(program: DeviceType, computer: Device): PlatformFit {
  if (program.runsOn.length === 0) return 'unsaid';
  if (computer.system === null) return 'unknown';
  const own = program.runsOn.find(({ system }) => system === computer.system);
  if (!own) return 'other_system';
  const { lowest, highest } = own;
  if (lowest === null && highest === null) return 'usable';
  const order = (limit: string | null) =>
    limit === null ? 0 : computer.systemVersion === null ? undefined : compareVersions(computer.systemVersion, limit);
  // 14 allows 14.2: a limit counts as far as it is written
  const [low, high] = [order(lowest), highest === null ? 0 : above(computer.systemVersion, highest)];
  if (low === undefined || high === undefined) return 'unknown';
  return low < 0 ? 'too_old' : high > 0 ? 'too_new' : 'usable';
}

function above(version: string | null, limit: string): -1 | 0 | 1 | undefined {
  const parts = limit.split('.').length;
  return version === null ? undefined : compareVersions(version.split('.').slice(0, parts).join('.'), limit);
}
