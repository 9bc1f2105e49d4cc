import {
  analyse,
  type findings as findingRoom,
  show as core,
  type Analysis,
  type Show,
  withTriedFixes,
} from '@deep-patch/core';

/** What is wrong with a fix that was offered, applied and analysed again. */
export interface BadFix {
  readonly finding: string;
  readonly label: string;
  readonly why: 'does not apply' | 'finding stays' | 'another link stops' | 'something worse appears';
  readonly what: string;
}

/** Applies every fix that findings and soundings offer, each on its own, and analyses again. */
export function tryFixes(show: Show): { readonly tried: number; readonly bad: readonly BadFix[] } {
  const before = withTriedFixes(show, analyse(show, core.nothingSeen, 0));
  const bad: BadFix[] = [];
  let tried = 0;
  for (const { key, fixes } of [...before.findings, ...ofSoundings(before)])
    for (const { label, change } of fixes) {
      tried += 1;
      const applied = core.applyChange(show, change);
      const say = (why: BadFix['why'], what = '') => bad.push({ finding: key, label, why, what });
      if (!applied.ok) {
        say('does not apply');
        continue;
      }
      const after = analyse(applied.show, core.nothingSeen, 0);
      if (keysOf(after).has(key)) say('finding stays');
      const lost = stopped(after).filter((id) => !stopped(before).includes(id) && id in show.links);
      if (lost.length > 0)
        say(
          'another link stops',
          lost
            .map(
              (id) => `${id} at ${after.soundings.get(id)?.stopsAt?.layer} ${after.soundings.get(id)?.stopsAt?.code}`,
            )
            .join(),
        );
      const worse = after.findings.filter(
        (finding) =>
          finding.grade === 'stops' &&
          finding.room !== 'links' &&
          !before.findings.some((known) => known.key === finding.key),
      );
      if (worse.length > 0) say('something worse appears', worse.map((finding) => finding.key).join());
    }
  return { tried, bad };
}

/** What a link's own screen offers besides: fixes of findings that are told elsewhere, at their cause. */
function ofSoundings({ soundings, findings }: Analysis): { key: string; fixes: readonly findingRoom.Fix[] }[] {
  const told = new Set(findings.flatMap(({ fixes }) => fixes.map(({ change }) => change)));
  return [...soundings.values()].flatMap(({ link, layers }) =>
    layers.map(({ layer, code, fixes }) => ({
      key: `${layer}_${code} links/${link.id}`,
      fixes: fixes.filter(({ change }) => !told.has(change)),
    })),
  );
}

const keysOf = ({ findings, soundings }: Analysis): Set<string> =>
  new Set([
    ...findings.map(({ key }) => key),
    ...[...soundings.values()].flatMap(({ link, stopsAt }) =>
      stopsAt ? [`${stopsAt.layer}_${stopsAt.code} links/${link.id}`] : [],
    ),
  ]);

const stopped = ({ soundings }: Analysis): string[] =>
  [...soundings.values()].flatMap(({ stopsAt, link }) => (stopsAt ? [link.id] : []));
