import { anatomyOf, writeCapture, writeFrame, type Frame, type OscArg, type OscPacket } from '@deep-patch/codecs';
import type { contract } from '@deep-patch/core';
import type { Words } from '../protocols/protocol.ts';
import { FrameRing } from './frame-ring.ts';
import { datagramOf, FrameReader, wordsOf } from './frame-words.ts';
import { withoutPasswords } from './without-passwords.ts';

const mostLines = 5000;
const mostFrames = 20_000;
const mostAddresses = 2000;
/** More lines than anybody reads in a tenth of a second: what is told to screens, not what is kept. */
const mostNews = 60;

type Told = contract.HeardMessage;
export type Names = Pick<Told, 'from' | 'to' | 'fromId' | 'toId'>;
type Said = Pick<Words, 'protocol' | 'text' | 'ok'> & { readonly as?: string };
/** A line that is made when somebody reads it: most pass by unread. */
interface Line {
  readonly at: number;
  readonly names: Names;
  /** The number of its frame, which no line without one has. */
  readonly frame?: number;
  /** What it says; undefined where that is read from the frame again. */
  readonly says: Said | undefined;
}
interface Measured {
  count: number;
  readonly values: { last: OscArg; least: number | null; greatest: number | null }[];
}
/** An address whose messages have more values is no control. */
const mostValues = 16;

/** Who a frame comes from and goes to, in words and as units of the show. */
export type Naming = (frame: Frame) => Names;

/**
 * Listens to everything on the simulated network: keeps the frames for a capture, the lines for reading, and the OSC
 * addresses and MIDI controls with their range (C62). `clock` gives milliseconds since 1970.
 */
export class Tap {
  private readonly lines: Line[] = [];
  private readonly frames = new FrameRing(mostFrames);
  private readonly addresses = new Map<string, Measured>();
  private readonly reader = new FrameReader();
  private readonly naming: Naming;
  private readonly clock: () => number;
  private fresh: Line[] = [];
  private freshCount = 0;
  private readonly counts: number[] = [];
  private lampsIn = new Set<string>();
  private lampsOut = new Set<string>();
  private lit: Names | undefined;

  constructor(naming: Naming, clock: () => number) {
    this.naming = naming;
    this.clock = clock;
  }

  take(frame: Frame): void {
    const at = this.clock();
    const number = this.frames.push(at, frame);
    const words = this.reader.read(frame, at);
    if (!words) return;
    if (words.osc) this.measure(words.osc);
    for (const { address, value } of words.moved ?? []) this.measureOne(address, [{ type: 'i', value }]);
    // most of a full network are datagrams that say nothing before somebody reads them
    const isReadAgain = words.running === undefined && datagramOf(frame) !== undefined;
    this.add({ at, names: this.naming(frame), frame: number, says: isReadAgain ? undefined : saidOf(words) });
  }

  /** A line that no frame tells: what a stand-in could not understand. */
  note(names: Names, says: Said): void {
    this.add({ at: this.clock(), names, says });
  }

  private add(line: Line): void {
    keep(this.lines, line, mostLines);
    this.freshCount += 1;
    // a burst between two units lights their lamps once
    if (line.names !== this.lit) this.light((this.lit = line.names));
    this.fresh.push(line);
    if (this.fresh.length > 2 * mostNews) this.fresh = this.fresh.slice(-mostNews);
  }

  private light({ fromId, toId }: Names): void {
    if (fromId !== undefined) this.lampsOut.add(fromId);
    if (toId !== undefined) this.lampsIn.add(toId);
  }

  /** Keeps the range of each value of an OSC message, by its address: a control of two axes sends two. */
  private measure(packet: OscPacket): void {
    if ('elements' in packet) {
      for (const element of packet.elements) this.measure(element);
      return;
    }
    this.measureOne(packet.address, packet.args);
  }

