import { ipAt, macAt } from '../capture/bytes-at.ts';
import { inDatagram, inStream } from './payloads.ts';
import { hex, Walker, type Layer } from './walker.ts';

/**
 * Every byte of an Ethernet frame with what it stands for, layer by layer: Ethernet II and IEEE 802.3, tags of IEEE
 * 802.1Q, ARP (RFC 826), IPv4 (RFC 791), ICMP (RFC 792), UDP (RFC 768), TCP (RFC 9293), and what programs say in
 * them. Never throws: what cannot be read is told as bytes.
 */
export function anatomyOf(bytes: Uint8Array): readonly Layer[] {
  const walk = new Walker(bytes);
  const type = ethernet(walk);
  if (type === 0x0806) arp(walk);
  else if (type === 0x0800) ipv4(walk);
  else if (type === 'llc') llc(walk);
  else if (walk.left > 0) {
    walk.layer('Data');
    walk.rest('bytes');
  }
  padding(walk, bytes.length);
  return walk.layers.filter(({ parts }) => parts.length > 0);
}

const mac = (view: DataView, at: number): string => macAt(view, at);
const ip = (view: DataView, at: number): string => ipAt(view, at);
const etherTypes: Readonly<Record<number, string>> = {
  0x0800: 'IPv4',
  0x0806: 'ARP',
  0x8100: 'VLAN tag',
  0x86dd: 'IPv6',
};
const etherType = (value: number): string =>
  value <= 1500 ? `${value} bytes follow` : `${hex(value, 4)} ${etherTypes[value] ?? ''}`.trim();

function ethernet(walk: Walker): number | 'llc' | undefined {
  walk.layer('Ethernet');
  walk.take('to', 6, mac);
  walk.take('from', 6, mac);
  let type = walk.number('type', 2, etherType);
  for (let tags = 0; type === 0x8100 && tags < 2; tags += 1) {
    walk.layer('VLAN tag');
    walk.number('priority and VLAN', 2, (tag) => `priority ${tag >> 13}, VLAN ${tag & 0xfff}`);
    type = walk.number('type', 2, etherType);
  }
  if (type === undefined || type > 1500) return type;
  walk.end = Math.min(walk.end, walk.at + type);
  return 'llc';
}

function arp(walk: Walker): void {
  walk.layer('ARP');
  walk.end = Math.min(walk.end, walk.at + 28);
  walk.number('hardware', 2, (kind) => (kind === 1 ? 'Ethernet' : String(kind)));
  walk.number('protocol', 2, etherType);
  walk.number('hardware address bytes', 1);
  walk.number('protocol address bytes', 1);
  walk.number('asks or answers', 2, (op) => ({ 1: '1 who has it?', 2: '2 it is at' })[op] ?? String(op));
  walk.take('sender', 6, mac);
  walk.take('sender’s address', 4, ip);
  walk.take('target', 6, mac);
  walk.take('target’s address', 4, ip);
}

const carries: Readonly<Record<number, string>> = { 1: 'ICMP', 6: 'TCP', 17: 'UDP' };

function ipv4(walk: Walker): void {
  walk.layer('IPv4');
  const start = walk.at;
  const first = walk.number('version and head', 1, (byte) => `version ${byte >> 4}, head of ${(byte & 15) * 4} bytes`);
  walk.number('service', 1, (byte) => hex(byte, 2));
  const total = walk.number('whole length', 2, (length) => `${length} bytes`);
  walk.number('identification', 2);
  const pieces = walk.number('fragments', 2, (word) =>
    (word & 0x1fff) === 0 && !(word & 0x2000)
      ? word & 0x4000
        ? 'may not be divided'
        : 'whole'
      : `at ${(word & 0x1fff) * 8}`,
  );
  walk.number('hops left', 1);
  const protocol = walk.number('carries', 1, (kind) => `${kind} ${carries[kind] ?? ''}`.trim());
  walk.number('checksum', 2, (sum) => hex(sum, 4));
  walk.take('from', 4, ip);
  walk.take('to', 4, ip);
  if (first === undefined || total === undefined) return;
  const head = (first & 15) * 4;
  if (head > walk.at - start) walk.take('options', head - (walk.at - start), () => 'options');
  walk.end = Math.min(walk.end, Math.max(walk.at, start + total));
  const isFirst = ((pieces ?? 0) & 0x1fff) === 0;
  if (isFirst && protocol === 17) udp(walk);
  else if (isFirst && protocol === 6) tcp(walk);
  else if (isFirst && protocol === 1) icmp(walk);
  else if (walk.left > 0) walk.rest('what it carries');
}

