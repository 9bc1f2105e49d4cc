import { BreakList, type Break } from './breaks.ts';
import { framesOf, isDropped, timeAfter, type CodeTime } from './count.ts';
import { Pace } from './pace.ts';
import { carriedRates, framesPerDay, framesPerSecond, rates, type Rate } from './rates.ts';
import type { RateKey } from '../show/index.ts';
import { Thinned } from './thinned.ts';

/** One word of linear time code as it was heard; places in samples. */
export interface Word {
  readonly time: (CodeTime & { readonly dropFrame: boolean; readonly userBits: readonly number[] }) | undefined;
  readonly backwards: boolean;
  readonly from: number;
  readonly until: number;
  /** Peak, where 1 is full scale. */
  readonly level: number;
}

/** What is known of a sound with linear time code in it. */
export interface Reading {
  readonly seconds: number;
  readonly rate: RateKey;
  /** Its pace says so; without it, as away from its usual speed, 30 and 29.97 cannot be told apart. */
  readonly isSure: boolean;
  readonly dropFrame: 'yes' | 'no' | 'changes';
  readonly direction: 'forwards' | 'backwards' | 'both';
  /** 1 is the usual one. */
  readonly speed: { readonly mean: number; readonly least: number; readonly greatest: number };
  /** How much faster than it should, in parts per million, and the standard error; null away from the usual speed. */
  readonly clock: { readonly ppm: number; readonly error: number } | null;
  /** Peak level in dB of full scale. */
  readonly level: { readonly mean: number; readonly least: number };
  readonly first: CodeTime;
  readonly last: CodeTime;
  readonly userBits: { readonly first: readonly number[]; readonly last: readonly number[]; readonly changes: number };
  readonly words: number;
  /** Words that would fit between the first and the last. */
  readonly expected: number;
  /** Numbers that drop-frame leaves out, and were there all the same. */
  readonly impossible: number;
  readonly breaks: readonly Break[];
  readonly moreBreaks: number;
  /** How far the code is from an exact clock, in ms, over the seconds of the sound; null where it breaks. */
  readonly drift: readonly { readonly at: number; readonly off: number | null }[];
}

/** Words that are kept back until it is clear how many make a second. */
const mostHeldBack = 70;
/** Within it, a sound plays at its usual speed; what remains is its clock. */
const usualSpeed = 0.002;
const mostPoints = 3000;

interface Place {
  readonly at: number;
  readonly frames: number;
  readonly run: number;
}

/** Makes one reading out of words that come one by one; it does not grow with them. */
export class ReadingBuilder {
  private held: Word[] = [];
  private counts = 0;
  private readonly breaks = new BreakList();
  private readonly pace = new Pace();
  private readonly places = new Thinned<Place>(mostPoints);
  private run = { number: 0, frames: 0 };
  private last: { word: Word; frames: number; rate: Rate } | undefined;
  private beforeJump: number | undefined;
  private first: Word | undefined;
  private words = 0;
  private impossible = 0;
  private drops = { yes: 0, no: 0 };
  private ways = { forwards: 0, backwards: 0 };
  private lengths = { least: Infinity, greatest: 0 };
  private levels = { sum: 0, least: Infinity };
  private userChanges = 0;
  private lastTimed: Word | undefined;

  private readonly sampleRate: number;

  /** Samples a second. */
  constructor(sampleRate: number) {
    this.sampleRate = sampleRate;
  }

  push(word: Word): void {
    if (this.counts > 0) {
      this.take(word);
      return;
    }
    this.held.push(word);
    this.counts = countsOf(this.held) ?? 0;
    if (this.counts > 0 || this.held.length >= mostHeldBack) this.release();
  }

