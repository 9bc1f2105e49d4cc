import { utf8Bytes, utf8Text } from './text.ts';

/** One OSC 1.0 argument by its type tag; `t` is an NTP time tag in 64 bits, `[` an array. */
export type OscArg =
  | { readonly type: 'i' | 'f' | 'd'; readonly value: number }
  | { readonly type: 's' | 'S' | 'c'; readonly value: string }
  | { readonly type: 'b' | 'r' | 'm'; readonly value: Uint8Array }
  | { readonly type: 'h' | 't'; readonly value: bigint }
  | { readonly type: 'T' | 'F' | 'N' | 'I' }
  | { readonly type: '['; readonly value: readonly OscArg[] };

export interface OscMessage {
  readonly address: string;
  readonly args: readonly OscArg[];
}
export interface OscBundle {
  readonly time: bigint;
  readonly elements: readonly OscPacket[];
}
export type OscPacket = OscMessage | OscBundle;
export type OscRead =
  | { readonly ok: true; readonly packet: OscPacket }
  | { readonly ok: false; readonly fault: string; readonly at: number };

/** Time tag 1: at once (OSC 1.0, "OSC Time Tags"). */
export const immediately = 1n;

/** Seconds from 1900, where time tags begin, to 1970 (RFC 5905 section 6). */
const eraSeconds = 2_208_988_800;

/** A time tag as milliseconds since 1970; undefined for one that says at once. */
export function timeOfTag(tag: bigint): number | undefined {
  if (tag === immediately) return undefined;
  return (Number(tag >> 32n) - eraSeconds) * 1000 + (Number(tag & 0xffff_ffffn) / 2 ** 32) * 1000;
}

/** The time tag of a moment in milliseconds since 1970. */
export function tagOfTime(ms: number): bigint {
  const seconds = Math.floor(ms / 1000);
  return (BigInt(seconds + eraSeconds) << 32n) | BigInt(Math.floor(((ms - seconds * 1000) / 1000) * 2 ** 32));
}
const bundleMark = '#bundle';
/** The most that one UDP datagram carries; nothing larger is read. */
const mostBytes = 65_507;
const deepest = 16;

// ---- writing

/**
 * Bytes of a message or bundle, every part padded to four bytes (OSC 1.0, "Atomic Data Types"). Throws a RangeError for
 * what its type cannot carry: a text with a zero in it, which would end there, or a number out of range.
 */
export function writeOsc(packet: OscPacket): Uint8Array {
  const out: Uint8Array[] = [];
  if ('address' in packet) {
    out.push(
      paddedText(packet.address),
      paddedText(`,${packet.args.map(tagOf).join('')}`),
      ...packet.args.flatMap(argBytes),
    );
  } else {
    out.push(paddedText(bundleMark), timeTag(packet.time));
    for (const element of packet.elements) {
      const body = writeOsc(element);
      out.push(bytes32(body.length), body);
    }
  }
  return joined(out);
}

const tagOf = (arg: OscArg): string => (arg.type === '[' ? `[${arg.value.map(tagOf).join('')}]` : arg.type);

function argBytes(arg: OscArg): Uint8Array[] {
  switch (arg.type) {
    case 'i':
      return [bytes32(arg.value)];
    case 'f':
      if (Number.isFinite(arg.value) && !Number.isFinite(Math.fround(arg.value)))
        throw new RangeError(`${arg.value} does not fit into a 32-bit float`);
      return [viewed(4, (view) => view.setFloat32(0, arg.value))];
    case 'd':
      return [viewed(8, (view) => view.setFloat64(0, arg.value))];
    case 'h':
      if (BigInt.asIntN(64, arg.value) !== arg.value) throw new RangeError(`${arg.value} does not fit into 64 bits`);
      return [bytes64(arg.value)];
    case 't':
      return [timeTag(arg.value)];
    case 's':
    case 'S':
      return [paddedText(arg.value)];
    case 'c':
      if (!/^.$/su.test(arg.value)) throw new RangeError(`“${arg.value}” is not one character`);
      return [bytes32(arg.value.codePointAt(0) ?? 0)];
    case 'b':
      return [bytes32(arg.value.length), padded(arg.value, arg.value.length)];
    case 'r':
    case 'm':
      return [arg.value.slice(0, 4)];
    case '[':
      return arg.value.flatMap(argBytes);
    default:
      return [];
  }
}

const paddedText = (text: string): Uint8Array => {
  if (text.includes('\0')) throw new RangeError(`a text ends at its first zero: ${JSON.stringify(text)}`);
  const bytes = utf8Bytes(text);
  return padded(bytes, bytes.length + 1);
};
const padded = (bytes: Uint8Array, least: number): Uint8Array => {
  const out = new Uint8Array(Math.ceil(least / 4) * 4);
  out.set(bytes);
  return out;
};
const bytes32 = (value: number): Uint8Array => {
  if ((value | 0) !== value) throw new RangeError(`${value} is no whole number of 32 bits`);
  return viewed(4, (view) => view.setInt32(0, value));
};
const timeTag = (value: bigint): Uint8Array => {
  if (BigInt.asUintN(64, value) !== value) throw new RangeError(`${value} is no time tag`);
  return bytes64(value);
};
const bytes64 = (value: bigint): Uint8Array => viewed(8, (view) => view.setBigInt64(0, value));

function viewed(size: number, write: (view: DataView) => void): Uint8Array {
  const bytes = new Uint8Array(size);
  write(new DataView(bytes.buffer));
  return bytes;
}

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

// ---- reading

