import { ipAt, macAt } from './bytes-at.ts';
import { readDhcp } from './dhcp.ts';
import { readMdns } from './mdns.ts';
import { openRadio, openRadiotap } from './radio.ts';
import { withinLlc, type Opened } from './opened.ts';
import type { CapturedFrame, LinkLayer } from './capture-reader.ts';
import type { Sighting } from './sighting.ts';

const ipv4Type = 0x0800;
const arpType = 0x0806;
const longestPayload = 1500;
const vlanTypes: ReadonlySet<number> = new Set([0x8100, 0x88a8, 0x9100]);

/**
 * What one captured frame tells about hosts: ARP (RFC 826), DHCP (RFC 2131), multicast DNS (RFC 6762) and the source
 * in IPv4 headers (RFC 791). Anything else, and anything cut off or malformed, tells nothing.
 */
export function readFrame({ link, view }: Pick<CapturedFrame, 'link' | 'view'>): Sighting[] {
  const inner = openFrame({ link, view });
  if (!inner) return [];
  if (inner.etherType === arpType) return readArp(view, inner.at);
  return inner.etherType === ipv4Type ? readIpv4(view, inner) : [];
}

/** Where what a frame carries begins, behind VLAN tags; undefined where that cannot be told. */
export function openFrame({ link, view }: Pick<CapturedFrame, 'link' | 'view'>): Opened | undefined {
  const opened = openers[link](view);
  return opened && withoutTags(view, opened);
}

const openers: Readonly<Record<LinkLayer, (view: DataView) => Opened | undefined>> = {
  ethernet: (view) => {
    if (view.byteLength < 14) return undefined;
    const mac = macAt(view, 6);
    const type = view.getUint16(12);
    // up to here it is a length (IEEE 802.3), and the type stands behind a head of LLC
    return type <= longestPayload ? withinLlc(view, 14, mac) : { etherType: type, at: 14, mac };
  },
  cooked: (view) =>
    view.byteLength < 16
      ? undefined
      : { etherType: view.getUint16(14), at: 16, mac: view.getUint16(4) === 6 ? macAt(view, 6) : null },
  cooked2: (view) =>
    view.byteLength < 20
      ? undefined
      : { etherType: view.getUint16(0), at: 20, mac: view.getUint8(11) === 6 ? macAt(view, 12) : null },
  // four bytes of address family in the byte order of the machine that captured: 2 is IPv4 everywhere
  loopback: (view) =>
    view.byteLength >= 4 && [0x02000000, 2].includes(view.getUint32(0))
      ? { etherType: ipv4Type, at: 4, mac: null }
      : undefined,
  raw: (view) =>
    view.byteLength > 0 && view.getUint8(0) >> 4 === 4 ? { etherType: ipv4Type, at: 0, mac: null } : undefined,
  radio: (view) => openRadio(view, 0),
  radiotap: openRadiotap,
};

/** Steps over VLAN tags (IEEE 802.1Q), two at most. */
function withoutTags(view: DataView, opened: Opened): Opened {
  let { etherType, at } = opened;
  for (let tags = 0; tags < 2 && vlanTypes.has(etherType) && view.byteLength >= at + 4; tags += 1) {
    etherType = view.getUint16(at + 2);
    at += 4;
  }
  return { ...opened, etherType, at };
}

/** The sender of an ARP packet owns what it claims, unless it only probes (sender 0.0.0.0, RFC 5227). */
function readArp(view: DataView, at: number): Sighting[] {
  if (view.byteLength < at + 28 || view.getUint16(at + 2) !== ipv4Type) return [];
  if (view.getUint8(at + 4) !== 6 || view.getUint8(at + 5) !== 4) return [];
  const ip = ipAt(view, at + 14);
  return [{ by: 'arp', mac: macAt(view, at + 8), ip: ip === '0.0.0.0' ? null : ip }];
}

function readIpv4(view: DataView, { at, mac }: Opened): Sighting[] {
  if (view.byteLength < at + 20 || view.getUint8(at) >> 4 !== 4) return [];
  const header = (view.getUint8(at) & 15) * 4;
  if (header < 20 || view.byteLength < at + header) return [];
  const source = ipAt(view, at + 12);
  const own: Sighting[] = isHost(source) ? [{ by: 'ip', mac, ip: source }] : [];
  const payload = at + header;
  // only a first fragment starts with the ports
  const isUdp = view.getUint8(at + 9) === 17 && (view.getUint16(at + 6) & 0x1fff) === 0;
  if (!isUdp || view.byteLength < payload + 8) return own;
  const [from, to] = [view.getUint16(payload), view.getUint16(payload + 2)];
  const end = Math.min(view.byteLength, payload + Math.max(8, view.getUint16(payload + 4)));
  const body = new DataView(view.buffer, view.byteOffset + payload + 8, end - payload - 8);
  const isDhcp = [from, to].every((port) => port === 67 || port === 68);
  if (isDhcp) return [...own, ...readDhcp(body, { mac, source })];
  return from === 5353 ? [...own, ...readMdns(body, { mac, source })] : own;
}

const isHost = (ip: string): boolean => !/^(0|127|22[4-9]|23\d|24\d|25\d)\./.test(ip);
