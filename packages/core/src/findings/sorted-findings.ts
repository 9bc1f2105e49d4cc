import { compareFindings, sortFindings, type Finding } from './finding.ts';
import { fold } from './fold.ts';

/** Findings in their order, kept so while some come and go: sorting them anew would cost more than finding them. */
export class SortedFindings {
  private readonly sorted: Finding[] = [];
  private folded: readonly Finding[] | undefined;
  private readonly nameOf: (finding: Finding) => string;

  /** `nameOf` names what stands at its cause. */
  constructor(nameOf: (finding: Finding) => string) {
    this.nameOf = nameOf;
  }

  replace(gone: readonly Finding[], come: readonly Finding[]): void {
    for (const finding of gone) this.sorted.splice(this.placeOf(finding), 1);
    for (const finding of come) this.sorted.splice(this.firstAt(finding), 0, finding);
    this.folded = undefined;
  }

  /** All of them, those that follow from another one told there. The same list until one comes or goes. */
  all(): readonly Finding[] {
    this.folded ??= this.sorted.some(({ cause }) => cause !== undefined)
      ? sortFindings(fold(this.sorted, this.nameOf))
      : [...this.sorted];
    return this.folded;
  }

  /** Where the first stands that does not come before it. */
  private firstAt(finding: Finding): number {
    let [low, high] = [0, this.sorted.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      const there = this.sorted[middle];
      if (there && compareFindings(there, finding) < 0) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  private placeOf(finding: Finding): number {
    const at = this.sorted.indexOf(finding, this.firstAt(finding));
    if (at < 0) throw new Error(`${finding.key} was not among the findings`);
    return at;
  }
}
