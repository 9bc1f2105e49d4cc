import { addressOf, withFirst } from '../first-address.ts';
import { hold } from '../../units/pending.ts';
import { keyedWrong } from '../keyed-wrong.ts';

/** So narrow that hardly anybody is in it. */
const narrow = 30;

export const fault = keyedWrong({
  mayHide: true,
  at: (_site, unit) => ((addressOf(unit)?.prefix ?? narrow) < narrow ? unit : 'it has no address of its own'),
  change: (memory, unit) => hold(memory, withFirst(unit, { prefix: narrow })),
});
