import { addressingFacts } from '../addressing/index.ts';
import type { Loop } from '../cabling/index.ts';
import type { Finding, Fix } from '../findings/index.ts';
import { applyChange, rowsOf, type Show } from '../show/index.ts';
import { forecast, linkFacts, type Sounding } from './forecast.ts';

/** Findings whose fix changes where packets go: applied to a plan that works by luck, it may stop what works. */
const changesWays: ReadonlySet<string> = new Set([
  'outside_subnet',
  'not_granted',
  'no_server',
  'second_needs_fixed',
  'two_adapters',
  'parts_moved',
  'too_long',
  'cable_both_unplugged',
  'cable_controller_unplugged',
  'cable_target_unplugged',
  'segment_apart',
  'alike_differ',
  'address_not_known',
  'address_aims_elsewhere',
  'address_one_way',
  'reply_replies_elsewhere',
  'address_other_subnet',
  'address_not_a_host',
]);

interface Plan {
  readonly show: Show;
  readonly soundings: readonly Sounding[];
  /** How many cables run in circles. */
  readonly spareCables: number;
}

/** Each fix costs a forecast of the whole plan: so many units are looked at in all, the worst findings first. */
const mostUnits = 2000;

/**
 * Leaves out fixes that would stop a link which works, or that do not mend their own link: tried on the plan before
 * they are offered. Large plans have more findings than can be tried at once: there only the first are.
 */
export function withHarmlessFixes(plan: Plan, findings: readonly Finding[]): Finding[] {
  let units = 0;
  return findings.map((finding) => {
    if (!changesWays.has(finding.code) || finding.fixes.length === 0) return finding;
    units += rowsOf(plan.show, 'devices').length * finding.fixes.length;
    if (units > mostUnits) return finding;
    return { ...finding, fixes: finding.fixes.filter((fix) => isHarmless(plan, finding, fix)) };
  });
}

function isHarmless(
  { show, soundings, spareCables: spareBefore }: Plan,
  { code, subjects }: Finding,
  { change }: Fix,
): boolean {
  const applied = applyChange(show, change);
  if (!applied.ok) return false;
  const facts = linkFacts(applied.show, addressingFacts(applied.show), () => ({ change: undefined }));
  // a cable or a mode that closes a circle floods what is there
  if (spareCables(facts.cabling.domains().loops) > spareBefore) return false;
  return soundings.every(({ link, stopsAt }) => {
    const isOwn = subjects.some(({ table, id }) => table === 'links' && id === link.id);
    const row = applied.show.links[link.id];
    if (!row || (stopsAt && !isOwn)) return true;
    const now = forecast(applied.show, facts, row).stopsAt;
    return stopsAt ? now === undefined || `${now.layer}_${now.code}` !== code : now === undefined;
  });
}

/** How many cables would have to go before nothing runs in a circle. */
export const spareCables = (loops: readonly Loop[]): number => loops.reduce((sum, { spare }) => sum + spare.length, 0);
