import { show as core } from '@deep-patch/core';
import { keyedWrong } from '../keyed-wrong.ts';

export const fault = keyedWrong({
  mayHide: true,
  at: (_site, unit) => (core.isComputer(unit.type) ? unit : 'only computers have a firewall'),
  change: (memory) => (memory.firewall = true),
});
