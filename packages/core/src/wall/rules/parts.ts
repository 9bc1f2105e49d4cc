import { counted, fixWith, keyed, type Finding } from '../../findings/index.ts';
import { compareVersions } from '../../rig/index.ts';
import { rowsOf, type DeviceType } from '../../show/index.ts';
import { knownWalls } from '../known-wall.ts';
import { wallLoad } from '../load.ts';
import { fewestParts, isIn, partFaults } from '../parts.ts';
import { planWall } from '../plan-wall.ts';
import { cheapestStrings } from '../cheapest-strings.ts';
import { placesOf, type Place } from '../size.ts';
import { subject, wallRule } from '../wall-rule.ts';

export const placeWords = ([column, row]: Place): string => `panel ${column + 1} across, ${row + 1} down`;

/** A wall whose panels no library has (need 10.13). */
export const panels = wallRule<{ wall_panel_unknown: { wall: string; model: string } }>(
  {
    wall_panel_unknown: (f) => [
      `${f.wall} is made of “${f.model}”, which no library has.`,
      'Neither its size nor its load can be worked out.',
      'Choose a panel that is there, or make the type.',
    ],
  },
  (found, show) => {
    const known = new Set(knownWalls(show).map(({ wall }) => wall.id));
    return rowsOf(show, 'walls')
      .filter(({ id }) => !known.has(id))
      .map((wall) => found('wall_panel_unknown', 'stops', [subject(wall.id)], { wall: wall.name, model: wall.panel }));
  },
);

/** Parts that do not make up the whole (need 10.2, C73), and outputs that carry too much (C77). */
export const parts = wallRule<{
  wall_undivided: { wall: string };
  wall_panels_missed: { wall: string; panels: number; first: string };
  wall_panels_doubled: { wall: string; panels: number; first: string };
  wall_output_full: { wall: string; output: number; share: number };
  wall_outputs_short: { wall: string; wanted: number; outputs: number; loop: string };
}>(
  {
    wall_undivided: (f) => [
      `Nobody has said which output drives what of ${f.wall}.`,
      'Without parts nothing is shown.',
      'Divide it among the fewest outputs, or draw the parts.',
    ],
    wall_panels_missed: (f) => [
      `${counted(f.panels, 'panel')} of ${f.wall} ${f.panels === 1 ? 'is' : 'are'} in no part, the first is ${f.first}.`,
      'They stay dark.',
      'Divide the wall anew, or make a part larger.',
    ],
    wall_panels_doubled: (f) => [
      `${counted(f.panels, 'panel')} of ${f.wall} ${f.panels === 1 ? 'is' : 'are'} in two parts, the first is ${f.first}.`,
      'Only one of the two outputs can be plugged in there.',
      'Divide the wall anew, or make a part smaller.',
    ],
    wall_output_full: (f) => [
      `Output ${f.output} of ${f.wall} would carry ${f.share} % of what it can.`,
      'It drops pictures, or shows none.',
      'Give columns to another output, or use fewer bits or pictures a second.',
    ],
    wall_outputs_short: (f) => [
      `${f.wall} wants ${counted(f.wanted, 'output')}${f.loop === '' ? '' : ' with its loop'}, and its processor has ${f.outputs}.`,
      f.loop === '' ? 'Some parts are not driven.' : 'Some parts have no way back: one cut leaves them dark.',
      f.loop === '' ? 'Use a larger processor, or a second one.' : 'Use a larger processor, or do without the loop.',
    ],
  },
  (found, show) =>
    knownWalls(show).flatMap(({ wall, panel, capacity }): Finding[] => {
      const of = [subject(wall.id)];
      const name = { wall: wall.name };
      const fewest = capacity && fewestParts(wall, panel, capacity);
      const divide =
        fewest &&
        fixWith(
          `Divide it among ${counted(fewest.length, 'output')}`,
          planWall(wall, 'parts', { parts: fewest, strings: [] }),
        );
      if (wall.parts.length === 0) return [found('wall_undivided', 'stops', of, name, [divide])];
      const { missed, doubled } = partFaults(wall, wall.parts);
      const [firstMissed, firstDoubled] = [missed[0], doubled[0]];
      const load = capacity && wallLoad(wall, panel, capacity);
      const full = (load?.outputs ?? []).filter(({ share }) => share > 1);
      const wanted = load && (wall.loop ? load.wantedWithLoop : load.wanted);
      return [
        ...(firstMissed
          ? [
              found(
                'wall_panels_missed',
                'stops',
                of,
                { ...name, panels: missed.length, first: placeWords(firstMissed) },
                [divide],
              ),
            ]
          : []),
        ...(firstDoubled
          ? [
              found(
                'wall_panels_doubled',
                'stops',
                of,
                { ...name, panels: doubled.length, first: placeWords(firstDoubled) },
                [divide],
              ),
            ]
          : []),
        ...full.map(({ part, share }) =>
          keyed(
            found('wall_output_full', 'stops', of, { ...name, output: part.output, share: Math.ceil(share * 100) }, [
              divide,
            ]),
            wall.id,
            String(part.output),
          ),
        ),
        ...(capacity && wanted !== undefined && wanted > capacity.outputs
          ? [
              found('wall_outputs_short', 'risky', of, {
                ...name,
                wanted,
                outputs: capacity.outputs,
                loop: wall.loop ? 'yes' : '',
              }),
            ]
          : []),
      ];
    }),
);

