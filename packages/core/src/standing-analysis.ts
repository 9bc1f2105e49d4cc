import { addressingFacts, findFound, matchFound, planPlacement, type AsFound } from './addressing/index.ts';
import { addressingRules } from './addressing/find-addressing.ts';
import { cablingRules } from './cabling/find-cabling.ts';
import { segmentMembers } from './cabling/segment-members.ts';
import { SortedFindings, type Finding, type Rule } from './findings/index.ts';
import {
  basisOf,
  depthOf,
  findingsOf,
  forecast,
  linkFacts,
  linkName,
  withFixesOf,
  type Depth,
  type Sounding,
} from './links/index.ts';
import { slotShared } from './links/slot-shared.ts';
import { cueRules } from './cues/index.ts';
import { airRules } from './onair/index.ts';
import { timeRules } from './timecode/index.ts';
import { wallRules } from './wall/index.ts';
import { surfaceRules } from './surfaces/index.ts';
import { rigFacts } from './rig/facts.ts';
import { rigRules } from './rig/find-rig.ts';
import {
  Cell,
  Source,
  Standing,
  StandingIndex,
  buildOn,
  isAlike,
  memoOf,
  read,
  rowsBy,
  type Row,
  type Seen,
  type Show,
  type TableName,
} from './show/index.ts';
import { withUntriedMarked, type AnalysisParts } from './analyse.ts';

/** One row as it is from now on; null where it is gone. */
export interface RowChange {
  readonly table: TableName;
  readonly id: string;
  readonly row: Row | null;
}

/** All that is worked out of one link. */
interface LinkPart {
  readonly findings: readonly Finding[];
  readonly sounding: Sounding;
  readonly depth: Depth;
}

/**
 * The analysis of a show that stands: it is worked out once, and after each edit only what read something that the edit
 * changed is worked out again. It is always equal to that of the whole show, and shares all of its rules.
 */
export class StandingAnalysis {
  private readonly standing: Standing;
  private readonly found = new Map<Cell, readonly Finding[]>();
  private readonly linkCells = new Map<string, Cell>();
  private soundings: ReadonlyMap<string, Sounding> = new Map();
  private depths: ReadonlyMap<string, Depth> = new Map();
  private readonly newSoundings = new Map<string, Sounding | null>();
  private readonly newDepths = new Map<string, Depth | null>();
  private readonly findings = new SortedFindings(linkName);
  private touched = new Set<string>();
  private asFound: AsFound | undefined;
  private rev: number;
  private seen: Seen;
  private now: number;
  private readonly nowSource = new Source();
  private readonly foundSource = new Source();
  private readonly seenSources = new Map<string, Source>();

  constructor(show: Show, seen: Seen, now: number) {
    this.rev = show.rev;
    this.seen = seen;
    this.now = now;
    this.standing = new Standing(show);
    buildOn(this.standing, () => this.build(this.standing.show));
    this.standing.queue.settle();
  }

  /**
   * Takes changed rows in, and gives the analysis after them; what did not change in it is the same object as before. `now`
   * in milliseconds since 1970. Throws an Error where it cannot be worked out.
   */
  advance(rows: Iterable<RowChange>, rev: number, seen: Seen, now: number): AnalysisParts {
    this.rev = rev;
    this.standing.put(rows, rev);
    this.see(seen);
    // what depends on the time goes by days
    if (dayOf(now) !== dayOf(this.now)) this.standing.queue.changed(this.nowSource);
    this.now = now;
    this.standing.queue.settle();
    return this.parts();
  }

  /** The links of which something is another than in the analysis before. */
  get touchedLinks(): ReadonlySet<string> {
    return this.touched;
  }

  /** The analysis as it stands. */
  parts(): AnalysisParts {
    this.touched = new Set([...this.newSoundings.keys(), ...this.newDepths.keys()]);
    this.soundings = patched(this.soundings, this.newSoundings);
    this.depths = patched(this.depths, this.newDepths);
    return {
      showId: this.standing.show.id,
      rev: this.rev,
      at: this.now,
      findings: this.findings.all(),
      found: this.asFound ?? nothingFound,
      soundings: this.soundings,
      depths: this.depths,
    };
  }

  private see(seen: Seen): void {
    const { queue } = this.standing;
    if (seen.found !== this.seen.found) queue.changed(this.foundSource);
    if (seen.soundings !== this.seen.soundings)
      for (const [id, source] of this.seenSources)
        if (seen.soundings[id] !== this.seen.soundings[id]) queue.changed(source);
    this.seen = seen;
  }

  private build(show: Show): void {
    const addressing = addressingFacts(show);
    const placement = memoOf((networkIds) => planPlacement(show, { networkIds, facts: addressing }));
    const facts = linkFacts(show, addressing, placement);
    const rig = rigFacts(show, () => {
      read(this.nowSource);
      return this.now;
    });
    this.lookWith(rigRules, show, rig);
    this.lookWith(addressingRules, show, addressing, placement);
    const members = segmentMembers(show, facts.cabling, addressing);
    this.lookWith(cablingRules, show, facts.cabling, addressing, members);
    this.lookWith([slotShared], show);
    this.lookWith(surfaceRules, show);
    this.lookWith(cueRules, show);
    this.lookWith(airRules, show);
    this.lookWith(timeRules, show);
    this.lookWith(wallRules, show);
    const asFound = this.want(
      () => {
        read(this.foundSource);
        return matchFound(show, addressing, this.seen.found);
      },
      (value) => (this.asFound = value),
    );
    this.keep(() => findFound(show, asFound.get()));
    const links = watched(rowsBy(show, 'links', 'id')) as StandingIndex<string, unknown>;
    links.watch((id, isThere) => {
      if (isThere) this.linkCells.set(id, this.addLink(show, facts, id));
      else this.dropLink(id);
    });
  }

