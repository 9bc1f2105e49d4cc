import { macAt } from './bytes-at.ts';
import { withinLlc, type Opened } from './opened.ts';

/** Bits of the second byte of a frame's control field (IEEE 802.11 section 9.2.4.1). */
const [toDistribution, fromDistribution, isProtected, hasMore] = [0x01, 0x02, 0x40, 0x80];

/**
 * A frame of wireless Ethernet (IEEE 802.11 section 9.3.2.1): only data frames that are not encrypted tell anything.
 * Who sent it stands in the second address where the sender is a station, in the third behind an access point, in the
 * fourth between two access points.
 */
export function openRadio(view: DataView, start: number): Opened | undefined {
  if (view.byteLength < start + 24) return undefined;
  const [kind, flags] = [view.getUint8(start), view.getUint8(start + 1)];
  const isData = (kind & 0x0c) === 0x08;
  const carriesNothing = (kind & 0x40) !== 0;
  if (!isData || carriesNothing || (flags & isProtected) !== 0) return undefined;
  const isRelayed = (flags & toDistribution) !== 0 && (flags & fromDistribution) !== 0;
  const hasQuality = (kind & 0x80) !== 0;
  const head = 24 + (isRelayed ? 6 : 0) + (hasQuality ? 2 : 0) + (hasQuality && (flags & hasMore) !== 0 ? 4 : 0);
  const sender = isRelayed ? 24 : (flags & fromDistribution) !== 0 ? 16 : 10;
  if (view.byteLength < start + head) return undefined;
  return withinLlc(view, start + head, macAt(view, start + sender));
}

/** The same behind what the receiver wrote of the signal: a head that tells its own length, in little-endian order. */
export function openRadiotap(view: DataView): Opened | undefined {
  if (view.byteLength < 4 || view.getUint8(0) !== 0) return undefined;
  return openRadio(view, view.getUint16(2, true));
}
