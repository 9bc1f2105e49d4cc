/** What travels on a cable. MAC addresses are text, IPv4 addresses unsigned numbers, payloads real bytes. */
export interface Frame {
  readonly to: string;
  readonly from: string;
  /** The VLAN of the tag that it carries (IEEE 802.1Q), or null without a tag. */
  readonly vlan: number | null;
  readonly body: Arp | Ip | Bpdu | Probe;
}

/** Address resolution (RFC 826). A sender of 0 only asks whether an address is taken (RFC 5227). */
export interface Arp {
  readonly kind: 'arp';
  readonly asks: boolean;
  readonly senderMac: string;
  readonly senderIp: number;
  readonly targetIp: number;
}

export interface Ip {
  readonly kind: 'ip';
  readonly source: number;
  readonly destination: number;
  readonly ttl: number;
  readonly payload: Udp | Tcp | Icmp;
}

export interface Udp {
  readonly kind: 'udp';
  readonly sourcePort: number;
  readonly destinationPort: number;
  readonly bytes: Uint8Array;
}

export type TcpFlag = 'syn' | 'ack' | 'fin' | 'rst' | 'psh';

/** A segment of a byte stream (RFC 9293); `seq` and `ack` count bytes, modulo 2^32. */
export interface Tcp {
  readonly kind: 'tcp';
  readonly sourcePort: number;
  readonly destinationPort: number;
  readonly flags: readonly TcpFlag[];
  readonly seq: number;
  readonly ack: number;
  readonly bytes: Uint8Array;
}

/** Echo (RFC 792). */
export interface Echo {
  readonly kind: 'icmp';
  readonly type: 'echo' | 'echo-reply';
  readonly id: number;
}

/** "Port unreachable" with the head of the datagram that nobody wanted (RFC 792). */
export interface Unreachable {
  readonly kind: 'icmp';
  readonly type: 'port-unreachable';
  readonly source: number;
  readonly destination: number;
  readonly sourcePort: number;
  readonly destinationPort: number;
  /** What it held: its head tells how long that was, and its checksum. */
  readonly bytes: Uint8Array;
}
export type Icmp = Echo | Unreachable;

/** A configuration message of spanning tree (IEEE 802.1D-1998 section 9.3.1); bridges are named by their MAC address. */
export interface Bpdu {
  readonly kind: 'bpdu';
  readonly root: string;
  readonly cost: number;
  readonly bridge: string;
  readonly port: number;
  /** Something moved: whoever hears it forgets where it learnt hosts to be. */
  readonly change: boolean;
}

/** A layer 2 echo with the EtherType for local experiments (IEEE 802, 88-B5): is that adapter in this segment? */
export interface Probe {
  readonly kind: 'probe';
  readonly asks: boolean;
  readonly id: number;
}

export const everybody = 'ff:ff:ff:ff:ff:ff';
export const bridgeGroup = '01:80:c2:00:00:00';
/** The group MAC address of an IPv4 group (RFC 1112 section 6.4). */
export const groupMac = (ip: number): string =>
  `01:00:5e:${[(ip >>> 16) & 0x7f, (ip >>> 8) & 255, ip & 255].map((byte) => byte.toString(16).padStart(2, '0')).join(':')}`;
