import { ipAt, macAt } from '../capture/bytes-at.ts';
import { nameAt } from '../capture/mdns.ts';
import { midiWords } from '../midi/midi.ts';
import { readRtpMidi } from '../midi/rtp-midi.ts';
import { readWake } from '../wake.ts';
import { hex, type Walker } from './walker.ts';

/** What a datagram says, by its ports where those are known to everybody, else by how it begins. */
export function inDatagram(walk: Walker, from: number, to: number): void {
  const bytes = walk.bytes(walk.at, walk.left);
  if ([from, to].every((port) => port === 67 || port === 68) && bytes.length >= 240) dhcp(walk);
  else if (from === 5353 || to === 5353) dns(walk);
  else if (bytes[0] === 0x2f || startsWith(bytes, '#bundle\0')) osc(walk);
  else if (bytes[0] === 255 && bytes[1] === 255 && /^[A-Z]{2}$/.test(asciiOf(bytes.subarray(2, 4)))) session(walk);
  else if (bytes.length >= 12 && (bytes[0] ?? 0) >> 6 === 2 && ((bytes[1] ?? 0) & 127) === 97) midi(walk);
  else if (readWake(bytes) !== undefined) wake(walk);
  else words(walk);
}

/** What a stretch of a stream says: text by its lines, everything else as bytes. */
export const inStream = (walk: Walker): void => words(walk);

function words(walk: Walker): void {
  const bytes = walk.bytes(walk.at, walk.left);
  const isText = bytes.every((byte) => (byte >= 32 && byte !== 127) || byte === 9 || byte === 10 || byte === 13);
  if (!isText) {
    walk.layer('Data');
    walk.rest('bytes');
    return;
  }
  walk.layer('Text');
  for (let line = 1; walk.left > 0; line += 1) {
    const left = walk.bytes(walk.at, walk.left);
    const feed = left.indexOf(10);
    const length = feed < 0 ? left.length : feed + 1;
    walk.take(`line ${line}`, length, () => textOf(left.subarray(0, length)).trimEnd() || 'empty');
  }
}

/** OSC 1.0: padded strings, numbers in network order, bundles with their time. */
function osc(walk: Walker): void {
  if (!startsWith(walk.bytes(walk.at, walk.left), '#bundle\0')) {
    oscMessage(walk);
    return;
  }
  walk.layer('OSC bundle');
  walk.take('bundle', 8, () => '#bundle');
  walk.take('time', 8, (view, at) =>
    view.getUint32(at) === 0 && view.getUint32(at + 4) === 1 ? 'at once' : `${view.getUint32(at)} s since 1900`,
  );
  const { end } = walk;
  while (walk.left > 0) {
    const size = walk.number('length of the element', 4, (count) => `${count} bytes`);
    if (size === undefined || size === 0 || size > walk.left) {
      walk.rest('bytes');
      return;
    }
    walk.end = walk.at + size;
    osc(walk);
    walk.rest('bytes');
    walk.end = end;
    if (walk.left > 0) walk.layer('OSC bundle');
  }
}

function oscMessage(walk: Walker): void {
  walk.layer('OSC message');
  if (padded(walk, 'address') === undefined) return;
  const tags = padded(walk, 'types');
  if (!tags?.startsWith(',')) {
    walk.rest('bytes');
    return;
  }
  for (const [at, tag] of Array.from(tags.slice(1)).entries()) {
    const name = `value ${at + 1}, ${tag}`;
    if (tag === 's' || tag === 'S') padded(walk, name);
    else if (tag === 'i' || tag === 'f' || tag === 'r' || tag === 'c' || tag === 'm')
      walk.take(name, 4, (view, here) =>
        tag === 'i'
          ? String(view.getInt32(here))
          : tag === 'f'
            ? shortly(view.getFloat32(here))
            : hex(view.getUint32(here), 8),
      );
    else if (tag === 'd' || tag === 'h' || tag === 't')
      walk.take(name, 8, (view, here) =>
        tag === 'd' ? String(view.getFloat64(here)) : String(view.getBigInt64(here)),
      );
    else if (tag === 'b') {
      const size = walk.number(`${name}, length`, 4);
      if (size === undefined) return;
      walk.take(name, Math.min(walk.left, Math.ceil(size / 4) * 4), () => `${size} bytes`);
    }
  }
  walk.rest('bytes');
}

