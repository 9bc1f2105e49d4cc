import { helpersOf } from '../../units/standin.ts';
import { keyedWrong } from '../keyed-wrong.ts';

export const fault = keyedWrong({
  mayHide: true,
  at: (_site, unit) => (helpersOf(unit).length > 0 ? unit : 'nothing has to run beside it'),
  change: (memory) => (memory.helper = false),
});
