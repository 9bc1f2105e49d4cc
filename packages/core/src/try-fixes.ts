import { addressingFacts } from './addressing/index.ts';
import type { AnalysisParts } from './analyse.ts';
import { cablingFacts, loopKey } from './cabling/index.ts';
import type { Finding, Fix } from './findings/index.ts';
import { forecast, linkFacts, outcomeOf, type Sounding } from './links/index.ts';
import { applyChange, type Change, type Show } from './show/index.ts';

/** What a fix is for: a finding, or one layer of a link. */
type Purpose = Pick<Finding, 'code' | 'subjects' | 'fixes'>;

/**
 * Tries every fix that may change where packets go on the plan, one after the other, the worst findings first, and
 * yields the analysis after each: those that would stop a link which works, close a circle, or not mend their own link
 * are left out, the others are no longer marked untried. Each trial costs a forecast of the whole plan.
 */
export function* tryFixes<Known extends AnalysisParts>(show: Show, analysis: Known): Generator<Known> {
  const circles = new Set(cablingFacts(show).domains().loops.map(loopKey));
  const soundings = [...analysis.soundings.values()];
  const verdicts = new Map<Change, boolean>();
  for (const purpose of [...analysis.findings, ...soundings.flatMap(layersOf)])
    for (const { change, untried } of purpose.fixes) {
      if (!untried || verdicts.has(change)) continue;
      verdicts.set(change, isHarmless({ show, soundings, circles }, purpose, change));
      yield settled(analysis, verdicts);
    }
}

/** The same, all at once. */
export function withTriedFixes<Known extends AnalysisParts>(show: Show, analysis: Known): Known {
  let last = analysis;
  for (const next of tryFixes(show, analysis)) last = next;
  return last;
}

const layersOf = ({ link, layers }: Sounding): Purpose[] =>
  layers.map(({ layer, code, fixes }) => ({
    code: `${layer}_${code}`,
    subjects: [{ table: 'links', id: link.id }],
    fixes,
  }));

interface Plan {
  readonly show: Show;
  readonly soundings: readonly Sounding[];
  /** Those that are there before. */
  readonly circles: ReadonlySet<string>;
}

function isHarmless({ show, soundings, circles }: Plan, { code, subjects }: Purpose, change: Change): boolean {
  const applied = applyChange(show, change);
  if (!applied.ok) return false;
  const facts = linkFacts(applied.show, addressingFacts(applied.show), () => ({ change: undefined }));
  // a cable or a mode that closes a circle floods what is there
  if (facts.cabling.domains().loops.some((loop) => !circles.has(loopKey(loop)))) return false;
  return soundings.every(({ link, stopsAt }) => {
    const isOwn = subjects.some(({ table, id }) => table === 'links' && id === link.id);
    const row = applied.show.links[link.id];
    if (!row || (stopsAt && !isOwn)) return true;
    const now = forecast(applied.show, facts, row).stopsAt;
    return stopsAt ? now === undefined || `${now.layer}_${now.code}` !== code : now === undefined;
  });
}

function settled<Known extends AnalysisParts>(analysis: Known, verdicts: ReadonlyMap<Change, boolean>): Known {
  const offered = <Item extends { readonly fixes: readonly Fix[] }>(item: Item): Item => {
    // most offer nothing that was tried, and stay what they are
    if (!item.fixes.some(({ untried, change }) => untried && verdicts.has(change))) return item;
    const fixes = item.fixes.flatMap((fix) => {
      const verdict = fix.untried ? verdicts.get(fix.change) : undefined;
      if (verdict === undefined) return [fix];
      return verdict ? [{ label: fix.label, change: fix.change }] : [];
    });
    return { ...item, fixes };
  };
  const soundings = [...analysis.soundings].map(([id, sounding]) => {
    const layers = sounding.layers.map(offered);
    const isSame = layers.every((layer, at) => layer === sounding.layers[at]);
    return [id, isSame ? sounding : { ...sounding, layers, ...outcomeOf(layers) }] as const;
  });
  return { ...analysis, findings: analysis.findings.map(offered), soundings: new Map(soundings) };
}