const shortly = (value: number): string => String(Number(value.toPrecision(7)));

/** A string that ends in noughts up to a multiple of four. */
function padded(walk: Walker, name: string): string | undefined {
  const left = walk.bytes(walk.at, walk.left);
  const stop = left.indexOf(0);
  const length = stop < 0 ? left.length + 1 : (stop + 4) & ~3;
  const text = textOf(left.subarray(0, Math.max(0, stop)));
  return walk.take(name, length, () => text) === undefined ? undefined : text;
}

const sessionWords: Readonly<Record<string, string>> = {
  IN: 'invites',
  OK: 'accepts',
  NO: 'refuses',
  BY: 'leaves',
  CK: 'compares clocks',
  RS: 'says what arrived',
  RL: 'asks for a lower rate',
};

function session(walk: Walker): void {
  walk.layer('MIDI session');
  walk.take('mark', 2, () => 'session command');
  const at = walk.take('command', 2, (view, here) => {
    const letters = String.fromCharCode(view.getUint8(here), view.getUint8(here + 1));
    return `${letters} ${sessionWords[letters] ?? ''}`.trim();
  });
  const letters = at === undefined ? '' : asciiOf(walk.bytes(at, 2));
  if (['IN', 'OK', 'NO', 'BY'].includes(letters)) {
    walk.number('version', 4);
    walk.number('token', 4, (token) => hex(token, 8));
    walk.number('sender', 4, (ssrc) => hex(ssrc, 8));
    const name = walk.bytes(walk.at, walk.left);
    walk.take('name', walk.left, () => textOf(name).replaceAll('\0', ''));
    return;
  }
  walk.number('sender', 4, (ssrc) => hex(ssrc, 8));
  if (letters === 'CK') {
    walk.number('which of three', 1);
    walk.take('unused', 3, () => '0');
    for (const n of [1, 2, 3]) walk.take(`time ${n}`, 8, (view, here) => `${Number(view.getBigUint64(here)) / 10} ms`);
  } else if (letters === 'RS') walk.number('arrived up to', 2);
  walk.rest('bytes');
}

/** RTP (RFC 3550) with MIDI in it (RFC 6295): the list in one piece, with its messages in words. */
function midi(walk: Walker): void {
  const read = readRtpMidi(walk.bytes(walk.at, walk.left));
  walk.layer('RTP');
  walk.number('version and flags', 1, (byte) => `version ${byte >> 6}`);
  walk.number('kind', 1, (byte) => `${byte & 127} MIDI`);
  walk.number('number', 2);
  walk.number('time', 4, (time) => `${time / 10} ms`);
  walk.number('sender', 4, (ssrc) => hex(ssrc, 8));
  walk.layer('MIDI');
  const first = walk.number('list', 1, (byte) => `${byte & 0x40 ? 'with' : 'without'} a journal`);
  if (first === undefined) return;
  let length = first & 15;
  if (first & 0x80) length = (length << 8) | (walk.number('its length', 1) ?? 0);
  const messages = read.ok && read.packet.kind === 'midi' ? read.packet.messages : [];
  const said = messages.map(({ bytes }) => midiWords(bytes)).join(', ');
  walk.take('messages', Math.min(length, walk.left), () => said || 'none');
  if (walk.left > 0) walk.layer('Recovery journal');
  walk.rest('what went before');
}

function wake(walk: Walker): void {
  walk.layer('Wake on LAN');
  walk.take('mark', 6, () => 'six times ff');
  walk.take('whom, sixteen times', 96, (view, at) => macAt(view, at));
  walk.rest('bytes');
}

const dhcpOptions: Readonly<Record<number, string>> = {
  1: 'mask',
  3: 'gateway',
  6: 'name server',
  12: 'host name',
  50: 'wants',
  51: 'for so long',
  53: 'message',
  54: 'server',
  55: 'asks for',
  61: 'client',
  255: 'end',
};
const dhcpMessages = ['', 'discover', 'offer', 'request', 'decline', 'ack', 'nak', 'release', 'inform'];