  private lookWith<Given extends readonly unknown[]>(rules: readonly Rule<Given>[], ...given: Given): void {
    const byIndex = new Map<StandingIndex<unknown, unknown>, Rule<Given>[]>();
    for (const rule of rules) {
      if (!rule.parts) this.keep(() => rule.find(...given));
      else {
        const index = watched(rule.parts.over(...given));
        byIndex.set(index, [...(byIndex.get(index) ?? []), rule]);
      }
    }
    for (const [index, own] of byIndex) {
      const [alone, together] = [own.filter(isForEach), own.filter((rule) => !isForEach(rule))];
      if (alone.length > 0) this.lookAtEach(index, alone, given);
      for (const rule of together) this.lookAtEach(index, [rule], given);
    }
  }

  /** Rules that look at the same share a cell for each key. */
  private lookAtEach<Given extends readonly unknown[]>(
    index: StandingIndex<unknown, unknown>,
    rules: readonly Rule<Given>[],
    given: Given,
  ): void {
    const [first] = rules;
    const cells = new Map<unknown, Cell>();
    const find = (items: readonly unknown[]) => rules.flatMap(({ parts }) => parts?.find(items, ...given) ?? []);
    const tell = (key: unknown, isThere: boolean) => {
      if (isThere)
        cells.set(
          key,
          this.keep(() => find(index.get(key) ?? [])),
        );
      else {
        this.drop(cells.get(key));
        cells.delete(key);
      }
    };
    index.watch(tell, first?.parts?.atLeast, first?.parts?.sayOf);
  }

  private addLink(show: Show, facts: ReturnType<typeof linkFacts>, id: string): Cell {
    const work = (): LinkPart | undefined => {
      const link = show.links[id];
      if (!link) return undefined;
      const whole = forecast(show, facts, link);
      const findings = findingsOf(show, whole).map(withUntriedMarked);
      const sounding = withFixesOf(show, [whole], findings)[0] ?? whole;
      read(this.seenSource(id));
      const depth = depthOf(sounding, this.seen.soundings[id], () => basisOf(show, facts, link));
      return { findings, sounding, depth };
    };
    let before: LinkPart | undefined;
    const cell = this.want(work, (part) => {
      if (part && !isAlike(part.sounding, before?.sounding)) this.newSoundings.set(id, part.sounding);
      if (part && !isAlike(part.depth, before?.depth)) this.newDepths.set(id, part.depth);
      if (!isAlike(part?.findings ?? [], before?.findings ?? [])) this.note(cell, part?.findings ?? []);
      before = part;
    });
    return cell;
  }

  private seenSource(id: string): Source {
    const source = this.seenSources.get(id) ?? new Source();
    this.seenSources.set(id, source);
    return source;
  }

  private dropLink(id: string): void {
    this.drop(this.linkCells.get(id));
    this.linkCells.delete(id);
    this.seenSources.delete(id);
    this.newSoundings.set(id, null);
    this.newDepths.set(id, null);
  }

  private note(cell: Cell, findings: readonly Finding[]): void {
    this.findings.replace(this.found.get(cell) ?? [], findings);
    if (findings.length > 0) this.found.set(cell, findings);
    else this.found.delete(cell);
  }

  /** A part whose findings are wanted. */
  private keep(find: () => readonly Finding[]): Cell {
    const cell: Cell<readonly Finding[]> = this.want(
      () => find().map(withUntriedMarked),
      (findings) => this.note(cell, findings),
    );
    return cell;
  }

  private want<Value>(work: () => Value, tell: (value: Value) => void): Cell<Value> {
    const cell = new Cell<Value>(this.standing.queue, work, isAlike);
    cell.isWanted = true;
    cell.onChange = tell;
    this.standing.queue.add(cell);
    return cell;
  }

  private drop(cell: Cell | undefined): void {
    if (!cell) return;
    cell.end();
    this.note(cell, []);
  }
}

const isForEach = <Given extends readonly unknown[]>({ parts }: Rule<Given>): boolean =>
  parts?.atLeast === 1 && parts.sayOf === undefined;

const dayOf = (ms: number): number => Math.floor(ms / 86_400_000);

const nothingFound: AsFound = { looked: false, at: null, items: new Map(), unexpected: [] };

function watched(map: ReadonlyMap<unknown, readonly unknown[]>): StandingIndex<unknown, unknown> {
  if (map instanceof StandingIndex) return map as StandingIndex<unknown, unknown>;
  throw new Error('a rule looks part by part over what does not stand');
}

/** A map with what is new in it, which is forgotten then; null takes out. */
function patched<Value>(
  before: ReadonlyMap<string, Value>,
  news: Map<string, Value | null>,
): ReadonlyMap<string, Value> {
  if (news.size === 0) return before;
  const after = new Map(before);
  for (const [id, value] of news)
    if (value === null) after.delete(id);
    else after.set(id, value);
  news.clear();
  return after;
}
