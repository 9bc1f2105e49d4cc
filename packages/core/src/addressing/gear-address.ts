import type { ReadAddress } from '../rig/index.ts';
import { ipKind, unusableKinds } from './ip-kind.ts';
import { formatIp, subnetOf } from './ipv4.ts';
import { readIpEntry } from './read-ip-entry.ts';

/** Reads the address column of a gear list: an address with or without its mask. */
export const readGearAddress: ReadAddress = (text) => {
  const entry = readIpEntry(text);
  if (!entry.ok) return { fault: 'bad_address', hint: entry.guess ?? '' };
  const { ip, prefix } = entry;
  if (unusableKinds.has(ipKind(ip))) return { fault: 'no_host_address', hint: 'its range is kept for other purposes' };
  if (prefix !== null && prefix < 31 && subnetOf(ip, prefix).network === ip)
    return { fault: 'no_host_address', hint: 'it is the name of the network itself' };
  return { ip: formatIp(ip), prefix };
};
