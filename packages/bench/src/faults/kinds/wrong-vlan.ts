import type { Membership, Switch } from '../../ether/switch.ts';
import type { Site } from '../../site/site.ts';
import type { Standin } from '../../units/standin.ts';
import { faultKind } from '../fault.ts';

const strayVlan: Membership = { mode: 'access', vlan: 4000 };

export const fault = faultKind({
  mayHide: true,
  inWiring: true,
  fits: (site, unit) => socketAtManaged(site, unit) ?? 'it does not hang on a managed switch',
  set: ({ bridge, key }) => {
    const before = bridge.membership.get(key);
    bridge.membership.set(key, strayVlan);
    return before;
  },
  mend: (before, { bridge, key }) => {
    if (before) bridge.membership.set(key, before);
    else bridge.membership.delete(key);
  },
});

/** The socket of a managed switch into which the unit's first cable leads. */
function socketAtManaged(site: Site, { device }: Standin): { bridge: Switch; key: string } | undefined {
  for (const { row } of site.cables.values())
    for (const [own, far, socket] of [
      [row.fromDevice, row.toDevice, row.toSocket],
      [row.toDevice, row.fromDevice, row.fromSocket],
    ] as const) {
      const bridge = own === device.id ? site.standins.get(far)?.bridge : undefined;
      if (bridge?.tree) return { bridge, key: socket };
    }
  return undefined;
}
