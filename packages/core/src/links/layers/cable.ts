import { longestRun, planPlugTogether, runAdvice } from '../../cabling/index.ts';
import { fixWith, nameList, oneOr } from '../../findings/index.ts';
import type { Ends } from '../ends.ts';
import { layerOf, type SideBySide } from '../layer.ts';
import { some } from '../some.ts';

type Plugs = {
  readonly left: string;
  readonly right: string;
  readonly controller: string;
  readonly target: string;
};
type Passes = {
  same_machine: { controller: string };
  plugged: Plugs & { hops: number; lengthM: number; wireless: '' | 'yes' };
};
type Stops = {
  no_service: Readonly<Record<string, never>>;
  no_adapter: Plugs & { names: readonly string[] };
  too_long: Plugs & { lengthM: number; mostM: number; medium: string };
  both_unplugged: Plugs;
  controller_unplugged: Plugs;
  target_unplugged: Plugs;
};

const sides = ({ left, right }: Plugs, between: string): SideBySide => ({
  left: some(left, 'not plugged in'),
  right: some(right, 'not plugged in'),
  between,
});
const empty: SideBySide = { left: '—', right: '—', between: 'no such service' };
const noCable = (f: Plugs) => sides(f, 'no cable');

/** Is each end plugged in at all? Programs on one machine need no cable (C14). */
export const cable = layerOf<Passes, Stops>(
  {
    passes: {
      same_machine: () => ({ left: 'not needed', right: 'not needed', between: 'same machine' }),
      plugged: (f) => sides(f, way(f)),
    },
    stops: {
      no_service: {
        sides: () => empty,
        said: () => [
          'The target has no such service.',
          'Its type was changed, or it was taken out.',
          'Remove the link and add it again.',
        ],
      },
      no_adapter: {
        sides: noCable,
        said: (f) => [
          `${nameList(f.names)} ${oneOr(f.names.length, 'has', 'have')} no network adapter.`,
          'There is nothing to plug a cable into.',
          'Choose a type with an adapter, or say on which computer the program runs.',
        ],
      },
      too_long: {
        sides: (f) => sides(f, `${f.lengthM} m, ${f.mostM} m at most`),
        said: (f) => [
          `The ${f.medium} run is ${f.lengthM} m long; ${f.mostM} m is the most.`,
          'No link comes up on it.',
          runAdvice(f.lengthM),
        ],
      },
      both_unplugged: {
        sides: noCable,
        said: (f) => [
          `Neither ${f.controller} nor ${f.target} is plugged in.`,
          'Nothing can pass between them.',
          'Plug both into one switch.',
        ],
      },
      controller_unplugged: {
        sides: noCable,
        said: (f) => [
          `${f.controller} is not plugged in.`,
          'It can send to nobody.',
          'Plug it into the switch of the target.',
        ],
      },
      target_unplugged: {
        sides: noCable,
        said: (f) => [
          `${f.target} is not plugged in.`,
          'It hears nobody.',
          'Plug it into the switch of the controller.',
        ],
      },
    },
  },
  (ends, { pass, fail }) => {
    const { cabling, controller, target, from, to, route } = ends;
    if (ends.sameMachine) return pass('same_machine', { controller: controller.name });
    const [left, right] = [plugAt(ends, from), plugAt(ends, to)];
    const facts = { left, right, controller: controller.name, target: target.name };
    const bare = [from.adapter === undefined ? controller : [], to.adapter === undefined ? target : []].flat();
    if (bare.length > 0) return fail('no_adapter', { ...facts, names: bare.map(({ name }) => name) });
    const [near, far] = [from, to].map(({ machine, adapter }) => isLit(ends, machine?.id, adapter));
    if (near && far)
      return pass('plugged', {
        left,
        right,
        controller: controller.name,
        target: target.name,
        hops: route?.hops ?? 0,
        lengthM: route?.lengthM ?? 0,
        wireless: route?.wireless ? 'yes' : '',
      });
    const long = [from, to].flatMap((end) => (end.interface && cabling.tooLongAt(end.interface.id)) ?? [])[0];
    if (long) {
      const run = { lengthM: long.lengthM ?? 0, mostM: longestRun(ends.show, long) ?? 0, medium: long.medium };
      return fail('too_long', { ...facts, ...run });
    }
    const change = from.interface && to.interface && planPlugTogether(ends.show, cabling, from.interface, to.interface);
    return fail(near ? 'target_unplugged' : far ? 'controller_unplugged' : 'both_unplugged', facts, [
      fixWith(change?.label ?? '', change),
    ]);
  },
);

const isLit = ({ cabling }: Ends, machineId: string | undefined, adapter: string | undefined): boolean =>
  machineId !== undefined && adapter !== undefined && cabling.domains().isLit(machineId, adapter);

function plugAt({ cabling }: Ends, { interface: its }: Ends['from']): string {
  const plug = its && cabling.plugOf(its.id);
  return plug ? `${plug.socket} → ${plug.farDevice.name} ${plug.farSocket}` : '';
}

function way({ hops, lengthM, wireless }: Passes['plugged']): string {
  if (hops === 0) return 'no way between them';
  const length = lengthM ? `, ${lengthM} m` : '';
  return `${hops} ${hops === 1 ? 'cable' : 'cables'}${length}${wireless ? ', partly wireless' : ''}`;
}