  /** Undefined where no word was read. */
  end(samples: number): Reading | undefined {
    if (this.counts === 0) this.release();
    const { first, lastTimed } = this;
    if (!first?.time || !lastTimed?.time) return undefined;
    const pace = this.pace.slope() ?? { slope: first.until - first.from, error: 0 };
    const wordsPerSecond = this.sampleRate / pace.slope;
    const isDrop = this.drops.yes > this.drops.no;
    const rate = nearestRate(this.counts, isDrop, wordsPerSecond);
    const mean = wordsPerSecond / framesPerSecond(rate);
    const isUsual = Math.abs(mean - 1) < usualSpeed;
    const speedOf = (length: number) => this.sampleRate / length / framesPerSecond(rate);
    return {
      seconds: samples / this.sampleRate,
      rate: rate.key,
      isSure: isDrop || this.counts === 25 || isUsual,
      dropFrame: this.drops.yes === 0 ? 'no' : this.drops.no === 0 ? 'yes' : 'changes',
      direction: this.ways.backwards === 0 ? 'forwards' : this.ways.forwards === 0 ? 'backwards' : 'both',
      speed: { mean, least: speedOf(this.lengths.greatest), greatest: speedOf(this.lengths.least) },
      clock: isUsual ? { ppm: (mean - 1) * 1e6, error: (pace.error / pace.slope) * 1e6 } : null,
      level: { mean: decibels(this.levels.sum / this.words), least: decibels(this.levels.least) },
      first: first.time,
      last: lastTimed.time,
      userBits: { first: first.time.userBits, last: lastTimed.time.userBits, changes: this.userChanges },
      words: this.words,
      expected: Math.max(this.words, Math.round((lastTimed.until - first.from) / pace.slope)),
      impossible: this.impossible,
      breaks: this.breaks.listed,
      moreBreaks: this.breaks.more,
      drift: this.drift(isUsual ? this.sampleRate / framesPerSecond(rate) : pace.slope),
    };
  }

  private release(): void {
    this.counts ||= guessedCounts(this.held, this.sampleRate);
    for (const word of this.held) this.take(word);
    this.held = [];
  }

  private take(word: Word): void {
    const seconds = word.from / this.sampleRate;
    const lasts = (word.until - word.from) / this.sampleRate;
    if (!word.time) {
      const before = this.lastTimed?.time;
      this.breaks.add({ kind: 'damaged', at: seconds, lasts, frames: 1, before, after: undefined });
      return;
    }
    const rate = rates[this.counts === 25 ? '25' : this.counts === 24 ? '24' : word.time.dropFrame ? '29.97df' : '30'];
    const frames = framesOf(word.time, rate);
    if (isDropped(word.time, rate)) this.impossible += 1;
    if (this.goesOn(word, frames, rate)) this.run = { ...this.run, frames: this.run.frames + 1 };
    else {
      this.run = { number: this.run.number + 1, frames: 0 };
      this.pace.begin();
    }
    this.pace.push(this.run.frames, word.from);
    this.places.push({ at: word.from, frames: this.run.frames, run: this.run.number });
    this.count(word);
    this.last = { word, frames, rate };
    this.lastTimed = word;
  }

  private count(word: Word): void {
    if (!word.time) return;
    this.first ??= word;
    this.words += 1;
    this.drops[word.time.dropFrame ? 'yes' : 'no'] += 1;
    this.ways[word.backwards ? 'backwards' : 'forwards'] += 1;
    const length = word.until - word.from;
    this.lengths = {
      least: Math.min(this.lengths.least, length),
      greatest: Math.max(this.lengths.greatest, length),
    };
    this.levels = { sum: this.levels.sum + word.level, least: Math.min(this.levels.least, word.level) };
    const { lastTimed } = this;
    if (lastTimed?.time?.userBits.some((bits, at) => bits !== word.time?.userBits[at])) this.userChanges += 1;
  }

  /** Does the word follow the last one? Where not, that is a break. */
  private goesOn(word: Word, frames: number, rate: Rate): boolean {
    const { last } = this;
    if (!last?.word.time || !word.time) return this.words === 0;
    const gap = word.from - last.word.until;
    const length = last.word.until - last.word.from;
    const unheard = Math.max(0, Math.round(gap / length));
    const step = stepOf(last, frames, word.backwards, rate);
    const isTurn = word.backwards !== last.word.backwards;
    const jumpedFrom = this.beforeJump;
    this.beforeJump = undefined;
    if (!isTurn && step === 1 && unheard === 0) return true;
    const place = { at: last.word.until / this.sampleRate, lasts: Math.max(0, gap) / this.sampleRate };
    const times = { before: last.word.time, after: word.time };
    if (isTurn) this.breaks.add({ kind: 'turns', ...place, frames: unheard, ...times });
    else if (jumpedFrom !== undefined && unheard === 0 && isStep(jumpedFrom, frames, 2, word.backwards, rate)) {
      const jump = this.breaks.listed.at(-1);
      if (jump) this.breaks.replaceLast({ ...jump, kind: 'wrong', frames: 1, lasts: length / this.sampleRate });
    } else this.breaks.add({ ...kindOf(step, unheard), ...place, ...times });
    if (!isTurn && unheard === 0 && Math.abs(step) > 1) this.beforeJump = last.frames;
    // a sound that was cut away and back is on the same clock only if the code says so
    return false;
  }

