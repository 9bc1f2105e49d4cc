import type { Adapter, Host } from './host.ts';

const firstIp = 0xa9fe0100;
const count = 254 * 256;
const mostTries = 10;
const [lowest, highest] = [firstIp, firstIp + count - 1];

/**
 * Gives an adapter an address of 169.254/16 that nobody has (RFC 3927): one that follows from its MAC address, probed
 * before use, the next one if somebody answers. One that it remembers from before it tries first.
 */
export async function selfAssign(
  host: Host,
  adapter: Adapter,
  isWanted: () => boolean,
  remembered: number | null = null,
): Promise<void> {
  let seed = parseInt(adapter.mac.replaceAll(':', '').slice(-8), 16);
  for (let tries = 0; tries < mostTries; tries += 1) {
    const isFirst = tries === 0 && remembered !== null && remembered >= lowest && remembered <= highest;
    if (!isFirst) seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0;
    const ip = isFirst ? remembered : firstIp + (seed % count);
    const taken = await host.neighbours.isTaken(adapter, ip);
    if (!isWanted()) return;
    if (taken) continue;
    const fixed = adapter.addresses.filter(({ leased }) => !leased);
    adapter.addresses = [...fixed, { ip, prefix: 16, gateway: null, tag: null, leased: true }];
    host.neighbours.announce(adapter);
    return;
  }
}
