import type { Surroundings } from '../../units/surroundings.ts';
import type { Standin } from '../../units/standin.ts';
import { moveTogether } from './linked-computers.ts';
import { looksUpEntries } from './look-up-once.ts';
import { takeSeat } from './seats.ts';
import { startsPlayout } from './switcher.ts';
import { sendTimecode } from './timecode.ts';

/** What some kinds of units do by themselves, beside what they are told. */
export function startBehaviours(site: Surroundings, standin: Standin): void {
  if (standin.memory.application === 'closed') return;
  if (standin.type.looksUpOnce) looksUpEntries(site, standin);
  if (standin.type.kind === 'switcher' && standin.type.form === 'unit') startsPlayout(site, standin);
  takeSeat(site, standin);
  if (standin.type.kind === 'timecode') sendTimecode(site, standin);
  if (standin.device.features.includes('linked')) moveTogether(site, standin);
}
