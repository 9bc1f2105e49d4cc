/** How the first bytes of a captured frame are to be read (the LINKTYPE_ registry of the capture formats). */
export type LinkLayer = 'ethernet' | 'cooked' | 'cooked2' | 'loopback' | 'raw' | 'radio' | 'radiotap';

export interface CapturedFrame {
  readonly link: LinkLayer;
  /** Its bytes, for as long as it is being told. */
  readonly view: DataView;
  /** When it was captured, in milliseconds since 1970; null where the file does not say. */
  readonly atMs: number | null;
}

export type CaptureFault =
  | 'not_a_capture'
  | 'ends_early'
  | 'length_impossible'
  | 'no_interface'
  | 'version_unknown'
  | 'record_too_long'
  | 'packing_damaged';

export interface CaptureSummary {
  readonly format: 'pcap' | 'pcapng' | null;
  readonly bytes: number;
  readonly frames: number;
  /** Frames of kinds of link that are not read here. */
  readonly skipped: number;
  /** Which kinds those are, by their numbers in the registry. */
  readonly skippedLinks: readonly number[];
  /** What ended the reading before the end of the file, and where. */
  readonly fault: { readonly code: CaptureFault; readonly at: number } | null;
}

/** No capture tool writes longer frames (its largest snapshot length); a longer one is a damaged file. */
const longestFrame = 262_144;
/** Far above any block that carries a frame; it bounds what is held while a block arrives. */
const longestBlock = 1024 * 1024;
/** More kinds than one file has. */
const mostKinds = 20;
const layers: Readonly<Record<number, LinkLayer>> = {
  0: 'loopback',
  1: 'ethernet',
  12: 'raw',
  14: 'raw',
  101: 'raw',
  105: 'radio',
  108: 'loopback',
  113: 'cooked',
  127: 'radiotap',
  228: 'raw',
  276: 'cooked2',
};

/** Reads one record from `from` of `view`: how many bytes it took, or 0 when more are needed. */
type Step = (view: DataView, from: number, state: Reading) => number | { readonly fault: CaptureFault };

interface Reading {
  readonly emit: (link: number, view: DataView, atMs: number | null) => void;
  /** Of pcap: how many parts of a second its times count. */
  ticks: number;
  little: boolean;
  link: number;
  /** Link types of the interfaces of the present pcapng section, and their snapshot lengths. */
  interfaces: { link: number; snap: number; ticks: number }[];
}

/**
 * Reads a packet capture as it arrives, in chunks of any size: pcap (microseconds and nanoseconds, both byte orders)
 * and pcapng (section, interface, enhanced, simple and obsolete packet blocks; IETF draft-ietf-opsawg-pcapng). Holds one
 * record at a time, so that any length of file needs the same memory. Never throws: damage ends the reading with a
 * fault that says where.
 */
export class CaptureReader {
  private held = new Uint8Array(0);
  private step: Step = readMagic;
  private at = 0;
  private frames = 0;
  private skipped = 0;
  private readonly skippedLinks = new Set<number>();
  private fault: CaptureSummary['fault'] = null;
  private received = 0;
  private readonly reading: Reading;

  constructor(onFrame: (frame: CapturedFrame) => void) {
    const emit = (link: number, view: DataView, atMs: number | null) => {
      const layer = layers[link];
      this.frames += 1;
      if (layer) onFrame({ link: layer, view, atMs });
      else {
        this.skipped += 1;
        if (this.skippedLinks.size < mostKinds) this.skippedLinks.add(link);
      }
    };
    this.reading = { emit, ticks: 1e6, little: false, link: -1, interfaces: [] };
  }

  push(chunk: Uint8Array): void {
    this.received += chunk.length;
    if (this.fault) return;
    const bytes = this.held.length === 0 ? chunk : joined(this.held, chunk);
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
    let from = 0;
    for (;;) {
      const took = this.take(view, from);
      if (took === 0) break;
      from += took;
      this.at += took;
    }
    this.held = bytes.slice(from);
  }

  /** Says how far it got. A file that stops in the middle of a record has `ends_early`. */
  end(): CaptureSummary {
    if (!this.fault && (this.held.length > 0 || this.received === 0))
      this.fault = { code: this.step === readMagic ? 'not_a_capture' : 'ends_early', at: this.at };
    return this.summary();
  }

  /** How far it got so far. */
  summary(): CaptureSummary {
    const format = this.step === readMagic ? null : this.step === readRecord ? 'pcap' : 'pcapng';
    const { frames, skipped, fault, received: bytes } = this;
    return { format, bytes, frames, skipped, skippedLinks: [...this.skippedLinks], fault };
  }

  private take(view: DataView, from: number): number {
    if (this.fault) return 0;
    if (this.step === readMagic && view.byteLength >= 4) {
      const started = start(view, this.reading);
      if ('fault' in started) return this.stop(started.fault);
      if (started.step === undefined) return 0;
      this.step = started.step;
      if (started.took > 0) return started.took;
    }
    const took = this.step(view, from, this.reading);
    return typeof took === 'number' ? took : this.stop(took.fault);
  }

  private stop(code: CaptureFault): 0 {
    this.fault = { code, at: this.at };
    return 0;
  }
}

const readMagic: Step = () => 0;

type Started = { step: Step | undefined; took: number } | { fault: CaptureFault };

