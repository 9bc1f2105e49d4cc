import { loopKey, planPlugTogether } from '../../cabling/index.ts';
import { fixWith } from '../../findings/index.ts';
import type { End, Ends } from '../ends.ts';
import { layerOf, type SideBySide } from '../layer.ts';
import { some } from '../some.ts';

type Networks = {
  readonly left: string;
  readonly right: string;
};
type Passes = {
  same_machine: { machine: string };
  routed: Networks & { router: string };
  same_segment: Networks;
};
type Stops = {
  flooded: Networks & { between: readonly string[]; loop: string };
  apart: Networks;
  other_vlan: Networks & { controller: string; target: string; leftVlan: string; rightVlan: string };
  wireless_hop: Networks;
};

const sides = ({ left, right }: Networks, between: string): SideBySide => ({
  left: some(left, 'no network'),
  right: some(right, 'no network'),
  between,
});

/** Do cables and VLANs lead to one another? Discovery and direct delivery end at the edge of the broadcast domain. */
export const segment = layerOf<Passes, Stops>(
  {
    passes: {
      same_machine: (f) => ({ left: f.machine, right: f.machine, between: 'same machine' }),
      routed: (f) => sides(f, `through ${f.router}`),
      same_segment: (f) => sides(f, 'same segment'),
    },
    stops: {
      flooded: {
        sides: (f) => sides(f, 'a loop floods it'),
        said: (f) => [
          `Cables run in a circle at ${f.between.join(' and ')}.`,
          'Nothing there cuts the loop, so whatever is sent to everybody runs round and fills every cable.',
          'Take one cable of the circle out.',
        ],
      },
      apart: {
        sides: (f) => sides(f, 'no cable leads across'),
        said: () => [
          'No cable leads from one to the other.',
          'They sit on separate switches, so neither discovery nor a direct message gets across.',
          'Join the two switches.',
        ],
      },
      other_vlan: {
        sides: (f) => sides(f, 'different VLANs'),
        said: (f) => [
          `${f.controller} ends up in VLAN ${some(f.leftVlan)}, ${f.target} in VLAN ${some(f.rightVlan)}.`,
          'The switches keep them apart, whatever their addresses say.',
          'Plan both on one network, or on networks of one VLAN.',
        ],
      },
      wireless_hop: {
        sides: (f) => sides(f, 'same segment, over wireless'),
        said: () => [
          'The way goes over wireless.',
          'Delay varies and packets get lost; a trigger may come late.',
          'Allow for the delay, or use a cable where both have a socket for one.',
        ],
      },
    },
  },
  (ends, { pass, risky, fail }) => {
    const { show, cabling, from, to, route, controller, target } = ends;
    if (ends.sameMachine) return pass('same_machine', { machine: controller.name });
    const facts = { left: from.planned?.network.name ?? '', right: to.planned?.network.name ?? '' };
    const shared = sharedDomain(ends);
    const loop = shared === undefined ? undefined : cabling.domains().loopIn(shared);
    if (shared !== undefined && !loop)
      return route?.wireless ? risky('wireless_hop', facts) : pass('same_segment', facts);
    const router = answeringRouter(ends);
    if (router !== undefined) return pass('routed', { ...facts, router });
    if (loop)
      return fail('flooded', {
        ...facts,
        between: loop.devices.map((id) => show.devices[id]?.name ?? id),
        loop: `loop ${loopKey(loop)}`,
      });
    const [near, far] = [from, to].map((end) => end.interface && cabling.segmentOf(end.interface.id));
    if (near === undefined || near !== far) {
      const change = from.interface && to.interface && planPlugTogether(show, cabling, from.interface, to.interface);
      return fail('apart', facts, [fixWith(change?.label ?? '', change)]);
    }
    return fail('other_vlan', {
      ...facts,
      controller: controller.name,
      target: target.name,
      leftVlan: vlanOf(ends, from),
      rightVlan: vlanOf(ends, to),
    });
  },
);

function vlanOf({ cabling }: Ends, { planned, machine, adapter }: End): string {
  const vlan = planned?.network.vlan ?? cabling.domains().vlanOf(machine?.id ?? '', adapter ?? '');
  return vlan === null ? '' : String(vlan);
}

/** The domains that an adapter sends into, one for each tag; an adapter without an address sends without. */
function sendsInto(ends: Ends, end: End): readonly (string | undefined)[] {
  const domains = (end.machine?.held ?? []).filter((own) => own.adapter === end.adapter).map(({ domain }) => domain);
  return domains.length > 0 ? domains : [untaggedOf(ends, end)];
}

const untaggedOf = ({ cabling }: Ends, { machine, adapter }: End): string | undefined =>
  machine && adapter !== undefined ? cabling.domains().domainOf(machine.id, adapter, null) : undefined;

/** A domain in which both adapters are: one without a loop, where there is one. */
function sharedDomain(ends: Ends): string | undefined {
  const there = sendsInto(ends, ends.to);
  const isThere = (domain: string) => there.includes(domain) || untaggedOf(ends, ends.to) === domain;
  const shared = sendsInto(ends, ends.from).filter((domain) => domain !== undefined && isThere(domain));
  return shared.find((domain) => domain !== undefined && !ends.cabling.domains().loopIn(domain)) ?? shared[0];
}

/** The router through which somebody answers at the address that the controller aims at. */
function answeringRouter({ show, there, back, to }: Ends): string | undefined {
  if (!there?.byGateway) return undefined;
  if (there.lost?.why === 'two_owners')
    return show.devices[there.routers[0] ?? there.lost.owners[0]?.machineId ?? '']?.name;
  if (there.arrivedAt === undefined) return undefined;
  if (there.arrivedAt !== to.machine?.id && back?.arrivedAt === undefined) return undefined;
  return show.devices[there.routers[0] ?? there.arrivedAt]?.name;
}