/** DHCP (RFC 2131 section 2, options of RFC 2132). */
function dhcp(walk: Walker): void {
  walk.layer('DHCP');
  walk.number('asks or answers', 1, (op) => (op === 1 ? '1 asks' : '2 answers'));
  walk.number('hardware', 1);
  walk.number('hardware address bytes', 1);
  walk.number('hops', 1);
  walk.number('transaction', 4, (id) => hex(id, 8));
  walk.number('seconds', 2);
  walk.number('flags', 2, (word) => (word & 0x8000 ? 'answer to everybody' : 'none'));
  for (const name of ['client has', 'client gets', 'next server', 'relay']) walk.take(name, 4, ipAt);
  walk.take('client', 6, macAt);
  walk.take('unused', 10, () => '0');
  walk.take('server’s name', 64, () => 'unused');
  walk.take('file', 128, () => 'unused');
  walk.take('cookie', 4, () => 'options follow');
  while (walk.left > 0) {
    const bytes = walk.bytes(walk.at, walk.left);
    const [code = 0, size = 0] = bytes;
    if (code === 0 || code === 255) {
      walk.take(code === 0 ? 'filler' : 'end', 1, () => String(code));
      continue;
    }
    walk.take(`option ${code}, ${dhcpOptions[code] ?? 'other'}`, 2 + size, (view, at) =>
      optionWords(view, at, code, size),
    );
  }
}

function optionWords(view: DataView, at: number, code: number, size: number): string {
  if (code === 53) return dhcpMessages[view.getUint8(at + 2)] ?? 'unknown';
  if (code === 12) return textOf(new Uint8Array(view.buffer, view.byteOffset + at + 2, size));
  if (code === 51 && size === 4) return `${view.getUint32(at + 2)} s`;
  if ([1, 3, 6, 50, 54].includes(code) && size === 4) return ipAt(view, at + 2);
  return `${size} bytes`;
}

const recordTypes: Readonly<Record<number, string>> = {
  1: 'address',
  12: 'name',
  16: 'text',
  28: 'IPv6 address',
  33: 'service',
};

/** Names (RFC 1035 section 4, RFC 6762): the questions, then every record. */
function dns(walk: Walker): void {
  const start = walk.at;
  const message = new DataView(walk.view.buffer, walk.view.byteOffset + start, walk.left);
  walk.layer('DNS');
  walk.number('identification', 2);
  walk.number('flags', 2, (word) => (word & 0x8000 ? 'answers' : 'asks'));
  const counts = ['questions', 'answers', 'authorities', 'more'].map((name) => walk.number(name, 2) ?? 0);
  const [questions = 0, ...records] = counts;
  const named = (what: string, fixed: number, words: (end: number) => { length: number; value: string }) => {
    const name = nameAt(message, walk.at - start);
    if (!name || name.end + fixed > message.byteLength) {
      walk.rest('bytes');
      return;
    }
    const { length, value } = words(name.end);
    walk.take(what, name.end + fixed + length - (walk.at - start), () => `${name.text}: ${value}`);
  };
  const typeAt = (end: number) => recordTypes[message.getUint16(end)] ?? String(message.getUint16(end));
  for (let n = 0; n < questions && walk.left > 0; n += 1)
    named('question', 4, (end) => ({ length: 0, value: `${typeAt(end)}?` }));
  const all = records.reduce((sum, count) => sum + count, 0);
  for (let n = 0; n < all && walk.left > 0; n += 1)
    named('record', 10, (end) => {
      const length = message.getUint16(end + 8);
      const isAddress = message.getUint16(end) === 1 && length === 4 && end + 14 <= message.byteLength;
      return { length, value: isAddress ? ipAt(message, end + 10) : typeAt(end) };
    });
  walk.rest('bytes');
}

const textOf = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);
const asciiOf = (bytes: Uint8Array): string => String.fromCharCode(...bytes);
const startsWith = (bytes: Uint8Array, text: string): boolean => asciiOf(bytes.subarray(0, text.length)) === text;
