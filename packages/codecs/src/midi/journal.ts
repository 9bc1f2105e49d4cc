import type { MidiMessage } from './midi.ts';

/**
 * The recovery journal of a stream (RFC 6295 section 5 and appendix A): what the packets since the one that the far
 * end confirmed left behind, so that whoever lost one of them puts it right without asking again. Written and read are
 * the chapters of channels for programs, controllers, bends, notes and pressures; parameters, note extras and the
 * system journal are read over.
 */
interface Kept {
  readonly message: MidiMessage;
  readonly seq: number;
}

const [noteOff, noteOn, keyPressure, control, program, pressure, bend] = [0x80, 0x90, 0xa0, 0xb0, 0xc0, 0xd0, 0xe0];
/** From here on controllers are orders to a mode, not values. */
const firstMode = 120;
const allSoundOff = 120;
const allNotesOff = 123;

/** What a message is about: a later one of the same key takes its place. Undefined for what no channel keeps. */
function keyOf([status = 0, first = 0]: MidiMessage): number | undefined {
  if (status >= 0xf0) return undefined;
  const kind = status & 0xf0;
  const own = kind === noteOff ? noteOn : kind;
  if (kind === control && first >= firstMode) return undefined;
  const isNumbered = kind === control || kind === keyPressure || own === noteOn;
  return ((own | (status & 15)) << 8) | (isNumbered ? first : 0);
}

/** Is `a` before `b` in a count of 16 bits that starts anew at its end (RFC 1982)? */
export const isBefore = (a: number, b: number): boolean => a !== b && ((b - a) & 0xffff) < 0x8000;

/** A note that is on with no strength is off (MIDI 1.0). */
const isOff = ([status = 0, , velocity = 0]: MidiMessage): boolean =>
  (status & 0xf0) === noteOff || ((status & 0xf0) === noteOn && velocity === 0);

/** The sender's side: takes in what goes out, forgets what is confirmed, and writes the journal of the next packet. */
export class JournalWriter {
  private readonly kept = new Map<number, Kept>();
  private checkpoint: number | undefined;

  push(seq: number, messages: readonly MidiMessage[]): void {
    this.checkpoint ??= seq;
    for (const message of messages) {
      if (silences(message)) this.dropNotes(message);
      const key = keyOf(message);
      if (key === undefined) continue;
      // the last one counts, and stands last
      this.kept.delete(key);
      this.kept.set(key, { message, seq });
    }
  }

  /** The far end has everything up to a packet (its feedback). */
  confirm(seq: number): void {
    if (this.checkpoint === undefined || isBefore(seq, this.checkpoint)) return;
    this.checkpoint = (seq + 1) & 0xffff;
    for (const [key, { seq: last }] of this.kept) if (!isBefore(seq, last)) this.kept.delete(key);
  }

  /** The journal of packet `seq`, which covers those from the checkpoint up to the one before it. */
  bytes(seq: number): number[] {
    const { checkpoint = seq } = this;
    if (this.kept.size === 0) return [0x80, checkpoint >> 8, checkpoint & 255];
    const before = (seq - 1) & 0xffff;
    const channels = Array.from({ length: 16 }, (_, channel) =>
      channelJournal(
        channel,
        [...this.kept.values()].filter(({ message: [status = 0] }) => (status & 15) === channel),
        before,
      ),
    ).filter((journal) => journal.length > 0);
    const fresh = [...this.kept.values()].some(({ seq: last }) => last === before);
    const flags = (fresh ? 0 : 0x80) | (channels.length > 0 ? 0x20 | (channels.length - 1) : 0);
    return [flags, checkpoint >> 8, checkpoint & 255, ...channels.flat()];
  }

  private dropNotes([status = 0]: MidiMessage): void {
    for (const key of this.kept.keys()) if (key >> 8 === (noteOn | (status & 15))) this.kept.delete(key);
  }
}

const silences = ([status = 0, first = 0]: MidiMessage): boolean =>
  (status & 0xf0) === control && (first === allSoundOff || first >= allNotesOff);

