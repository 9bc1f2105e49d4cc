import { Cable, copper } from '../../ether/cable.ts';
import { faultKind } from '../fault.ts';

/** A cable leads from a switch back into it, and nothing breaks the circle. */
export const fault = faultKind({
  mayHide: false,
  inWiring: true,
  fits: (_site, { bridge }) => bridge ?? 'it takes a switch',
  set: (bridge, { scheduler }, { device }) => {
    if (bridge.tree) bridge.tree.active = false;
    const ends = ['a', 'b'].map((end) => `loop ${end} ${device.id}`);
    const [a, b] = ends.map((end) => bridge.addPort(end, false));
    const vlan = [...bridge.membership.values()].find((member) => member.mode === 'access');
    for (const end of ends) if (vlan) bridge.membership.set(end, vlan);
    return { ends, cable: a && b ? new Cable([a, b], copper(1), scheduler, () => 0.5) : undefined };
  },
  mend: ({ ends, cable }, bridge, site) => {
    if (cable) cable.cut = true;
    if (bridge.tree) {
      bridge.tree.active = true;
      bridge.tree.start();
    }
    bridge.drop(...ends);
    for (const standin of site.standins.values()) standin.bridge?.calm();
    site.wiring.calm();
  },
});
