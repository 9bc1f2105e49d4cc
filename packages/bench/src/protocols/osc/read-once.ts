import { readOsc, type OscRead } from '@deep-patch/codecs';

let last: { readonly bytes: Uint8Array; readonly read: OscRead } | undefined;

/** A tap and the unit that hears a packet read the same bytes one right after the other: the second time costs nothing. */
export function readOnce(bytes: Uint8Array): OscRead {
  if (last?.bytes !== bytes) last = { bytes, read: readOsc(bytes) };
  return last.read;
}