/** Strings that are not the panels of their part (need 10.14, C78), and counts that fall short of them (6.10). */
export const strings = wallRule<{
  wall_string_differs: { wall: string; output: number; missed: number; strange: number };
  wall_count_short: { wall: string; output: number; planned: number; found: number; first: string };
  wall_count_long: { wall: string; output: number; planned: number; found: number };
  wall_panel_errors: { wall: string; output: number; errors: number };
  wall_versions_differ: { wall: string; versions: string[] };
  wall_functions_wait: { wall: string; version: string; functions: string[]; needed: string };
}>(
  {
    wall_string_differs: (f) => [
      `The string of output ${f.output} of ${f.wall} leaves out ${f.missed} of its panels and has ${f.strange} of others.`,
      'Whoever wires by it plugs panels into the wrong output.',
      'Draw it anew, or take the cheapest.',
    ],
    wall_count_short: (f) => [
      `Output ${f.output} of ${f.wall} counts ${f.found} of ${f.planned} panels.`,
      `From ${f.first} on nothing answers.`,
      'Look at the cable into that panel, and at its power.',
    ],
    wall_count_long: (f) => [
      `Output ${f.output} of ${f.wall} counts ${f.found} panels, and ${f.planned} are planned.`,
      'A string goes on into the next one, or panels were added.',
      'Look where the string ends.',
    ],
    wall_panel_errors: (f) => [
      `${counted(f.errors, 'panel')} on output ${f.output} of ${f.wall} ${f.errors === 1 ? 'reports' : 'report'} errors.`,
      'What is built on them has to be done again.',
      'Change them before anybody maps the wall.',
    ],
    wall_versions_differ: (f) => [
      `Panels of ${f.wall} have versions ${f.versions.join(' and ')}.`,
      'The same setting may look different in two parts.',
      'Bring all to one version first.',
    ],
    wall_functions_wait: (f) => [
      `Panels of ${f.wall} run ${f.version}; ${f.functions.join(' and ')} ${f.functions.length === 1 ? 'needs' : 'need'} ${f.needed}.`,
      'A newer definition alone does not bring it.',
      'Update the panels first, if it is wanted.',
    ],
  },
  (found, show) =>
    knownWalls(show).flatMap(({ wall, type }): Finding[] => {
      const of = [subject(wall.id)];
      const per = (one: Finding, output: number) => keyed(one, wall.id, String(output));
      const versions = [...new Set(wall.found.map(({ version }) => version).filter(Boolean))].sort();
      return [
        ...wall.strings.flatMap(({ output, path }) => {
          const part = wall.parts.find((one) => one.output === output);
          const own = part ? placesOf(wall).filter((place) => isIn(part, place)) : [];
          const [drawn, held] = [new Set(path.map(String)), new Set(own.map(String))];
          const missed = [...held].filter((one) => !drawn.has(one)).length;
          const strange = [...drawn].filter((one) => !held.has(one)).length + (path.length - drawn.size);
          if (missed + strange === 0) return [];
          const kept = wall.strings.filter((one) => one.output !== output);
          const fix =
            part &&
            fixWith(
              'Take the cheapest string',
              planWall(wall, `string ${output}`, {
                strings: [...kept, stringOf(wall, part)].sort((a, b) => a.output - b.output),
              }),
            );
          return [
            per(found('wall_string_differs', 'risky', of, { wall: wall.name, output, missed, strange }, [fix]), output),
          ];
        }),
        ...wall.found.flatMap(({ output, panels: count, errors }) => {
          const path = wall.strings.find((one) => one.output === output)?.path;
          const first = path?.[count];
          const facts = { wall: wall.name, output, planned: path?.length ?? 0, found: count };
          return [
            ...(first
              ? [per(found('wall_count_short', 'stops', of, { ...facts, first: placeWords(first) }), output)]
              : []),
            ...(path && count > path.length ? [per(found('wall_count_long', 'risky', of, facts), output)] : []),
            ...(errors > 0
              ? [per(found('wall_panel_errors', 'risky', of, { wall: wall.name, output, errors }), output)]
              : []),
          ];
        }),
        ...(versions.length > 1 ? [found('wall_versions_differ', 'risky', of, { wall: wall.name, versions })] : []),
        ...waiting(type, versions).map(([version, needed, functions]) =>
          found('wall_functions_wait', 'note', of, { wall: wall.name, version, needed, functions }),
        ),
      ];
    }),
);

/** What panels could do from a newer version on than the oldest that was found: at most one line (need 10.13). */
function waiting({ features }: DeviceType, versions: readonly string[]): (readonly [string, string, string[]])[] {
  const isOlder = (a: string, b: string) => compareVersions(a, b) === -1;
  const [first, ...others] = versions;
  if (first === undefined) return [];
  const oldest = others.reduce((a, b) => (isOlder(b, a) ? b : a), first);
  const missing = features.flatMap(({ label, lowest }) =>
    lowest !== null && isOlder(oldest, lowest) ? [{ label, lowest }] : [],
  );
  const [one, ...more] = missing.map(({ lowest }) => lowest);
  if (one === undefined) return [];
  const needed = more.reduce((a, b) => (isOlder(a, b) ? b : a), one);
  return [[oldest, needed, missing.map(({ label }) => label)]];
}

/** The cheapest way through the panels of one part, fed from below its first column. */
export function stringOf(
  wall: Parameters<typeof placesOf>[0],
  part: Parameters<typeof isIn>[0],
): { output: number; path: [number, number][] } {
  const columns = wall.columns.map((column, at) =>
    at >= part.x && at < part.x + part.width ? column : { ...column, panels: 0 },
  );
  const most = placesOf({ columns }).length;
  const [path = []] = cheapestStrings(
    { columns },
    { most: Math.max(1, most), feed: [part.x, part.y + part.height], loop: false },
  ).paths;
  return { output: part.output, path: path.map(([column, row]) => [column, row]) };
}
