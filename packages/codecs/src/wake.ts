/** The message that wakes a computer (C32): six times FF, then its MAC address sixteen times; mostly to port 9 of everybody. */
export function writeWake(mac: string): Uint8Array {
  const own = mac.split(':').map((part) => parseInt(part, 16));
  return Uint8Array.from([...Array<number>(6).fill(255), ...Array.from({ length: 16 }, () => own).flat()]);
}

/** The MAC address that a wake message is for; undefined when it is none. It may stand anywhere in the datagram. */
export function readWake(bytes: Uint8Array): string | undefined {
  for (let at = 0; at + 102 <= Math.min(bytes.length, 1500); at += 1) {
    if (!bytes.subarray(at, at + 6).every((byte) => byte === 255)) continue;
    const mac = bytes.subarray(at + 6, at + 12);
    if (bytes.subarray(at + 6, at + 102).every((byte, n) => byte === mac[n % 6]))
      return [...mac].map((byte) => byte.toString(16).padStart(2, '0')).join(':');
  }
  return undefined;
}
