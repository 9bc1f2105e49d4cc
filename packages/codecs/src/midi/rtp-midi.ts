import { readJournal, type JournalRead } from './journal.ts';
import { dataBytes, type MidiMessage } from './midi.ts';

/** Joining and leaving a session. */
export interface Invitation {
  readonly kind: 'invite' | 'accept' | 'refuse' | 'leave';
  readonly token: number;
  readonly ssrc: number;
  readonly name: string;
}

/** Session commands as they are usual beside RFC 6295: invite, accept, refuse, leave, clock, receiver's feedback and rate. */
export type SessionPacket =
  | Invitation
  | { readonly kind: 'clock'; readonly ssrc: number; readonly count: number; readonly times: readonly number[] }
  | { readonly kind: 'feedback'; readonly ssrc: number; readonly seq: number }
  | { readonly kind: 'rate'; readonly ssrc: number; readonly rate: number };

/** One data packet: `timestamp` in 100 µs; a message's `delta` counts from the one before it; `journal` where it has one. */
export interface MidiPacket {
  readonly kind: 'midi';
  readonly seq: number;
  readonly timestamp: number;
  readonly ssrc: number;
  readonly messages: readonly { readonly delta: number; readonly bytes: MidiMessage }[];
  readonly journal?: JournalRead;
}

/** What is written: the journal as its bytes. */
type MidiToWrite = Omit<MidiPacket, 'kind' | 'journal'> & { readonly journal?: readonly number[] };

export type RtpMidiRead =
  | { readonly ok: true; readonly packet: SessionPacket | MidiPacket }
  | { readonly ok: false; readonly at: number; readonly fault: string };

const signature = 0xffff;
const protocolVersion = 2;
const payloadType = 97;
const letters = {
  invite: 'IN',
  accept: 'OK',
  refuse: 'NO',
  leave: 'BY',
  clock: 'CK',
  feedback: 'RS',
  rate: 'RL',
} as const;
const longestList = 4095;

export function writeSession(packet: SessionPacket): Uint8Array {
  const head = [255, 255, ...ascii(letters[packet.kind])];
  switch (packet.kind) {
    case 'clock':
      return Uint8Array.from([
        ...head,
        ...u32(packet.ssrc),
        packet.count,
        ...[0, 0, 0],
        ...[0, 1, 2].flatMap((n) => u64(packet.times[n] ?? 0)),
      ]);
    case 'feedback':
      return Uint8Array.from([...head, ...u32(packet.ssrc), ...u16(packet.seq), 0, 0]);
    case 'rate':
      return Uint8Array.from([...head, ...u32(packet.ssrc), ...u32(packet.rate)]);
    default: {
      const name = packet.kind === 'leave' ? [] : [...new TextEncoder().encode(packet.name), 0];
      return Uint8Array.from([...head, ...u32(protocolVersion), ...u32(packet.token), ...u32(packet.ssrc), ...name]);
    }
  }
}

/** A data packet (RFC 6295 section 2 and 3); J says that a journal follows. Throws a RangeError for a list beyond 4,095 bytes. */
export function writeMidiPacket({ seq, timestamp, ssrc, messages, journal }: MidiToWrite): Uint8Array {
  const list = messages.flatMap(({ delta, bytes }, at) => [...(at === 0 ? [] : deltaBytes(delta)), ...bytes]);
  if (list.length > longestList) throw new RangeError(`A list of ${list.length} bytes does not fit into one packet`);
  const [first = 0, ...more] = list.length < 16 ? [list.length] : [0x80 | (list.length >> 8), list.length & 255];
  const length = [journal ? first | 0x40 : first, ...more];
  // the marker says that there is something in the list
  const type = payloadType | (list.length > 0 ? 0x80 : 0);
  return Uint8Array.from([
    0x80,
    type,
    ...u16(seq),
    ...u32(timestamp),
    ...u32(ssrc),
    ...length,
    ...list,
    ...(journal ?? []),
  ]);
}

