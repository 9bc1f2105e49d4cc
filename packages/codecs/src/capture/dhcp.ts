import { readDhcpMessage } from '../dhcp-message.ts';
import type { Sighting } from './sighting.ts';

interface Envelope {
  readonly mac: string | null;
  readonly source: string;
}

const replies: ReadonlySet<string> = new Set(['offer', 'ack', 'nak']);

/**
 * What a DHCP message tells (RFC 2131, options of RFC 2132): a client's name, the address that an acknowledgement
 * gives it, and who hands addresses out.
 */
export function readDhcp(view: DataView, { mac, source }: Envelope): Sighting[] {
  const message = readDhcpMessage(view);
  if (!message || message.type === 'decline') return [];
  const given = message.type === 'ack' && message.yourIp !== 0 ? dotted(message.yourIp) : null;
  const lease: Sighting = {
    by: 'dhcp',
    mac: message.clientMac,
    ip: given,
    ...(message.hostName ? { name: message.hostName } : {}),
    ...(given && message.mask !== undefined ? { prefix: onesOf(message.mask) } : {}),
    ...(message.type === 'ack' ? { method: 'dhcp' as const } : {}),
  };
  const serverIp = replies.has(message.type) && message.serverIp !== undefined ? dotted(message.serverIp) : null;
  return serverIp === null
    ? [lease]
    : [lease, { by: 'dhcp', mac: serverIp === source ? mac : null, ip: serverIp, role: 'dhcp_server' }];
}

const dotted = (ip: number): string => [24, 16, 8, 0].map((shift) => (ip >>> shift) & 255).join('.');

/** The leading ones of a mask. */
const onesOf = (mask: number): number => Math.clz32(~mask >>> 0);