/** A channel's part: its head of three octets, then the chapters in the order P C W N T A. */
function channelJournal(channel: number, kept: readonly Kept[], before: number): number[] {
  if (kept.length === 0) return [];
  const of = (kind: number) => kept.filter(({ message: [status = 0] }) => (status & 0xf0) === kind);
  /** The S bit of appendix A.1: clear where the packet just before this one had a part in it. */
  const s = (...entries: readonly Kept[]) => (entries.some(({ seq }) => seq === before) ? 0 : 0x80);
  const log = (entry: Kept) => [s(entry) | (entry.message[1] ?? 0), entry.message[2] ?? 0];
  const listed = (entries: readonly Kept[]) =>
    entries.length > 0 ? [s(...entries) | (entries.length - 1), ...entries.flatMap(log)] : [];
  const notes = kept.filter(({ message: [status = 0] }) => [noteOn, noteOff].includes(status & 0xf0));
  const chapters: readonly (readonly [number, number[]])[] = [
    [0x80, of(program).flatMap((entry) => [s(entry) | (entry.message[1] ?? 0), 0, 0])],
    [0x40, listed(of(control))],
    [0x10, of(bend).flatMap((entry) => [s(entry) | (entry.message[1] ?? 0), entry.message[2] ?? 0])],
    [0x08, notes.length > 0 ? noteChapter(notes, before, log) : []],
    [0x02, of(pressure).flatMap((entry) => [s(entry) | (entry.message[1] ?? 0)])],
    [0x01, listed(of(keyPressure))],
  ];
  const contents = chapters.reduce((mask, [bit, bytes]) => mask | (bytes.length > 0 ? bit : 0), 0);
  const body = chapters.flatMap(([, bytes]) => bytes);
  const length = body.length + 3;
  return [s(...kept) | (channel << 3) | (length >> 8), length & 255, contents, ...body];
}

/** Chapter N (appendix A.6): notes that sound one by one, those that ended as bits. */
function noteChapter(notes: readonly Kept[], before: number, log: (entry: Kept) => number[]): number[] {
  const on = notes.filter(({ message }) => !isOff(message));
  const off = notes.filter(({ message }) => isOff(message));
  const octets = off.map(({ message: [, note = 0] }) => note >> 3);
  const none: readonly [number, number] = on.length === 128 ? [15, 0] : [15, 1];
  const [low, high] = off.length > 0 ? [Math.min(...octets), Math.max(...octets)] : none;
  const bits: number[] = off.length > 0 ? Array<number>(high - low + 1).fill(0) : [];
  for (const { message } of off) {
    const note = message[1] ?? 0;
    const at = (note >> 3) - low;
    bits[at] = (bits[at] ?? 0) | (0x80 >> (note & 7));
  }
  const b = off.some(({ seq }) => seq === before) ? 0 : 0x80;
  // Y: it is good to play a note late rather than not at all
  const logs = on.flatMap((entry) => log(entry).map((byte, at) => (at === 1 ? byte | 0x80 : byte)));
  return [b | Math.min(on.length, 127), (low << 4) | high, ...logs, ...bits];
}

/** What a journal says was left behind, as the messages that bring it about; notes that ended as note-off. */
export interface JournalRead {
  readonly checkpoint: number;
  readonly messages: readonly MidiMessage[];
}

/** Reads a recovery journal from its first octet. Undefined where it ends early or its lengths do not fit. */
export function readJournal(bytes: Uint8Array): JournalRead | undefined {
  if (bytes.length < 3) return undefined;
  const [flags = 0, high = 0, low = 0] = bytes;
  const messages: MidiMessage[] = [];
  let at = 3;
  if (flags & 0x40) {
    // the system journal tells its own length, in ten bits
    const length = lengthAt(bytes, at);
    if (length < 2 || at + length > bytes.length) return undefined;
    at += length;
  }
  for (let left = flags & 0x20 ? (flags & 15) + 1 : 0; left > 0; left -= 1) {
    const length = lengthAt(bytes, at);
    if (length < 3 || at + length > bytes.length) return undefined;
    const read = readChannel(bytes.subarray(at, at + length));
    if (!read) return undefined;
    messages.push(...read);
    at += length;
  }
  return { checkpoint: (high << 8) | low, messages };
}

