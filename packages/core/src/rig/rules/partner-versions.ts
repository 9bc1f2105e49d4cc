import { finding, type Finding } from '../../findings/index.ts';
import type { Show } from '../../show/index.ts';
import { compareVersions } from '../compare-versions.ts';
import { namesOf, subjectsOf, type RigFacts, type Typed } from '../facts.ts';

/**
 * Units that must have the version of a partner (need 1.3): a program and the processor that it drives, a mixer and
 * its racks, machines that move together. One finding for each pair of models.
 */
export const partnerVersions = (_show: Show, facts: RigFacts) =>
  [...facts.byModel.values()].flatMap((own) => {
    const [first] = own;
    if (!first) return [];
    return first.type.matches.flatMap(({ model, rule }) => {
      // each pair is told once: by the model that comes first, unless only the other one asks for it
      const partners = model === first.type.model ? [] : (facts.byModel.get(model) ?? []);
      const asksBack = partners[0]?.type.matches.some((match) => match.model === first.type.model) ?? false;
      const isTold = model < first.type.model && asksBack;
      const isAlone = model !== first.type.model && partners.length === 0;
      return isTold || isAlone ? [] : unequal([...own, ...partners], rule);
    });
  });

function unequal(together: readonly Typed[], rule: 'equal' | 'first_part'): Finding[] {
  const known = together.filter(({ device }) => device.firmware !== null);
  const silent = together.filter(({ device }) => device.firmware === null);
  const [reference] = known;
  const isOdd = known.some(({ device }) => !same(reference?.device.firmware ?? '', device.firmware ?? '', rule));
  const versions = [...new Set(known.map(({ device }) => device.firmware ?? ''))];
  const details = { names: namesOf(together), versions, rule, silent: namesOf(silent) };
  if (isOdd) return [finding('rig', 'partner_versions', 'risky', subjectsOf(together), details)];
  return silent.length > 0 && known.length > 0
    ? [finding('rig', 'partner_unknown', 'note', subjectsOf(silent), details)]
    : [];
}

function same(a: string, b: string, rule: 'equal' | 'first_part'): boolean {
  const [left, right] = rule === 'first_part' ? [a, b].map((text) => text.split('.')[0] ?? '') : [a, b];
  return (compareVersions(left ?? '', right ?? '') ?? (left === right ? 0 : 1)) === 0;
}
