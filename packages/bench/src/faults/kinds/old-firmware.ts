import { putFirmware } from '../../units/keying.ts';
import { keyedWrong } from '../keyed-wrong.ts';

/** Older than anything that a function asks for. */
const ancient = '0.9';

export const fault = keyedWrong({
  mayHide: true,
  at: (_site, unit) =>
    unit.type.services.some(({ lowestFirmware }) => lowestFirmware !== null)
      ? unit
      : 'none of its functions asks for a version',
  change: (_memory, unit) => putFirmware(unit, ancient),
});
