import { faultKind } from '../fault.ts';

export const fault = faultKind({
  mayHide: true,
  inWiring: false,
  fits: (_site, unit) => (unit.memory.powered ? unit : 'it has no power anyway'),
  set: ({ device }, site) => site.power([device.id], false),
  mend: (_before, { device }, site) => site.power([device.id], true),
});
