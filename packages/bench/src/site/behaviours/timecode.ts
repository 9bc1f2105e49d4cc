import { LtcReader, LtcWriter } from '@deep-patch/codecs';
import { show as core, timecode } from '@deep-patch/core';
import type { Surroundings } from '../../units/surroundings.ts';
import { isUp, type HeardTime, type Standin } from '../../units/standin.ts';
import { fetchOverNetwork, sendOverNetwork } from './network-time.ts';

/** Without news for so long, the code stands. */
const standsAfterMs = 500;
const sampleRate = 48_000;
const usualRate = timecode.rates['25'];
/**
 * What a unit does in chains of time code. A source runs its own clock; anything else shows what it hears and passes it
 * on. Network MIDI goes as quarter frames, two a packet with the time between them (RFC 6295 section 3), of which eight
 * tell a time; linear time code goes as real sound, which the far end reads.
 */
export function keepsTime(site: Surroundings, unit: Standin): void {
  const hops = hopsOf(site, unit);
  const clock = new UnitClock(site, unit);
  unit.timeEars.push((heard) => clock.hear(heard));
  fetchOverNetwork(site, unit);
  if (hops.length === 0) return;
  const overNetwork = hops.filter(({ format }) => format === 'network_midi');
  const names = [...new Set(overNetwork.map(({ says }) => says || unit.device.name))];
  for (const name of names) {
    const to = overNetwork.filter(({ says }) => (says || unit.device.name) === name);
    sendOverNetwork(site, unit, clock, { name, toIds: to.map(({ toId }) => toId) });
  }
  for (const hop of hops) if (hop.format !== 'network_midi') sendOverCable(site, unit, clock, hop);
}

type Given = Pick<core.TimeHop, 'toId' | 'format' | 'says'>;

/** Hops that begin here; a source of time code gives it to everybody that it has entered, where nobody said how. */
function hopsOf({ plan: { show } }: Surroundings, { device, type }: Standin): readonly Given[] {
  const said = core.rowsOf(show, 'timeHops').filter(({ fromId }) => fromId === device.id);
  if (type.kind !== 'timecode') return said;
  const entered = core
    .rowsOf(show, 'links')
    .filter(({ controllerId, targetId, serviceKey }) => {
      const service = core.serviceTypeOf(show, show.devices[targetId], serviceKey);
      return controllerId === device.id && service?.protocol === 'midi' && !said.some(({ toId }) => toId === targetId);
    })
    .map(({ targetId }): Given => ({ toId: targetId, format: 'network_midi', says: '' }));
  return [...said, ...entered];
}

/** The time that a unit shows: its own, or what it heard last and how long ago that was. */
class UnitClock {
  private readonly site: Surroundings;
  private readonly unit: Standin;
  private readonly startedAt: number;
  private readonly isSource: boolean;
  private heard: { readonly frames: number; readonly at: number; readonly rate: timecode.Rate } | undefined;
  private isRunning = true;

  constructor(site: Surroundings, unit: Standin) {
    this.site = site;
    this.unit = unit;
    this.startedAt = site.scheduler.now();
    const hears = core.rowsOf(site.plan.show, 'timeHops').some(({ toId }) => toId === unit.device.id);
    this.isSource = !hears && (unit.type.timecode?.makes ?? unit.type.kind === 'timecode');
    unit.closers.push(() => (this.isRunning = false));
    if (hears) this.watch();
  }

  get rate(): timecode.Rate {
    const { rate } = this.unit.device;
    return this.isSource ? (rate === null ? usualRate : timecode.rates[rate]) : (this.heard?.rate ?? usualRate);
  }

  /** Frames since midnight of the code; undefined while it stands. */
  now(): number | undefined {
    const at = this.site.scheduler.now();
    if (this.isSource) return whole(((at - this.startedAt) / 1000) * timecode.framesPerSecond(this.rate));
    const { heard } = this;
    if (!heard || at - heard.at > standsAfterMs) return undefined;
    return heard.frames + whole(((at - heard.at) / 1000) * timecode.framesPerSecond(heard.rate));
  }

  /** True where it was taken: by its name and its rate it is what the unit waits for. */
  hear({ time, rate, from, format }: HeardTime): boolean {
    const { device } = this.unit;
    const waits = core.rowsOf(this.site.plan.show, 'timeHops').filter(({ toId }) => toId === device.id);
    const isNamed =
      waits.length === 0 || waits.some((hop) => hop.format === format && (hop.hears === '' || hop.hears === from));
    const awaited = device.rate === null ? undefined : timecode.rates[device.rate];
    const isAwaited = !awaited || (awaited.counts === rate.counts && awaited.drops === rate.drops);
    if (!isNamed || !isAwaited) return false;
    this.heard = { frames: timecode.framesOf(time, rate), at: this.site.scheduler.now(), rate };
    this.show();
    return true;
  }

  show(): void {
    const frames = this.now();
    const words = frames === undefined ? 'none' : timecode.timeWords(timecode.timeAfter(frames, this.rate), this.rate);
    this.unit.memory.face.set('time code', words);
  }

  /** What stands says so. */
  private watch(): void {
    if (!this.isRunning) return;
    this.show();
    this.site.scheduler.light(standsAfterMs, () => this.watch(), 1);
  }

  /** Runs as long as the unit does; `tick` gives the milliseconds until it is to run again. */
  every(tick: () => number): void {
    const run = () => {
      if (this.isRunning) this.site.scheduler.light(tick(), run, 1);
    };
    run();
  }
}

/** Frames that have begun: a moment at which one begins is in it, however its seconds were rounded. */
const whole = (frames: number): number => Math.floor(frames + 1e-6);

/** Linear time code as sound, a word at a time; MIDI over a cable says the same times without a network between. */
function sendOverCable(site: Surroundings, unit: Standin, clock: UnitClock, { toId, format, says }: Given): void {
  const target = () => site.standins.get(toId);
  const tell = (time: timecode.CodeTime, rate: timecode.Rate) => {
    const there = target();
    if (there && isUp(there) && there.type.timecode?.takes.includes(format))
      for (const hear of there.timeEars) hear({ time, rate, from: says || unit.device.name, format });
  };
  let sound = soundAt(clock.rate, tell);
  clock.every(() => {
    const { rate } = clock;
    // who passes on learns the rate from what it hears
    if (sound.rate !== rate) sound = soundAt(rate, tell);
    clock.show();
    const now = clock.now();
    if (now !== undefined) {
      const time = timecode.timeAfter(now, rate);
      if (format === 'midi') tell(time, rate);
      else sound.say(time);
    }
    return 1000 / timecode.framesPerSecond(rate);
  });
}

/** Linear time code from one end of a cable to the other: written, and read, word by word. */
function soundAt(rate: timecode.Rate, tell: (time: timecode.CodeTime, rate: timecode.Rate) => void) {
  const wordsPerSecond = timecode.framesPerSecond(rate);
  const shape = { sampleRate, wordsPerSecond, level: 0.25, riseTime: 40e-6, isAt25: rate.counts === 25 };
  const writer = new LtcWriter(shape);
  const reader = new LtcReader(sampleRate, ({ time }) => {
    // it was the time of the frame that has just ended
    if (time) tell(timecode.timeAfter(timecode.framesOf(time, rate) + 1, rate), rate);
  });
  return {
    rate,
    say: (time: timecode.CodeTime) => reader.push(writer.word({ ...time, dropFrame: rate.drops > 0, userBits: [] })),
  };
}
