import { SizedReader, SlipReader, writeSized, writeSlip } from '@deep-patch/codecs';
import type { show } from '@deep-patch/core';

/** How packets are told apart on a stream. */
interface Framing {
  readonly reader: () => { readonly push: (chunk: Uint8Array) => Uint8Array[] };
  readonly write: (packet: Uint8Array) => Uint8Array;
}

const slip: Framing = { reader: () => new SlipReader(), write: writeSlip };
const size: Framing = { reader: () => new SizedReader(), write: writeSized };

export const framingOf = ({ framing }: show.ServiceType): Framing => (framing === 'size' ? size : slip);
