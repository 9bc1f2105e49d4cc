import { faultKind } from '../fault.ts';

export const fault = faultKind({
  mayHide: true,
  inWiring: true,
  fits: (site, { device }) =>
    [...site.cables.values()].find(({ row }) => row.fromDevice === device.id || row.toDevice === device.id) ??
    'it has no cable',
  set: ({ cable }) => {
    cable.cut = true;
  },
  mend: (_before, { cable }) => {
    cable.cut = false;
  },
});
