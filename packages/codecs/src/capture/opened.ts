/** Where the payload of a frame starts, what it is, and who sent it where that is said. */
export interface Opened {
  readonly etherType: number;
  readonly at: number;
  readonly mac: string | null;
}

/** The type behind a head of LLC with SNAP: AA AA 03, then three bytes for Ethernet types (RFC 1042). */
export function withinLlc(view: DataView, at: number, mac: string | null): Opened | undefined {
  if (view.byteLength < at + 8) return undefined;
  const isSnap = view.getUint32(at) === 0xaaaa0300 && view.getUint16(at + 4) === 0;
  return isSnap ? { etherType: view.getUint16(at + 6), at: at + 8, mac } : undefined;
}