/** Reads either kind of packet. Never throws; damage is told with its place. */
export function readRtpMidi(whole: Uint8Array): RtpMidiRead {
  const all = new DataView(whole.buffer, whole.byteOffset, whole.byteLength);
  if (whole.length >= 4 && all.getUint16(0) === signature) return readSession(all);
  const bytes = withoutPadding(whole);
  if (!bytes) return bad(whole.length - 1, 'more padding than there is');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 13) return bad(bytes.length, 'ends early');
  if (view.getUint8(0) >> 6 !== 2) return bad(0, 'not version 2 of RTP');
  if ((view.getUint8(1) & 127) !== payloadType) return bad(1, 'not the payload type of MIDI');
  const head = endOfHead(view);
  if (head === undefined || bytes.length < head + 1) return bad(bytes.length, 'ends early');
  return readList(view, head, {
    kind: 'midi',
    seq: view.getUint16(2),
    timestamp: view.getUint32(4),
    ssrc: view.getUint32(8),
    messages: [],
  });
}

/** What the padding bit says is at the end does not count; its last octet tells how many there are (RFC 3550 section 5.1). */
function withoutPadding(bytes: Uint8Array): Uint8Array | undefined {
  if (bytes.length < 13 || ((bytes[0] ?? 0) & 0x20) === 0) return bytes;
  const count = bytes.at(-1) ?? 0;
  return count === 0 || count > bytes.length - 12 ? undefined : bytes.subarray(0, -count);
}

/** Where the payload begins: behind the sources and the extension of the head (RFC 3550 section 5.1 and 5.3.1). */
function endOfHead(view: DataView): number | undefined {
  const sources = 12 + (view.getUint8(0) & 15) * 4;
  if ((view.getUint8(0) & 0x10) === 0) return sources;
  return view.byteLength < sources + 4 ? undefined : sources + 4 + view.getUint16(sources + 2) * 4;
}

const quarterFrameStatus = 0xf1;

