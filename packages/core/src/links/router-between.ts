import { contains, mustIp, subnetOf, type Planned } from '../addressing/index.ts';
import type { Ends } from './ends.ts';

/**
 * The router that carries a link from one subnet to another: the controller's gateway is an address of it, it has an
 * address in the target's subnet, and the target's gateway leads back to it. One router, no further hops.
 */
export function routerBetween(ends: Ends): Planned['device'] | undefined {
  const [near, far] = [ends.from.planned, ends.to.planned];
  if (near?.ip == null || far?.ip == null) return undefined;
  const out = legs(ends, near);
  const back = legs(ends, far);
  return out.find(
    (leg) =>
      leg.ip === gatewayOf(near) &&
      back.some(
        (other) =>
          other.device.id === leg.device.id && other.ip === gatewayOf(far) && covers(other, far) && covers(leg, near),
      ),
  )?.device;
}

const gatewayOf = ({ address, network }: Planned): number | null => {
  const text = address.gateway ?? network.gateway;
  return text === null ? null : mustIp(text);
};

const covers = (a: Planned, b: Planned): boolean => contains(subnetOf(a.ip ?? 0, a.prefix), b.ip ?? 0);

/** Addresses of routers that an end reaches directly. */
const legs = (ends: Ends, end: Planned): Planned[] =>
  ends.facts
    .routers()
    .filter((leg) => leg.ip !== null && leg.ip !== end.ip && covers(end, leg) && inReach(ends, end, leg));

/** Do both hear the same broadcasts? */
export function inReach({ cabling }: Ends, a: Planned, b: Planned): boolean {
  const segment = cabling.segmentOf(a.interface.id);
  const vlans = cabling.vlans();
  return (
    segment !== undefined &&
    cabling.segmentOf(b.interface.id) === segment &&
    (!vlans || vlans.joined(a.interface, a.network.vlan, b.interface, b.network.vlan))
  );
}
