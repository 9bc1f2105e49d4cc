import { fixWith, nameList, oneOr, each } from '../../findings/index.ts';
import { typeOf } from '../../show/index.ts';
import { addressingRule } from '../addressing-rule.ts';
import type { AddressingFacts, NetworkFacts } from '../facts.ts';
import { planNetworkEdit } from '../plan-network.ts';

const subject = ({ network }: NetworkFacts) => [{ table: 'networks' as const, id: network.id }];

/** Something outside is needed and there is no way out, or a way out that nobody needs (C10). */
export const gatewayNeed = addressingRule<{
  gateway_missing: { on: string };
  gateway_idle: { on: string; ip: string };
}>(
  {
    gateway_missing: (f) => [
      `${f.on} needs something outside and has no gateway.`,
      'Its members reach nothing beyond the network.',
      'Type the address of the router, or say that nothing outside is needed.',
    ],
    gateway_idle: (f) => [
      `${f.on} has the gateway ${f.ip}, and nothing outside is needed.`,
      'An empty gateway keeps traffic of the show inside.',
      'Leave it empty where the menus allow, or say that it is needed.',
    ],
  },
  each(
    (_show, facts) => facts.on,
    (found, on, _show, facts) => {
      const { gateway, needsOutside, owner, name } = on.network;
      if (gateway === null && needsOutside) return [found('gateway_missing', 'risky', subject(on), { on: name })];
      // one outside the network is told by its own rule
      const isOutside = on.gateway !== null && (on.gateway < on.first || on.gateway > on.last);
      if (gateway === null || isOutside || needsOutside || owner === 'house' || isRouter(facts, on)) return [];
      return [
        found('gateway_idle', 'note', subject(on), { on: name, ip: gateway }, [
          fixWith('Leave the gateway empty', planNetworkEdit(on.network, { gateway: null })),
          fixWith('It is needed', planNetworkEdit(on.network, { needsOutside: true })),
        ]),
      ];
    },
  ),
);

/** A router of the plan stands there: whoever put it in wants a way from this network to others. */
const isRouter = (facts: AddressingFacts, on: NetworkFacts): boolean =>
  (facts.byIp.get(on.gateway ?? -1) ?? []).some(({ type }) => type.kind === 'router');

/** The house's network without a range that it granted: whatever is taken there may be somebody's (need 2.2). */
export const grantMissing = addressingRule<{ no_grant: { on: string; contact: string } }>(
  {
    no_grant: (f) => [
      `${f.on} belongs to the house and no range was granted yet.`,
      'Whatever we take may be somebody’s.',
      f.contact ? `Agree it: ${f.contact}.` : 'Agree it with whoever runs the network.',
    ],
  },
  each(
    (_show, facts) => facts.on,
    (found, on) =>
      on.network.owner === 'house' && on.granted.length === 0 && on.planned.length > 0
        ? [found('no_grant', 'risky', subject(on), { on: on.network.name, contact: on.network.contact })]
        : [],
  ),
);

/** Factory addresses of gear on this job inside a network: a unit straight from its box is inside it at once (C6). */
export const factoryInside = addressingRule<{ factory_inside: { on: string; names: string[]; ips: string[] } }>(
  {
    factory_inside: (f) => [
      `${nameList(f.names)} ${oneOr(f.names.length, 'leaves', 'leave')} the factory with an address inside ${f.on}: ${nameList(f.ips)}.`,
      'Straight from its box, or after a reset, it is on the network at once.',
      'Nothing is placed there. Plug new ones in one at a time.',
    ],
  },
  each(
    (_show, facts) => facts.on,
    (found, on, show, facts) => {
      const inside = [...facts.factory].filter(([ip]) => ip >= on.first && ip <= on.last).map(([, device]) => device);
      if (inside.length === 0) return [];
      const ips = inside.map((device) => typeOf(show, device)?.factory.ip ?? '');
      const names = inside.map(({ name }) => name);
      return [found('factory_inside', 'note', subject(on), { on: on.network.name, names, ips })];
    },
  ),
);
