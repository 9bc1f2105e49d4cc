/** Where peers beyond the simulated network appear on it: a range of addresses that nobody uses there. */
const range = 0x7f4d0000;
const most = 0xfffe;

export interface OutsideAddress {
  readonly ip: number;
  readonly mac: string;
}

const prefix = '02:00:7f:4d:';

/** The address of the `number`th peer; a locally administered MAC address goes with it (IEEE 802). */
export function outsideAddress(number: number): OutsideAddress {
  const ip = range + 1 + (number % most);
  return { ip, mac: prefix + [(ip >>> 8) & 255, ip & 255].map((byte) => byte.toString(16).padStart(2, '0')).join(':') };
}

export const isOutside = (mac: string): boolean => mac.startsWith(prefix);
