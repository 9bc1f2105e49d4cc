import type { Standin } from '../units/standin.ts';

/** A switch that notices a new link lets nothing through at first: whoever looks for something looks again. */
export const searches = 3;

/** Does a unit answer another at any of its addresses, asked again where it does not at once? */
export async function answers({ host }: Standin, target: Standin): Promise<boolean> {
  for (let attempt = 0; attempt < searches; attempt += 1)
    for (const { addresses } of target.host.adapters)
      for (const { ip } of addresses) {
        if ((await host.ping(ip)) !== undefined) return true;
        host.doubt(ip);
      }
  return false;
}