/** Whether the first command of a packet is a quarter frame of time code, told without reading the rest. */
export function beginsWithQuarterFrame(bytes: Uint8Array): boolean {
  // session commands have no head of RTP
  if (bytes.length < 13 || (bytes[0] ?? 0) >> 6 !== 2) return false;
  const head = endOfHead(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
  if (head === undefined) return false;
  const flags = bytes[head] ?? 0;
  let at = head + ((flags & 0x80) === 0 ? 1 : 2);
  if ((flags & 0x20) !== 0) {
    while (((bytes[at] ?? 0) & 0x80) !== 0) at += 1;
    at += 1;
  }
  return bytes[at] === quarterFrameStatus;
}

function readSession(view: DataView): RtpMidiRead {
  const word = String.fromCharCode(view.getUint8(2), view.getUint8(3));
  const kind = (Object.keys(letters) as (keyof typeof letters)[]).find((key) => letters[key] === word);
  if (!kind) return bad(2, `unknown command ${JSON.stringify(word)}`);
  const least = { clock: 36, feedback: 10, rate: 12 } as Partial<Record<string, number>>;
  if (view.byteLength < (least[kind] ?? 16)) return bad(view.byteLength, 'ends early');
  switch (kind) {
    case 'clock':
      return good({
        kind,
        ssrc: view.getUint32(4),
        count: view.getUint8(8),
        times: [12, 20, 28].map((at) => view.getUint32(at) * 2 ** 32 + view.getUint32(at + 4)),
      });
    case 'feedback':
      return good({ kind, ssrc: view.getUint32(4), seq: view.getUint16(8) });
    case 'rate':
      return good({ kind, ssrc: view.getUint32(4), rate: view.getUint32(8) });
    default:
      if (view.getUint32(4) !== protocolVersion) return bad(4, 'another version of the session');
      return good({ kind, token: view.getUint32(8), ssrc: view.getUint32(12), name: nameAt(view, 16) });
  }
}

function nameAt(view: DataView, at: number): string {
  const rest = new Uint8Array(view.buffer, view.byteOffset + at, Math.min(200, view.byteLength - at));
  const end = rest.indexOf(0);
  return new TextDecoder().decode(end < 0 ? rest : rest.subarray(0, end));
}

/** The command section (RFC 6295 section 3): flags B J Z P and length, then deltas and messages with running status. */
function readList(view: DataView, head: number, packet: MidiPacket): RtpMidiRead {
  const flags = view.getUint8(head);
  const long = (flags & 0x80) !== 0;
  if (long && view.byteLength < head + 2) return bad(view.byteLength, 'ends early');
  const length = long ? ((flags & 15) << 8) | view.getUint8(head + 1) : flags & 15;
  const start = head + (long ? 2 : 1);
  if (view.byteLength < start + length) return bad(view.byteLength, 'ends early');
  const list = new Uint8Array(view.buffer, view.byteOffset + start, length);
  const messages: { delta: number; bytes: MidiMessage }[] = [];
  const cursor = { at: 0, status: 0 };
  let first = (flags & 0x20) === 0;
  while (cursor.at < length) {
    const delta = first ? 0 : takeDelta(list, cursor);
    first = false;
    if (delta === undefined) return bad(start + cursor.at, 'a time that does not end');
    if (cursor.at >= length) break;
    const bytes = takeMessage(list, cursor);
    if (typeof bytes === 'string') return bad(start + cursor.at, bytes);
    messages.push({ delta, bytes });
  }
  if ((flags & 0x40) === 0) return good({ ...packet, messages });
  const journal = readJournal(
    new Uint8Array(view.buffer, view.byteOffset + start + length, view.byteLength - start - length),
  );
  return journal
    ? good({ ...packet, messages, journal })
    : bad(start + length, 'a journal that does not fit its lengths');
}

interface Cursor {
  at: number;
  status: number;
}

/** A delta time: up to four bytes of seven bits, the last without its upper bit. */
function takeDelta(list: Uint8Array, cursor: Cursor): number | undefined {
  let value = 0;
  for (let n = 0; n < 4; n += 1) {
    const byte = list[cursor.at];
    if (byte === undefined) return undefined;
    cursor.at += 1;
    value = (value << 7) | (byte & 127);
    if (byte < 0x80) return value;
  }
  return undefined;
}

function takeMessage(list: Uint8Array, cursor: Cursor): number[] | string {
  const lead = list[cursor.at] ?? 0;
  if (lead >= 0x80) {
    cursor.at += 1;
    // real-time messages stand anywhere and leave the running status alone
    if (lead < 0xf8) cursor.status = lead < 0xf0 ? lead : 0;
  } else if (cursor.status === 0) return 'data without a status';
  const status = lead >= 0x80 ? lead : cursor.status;
  if (status === 0xf0 || status === 0xf7) return takeExclusive(list, cursor, status);
  const data: number[] = [];
  for (let n = dataBytes(status) ?? 0; n > 0; n -= 1) {
    const byte = list[cursor.at];
    if (byte === undefined || byte >= 0x80) return 'a message without its data';
    data.push(byte);
    cursor.at += 1;
  }
  return [status, ...data];
}

/** A system exclusive message or a segment of one: it ends with F7, F0 (to be continued) or F4 (given up). */
function takeExclusive(list: Uint8Array, cursor: Cursor, status: number): number[] | string {
  const bytes = [status];
  for (;;) {
    const byte = list[cursor.at];
    if (byte === undefined) return 'a system exclusive message that does not end';
    bytes.push(byte);
    cursor.at += 1;
    if (byte === 0xf7 || byte === 0xf0 || byte === 0xf4) return bytes;
    if (byte >= 0x80) return 'a status within a system exclusive message';
  }
}

function deltaBytes(delta: number): number[] {
  const parts = [delta & 127];
  for (let rest = delta >>> 7; rest > 0; rest >>>= 7) parts.unshift((rest & 127) | 0x80);
  return parts;
}

const good = (packet: SessionPacket | MidiPacket): RtpMidiRead => ({ ok: true, packet });
const bad = (at: number, fault: string): RtpMidiRead => ({ ok: false, at, fault });
const ascii = (text: string): number[] => Array.from(text, (letter) => letter.charCodeAt(0));
const u16 = (value: number): number[] => [(value >>> 8) & 255, value & 255];
const u32 = (value: number): number[] => [...u16(value >>> 16), ...u16(value)];
const u64 = (value: number): number[] => [...u32(Math.floor(value / 2 ** 32)), ...u32(value >>> 0)];
