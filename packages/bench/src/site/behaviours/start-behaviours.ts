import type { Surroundings } from '../../units/surroundings.ts';
import type { Standin } from '../../units/standin.ts';
import { moveTogether } from './linked-computers.ts';
import { looksUpEntries } from './look-up-once.ts';
import { takeSeat } from './seats.ts';
import { takesCalls } from './callers.ts';
import { showOutputs } from './outputs.ts';
import { playsClips } from './playout.ts';
import { cutsInputs } from './switcher.ts';
import { keepsTime } from './timecode.ts';

/** What some kinds of units do by themselves, beside what they are told. */
export function startBehaviours(site: Surroundings, standin: Standin): void {
  if (standin.memory.application === 'closed') return;
  if (standin.type.looksUpOnce) looksUpEntries(site, standin);
  if (standin.type.kind === 'switcher' && standin.type.form === 'unit') cutsInputs(site, standin);
  takeSeat(site, standin);
  playsClips(site, standin);
  showOutputs(site, standin);
  if (standin.type.kind === 'caller') takesCalls(standin);
  if (standin.type.timecode || standin.type.kind === 'timecode') keepsTime(site, standin);
  if (standin.device.features.includes('linked')) moveTogether(site, standin);
}
