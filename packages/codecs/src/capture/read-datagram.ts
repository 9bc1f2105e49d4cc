import { ipAt } from './bytes-at.ts';
import type { CapturedFrame } from './capture-reader.ts';
import { openFrame } from './read-frame.ts';

/** A datagram that was captured whole. */
export interface CapturedDatagram {
  readonly source: string;
  readonly destination: string;
  readonly sourcePort: number;
  readonly destinationPort: number;
  readonly bytes: Uint8Array;
}

const ipv4Type = 0x0800;
const udp = 17;

/** The datagram in a frame (RFC 768 in RFC 791); undefined for anything else, for fragments, and for what was cut off. */
export function readDatagram(frame: Pick<CapturedFrame, 'link' | 'view'>): CapturedDatagram | undefined {
  const opened = openFrame(frame);
  const { view } = frame;
  if (!opened || opened.etherType !== ipv4Type || view.byteLength < opened.at + 28) return undefined;
  const { at } = opened;
  const head = (view.getUint8(at) & 15) * 4;
  const isFragment = (view.getUint16(at + 6) & 0x3fff) !== 0;
  if (view.getUint8(at) >> 4 !== 4 || head < 20 || isFragment || view.getUint8(at + 9) !== udp) return undefined;
  const body = at + head;
  if (view.byteLength < body + 8) return undefined;
  const length = view.getUint16(body + 4);
  if (length < 8 || view.byteLength < body + length) return undefined;
  return {
    source: ipAt(view, at + 12),
    destination: ipAt(view, at + 16),
    sourcePort: view.getUint16(body),
    destinationPort: view.getUint16(body + 2),
    bytes: new Uint8Array(view.buffer, view.byteOffset + body + 8, length - 8),
  };
}
