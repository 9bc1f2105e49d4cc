import { show as core } from '@deep-patch/core';
import type { Site } from '../site/site.ts';
import type { Memory } from '../units/memory.ts';
import type { UnitSettings } from '../units/settings.ts';
import { settingsOf, type Standin } from '../units/standin.ts';
import { faultKind, type FaultKind } from './fault.ts';
import { revert } from './revert.ts';

/** What a fault at a unit may change: what is keyed into it, what runs on it, what it keeps and what it shows. */
const snapshot = (unit: Standin) => {
  const { application, firewall, helper, firstSignIn, activeSet, sets, face } = unit.memory;
  return {
    settings: settingsOf(unit),
    running: { application, firewall, helper, firstSignIn, activeSet },
    sets: Object.fromEntries(sets),
    face: Object.fromEntries(face),
  };
};

function refill<Key, Value>(map: Map<Key, Value>, entries: Iterable<readonly [Key, Value]>): void {
  map.clear();
  for (const [key, value] of entries) map.set(key, value);
}

interface Wrong {
  /** The unit at which somebody keys something wrong in, or in words why that makes no sense. */
  readonly at: (site: Site, unit: Standin) => Standin | string;
  readonly change: (memory: Memory, at: Standin, unit: Standin) => void;
  readonly mayHide: boolean;
}

/**
 * A unit changed as if somebody had keyed something wrong in. Mended, only this change is taken back: other faults of
 * the unit stay, and so does what somebody put right by hand meanwhile.
 */
export const keyedWrong = ({ at, change, mayHide }: Wrong): FaultKind =>
  faultKind({
    mayHide,
    inWiring: false,
    fits: at,
    isAlsoAt: (place) => place,
    set: (place, site, unit) => {
      const followedPlan = place.memory.own === undefined;
      const before = snapshot(place);
      change(place.memory, place, unit);
      const after = snapshot(place);
      site.refresh(place);
      return { followedPlan, before, after };
    },
    mend: ({ followedPlan, before, after }, { memory, device }, site) => {
      const now = site.standins.get(device.id);
      if (!now) return;
      const { running, sets, face } = revert(snapshot(now), before, after);
      const back = (settings: UnitSettings | undefined): UnitSettings | undefined => {
        const reverted = settings && revert(settings, before.settings, after.settings);
        return followedPlan && core.isEqual(reverted, before.settings) ? undefined : reverted;
      };
      Object.assign(memory, running);
      refill(
        memory.sets,
        Object.entries(sets).map(([position, set]) => [Number(position), set] as const),
      );
      refill(memory.face, Object.entries(face));
      memory.own = back(memory.own);
      memory.kept = back(memory.kept);
      site.refresh(now);
    },
  });

export const runsApplication = ({ type, computer }: Standin): boolean =>
  (computer !== undefined || core.isComputer(type)) && type.services.length > 0;
