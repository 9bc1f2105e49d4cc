const [end, escape, escapedEnd, escapedEscape] = [0xc0, 0xdb, 0xdc, 0xdd];
const longestPacket = 65_536;

/** A packet framed for a byte stream (RFC 1055, with an END before and behind it as OSC 1.1 asks). */
export function writeSlip(packet: Uint8Array): Uint8Array {
  const bytes = [end];
  for (const byte of packet) {
    if (byte === end) bytes.push(escape, escapedEnd);
    else if (byte === escape) bytes.push(escape, escapedEscape);
    else bytes.push(byte);
  }
  return Uint8Array.from([...bytes, end]);
}

/** Takes a framed stream in chunks of any size and gives whole packets; one that grows beyond 64 kB is dropped. */
export class SlipReader {
  private held: number[] = [];
  private escaped = false;
  private dropping = false;

  push(chunk: Uint8Array): Uint8Array[] {
    const packets: Uint8Array[] = [];
    for (const byte of chunk) {
      if (byte === end) {
        if (this.held.length > 0 && !this.dropping) packets.push(Uint8Array.from(this.held));
        this.held = [];
        this.escaped = this.dropping = false;
      } else if (byte === escape) this.escaped = true;
      else this.keep(byte);
    }
    return packets;
  }

  private keep(byte: number): void {
    // an escape before anything else is a fault of the sender; the byte is taken as it stands
    const plain = !this.escaped ? byte : byte === escapedEnd ? end : byte === escapedEscape ? escape : byte;
    this.escaped = false;
    if (this.held.length < longestPacket) this.held.push(plain);
    else {
      this.held = [];
      this.dropping = true;
    }
  }
}