function start(view: DataView, state: Reading): Started {
  const magic = view.getUint32(0);
  if (magic === 0x0a0d0d0a) return { step: readBlock, took: 0 };
  const little = magic === 0xd4c3b2a1 || magic === 0x4d3cb2a1;
  if (!little && magic !== 0xa1b2c3d4 && magic !== 0xa1b23c4d) return { fault: 'not_a_capture' };
  if (view.byteLength < 24) return { step: undefined, took: 0 };
  state.little = little;
  state.ticks = magic === 0xa1b23c4d || magic === 0x4d3cb2a1 ? 1e9 : 1e6;
  if (view.getUint16(4, little) !== 2) return { fault: 'version_unknown' };
  // the upper bits may tell the length of a frame check sequence
  state.link = view.getUint32(20, little) & 0xffff;
  return { step: readRecord, took: 24 };
}

/** One packet record of pcap: 16 bytes of header, then the captured bytes. */
const readRecord: Step = (view, from, { little, link, ticks, emit }) => {
  const room = view.byteLength - from;
  if (room < 16) return 0;
  const length = view.getUint32(from + 8, little);
  if (length > longestFrame) return { fault: 'record_too_long' };
  if (room < 16 + length) return 0;
  const atMs = view.getUint32(from, little) * 1000 + (view.getUint32(from + 4, little) * 1000) / ticks;
  emit(link, part(view, from + 16, length), atMs);
  return 16 + length;
};

/** One block of pcapng; kinds that carry no frame are passed over. */
const readBlock: Step = (view, from, state) => {
  const room = view.byteLength - from;
  if (room < 12) return 0;
  const type = view.getUint32(from, state.little);
  const isSection = view.getUint32(from) === 0x0a0d0d0a;
  if (isSection) {
    const order = view.getUint32(from + 8);
    if (order !== 0x1a2b3c4d && order !== 0x4d3c2b1a) return { fault: 'not_a_capture' };
    state.little = order === 0x4d3c2b1a;
    state.interfaces = [];
  }
  const length = view.getUint32(from + 4, state.little);
  if (length < 12 || length % 4 !== 0 || length > longestBlock) return { fault: 'length_impossible' };
  if (room < length) return 0;
  if (view.getUint32(from + length - 4, state.little) !== length) return { fault: 'length_impossible' };
  if (isSection) return length < 28 ? { fault: 'length_impossible' } : length;
  const fault = readBody(part(view, from, length), type, length, state);
  return fault ? { fault } : length;
};

function readBody(view: DataView, type: number, length: number, state: Reading): CaptureFault | undefined {
  const { little } = state;
  if (type === 1) {
    if (length < 20) return 'length_impossible';
    const interfaceAs = { link: view.getUint16(8, little), snap: view.getUint32(12, little) };
    state.interfaces.push({ ...interfaceAs, ticks: ticksOf(view, length, little) });
    return undefined;
  }
  if (type === 6) {
    if (length < 32) return 'length_impossible';
    return packet(view, { index: view.getUint32(8, little), at: 28, size: view.getUint32(20, little), length }, state);
  }
  if (type === 2) {
    // the packet block of before 2007: as the enhanced one, but the number of its interface has two bytes
    if (length < 32) return 'length_impossible';
    return packet(view, { index: view.getUint16(8, little), at: 28, size: view.getUint32(20, little), length }, state);
  }
  if (type !== 3) return undefined;
  if (length < 16) return 'length_impossible';
  const snap = state.interfaces[0]?.snap ?? 0;
  const original = view.getUint32(8, little);
  const size = snap > 0 ? Math.min(snap, original) : original;
  return packet(view, { index: 0, at: 12, size, length }, state);
}

interface PacketPlace {
  readonly index: number;
  readonly at: number;
  readonly size: number;
  readonly length: number;
}

function packet(view: DataView, { index, at, size, length }: PacketPlace, state: Reading): CaptureFault | undefined {
  const from = state.interfaces[index];
  if (!from) return 'no_interface';
  if (size > length - at - 4) return 'length_impossible';
  // simple packet blocks have no time
  const isTimed = at === 28;
  const ticks = isTimed ? view.getUint32(12, state.little) * 2 ** 32 + view.getUint32(16, state.little) : 0;
  state.emit(from.link, part(view, at, size), isTimed ? (ticks / from.ticks) * 1000 : null);
  return undefined;
}

/** Parts of a second that the times of an interface count: option 9, else millionths (pcapng section 4.2). */
function ticksOf(view: DataView, length: number, little: boolean): number {
  for (let at = 16; at + 4 <= length - 4;) {
    const [code, size] = [view.getUint16(at, little), view.getUint16(at + 2, little)];
    if (code === 9 && size >= 1 && at + 5 <= length) {
      const value = view.getUint8(at + 4);
      return value < 0x80 ? 10 ** value : 2 ** (value & 0x7f);
    }
    if (code === 0) break;
    at += 4 + Math.ceil(size / 4) * 4;
  }
  return 1e6;
}

const part = (view: DataView, at: number, length: number): DataView =>
  new DataView(view.buffer, view.byteOffset + at, length);

function joined(first: Uint8Array, second: Uint8Array): Uint8Array<ArrayBuffer> {
  const both = new Uint8Array(first.length + second.length);
  both.set(first);
  both.set(second, first.length);
  return both;
}
