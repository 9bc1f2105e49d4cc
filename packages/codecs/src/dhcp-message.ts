import { asciiAt, macAt } from './capture/bytes-at.ts';

export const dhcpTypes = ['discover', 'offer', 'request', 'decline', 'ack', 'nak', 'release', 'inform'] as const;

/** A DHCP message (RFC 2131) with the options used here (RFC 2132); addresses as unsigned numbers, 0 for none. */
export interface DhcpMessage {
  readonly type: (typeof dhcpTypes)[number];
  readonly transaction: number;
  readonly clientMac: string;
  readonly clientIp: number;
  readonly yourIp: number;
  readonly serverIp?: number;
  readonly requestedIp?: number;
  readonly mask?: number;
  readonly router?: number;
  readonly leaseSeconds?: number;
  readonly hostName?: string;
}

const cookie = 0x63825363;
const optionsAt = 240;

/** The bytes of a message; clients ask for broadcast answers, since they own no address yet. */
export function writeDhcp(message: DhcpMessage): Uint8Array {
  const toServer = ['discover', 'request', 'decline', 'release', 'inform'].includes(message.type);
  const bytes = new Uint8Array(optionsAt + 80 + (message.hostName?.length ?? 0));
  const view = new DataView(bytes.buffer);
  bytes.set([toServer ? 1 : 2, 1, 6, 0]);
  view.setUint32(4, message.transaction);
  view.setUint16(10, 0x8000);
  view.setUint32(12, message.clientIp);
  view.setUint32(16, message.yourIp);
  bytes.set(
    message.clientMac.split(':').map((part) => parseInt(part, 16)),
    28,
  );
  view.setUint32(236, cookie);
  const name = Array.from(message.hostName ?? '', (letter) => letter.charCodeAt(0) & 127).slice(0, 63);
  const options = [
    53,
    1,
    dhcpTypes.indexOf(message.type) + 1,
    ...number(54, message.serverIp),
    ...number(50, message.requestedIp),
    ...number(1, message.mask),
    ...number(3, message.router),
    ...number(51, message.leaseSeconds),
    ...(name.length > 0 ? [12, name.length, ...name] : []),
    255,
  ];
  bytes.set(options, optionsAt);
  return bytes;
}

/** Undefined for anything that is not a whole DHCP message. Never throws. */
export function readDhcpMessage(view: DataView): DhcpMessage | undefined {
  if (view.byteLength < optionsAt || view.getUint8(1) !== 1 || view.getUint8(2) !== 6) return undefined;
  if (view.getUint32(236) !== cookie) return undefined;
  const options = optionsOf(view);
  const type = dhcpTypes[(options.get(53)?.getUint8(0) ?? 0) - 1];
  if (type === undefined) return undefined;
  const address = (code: number) => {
    const option = options.get(code);
    return option && option.byteLength >= 4 ? option.getUint32(0) : undefined;
  };
  const name = nameOf(options.get(12));
  return {
    type,
    transaction: view.getUint32(4),
    clientMac: macAt(view, 28),
    clientIp: view.getUint32(12),
    yourIp: view.getUint32(16),
    ...present('serverIp', address(54)),
    ...present('requestedIp', address(50)),
    ...present('mask', address(1)),
    ...present('router', address(3)),
    ...present('leaseSeconds', address(51)),
    ...present('hostName', name === '' ? undefined : name),
  };
}

const present = <Key extends string, Value>(key: Key, value: Value | undefined): Partial<Record<Key, Value>> =>
  value === undefined ? {} : ({ [key]: value } as Record<Key, Value>);

/** Options by number; the reading stops where lengths do not add up. */
function optionsOf(view: DataView): Map<number, DataView> {
  const options = new Map<number, DataView>();
  for (let at = optionsAt; at < view.byteLength;) {
    const code = view.getUint8(at);
    if (code === 255) break;
    if (code === 0) {
      at += 1;
      continue;
    }
    const length = at + 1 < view.byteLength ? view.getUint8(at + 1) : 0;
    if (length === 0 || at + 2 + length > view.byteLength) break;
    options.set(code, new DataView(view.buffer, view.byteOffset + at + 2, length));
    at += 2 + length;
  }
  return options;
}

const nameOf = (view: DataView | undefined): string | undefined =>
  view &&
  asciiAt(view, 0, Math.min(63, view.byteLength))
    .replace(/[^\x20-\x7e].*$/s, '')
    .trim();

const number = (code: number, value: number | undefined): number[] =>
  value === undefined ? [] : [code, 4, (value >>> 24) & 255, (value >>> 16) & 255, (value >>> 8) & 255, value & 255];
