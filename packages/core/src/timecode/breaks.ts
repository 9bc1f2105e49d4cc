import type { CodeTime } from './count.ts';

/**
 * A place where the code does not go on as it should. `missing`: it ran on, and was not heard meanwhile; `pause`: it was
 * not there, and goes on where it stopped; `wrong`: one word alone says something else; `damaged`: words whose digits are
 * no time.
 */
export interface Break {
  readonly kind: 'missing' | 'pause' | 'jump' | 'jump_back' | 'repeated' | 'wrong' | 'damaged' | 'turns';
  /** Seconds from the beginning of the sound, and how long it lasts there. */
  readonly at: number;
  readonly lasts: number;
  readonly frames: number;
  readonly before: CodeTime | undefined;
  readonly after: CodeTime | undefined;
}

/** The most that are listed; more are counted. */
const mostListed = 500;

/** The breaks of a reading in order. What turns out to be one break after all is made one. */
export class BreakList {
  readonly listed: Break[] = [];
  more = 0;

  add(found: Break): void {
    const last = this.listed.at(-1);
    // several words in a row that are repeated or damaged are one break
    if (last && last.kind === found.kind && (found.kind === 'damaged' || found.kind === 'repeated')) {
      if (found.at - (last.at + last.lasts) < 1e-3) {
        this.replaceLast({ ...last, lasts: last.lasts + found.lasts, frames: last.frames + found.frames });
        return;
      }
    }
    if (this.listed.length < mostListed) this.listed.push(found);
    else this.more += 1;
  }

  replaceLast(found: Break): void {
    this.listed[this.listed.length - 1] = found;
  }
}
