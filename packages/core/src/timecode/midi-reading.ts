import { BreakList, type Break } from './breaks.ts';
import { framesOf, timeAfter, type CodeTime } from './count.ts';
import { Pace } from './pace.ts';
import { framesPerDay, framesPerSecond, rates, type Rate } from './rates.ts';
import type { RateKey } from '../show/index.ts';
import { Thinned } from './thinned.ts';

/** Rates by their number in the code (MIDI 1.0 detailed specification, MIDI time code, quarter frame messages). */
const codeRates = ['24', '25', '29.97df', '30'] as const satisfies readonly RateKey[];
/** Without a quarter frame for so long, the code stands. */
const standsAfter = 0.5;
const mostPoints = 3000;

/** What is known of MIDI time code that came in. */
export interface MidiReading {
  readonly rate: RateKey;
  readonly quarters: number;
  readonly fulls: number;
  readonly direction: 'forwards' | 'backwards' | 'both' | 'stands';
  /** Quarter frames that did not come between those that did. */
  readonly missing: number;
  readonly first: CodeTime | undefined;
  readonly last: CodeTime | undefined;
  /** How far arrivals are from an even pace, in ms: root mean square, and from the earliest to the latest. */
  readonly jitter: { readonly rms: number; readonly range: number } | null;
  readonly clock: { readonly ppm: number; readonly error: number } | null;
  readonly breaks: readonly Break[];
  readonly moreBreaks: number;
  /** How late each quarter frame came against the pace of all, in ms; null where the code breaks. */
  readonly arrivals: readonly { readonly at: number; readonly off: number | null }[];
}

/** Puts quarter frames together that come one by one, at moments in seconds; it does not grow with them. */
export class MidiReader {
  /** The time now: two frames on from what was told, which took two frames to tell; undefined until one was told whole. */
  now: CodeTime | undefined;
  rate: Rate = rates['25'];
  private pieces: (number | undefined)[] = [];
  private last: { piece: number; at: number; step: 1 | 7 | undefined } | undefined;
  private told: { frames: number; isForwards: boolean } | undefined;
  private first: CodeTime | undefined;
  private quarters = 0;
  private fulls = 0;
  private missing = 0;
  private ways = { forwards: 0, backwards: 0 };
  private run = { number: 0, pieces: 0 };
  private readonly pace = new Pace();
  private readonly places = new Thinned<{ at: number; pieces: number; run: number }>(mostPoints);
  private readonly breaks = new BreakList();

  /** The next quarter frame: which of the eight, and its four bits. */
  quarter(at: number, piece: number, value: number): void {
    this.quarters += 1;
    this.follow(at, piece);
    this.pieces[piece] = value;
    const isForwards = this.last?.step !== 7;
    if (piece === (isForwards ? 7 : 0) && [0, 1, 2, 3, 4, 5, 6, 7].every((n) => this.pieces[n] !== undefined)) {
      this.tell(at, isForwards);
      this.pieces = [];
    }
  }

  /** A whole time in one message: the code is there now, and stands. */
  full(at: number, code: number, time: CodeTime): void {
    this.fulls += 1;
    this.rate = rates[codeRates[code & 3] ?? '25'];
    const frames = framesOf(time, this.rate);
    if (this.now) this.note('jump', at, Math.abs(frames - framesOf(this.now, this.rate)), time);
    this.now = time;
    this.first ??= time;
    this.told = undefined;
    this.startRun();
    this.last = undefined;
    this.pieces = [];
  }

  reading(): MidiReading {
    const pace = this.quarters > 8 ? this.pace.slope() : undefined;
    const usual = 1 / (framesPerSecond(this.rate) * 4);
    const speed = pace ? usual / pace.slope : 0;
    const arrivals = this.arrivals(pace?.slope ?? usual);
    const offs = arrivals.flatMap(({ off }) => off ?? []);
    return {
      rate: this.rate.key,
      quarters: this.quarters,
      fulls: this.fulls,
      direction:
        this.ways.forwards + this.ways.backwards === 0
          ? 'stands'
          : this.ways.backwards === 0
            ? 'forwards'
            : this.ways.forwards === 0
              ? 'backwards'
              : 'both',
      missing: this.missing,
      first: this.first,
      last: this.now,
      jitter:
        offs.length < 8
          ? null
          : { rms: rootMeanSquare(offs), range: greatest(offs) + greatest(offs.map((off) => -off)) },
      clock:
        pace && Math.abs(speed - 1) < 0.02 ? { ppm: (speed - 1) * 1e6, error: (pace.error / pace.slope) * 1e6 } : null,
      breaks: this.breaks.listed,
      moreBreaks: this.breaks.more,
      arrivals,
    };
  }

