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
  /** T1 and T2: from when on a client asks its server, and any server, to lengthen the lease. */
  readonly renewSeconds?: number;
  readonly rebindSeconds?: number;
  readonly hostName?: string;
  /** Whatever a client goes by beside its MAC address, in hexadecimal digits. */
  readonly clientId?: string;
  /** Numbers of the options that a client asks for. */
  readonly wants?: readonly number[];
  /** A client without an address cannot hear answers that are sent to one. */
  readonly broadcast?: boolean;
  /** Seconds since the client began to ask. */
  readonly seconds?: number;
}

const cookie = 0x63825363;
const optionsAt = 240;
const leastBytes = 300;
const broadcastFlag = 0x8000;

/** The bytes of a message. */
export function writeDhcp(message: DhcpMessage): Uint8Array {
  const toServer = ['discover', 'request', 'decline', 'release', 'inform'].includes(message.type);
  const options = optionBytes(message);
  // no message is shorter than those of BOOTP were (RFC 1542 section 2.1)
  const bytes = new Uint8Array(Math.max(leastBytes, optionsAt + options.length));
  const view = new DataView(bytes.buffer);
  bytes.set([toServer ? 1 : 2, 1, 6, 0]);
  view.setUint32(4, message.transaction);
  view.setUint16(8, Math.min(0xffff, message.seconds ?? 0));
  view.setUint16(10, message.broadcast ? broadcastFlag : 0);
  view.setUint32(12, message.clientIp);
  view.setUint32(16, message.yourIp);
  bytes.set(
    message.clientMac.split(':').map((part) => parseInt(part, 16)),
    28,
  );
  view.setUint32(236, cookie);
  bytes.set(options, optionsAt);
  return bytes;
}

function optionBytes(message: DhcpMessage): number[] {
  const name = Array.from(message.hostName ?? '', (letter) => letter.charCodeAt(0) & 127).slice(0, 63);
  const id = message.clientId?.match(/../g)?.map((digits) => parseInt(digits, 16)) ?? [];
  return [
    ...option(53, [dhcpTypes.indexOf(message.type) + 1]),
    ...option(54, number(message.serverIp)),
    ...option(50, number(message.requestedIp)),
    ...option(1, number(message.mask)),
    ...option(3, number(message.router)),
    ...option(51, number(message.leaseSeconds)),
    ...option(58, number(message.renewSeconds)),
    ...option(59, number(message.rebindSeconds)),
    ...option(61, id.slice(0, 255)),
    ...option(55, message.wants ?? []),
    ...option(12, name),
    255,
  ];
}

/** Undefined for anything that is not a whole DHCP message. Never throws. */
export function readDhcpMessage(view: DataView): DhcpMessage | undefined {
  if (view.byteLength < optionsAt || view.getUint8(1) !== 1 || view.getUint8(2) !== 6) return undefined;
  if (view.getUint32(236) !== cookie) return undefined;
  const options = optionsOf(view);
  const kind = options.get(53);
  const type = kind && kind.byteLength > 0 ? dhcpTypes[kind.getUint8(0) - 1] : undefined;
  if (type === undefined) return undefined;
  const address = (code: number) => {
    const option = options.get(code);
    return option && option.byteLength >= 4 ? option.getUint32(0) : undefined;
  };
  const name = nameOf(options.get(12));
  const bytesOf = (code: number) => {
    const found = options.get(code);
    return found && Array.from({ length: found.byteLength }, (_, at) => found.getUint8(at));
  };
  const id = bytesOf(61);
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
    ...present('renewSeconds', address(58)),
    ...present('rebindSeconds', address(59)),
    ...present('hostName', name === '' ? undefined : name),
    ...present('clientId', id?.map((byte) => byte.toString(16).padStart(2, '0')).join('')),
    ...present('wants', bytesOf(55)),
    ...present('broadcast', (view.getUint16(10) & broadcastFlag) !== 0 || undefined),
    ...present('seconds', view.getUint16(8) || undefined),
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
    if (at + 1 >= view.byteLength) break;
    // a length of zero is one as well: the option says something by being there (RFC 4039)
    const length = view.getUint8(at + 1);
    if (at + 2 + length > view.byteLength) break;
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

const option = (code: number, bytes: readonly number[]): number[] =>
  bytes.length === 0 ? [] : [code, bytes.length, ...bytes];

const number = (value: number | undefined): number[] =>
  value === undefined ? [] : [24, 16, 8, 0].map((shift) => (value >>> shift) & 255);
