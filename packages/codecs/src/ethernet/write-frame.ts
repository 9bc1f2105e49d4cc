import type { Arp, Bpdu, Frame, Icmp, Ip, Probe, Tcp, Udp } from './frame.ts';

const shortestFrame = 60;
const flagBits = { fin: 1, syn: 2, rst: 4, psh: 8, ack: 16 } as const;
const protocols = { icmp: 1, tcp: 6, udp: 17 } as const;

/**
 * The bytes of a frame as a capture tool would see them: Ethernet II, tags of IEEE 802.1Q, ARP, IPv4 with right
 * checksums (RFC 1071), and spanning tree over LLC. Short frames are padded to 60 bytes, without frame check sequence.
 */
export function writeFrame({ to, from, vlan, body }: Frame): Uint8Array {
  const tag = vlan === null ? [] : [0x81, 0x00, ...u16(vlan)];
  const payload = bodyBytes(body);
  // spanning tree is the one that carries a length instead of a type (IEEE 802.3)
  const type = body.kind === 'bpdu' ? payload.length : etherTypes[body.kind];
  const head = [...macBytes(to), ...macBytes(from), ...tag, ...u16(type)];
  const bytes = new Uint8Array(Math.max(shortestFrame, head.length + payload.length));
  bytes.set(head);
  bytes.set(payload, head.length);
  return bytes;
}

const etherTypes = { arp: 0x0806, ip: 0x0800, probe: 0x88b5 } as const;

function bodyBytes(body: Frame['body']): Uint8Array {
  switch (body.kind) {
    case 'arp':
      return arpBytes(body);
    case 'ip':
      return ipBytes(body);
    case 'bpdu':
      return bpduBytes(body);
    case 'probe':
      return probeBytes(body);
  }
}

const arpBytes = ({ asks, senderMac, senderIp, targetIp }: Arp): Uint8Array =>
  Uint8Array.from([
    ...[0, 1, 8, 0, 6, 4, 0, asks ? 1 : 2],
    ...macBytes(senderMac),
    ...u32(senderIp),
    ...[0, 0, 0, 0, 0, 0],
    ...u32(targetIp),
  ]);

const probeBytes = ({ asks, id }: Probe): Uint8Array => Uint8Array.from([asks ? 1 : 0, ...u32(id)]);

/** Bridges have the usual priority; times are those of IEEE 802.1D: age 20 s, hello 2 s, delay 15 s. */
const bpduBytes = ({ root, cost, bridge, port, change }: Bpdu): Uint8Array =>
  Uint8Array.from([
    ...[0x42, 0x42, 0x03, 0, 0, 0, 0, change ? 1 : 0],
    ...[0x80, 0x00, ...macBytes(root)],
    ...u32(cost),
    ...[0x80, 0x00, ...macBytes(bridge)],
    ...[0x80, port & 255],
    ...[0, 0, 20, 0, 2, 0, 15, 0],
  ]);

function ipBytes({ source, destination, ttl, payload }: Ip): Uint8Array {
  const inner =
    payload.kind === 'icmp'
      ? icmpBytes(payload)
      : withPorts(payload.kind === 'udp' ? udpHead(payload.bytes.length) : tcpHead(payload), payload, {
          source,
          destination,
        });
  const header = ipHeader({ source, destination, ttl, protocol: protocols[payload.kind] }, inner.length);
  const bytes = new Uint8Array(20 + inner.length);
  bytes.set(header);
  bytes.set(inner, 20);
  return bytes;
}

function ipHeader(
  { source, destination, ttl, protocol }: Pick<Ip, 'source' | 'destination' | 'ttl'> & { protocol: number },
  size: number,
): Uint8Array {
  const head = [0x45, 0, ...u16(20 + size), 0, 0, 0x40, 0, ttl, protocol, 0, 0, ...u32(source), ...u32(destination)];
  const bytes = Uint8Array.from(head);
  bytes.set(u16(checksum(bytes)), 10);
  return bytes;
}

const udpHead = (size: number): number[] => [...u16(8 + size), 0, 0];

const tcpHead = ({ flags, seq, ack }: Tcp): number[] => [
  ...u32(seq),
  ...u32(flags.includes('ack') ? ack : 0),
  0x50,
  flags.reduce((sum, flag) => sum | flagBits[flag], 0),
  ...u16(0xffff),
  ...[0, 0, 0, 0],
];

/** The segment behind its ports, with the checksum over the pseudo header (RFC 768, RFC 9293 section 3.1). */
function withPorts(
  head: readonly number[],
  { kind, sourcePort, destinationPort, bytes }: Pick<Udp | Tcp, 'kind' | 'sourcePort' | 'destinationPort' | 'bytes'>,
  { source, destination }: Pick<Ip, 'source' | 'destination'>,
): Uint8Array {
  const segment = new Uint8Array(4 + head.length + bytes.length);
  segment.set([...u16(sourcePort), ...u16(destinationPort), ...head]);
  segment.set(bytes, 4 + head.length);
  const pseudo = Uint8Array.from([...u32(source), ...u32(destination), 0, protocols[kind], ...u16(segment.length)]);
  const sum = checksum(segment, sumOf(pseudo));
  // over UDP a checksum of nought would say that there is none
  segment.set(u16(kind === 'udp' && sum === 0 ? 0xffff : sum), kind === 'udp' ? 6 : 16);
  return segment;
}

function icmpBytes(icmp: Icmp): Uint8Array {
  const bytes = Uint8Array.from(
    icmp.type === 'port-unreachable'
      ? [
          ...[3, 3, 0, 0, 0, 0, 0, 0],
          ...ipHeader({ ...icmp, ttl: 64, protocol: protocols.udp }, 8 + icmp.bytes.length),
          ...withPorts(udpHead(icmp.bytes.length), { ...icmp, kind: 'udp' }, icmp).subarray(0, 8),
        ]
      : [icmp.type === 'echo' ? 8 : 0, 0, 0, 0, ...u16(icmp.id & 0xffff), 0, 1, ...[1, 2, 3, 4, 5, 6, 7, 8]],
  );
  bytes.set(u16(checksum(bytes)), 2);
  return bytes;
}

const checksum = (bytes: Uint8Array, start = 0): number => {
  let sum = sumOf(bytes, start);
  while (sum > 0xffff) sum = (sum & 0xffff) + (sum >>> 16);
  return ~sum & 0xffff;
};

function sumOf(bytes: Uint8Array, start = 0): number {
  let sum = start;
  for (let at = 0; at < bytes.length; at += 2) sum += ((bytes[at] ?? 0) << 8) | (bytes[at + 1] ?? 0);
  return sum;
}

const u16 = (value: number): number[] => [(value >>> 8) & 255, value & 255];
const u32 = (value: number): number[] => [...u16(value >>> 16), ...u16(value)];
const macBytes = (mac: string): number[] => mac.split(':').map((part) => parseInt(part, 16));

/** Headers of IPv4 and of what it carries. */
const heads = { udp: 28, tcp: 40 } as const;

/** The length of a frame on the cable in bytes, for its time there: with padding, check sequence, preamble and gap. */
export function wireBytes({ vlan, body }: Frame): number {
  const tag = vlan === null ? 0 : 4;
  const inner =
    body.kind === 'ip' && body.payload.kind !== 'icmp' ? heads[body.payload.kind] + body.payload.bytes.length : 46;
  return Math.max(shortestFrame, 14 + tag + inner) + 24;
}