function icmp(walk: Walker): void {
  walk.layer('ICMP');
  const words: Readonly<Record<number, string>> = { 0: 'here I am', 3: 'cannot be reached', 8: 'are you there?' };
  const type = walk.number('type', 1, (kind) => `${kind} ${words[kind] ?? ''}`.trim());
  walk.number('code', 1, (code) => (type === 3 && code === 3 ? '3 the port is closed' : String(code)));
  walk.number('checksum', 2, (sum) => hex(sum, 4));
  if (type === 3) {
    walk.number('unused', 4);
    walk.rest('head of what was sent');
  } else {
    walk.number('identifier', 2);
    walk.number('number', 2);
    walk.rest('comes back as it is');
  }
}

function udp(walk: Walker): void {
  walk.layer('UDP');
  const start = walk.at;
  const from = walk.number('from port', 2);
  const to = walk.number('to port', 2);
  const length = walk.number('length', 2, (count) => `${count} bytes`);
  walk.number('checksum', 2, (sum) => (sum === 0 ? 'none' : hex(sum, 4)));
  if (from === undefined || to === undefined || length === undefined) return;
  walk.end = Math.min(walk.end, Math.max(walk.at, start + length));
  if (walk.left > 0) inDatagram(walk, from, to);
}

const flags = ['FIN', 'SYN', 'RST', 'PSH', 'ACK', 'URG'];

function tcp(walk: Walker): void {
  walk.layer('TCP');
  const start = walk.at;
  walk.number('from port', 2);
  walk.number('to port', 2);
  walk.number('sequence number', 4);
  walk.number('expects next', 4);
  const head = walk.number('head', 1, (byte) => `${(byte >> 4) * 4} bytes`);
  walk.number('flags', 1, (byte) => flags.filter((_, bit) => byte & (1 << bit)).join(', ') || 'none');
  walk.number('window', 2, (count) => `${count} bytes`);
  walk.number('checksum', 2, (sum) => hex(sum, 4));
  walk.number('urgent', 2);
  if (head === undefined) return;
  const more = (head >> 4) * 4 - (walk.at - start);
  if (more > 0) walk.take('options', more, () => 'options');
  if (walk.left > 0) inStream(walk);
}

const bridge = (view: DataView, at: number): string => `${view.getUint16(at)} at ${macAt(view, at + 2)}`;

/** Spanning tree over LLC (IEEE 802.1D-1998 section 9.3.1); anything else over LLC stays bytes. */
function llc(walk: Walker): void {
  walk.layer('LLC');
  const saps = walk.number('access points', 2, (word) => hex(word, 4));
  walk.number('control', 1, (byte) => hex(byte, 2));
  if (saps !== 0x4242) {
    walk.rest('bytes');
    return;
  }
  walk.layer('Spanning tree');
  walk.number('protocol', 2);
  walk.number('version', 1);
  walk.number('kind', 1, (kind) => (kind === 0 ? '0 configuration' : String(kind)));
  walk.number('flags', 1, (byte) => (byte & 1 ? 'something moved' : 'none'));
  walk.take('root', 8, bridge);
  walk.number('cost to it', 4);
  walk.take('bridge', 8, bridge);
  walk.number('port', 2, (port) => String(port & 0xfff));
  for (const time of ['age', 'longest age', 'hello', 'delay']) walk.number(time, 2, (ticks) => `${ticks / 256} s`);
  walk.rest('bytes');
}

/** Short frames are filled up to the 60 bytes that a cable wants. */
function padding(walk: Walker, length: number): void {
  walk.end = length;
  if (walk.left === 0) return;
  walk.layer('Padding');
  walk.rest('nothing');
}