  private measureOne(address: string, args: readonly OscArg[]): void {
    const known = this.addresses.get(address);
    if (!known && this.addresses.size >= mostAddresses) return;
    const entry = known ?? { count: 0, values: [] };
    entry.count += 1;
    for (let at = 0; at < args.length && at < mostValues; at += 1) {
      const arg = args[at];
      if (!arg) continue;
      const value = 'value' in arg ? arg.value : undefined;
      const kept = (entry.values[at] ??= { last: arg, least: null, greatest: null });
      kept.last = arg;
      if (typeof value !== 'number') continue;
      if (kept.least === null || value < kept.least) kept.least = value;
      if (kept.greatest === null || value > kept.greatest) kept.greatest = value;
    }
    if (!known) this.addresses.set(address, entry);
  }

  /** Without those whose frames are not kept any more. */
  private told(lines: readonly Line[]): Told[] {
    return lines.flatMap(({ at, names, frame, says }) => {
      const said = says ?? (frame === undefined ? undefined : this.readAgain(frame));
      if (!said) return [];
      const { protocol, text, ok, as } = said;
      const told = { at, ...names, protocol, text: typeof text === 'string' ? text : text(), ok };
      return [{ ...told, ...(as === undefined ? {} : { as }), ...(frame === undefined ? {} : { frame }) }];
    });
  }

  private readAgain(number: number): Said | undefined {
    const frame = this.frames.frame(number);
    const datagram = frame && datagramOf(frame);
    return datagram && wordsOf(datagram);
  }

  /** The latest lines, oldest first. */
  last(count: number): Told[] {
    return this.told(this.lines.slice(-count));
  }

  heardAddresses(): contract.HeardAddress[] {
    return [...this.addresses]
      .map(([address, { count, values }]) => ({
        address,
        count,
        values: values.map(({ last, ...range }) => ({ last: lastWords(last), ...range })),
      }))
      .sort((a, b) => (a.address < b.address ? -1 : 1));
  }

  forgetAddresses(): void {
    this.addresses.clear();
  }

  /** What each byte of a frame stands for; undefined when it is not kept any more. */
  anatomy(number: number): contract.FrameAnatomy | undefined {
    const frame = this.frames.frame(number);
    if (!frame) return undefined;
    const bytes = writeFrame(withoutPasswords(frame));
    return { hex: Buffer.from(bytes).toString('hex'), layers: anatomyOf(bytes) };
  }

  /** The frames that are kept, as a pcapng file. */
  capture(source: string): Uint8Array {
    const frames = this.frames
      .last()
      .map(({ at, frame }) => ({ at: Math.round(at * 1000), bytes: writeFrame(withoutPasswords(frame)) }));
    return writeCapture(frames, source);
  }

  /** What is new since it was asked last, `elapsedMs` ago; undefined when nothing is. The rate is that of a second. */
  news(elapsedMs: number): Omit<contract.TapNews, 'showId'> | undefined {
    this.counts.push(this.freshCount);
    if (this.counts.length * elapsedMs > 1000) this.counts.shift();
    if (this.freshCount === 0) return undefined;
    const news = {
      lines: this.told(this.fresh.slice(-mostNews)),
      perSecond: this.counts.reduce((sum, count) => sum + count, 0),
      addresses: this.addresses.size,
      lamps: { in: [...this.lampsIn], out: [...this.lampsOut] },
    };
    this.fresh = [];
    this.freshCount = 0;
    this.lampsIn = new Set();
    this.lampsOut = new Set();
    this.lit = undefined;
    return news;
  }
}

function saidOf({ protocol, text, ok, running }: Words): Said {
  return running ? { protocol, text, ok, as: running.as } : { protocol, text, ok };
}

/** A value as a list shows it; what has none goes by its tag. */
function lastWords(arg: OscArg): string {
  const value = 'value' in arg ? arg.value : undefined;
  return typeof value === 'number' || typeof value === 'string' ? String(value).slice(0, 80) : arg.type;
}

/** Keeps the last `most`; cut in one go now and then, since taking one from the front costs as much as all. */
function keep<Item>(list: Item[], item: Item, most: number): void {
  list.push(item);
  if (list.length > most * 1.2) list.splice(0, list.length - most);
}
