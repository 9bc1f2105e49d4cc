import { fixWith, keyed, nameList, type Finding, each, groups } from '../../findings/index.ts';
import { changeOf, updateRow, type Cable, type Change, type Show, indexBy } from '../../show/index.ts';
import { cablingRule } from '../cabling-rule.ts';
import { gradeFor, gradesOf, isEthernet, isTooLong, longestAt, longestRun, rateOf, runAdvice } from '../run-length.ts';
import { gradeWords, rateWords, kindWords, runWords } from '../run-words.ts';

type Run = { from: string; to: string; lengthM: number };
type Finds = {
  too_long: Run & { medium: string; mostM: number };
  too_long_for_rate: Run & { grade: string; rate: string; mostM: number; grades: string[] };
  grade_unknown: Run & { rate: string; grades: string[] };
};

/** Network cables by their ids, one each. */
const wiredById = indexBy('cables', (cable, show) =>
  cable.medium !== 'wireless' && isEthernet(show, cable) ? [[cable.id, cable]] : [],
);
const unmeasured = indexBy('cables', (cable, show) =>
  cable.lengthM === null && wiredById(show).has(cable.id) ? [['all', cable]] : [],
);

/** Runs that their medium or grade does not carry at the rate of both ends (C46), and what nobody knows of them. */
export const tooLong = cablingRule<Finds>(
  {
    too_long: (f) => [
      `The ${f.medium} run from ${f.from} to ${f.to} is ${f.lengthM} m long; ${f.mostM} m is the most.`,
      'No link comes up on it, or one that loses what it carries.',
      runAdvice(f.lengthM),
    ],
    too_long_for_rate: (f) => [
      `The ${f.grade} run from ${f.from} to ${f.to} is ${f.lengthM} m long; both ends run at ${f.rate}, and ${f.mostM > 0 ? `${f.grade} carries that for ${f.mostM} m` : `${f.grade} is not made for that`}.`,
      'The link comes up slower, or loses what it carries.',
      f.grades.length > 0 ? `Lay ${f.grades.join(' or ')}, or put a switch half way.` : 'Put switches on the way.',
    ],
    grade_unknown: (f) => [
      `Nobody has written down which grade the run from ${f.from} to ${f.to} is: ${f.lengthM} m at ${f.rate}.`,
      `Only ${f.grades.join(' or ')} carries that.`,
      'Read what its jacket says, and write it down.',
    ],
  },
  each(wiredById, (found, cable, show): Finding[] => {
    const its = [{ table: 'cables' as const, id: cable.id }];
    const [from = '', to = ''] = [cable.fromDevice, cable.toDevice].map((id) => show.devices[id]?.name ?? '');
    const [lengthM, mbps] = [cable.lengthM ?? 0, rateOf(show, cable)];
    const run = { from, to, lengthM };
    const better = betterOf(show, cable, `${from} to ${to}`);
    if (isTooLong(show, cable)) {
      const mostM = longestRun(show, cable) ?? 0;
      return [found('too_long', 'stops', its, { ...run, medium: kindWords(cable), mostM }, [better])];
    }
    const [rate, enough] = [rateWords(mbps), enoughOf(cable, mbps).map((grade) => gradeWords[grade])];
    if (cable.grade !== null && longestAt(cable.grade, mbps) < lengthM) {
      const mostM = longestAt(cable.grade, mbps);
      const said = { ...run, grade: gradeWords[cable.grade], rate, mostM, grades: enough };
      return [found('too_long_for_rate', 'risky', its, said, [better])];
    }
    const isOpen = cable.grade === null && gradesOf[cable.medium].some((grade) => longestAt(grade, mbps) < lengthM);
    return isOpen ? [found('grade_unknown', 'note', its, { ...run, rate, grades: enough })] : [];
  }),
);

/** Runs of which nobody wrote down how long they are. One finding for all. */
export const lengthsUnknown = cablingRule<{ lengths_unknown: { names: string[]; count: number } }>(
  {
    lengths_unknown: (f) => [
      `${f.count === 1 ? 'One run has no length' : `${f.count} runs have no length`}: ${nameList(f.names)}.`,
      'Whether a run is too long is only known with its length.',
      'Pace it out, or read it off the drum: 100 m of copper is the most.',
    ],
  },
  groups(unmeasured, (found, unknown, show) => {
    const subjects = unknown.slice(0, 20).map(({ id }) => ({ table: 'cables' as const, id }));
    const details = { names: unknown.map((cable) => runWords(show, cable)), count: unknown.length };
    return [keyed(found('lengths_unknown', 'note', subjects, details), 'all')];
  }),
);

/** What would carry it: better grades of its medium, else fibre. */
function enoughOf({ medium, lengthM }: Cable, mbps: number) {
  const own = gradesOf[medium].filter((grade) => longestAt(grade, mbps) >= (lengthM ?? 0));
  return own.length > 0 ? own : gradesOf.fibre.filter((grade) => longestAt(grade, mbps) >= (lengthM ?? 0));
}

function betterOf(show: Show, cable: Cable, way: string): { label: string; change: Change } | undefined {
  const mbps = rateOf(show, cable);
  const own = gradeFor(cable.medium, mbps, cable.lengthM ?? 0);
  const grade = own ?? gradeFor('fibre', mbps, cable.lengthM ?? 0);
  if (!grade || grade === cable.grade) return undefined;
  const medium = own ? cable.medium : 'fibre';
  const label = `Lay ${gradeWords[grade]}${own ? '' : ' fibre'} from ${way}`.slice(0, 200);
  return fixWith(label, changeOf(label, [updateRow('cables', cable, { medium, grade })]));
}