/** Reads one packet. Never throws and never looks outside the bytes; a fault names where it stands. */
export function readOsc(bytes: Uint8Array): OscRead {
  const cursor = new Cursor(bytes);
  try {
    if (bytes.length > mostBytes) throw new Fault('larger than a datagram', 0);
    return { ok: true, packet: readPacket(cursor, bytes.length, 0) };
  } catch (fault) {
    if (fault instanceof Fault) return { ok: false, fault: fault.message, at: fault.at };
    throw fault;
  }
}

class Fault extends Error {
  readonly at: number;
  constructor(message: string, at: number) {
    super(message);
    this.at = at;
  }
}

class Cursor {
  at = 0;
  readonly bytes: Uint8Array;
  constructor(bytes: Uint8Array) {
    this.bytes = bytes;
  }
  /** Start of the next `size` bytes, which are then behind the cursor. */
  take(size: number, end: number): number {
    if (size < 0 || size > end - this.at) throw new Fault(`needs ${size} bytes, ${end - this.at} left`, this.at);
    const start = this.at;
    this.at += size;
    return start;
  }
  /** The next 4 or 8 bytes as numbers. One view serves all packets: making one for each costs more than reading it. */
  number(size: 4 | 8, end: number): DataView {
    const start = this.take(size, end);
    for (let at = 0; at < size; at += 1) scratch[at] = this.bytes[start + at] ?? 0;
    return scratchView;
  }
}
const scratch = new Uint8Array(8);
const scratchView = new DataView(scratch.buffer);

function readPacket(cursor: Cursor, end: number, depth: number): OscPacket {
  if (depth > deepest) throw new Fault('bundles nested too deeply', cursor.at);
  const start = cursor.at;
  const head = readText(cursor, end);
  if (head === bundleMark) return readBundle(cursor, end, depth);
  if (!head.startsWith('/')) throw new Fault('an address starts with /', start);
  return { address: head, args: cursor.at === end ? [] : readArgs(cursor, end) };
}

function readBundle(cursor: Cursor, end: number, depth: number): OscBundle {
  const time = cursor.number(8, end).getBigUint64(0);
  const elements: OscPacket[] = [];
  while (cursor.at < end) {
    const size = cursor.number(4, end).getInt32(0);
    if (size % 4 !== 0 || size > end - cursor.at || size <= 0)
      throw new Fault(`an element cannot have ${size} bytes`, cursor.at - 4);
    elements.push(readPacket(cursor, cursor.at + size, depth + 1));
  }
  return { time, elements };
}

function readArgs(cursor: Cursor, end: number): OscArg[] {
  const start = cursor.at;
  const tags = readText(cursor, end);
  if (!tags.startsWith(',')) throw new Fault('type tags start with a comma', start);
  const open: OscArg[][] = [];
  let here: OscArg[] = [];
  const all = here;
  for (let at = 1; at < tags.length; at += 1) {
    const tag = tags[at] ?? '';
    if (tag === '[') {
      open.push(here);
      here = [];
    } else if (tag === ']') {
      const outer = open.pop();
      if (!outer) throw new Fault('an array ends that never began', start);
      outer.push({ type: '[', value: here });
      here = outer;
    } else here.push(readArg(cursor, end, tag));
    if (open.length >= deepest) throw new Fault('arrays nested too deeply', start);
  }
  if (open.length > 0) throw new Fault('an array does not end', start);
  if (cursor.at !== end) throw new Fault(`${end - cursor.at} bytes behind the last argument`, cursor.at);
  return all;
}

function readArg(cursor: Cursor, end: number, type: string): OscArg {
  switch (type) {
    case 'i':
      return { type, value: cursor.number(4, end).getInt32(0) };
    case 'f':
      return { type, value: cursor.number(4, end).getFloat32(0) };
    case 'd':
      return { type, value: cursor.number(8, end).getFloat64(0) };
    case 'h':
      return { type, value: cursor.number(8, end).getBigInt64(0) };
    case 't':
      return { type, value: cursor.number(8, end).getBigUint64(0) };
    case 's':
    case 'S':
      return { type, value: readText(cursor, end) };
    case 'c':
      return { type, value: readCharacter(cursor, end) };
    case 'b':
      return { type, value: readBlob(cursor, end) };
    case 'r':
    case 'm':
      return { type, value: cursor.bytes.slice(cursor.take(4, end), cursor.at) };
    case 'T':
    case 'F':
    case 'N':
    case 'I':
      return { type };
    default:
      throw new Fault(`unknown type tag ${type}`, cursor.at);
  }
}

function readCharacter(cursor: Cursor, end: number): string {
  const code = cursor.number(4, end).getUint32(0);
  if (code > 0x10ffff) throw new Fault('no such character', cursor.at - 4);
  return String.fromCodePoint(code);
}

function readBlob(cursor: Cursor, end: number): Uint8Array {
  const size = cursor.number(4, end).getInt32(0);
  // the size is compared before it is rounded up: rounding near 2^31 would overflow
  const start = cursor.take(size, end);
  cursor.take((4 - (size % 4)) % 4, end);
  return cursor.bytes.slice(start, start + size);
}

function readText(cursor: Cursor, end: number): string {
  const start = cursor.at;
  const { bytes } = cursor;
  let zero = start;
  while (zero < end && bytes[zero] !== 0) zero += 1;
  if (zero >= end) throw new Fault('a text does not end', start);
  cursor.take(Math.ceil((zero - start + 1) / 4) * 4, end);
  const text = utf8Text(bytes, start, zero);
  if (text === undefined) throw new Fault('a text is not UTF-8', start);
  return text;
}
