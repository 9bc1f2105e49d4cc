import { faultKind } from '../fault.ts';

const lossOfABadHop = 0.6;

export const fault = faultKind({
  mayHide: false,
  inWiring: true,
  fits: (site, { device }) =>
    [...site.cables.values()].find(
      ({ row }) => row.medium === 'wireless' && [row.fromDevice, row.toDevice].includes(device.id),
    ) ?? 'it has no wireless hop',
  set: ({ cable }) => {
    const before = cable.quality;
    cable.quality = { ...before, loss: lossOfABadHop };
    return before;
  },
  mend: (before, { cable }) => {
    cable.quality = before;
  },
});
