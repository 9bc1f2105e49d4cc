import { resetToFactory } from '../../units/keying.ts';
import { keyedWrong } from '../keyed-wrong.ts';

export const fault = keyedWrong({
  mayHide: false,
  at: (_site, unit) =>
    unit.computer === undefined && unit.type.adapters.length > 0 ? unit : 'it has no factory state',
  change: (_memory, unit) => resetToFactory(unit),
});