  private follow(at: number, piece: number): void {
    const { last } = this;
    const step = last ? (piece - last.piece + 8) % 8 : undefined;
    const stood = last && at - last.at > standsAfter;
    if (last && stood) this.note('pause', last.at, 0, this.now, at - last.at);
    const goesOn = !stood && (step === 1 || step === 7) && (last?.step === undefined || last.step === step);
    if (goesOn) this.run.pieces += 1;
    else {
      // another direction is no loss; anything else lacks what lies between, as it ran
      if (last && !stood && step !== 1 && step !== 7)
        this.lose(at, last.step === 7 ? (8 - (step ?? 0)) % 8 : (step ?? 0));
      else if (last && !stood) this.note('turns', at, 0, this.now);
      this.pieces = [];
      this.startRun();
    }
    const way = step === 1 || step === 7 ? step : undefined;
    if (goesOn && way) this.ways[way === 1 ? 'forwards' : 'backwards'] += 1;
    this.last = { piece, at, step: stood ? undefined : way };
    this.pace.push(this.run.pieces, at);
    this.places.push({ at, pieces: this.run.pieces, run: this.run.number });
  }

  private lose(at: number, step: number): void {
    const count = (step + 7) % 8;
    this.missing += count;
    this.note('missing', at, count, this.now);
  }

  private tell(at: number, isForwards: boolean): void {
    const pair = (n: number, mask: number) => (((this.pieces[n + 1] ?? 0) << 4) | (this.pieces[n] ?? 0)) & mask;
    const rate = rates[codeRates[((this.pieces[7] ?? 0) >> 1) & 3] ?? '25'];
    const time = { frames: pair(0, 31), seconds: pair(2, 63), minutes: pair(4, 63), hours: pair(6, 31) };
    if (time.frames >= rate.counts || time.seconds > 59 || time.minutes > 59 || time.hours > 23) {
      this.note('damaged', at, 1, undefined);
      return;
    }
    this.rate = rate;
    const frames = framesOf(time, rate);
    // the first piece stood for this time; forwards, the last one came two frames later
    this.now = timeAfter(frames + (isForwards ? 2 : 0), rate);
    const { told } = this;
    if (told && told.isForwards === isForwards) {
      const day = framesPerDay(rate);
      const step = (((isForwards ? frames - told.frames : told.frames - frames) % day) + day) % day;
      const off = (step > day / 2 ? step - day : step) - 2;
      // where pieces were lost, the next whole time is later by the pieces that told nothing
      if (off !== 0 && !(off > 0 && this.missing > 0 && off <= 4))
        this.note(off > 0 ? 'jump' : 'jump_back', at, Math.abs(off), this.now);
    }
    this.told = { frames, isForwards };
    this.first ??= time;
  }

  private startRun(): void {
    this.run = { number: this.run.number + 1, pieces: 0 };
    this.pace.begin();
  }

  private note(kind: Break['kind'], at: number, frames: number, after: CodeTime | undefined, lasts = 0): void {
    this.breaks.add({ kind, at, lasts, frames, before: this.now, after });
  }

  private arrivals(perPiece: number): MidiReading['arrivals'] {
    const points: { at: number; off: number | null }[] = [];
    let run = { number: -1, at: 0, pieces: 0 };
    for (const place of this.places.all()) {
      if (place.run !== run.number) {
        run = { number: place.run, at: place.at, pieces: place.pieces };
        if (points.length > 0) points.push({ at: place.at, off: null });
      }
      points.push({ at: place.at, off: (place.at - run.at - (place.pieces - run.pieces) * perPiece) * 1000 });
    }
    return points;
  }
}

const greatest = (values: readonly number[]): number =>
  values.reduce((most, value) => Math.max(most, value), -Infinity);

function rootMeanSquare(values: readonly number[]): number {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  return Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length);
}