  private drift(perFrame: number): Reading['drift'] {
    const points: { at: number; off: number | null }[] = [];
    let run = { number: -1, at: 0, frames: 0, off: 0 };
    let off = 0;
    for (const place of this.places.all()) {
      if (place.run !== run.number) {
        run = { number: place.run, at: place.at, frames: place.frames, off };
        if (points.length > 0) points.push({ at: place.at / this.sampleRate, off: null });
      }
      const ahead = (place.frames - run.frames) * perFrame - (place.at - run.at);
      off = run.off + (ahead / this.sampleRate) * 1000;
      points.push({ at: place.at / this.sampleRate, off });
    }
    return points;
  }
}

function kindOf(step: number, unheard: number): Pick<Break, 'kind' | 'frames'> {
  if (step === 1) return { kind: 'pause', frames: unheard };
  if (unheard > 0 && Math.abs(step - 1 - unheard) <= 1) return { kind: 'missing', frames: step - 1 };
  if (step === 0) return { kind: 'repeated', frames: 1 };
  return step > 0 ? { kind: 'jump', frames: step - 1 } : { kind: 'jump_back', frames: 1 - step };
}

/** Frames from the last word to this one in the direction of the sound, the shorter way over midnight. */
function stepOf(last: { frames: number }, frames: number, backwards: boolean, rate: Rate): number {
  const day = framesPerDay(rate);
  const step = (((backwards ? last.frames - frames : frames - last.frames) % day) + day) % day;
  return step > day / 2 ? step - day : step;
}

const isStep = (from: number, to: number, wanted: number, backwards: boolean, rate: Rate): boolean =>
  stepOf({ frames: from }, to, backwards, rate) === wanted;

/** Numbers in a second, once a second was seen to end. */
function countsOf(words: readonly Word[]): number | undefined {
  const [a, b] = words.slice(-2);
  if (!a?.time || !b?.time || a.backwards !== b.backwards) return undefined;
  const [early, late] = a.backwards ? [b.time, a.time] : [a.time, b.time];
  const isNext = late.frames === 0 && (early.seconds + 1) % 60 === late.seconds;
  return isNext && [24, 25, 30].includes(early.frames + 1) ? early.frames + 1 : undefined;
}

/** Numbers in a second by the pace alone, and by the greatest that was seen. */
function guessedCounts(words: readonly Word[], sampleRate: number): number {
  const most = words.reduce((greatest, { time }) => Math.max(greatest, time?.frames ?? 0), 0);
  if (words.some(({ time }) => time?.dropFrame)) return 30;
  const length = words.reduce((sum, { from, until }) => sum + until - from, 0) / Math.max(1, words.length);
  const fitting = [24, 25, 30].filter((counts) => counts > most);
  const offOf = (counts: number) => Math.abs(Math.log(sampleRate / length / counts));
  return fitting.reduce((best, counts) => (offOf(counts) < offOf(best) ? counts : best), 30);
}

function nearestRate(counts: number, isDrop: boolean, wordsPerSecond: number): Rate {
  const fitting = carriedRates
    .map((key) => rates[key])
    .filter((rate) => rate.counts === counts && (counts !== 30 || isDrop === rate.drops > 0));
  const offOf = (rate: Rate) => Math.abs(wordsPerSecond - framesPerSecond(rate));
  return fitting.reduce((best, rate) => (offOf(rate) < offOf(best) ? rate : best), fitting[0] ?? rates['25']);
}

const decibels = (level: number): number => 20 * Math.log10(Math.max(level, 1e-6));

/** The code words of so many frames from a start on, for whoever writes them. */
export function* timesFrom(start: number, count: number, rate: Rate): Generator<CodeTime> {
  for (let frame = 0; frame < count; frame += 1) yield timeAfter(start + frame, rate);
}
