import type { Device, DeviceType } from '../show/index.ts';
import { compareVersions } from './compare-versions.ts';

export type PlatformFit = 'usable' | 'too_old' | 'other_system' | 'unknown';

/** Does a program run on a computer, by its system and version (C39)? Unknown where nobody wrote them down. */
export function platformFit(program: DeviceType, computer: Device): PlatformFit {
  if (program.runsOn.length === 0) return 'usable';
  if (computer.system === null) return 'unknown';
  const own = program.runsOn.find(({ system }) => system === computer.system);
  if (!own) return 'other_system';
  if (own.lowest === null) return 'usable';
  const order = computer.systemVersion === null ? undefined : compareVersions(computer.systemVersion, own.lowest);
  return order === undefined ? 'unknown' : order < 0 ? 'too_old' : 'usable';
}
