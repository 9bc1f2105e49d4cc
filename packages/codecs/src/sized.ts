const longestPacket = 65_536;

/** A packet on a byte stream behind its size in 32 bits, as OSC 1.0 has it for streams ("OSC Packets"). */
export function writeSized(packet: Uint8Array): Uint8Array {
  const bytes = new Uint8Array(4 + packet.length);
  new DataView(bytes.buffer).setInt32(0, packet.length);
  bytes.set(packet, 4);
  return bytes;
}

/** Takes such a stream in chunks of any size and gives whole packets; a size that cannot be ends the reading for good. */
export class SizedReader {
  private held = new Uint8Array();
  /** Nothing behind a wrong size can be told apart any more. */
  isBroken = false;

  push(chunk: Uint8Array): Uint8Array[] {
    const all = new Uint8Array(this.held.length + chunk.length);
    all.set(this.held);
    all.set(chunk, this.held.length);
    const view = new DataView(all.buffer);
    const packets: Uint8Array[] = [];
    let at = 0;
    while (!this.isBroken && at + 4 <= all.length) {
      const size = view.getInt32(at);
      this.isBroken = size < 0 || size > longestPacket;
      if (this.isBroken || at + 4 + size > all.length) break;
      if (size > 0) packets.push(all.slice(at + 4, at + 4 + size));
      at += 4 + size;
    }
    this.held = this.isBroken ? new Uint8Array() : all.slice(at);
    return packets;
  }
}
