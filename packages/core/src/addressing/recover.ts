import { isComputer, typeOf, type Device, type Show } from '../show/index.ts';
import type { AddressingFacts } from './facts.ts';
import { reachWays, type ReachWay } from './reach.ts';

/**
 * One way to a unit whose address is unknown. `ranges` has the places to try, `reset` what it would erase, `key_in` the
 * addresses that are planned.
 */
export type RecoverStep =
  | { readonly kind: 'display' | 'search' | 'usb' | 'local_screen'; readonly note: string }
  | { readonly kind: 'ranges'; readonly ways: readonly ReachWay[] }
  | { readonly kind: 'reset'; readonly erases: readonly string[]; readonly savedOn: string | null }
  | { readonly kind: 'key_in'; readonly ips: readonly string[] };

/**
 * How to get at a unit whose address nobody knows, the most harmless way first (needs no setting, then changes only the
 * computer, then takes a cable or a screen to it, then loses something): its display, a search, the ranges in which it
 * may be (C18), USB, a screen of its own, a reset; last the planned address is keyed in.
 */
export function recoverSteps(show: Show, facts: AddressingFacts, device: Device): RecoverStep[] {
  const type = typeOf(show, device);
  if (!type) return [];
  const wayOf = (wanted: string) => type.ways.find(({ way }) => way === wanted);
  const step = (kind: 'display' | 'search' | 'usb' | 'local_screen', way: string): RecoverStep[] => {
    const found = wayOf(way);
    return found ? [{ kind, note: found.note }] : [];
  };
  const ways = reachWays(show, facts, device);
  const bySix = ways.filter(({ why }) => why === 'link_local_6');
  const ranges = ways.filter(({ why }) => why !== 'link_local_6');
  const found = bySix.map(({ at }) => `it answers at ${at}`).join(', ');
  const search = step('search', 'search');
  const planned = (facts.byDevice.get(device.id) ?? []).flatMap(({ address }) => address.ip ?? []);
  const isReset = type.form !== 'program' && !isComputer(type) && type.adapters.length > 0;
  return [
    ...step('display', 'menu'),
    ...(search.length > 0 ? search : bySix.length > 0 ? [{ kind: 'search', note: found } as const] : []),
    ...(ranges.length > 0 ? [{ kind: 'ranges', ways: ranges } as const] : []),
    ...step('usb', 'usb'),
    ...step('local_screen', 'system'),
    ...(isReset ? [{ kind: 'reset', erases: type.erases, savedOn: device.savedOn } as const] : []),
    ...(planned.length > 0 ? [{ kind: 'key_in', ips: planned } as const] : []),
  ];
}
