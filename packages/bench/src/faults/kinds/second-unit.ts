import { addressOf, withFirst } from '../first-address.ts';
import { hold } from '../../units/pending.ts';
import { keyedWrong } from '../keyed-wrong.ts';

/** Another unit of its network has its address as well. */
export const fault = keyedWrong({
  mayHide: true,
  at: (site, unit) => {
    const own = addressOf(unit);
    const twin = [...site.standins.values()].find(
      (other) =>
        other !== unit &&
        !other.computer &&
        !other.bridge &&
        other.memory.powered &&
        sharesNetwork(addressOf(other), own),
    );
    return own && twin ? twin : 'no other unit is on its network';
  },
  change: (memory, twin, unit) => {
    const own = addressOf(unit);
    if (own) hold(memory, withFirst(twin, { ip: own.ip }));
  },
});

const sharesNetwork = (a: { ip: number } | undefined, b: { ip: number; prefix: number } | undefined): boolean =>
  a !== undefined && b !== undefined && a.ip !== b.ip && (a.ip ^ b.ip) >>> (32 - b.prefix) === 0;
