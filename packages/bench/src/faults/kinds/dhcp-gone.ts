import { faultKind } from '../fault.ts';

/** Whoever hands out addresses stays silent. */
export const fault = faultKind({
  mayHide: false,
  inWiring: true,
  fits: (_site, { dhcp }) => dhcp ?? 'it hands out no addresses',
  set: (dhcp) => {
    dhcp.active = false;
  },
  mend: (_before, dhcp) => {
    dhcp.active = true;
  },
});
