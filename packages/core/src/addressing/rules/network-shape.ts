import { fixWith, each } from '../../findings/index.ts';
import { addressingRule } from '../addressing-rule.ts';
import type { NetworkFacts } from '../facts.ts';
import { ipKind } from '../ip-kind.ts';
import { contains, formatIp, overlaps } from '../ipv4.ts';
import { planNetworkEdit } from '../plan-network.ts';

type About = { on: string; network: string };

const about = ({ network }: NetworkFacts): About => ({
  on: network.name,
  network: `${network.network}/${network.prefix}`,
});
const subject = ({ network }: NetworkFacts) => ({ table: 'networks' as const, id: network.id });

/** A gateway that no member can reach (C10). */
export const gatewayOutside = addressingRule<{ gateway_outside: About & { ip: string } }>(
  {
    gateway_outside: (f) => [
      `The gateway ${f.ip} of ${f.on} lies outside ${f.network}.`,
      'No unit can reach it, and some refuse the whole entry.',
      'Leave it empty unless something outside is needed, or type one inside the network.',
    ],
  },
  each(
    (_show, facts) => facts.on,
    (found, on) => {
      const { gateway, subnet, first, last, network } = on;
      if (gateway === null || (contains(subnet, gateway) && gateway >= first && gateway <= last)) return [];
      return [
        found('gateway_outside', 'risky', [subject(on)], { ...about(on), ip: formatIp(gateway) }, [
          fixWith('Leave the gateway empty', planNetworkEdit(network, { gateway: null })),
        ]),
      ];
    },
  ),
);

/** Two networks that share addresses: a computer on both cannot tell where to send. */
export const networksOverlap = addressingRule<{ networks_overlap: About & { other: string } }>(
  {
    networks_overlap: (f) => [
      `${f.on} ${f.network} and ${f.other} share addresses.`,
      'A computer on both cannot tell where to send.',
      'Give one of them another range.',
    ],
  },
  each(
    (_show, facts) => facts.on,
    (found, on, _show, facts) =>
      facts.networks
        .slice(facts.networks.indexOf(on) + 1)
        .filter((other) => overlaps(on.subnet, other.subnet))
        .map((other) =>
          found('networks_overlap', 'risky', [subject(on), subject(other)], {
            ...about(on),
            other: `${other.network.name} ${other.network.network}/${other.network.prefix}`,
          }),
        ),
  ),
);

/** A range that belongs to somebody on the internet (C7): works while isolated, misleads as soon as a router is near. */
export const publicRange = addressingRule<{ public_range: About }>(
  {
    public_range: (f) => [
      `${f.on} uses ${f.network}, a range that belongs to somebody on the internet.`,
      f.network.startsWith('2.')
        ? 'Crews often use it for shows, but it is not private. With a router near, traffic may leave or get lost.'
        : 'It works while the network is alone. With a router near, traffic may leave or get lost.',
      'Take a range from 10.x, 172.16 to 172.31 or 192.168 if you are free to choose.',
    ],
  },
  each(
    (_show, facts) => facts.on,
    (found, on) =>
      ipKind(on.subnet.network) === 'public' ? [found('public_range', 'note', [subject(on)], about(on))] : [],
  ),
);

/** Self-assigned addresses have a /16 of their own (RFC 3927); another mask splits units that could talk (need 2.6). */
export const linkLocalMask = addressingRule<{ link_local_mask: About }>(
  {
    link_local_mask: (f) => [
      `${f.on} uses ${f.network} out of the self-assigned range.`,
      'Units that give themselves an address use 255.255.0.0 there; another mask hides some of them.',
      'Use the mask 255.255.0.0.',
    ],
  },
  each(
    (_show, facts) => facts.on,
    (found, on) => {
      if (ipKind(on.subnet.network) !== 'link_local' || on.subnet.prefix === 16) return [];
      const change = planNetworkEdit(on.network, { network: '169.254.0.0', prefix: 16 });
      return [found('link_local_mask', 'risky', [subject(on)], about(on), [fixWith('Use 255.255.0.0', change)])];
    },
  ),
);

/** A block that reaches over the edge of its network. */
export const blockOutside = addressingRule<{
  block_outside: { network: string; label: string; from: string; to: string };
}>(
  {
    block_outside: (f) => [
      `The block ${f.label} ${f.from} to ${f.to} reaches over the edge of ${f.network}.`,
      'Placement finds less room than the block promises.',
      'Draw the block inside the network.',
    ],
  },
  each(
    (_show, facts) => facts.on,
    (found, on) =>
      on.blocks
        .filter(({ from, to }) => from < on.first || to > on.last || from > to)
        .map(({ block }) =>
          found('block_outside', 'note', [{ table: 'blocks', id: block.id }], {
            network: about(on).network,
            label: block.label,
            from: block.first,
            to: block.last,
          }),
        ),
  ),
);
