/** One frame of a capture: `at` in microseconds since 1970. */
export interface StampedFrame {
  readonly at: number;
  readonly bytes: Uint8Array;
}

const ethernet = 1;
const longest = 262_144;

/**
 * A pcapng file that any capture tool opens: one section, one Ethernet interface named `source` with times in
 * microseconds, one enhanced packet block a frame (IETF draft-ietf-opsawg-pcapng).
 */
export function writeCapture(frames: readonly StampedFrame[], source: string): Uint8Array {
  const blocks = [
    block(0x0a0d0d0a, [
      u32(0x1a2b3c4d),
      u16(1),
      u16(0),
      u32(0xffffffff),
      u32(0xffffffff),
      option(4, 'Deep Patch'),
      end,
    ]),
    block(1, [u16(ethernet), u16(0), u32(longest), option(2, source), end]),
    ...frames.map(packetBlock),
  ];
  return joined(blocks);
}

function packetBlock({ at, bytes }: StampedFrame): Uint8Array {
  const [high, low] = [Math.floor(at / 2 ** 32), at >>> 0];
  return block(6, [u32(0), u32(high), u32(low), u32(bytes.length), u32(bytes.length), padded(bytes)]);
}

function block(type: number, parts: readonly Uint8Array[]): Uint8Array {
  const body = joined(parts);
  const length = u32(12 + body.length);
  return joined([u32(type), length, body, length]);
}

function option(code: number, text: string): Uint8Array {
  const bytes = new TextEncoder().encode(text);
  return joined([u16(code), u16(bytes.length), padded(bytes)]);
}

function padded(bytes: Uint8Array): Uint8Array {
  const whole = new Uint8Array(Math.ceil(bytes.length / 4) * 4);
  whole.set(bytes);
  return whole;
}

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

const u16 = (value: number): Uint8Array => Uint8Array.of(value & 255, (value >>> 8) & 255);
const u32 = (value: number): Uint8Array =>
  Uint8Array.of(value & 255, (value >>> 8) & 255, (value >>> 16) & 255, (value >>> 24) & 255);
const end = u32(0);
