import { planPlugTogether } from '../../cabling/index.ts';
import { fixWith } from '../../findings/index.ts';
import type { Ends } from '../ends.ts';
import { fail, pass, risky, type Layer } from '../layer.ts';
import { inReach, routerBetween } from '../router-between.ts';

/** Do cables and VLANs lead to one another? Discovery and direct delivery end at the edge of the broadcast domain. */
export const segment: Layer = (ends) => {
  const { show, cabling, route, sameMachine, from, to, controller, target } = ends;
  if (sameMachine) return pass('same_machine');
  const facts = { left: from.planned?.network.name ?? '', right: to.planned?.network.name ?? '' };
  const router = apart(ends) ? routerBetween(ends) : undefined;
  if (router) return pass('routed', { ...facts, router: router.name });
  const [near, far] = [from, to].map((end) => end.interface && cabling.segmentOf(end.interface.id));
  if (near !== far && from.interface && to.interface) {
    const change = planPlugTogether(show, cabling, from.interface, to.interface);
    return fail('apart', facts, [fixWith(change?.label ?? '', change)]);
  }
  const vlans = cabling.vlans();
  const [own, its] = [from.planned?.network.vlan ?? null, to.planned?.network.vlan ?? null];
  if (vlans && from.interface && to.interface && !vlans.joined(from.interface, own, to.interface, its))
    return fail('other_vlan', {
      ...facts,
      controller: controller.name,
      target: target.name,
      leftVlan: own ?? vlans.vlanOf(from.interface) ?? '',
      rightVlan: its ?? vlans.vlanOf(to.interface) ?? '',
    });
  return route?.wireless ? risky('wireless_hop', facts) : pass('same_segment', facts);
};

const apart = (ends: Ends): boolean => {
  const [near, far] = [ends.from.planned, ends.to.planned];
  return near !== undefined && far !== undefined && !inReach(ends, near, far);
};
