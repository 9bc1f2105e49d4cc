import { nameList, type Finding, type Found, groups } from '../../findings/index.ts';
import { compareVersions } from '../compare-versions.ts';
import { namesOf, subjectsOf, type Typed } from '../facts.ts';
import { rigRule } from '../rig-rule.ts';

type MatchRule = Typed['type']['matches'][number]['rule'];
type Partners = { names: string[]; versions: string[]; rule: MatchRule; silent: string[] };
type Finds = { partner_versions: Partners; partner_unknown: Partners };

/**
 * Units that must have the version of a partner (need 1.3): a program and the processor that it drives, a mixer and
 * its racks, machines that move together. One finding for each pair of models.
 */
export const partnerVersions = rigRule<Finds>(
  {
    partner_versions: (f) => [
      `${nameList(f.names)} run ${nameList(f.versions)}.`,
      f.rule === 'equal'
        ? 'They refuse or misread each other unless the versions are the same.'
        : 'They work together only with the same first figure.',
      'Update the older ones over the network, one at a time; each vanishes for a while.',
    ],
    partner_unknown: (f) => [
      `Nobody wrote down the version of ${nameList(f.silent)}.`,
      `It must go with ${nameList(f.versions)} of its partner.`,
      'Read it from the unit or the program.',
    ],
  },
  groups(
    (_show, { byModel }) => byModel,
    (found, own, _show, facts) => {
      const [first] = own;
      if (!first) return [];
      return first.type.matches.flatMap(({ model, rule }) => {
        // each pair is told once: by the model that comes first, unless only the other one asks for it
        const partners = model === first.type.model ? [] : (facts.byModel.get(model) ?? []);
        const asksBack = partners[0]?.type.matches.some((match) => match.model === first.type.model) ?? false;
        const isTold = model < first.type.model && asksBack;
        const isAlone = model !== first.type.model && partners.length === 0;
        return isTold || isAlone ? [] : unequal(found, [...own, ...partners], rule);
      });
    },
  ),
);

function unequal(found: Found<Finds>, together: readonly Typed[], rule: MatchRule): Finding[] {
  const known = together.filter(({ device }) => device.firmware !== null);
  const silent = together.filter(({ device }) => device.firmware === null);
  const [reference] = known;
  const isOdd = known.some(
    ({ device }) => !versionsMatch(reference?.device.firmware ?? '', device.firmware ?? '', rule),
  );
  const versions = [...new Set(known.map(({ device }) => device.firmware ?? ''))];
  const details = { names: namesOf(together), versions, rule, silent: namesOf(silent) };
  if (isOdd) return [found('partner_versions', 'risky', subjectsOf(together), details)];
  return silent.length > 0 && known.length > 0 ? [found('partner_unknown', 'note', subjectsOf(silent), details)] : [];
}

/** Do two versions go together by the rule of their types? */
export function versionsMatch(a: string, b: string, rule: MatchRule): boolean {
  const [left, right] = rule === 'first_part' ? [a, b].map((text) => text.split('.')[0] ?? '') : [a, b];
  return (compareVersions(left ?? '', right ?? '') ?? (left === right ? 0 : 1)) === 0;
}
