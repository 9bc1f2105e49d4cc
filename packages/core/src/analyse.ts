import {
  addressingFacts,
  addressingWords,
  findAddressing,
  findFound,
  matchFound,
  planPlacement,
  type AddressingFacts,
  type AsFound,
} from './addressing/index.ts';
import { cablingWords, findCabling } from './cabling/index.ts';
import { fold, nameList, sortFindings, type Finding, type Words } from './findings/index.ts';
import {
  basisOf,
  depthOf,
  findLinks,
  forecastAll,
  linkFacts,
  linkName,
  linkWords,
  withFixesOf,
  reroutes,
  type Depth,
  type Sounding,
} from './links/index.ts';
import { cueWords, findCues } from './cues/index.ts';
import { airWords, findOnAir } from './onair/index.ts';
import { findTimecode, timecodeWords } from './timecode/index.ts';
import { findWalls, wallWords } from './wall/index.ts';
import { findSurfaces, surfaceWords } from './surfaces/index.ts';
import { findRig, rigWords } from './rig/index.ts';
import { lazily, memoOf, type Seen, type Show } from './show/index.ts';

/** Everything worked out from one snapshot. Derived, never stored, never edited. */
export interface Analysis {
  readonly showId: string;
  readonly rev: number;
  readonly at: number;
  readonly addressing: AddressingFacts;
  /** The plan against what was found on the networks. */
  readonly found: AsFound;
  readonly soundings: ReadonlyMap<string, Sounding>;
  readonly depths: ReadonlyMap<string, Depth>;
  readonly findings: readonly Finding[];
}

/** What of it follows from the show only when somebody asks is left out. */
export type AnalysisParts = Omit<Analysis, 'addressing'>;

/** An analysis whose addressing is worked out of the show when somebody asks for it. */
export function withAnalysisParts(show: Show, parts: AnalysisParts): Analysis {
  const addressing = lazily(() => addressingFacts(show));
  return {
    ...parts,
    get addressing() {
      return addressing();
    },
  };
}

/** The only function that knows every room. Pure: the same show, sight and time give the same analysis. */
export function analyse(show: Show, seen: Seen, now: number): Analysis {
  const addressing = addressingFacts(show);
  const placement = memoOf((networkIds) => planPlacement(show, { networkIds, facts: addressing }));
  const facts = linkFacts(show, addressing, placement);
  const soundings = forecastAll(show, facts);
  const found = matchFound(show, addressing, seen.found);
  const findings = sortFindings([
    ...findRig(show, now),
    ...findAddressing(show, addressing, placement),
    ...findFound(show, found),
    ...findCabling(show, facts.cabling, addressing),
    ...findLinks(show, soundings),
    ...findSurfaces(show),
    ...findCues(show),
    ...findOnAir(show),
    ...findTimecode(show),
    ...findWalls(show),
  ]).map(withUntriedMarked);
  const offered = withFixesOf(show, soundings, findings);
  return {
    showId: show.id,
    rev: show.rev,
    at: now,
    addressing,
    found,
    soundings: new Map(offered.map((sounding) => [sounding.link.id, sounding])),
    depths: new Map(
      offered.map((item) => [
        item.link.id,
        depthOf(item, seen.soundings[item.link.id], () => basisOf(show, facts, item.link)),
      ]),
    ),
    findings: sortFindings(fold(findings, linkName)),
  };
}

/** A fix that may change where packets go may stop what works by luck: `tryFixes` finds out. */
export const withUntriedMarked = (found: Finding): Finding =>
  found.fixes.some(({ change }) => reroutes(change))
    ? { ...found, fixes: found.fixes.map((fix) => (reroutes(fix.change) ? { ...fix, untried: true as const } : fix)) }
    : found;

const words = {
  rig: rigWords,
  addressing: addressingWords,
  cabling: cablingWords,
  links: linkWords,
  surfaces: surfaceWords,
  cues: cueWords,
  onair: airWords,
  timecode: timecodeWords,
  wall: wallWords,
} as const;

/** The sentences of a finding, from the words of its room, with what it stops. */
export function wordsOf(finding: Finding): Words {
  const said = words[finding.room](finding);
  return finding.stoppedLinks ? { ...said, why: `${said.why} It stops ${nameList(finding.stoppedLinks)}.` } : said;
}