const lengthAt = (bytes: Uint8Array, at: number): number => (((bytes[at] ?? 0) & 3) << 8) | (bytes[at + 1] ?? 0);

function readChannel(bytes: Uint8Array): MidiMessage[] | undefined {
  const channel = ((bytes[0] ?? 0) >> 3) & 15;
  const contents = bytes[2] ?? 0;
  const messages: MidiMessage[] = [];
  let at = 3;
  for (const [bit, read] of chapters) {
    if ((contents & bit) === 0) continue;
    const length = read(bytes.subarray(at), (kind, ...data) => messages.push([kind | channel, ...data]));
    if (length === undefined || at + length > bytes.length) return undefined;
    at += length;
  }
  return messages;
}

/** Reads one chapter: says how long it is, and which messages bring about what it tells. */
type Chapter = (bytes: Uint8Array, tell: (kind: number, ...data: number[]) => void) => number | undefined;

const low7 = (byte = 0): number => byte & 127;

/** Logs of two octets behind a head that counts them from 1. */
const logsOf =
  (kind: number): Chapter =>
  (bytes, tell) => {
    const count = low7(bytes[0]) + 1;
    for (let n = 0; n < count; n += 1) {
      const value = bytes[2 + n * 2] ?? 0;
      // where the upper bit is set a controller tells how often it came, not its value
      if (kind !== control || value < 0x80) tell(kind, low7(bytes[1 + n * 2]), low7(value));
    }
    return 1 + count * 2;
  };

const readNotes: Chapter = (bytes, tell) => {
  const [head = 0, range = 0] = bytes;
  const [low, high] = [range >> 4, range & 15];
  const count = low7(head) === 127 && low === 15 && high === 0 ? 128 : low7(head);
  for (let n = 0; n < count; n += 1) tell(noteOn, low7(bytes[2 + n * 2]), low7(bytes[3 + n * 2]));
  const start = 2 + count * 2;
  const octets = low <= high ? high - low + 1 : 0;
  for (let n = 0; n < octets * 8; n += 1)
    if ((bytes[start + (n >> 3)] ?? 0) & (0x80 >> (n & 7))) tell(noteOff, low * 8 + n, 0);
  return start + octets;
};

const chapters: readonly (readonly [number, Chapter])[] = [
  [0x80, (bytes, tell) => (tell(program, low7(bytes[0])), 3)],
  [0x40, logsOf(control)],
  [0x20, (bytes) => (lengthAt(bytes, 0) >= 2 ? lengthAt(bytes, 0) : undefined)],
  [0x10, (bytes, tell) => (tell(bend, low7(bytes[0]), low7(bytes[1])), 2)],
  [0x08, readNotes],
  [0x04, (bytes) => 1 + (low7(bytes[0]) + 1) * 2],
  [0x02, (bytes, tell) => (tell(pressure, low7(bytes[0])), 1)],
  [0x01, logsOf(keyPressure)],
];

/** The receiver's side: remembers what came, and says what a journal tells that did not. */
export class Restorer {
  private readonly last = new Map<number, MidiMessage>();

  push(message: MidiMessage): void {
    if (silences(message))
      for (const key of this.last.keys()) if (key >> 8 === (noteOn | ((message[0] ?? 0) & 15))) this.last.delete(key);
    const key = keyOf(message);
    if (key !== undefined) this.last.set(key, message);
  }

  /** The messages that were lost, as far as the journal tells; they count as taken in. */
  missing(told: readonly MidiMessage[]): MidiMessage[] {
    const lost = told.filter((message) => {
      const known = this.last.get(keyOf(message) ?? -1);
      if (isOff(message)) return known !== undefined && !isOff(known);
      return known === undefined || known.some((byte, at) => byte !== message[at]);
    });
    for (const message of lost) this.push(message);
    return lost;
  }
}
