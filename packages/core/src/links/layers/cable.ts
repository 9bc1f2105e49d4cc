import { longestRun, planPlugTogether } from '../../cabling/index.ts';
import { fixWith } from '../../findings/index.ts';
import { fail, pass, type Layer } from '../layer.ts';

/** Is each end plugged in at all? Programs on one machine need no cable (C14). */
export const cable: Layer = ({ show, cabling, route, sameMachine, controller, target, from, to }) => {
  if (sameMachine) return pass('same_machine');
  const [near, far] = [from, to].map((end) => end.interface && cabling.plugOf(end.interface.id));
  const facts = {
    left: near ? `${near.socket} → ${near.farDevice.name} ${near.farSocket}` : '',
    right: far ? `${far.socket} → ${far.farDevice.name} ${far.farSocket}` : '',
    controller: controller.name,
    target: target.name,
  };
  if (!from.interface || !to.interface) return fail('no_adapter', facts);
  if (near && far)
    return pass('plugged', {
      ...facts,
      hops: route?.hops ?? 0,
      lengthM: route?.lengthM ?? 0,
      wireless: route?.wireless ? 'yes' : '',
    });
  const long = [from, to].map((end) => end.interface && cabling.tooLongAt(end.interface.id)).find(Boolean);
  if (long) {
    const run = { lengthM: long.lengthM ?? '', mostM: longestRun(long.medium) ?? '', medium: long.medium };
    return fail('too_long', { ...facts, ...run });
  }
  const change = planPlugTogether(show, cabling, from.interface, to.interface);
  return fail(near ? 'target_unplugged' : far ? 'controller_unplugged' : 'both_unplugged', facts, [
    fixWith(change?.label ?? '', change),
  ]);
};
