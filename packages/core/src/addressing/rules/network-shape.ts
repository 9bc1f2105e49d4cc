import { finding, fixWith } from '../../findings/index.ts';
import type { Show } from '../../show/index.ts';
import type { AddressingFacts, NetworkFacts } from '../facts.ts';
import { ipKind } from '../ip-kind.ts';
import { contains, formatIp, overlaps } from '../ipv4.ts';
import { planNetworkEdit } from '../plan-network.ts';

const about = ({ network }: NetworkFacts) => ({ on: network.name, network: `${network.network}/${network.prefix}` });
const subject = ({ network }: NetworkFacts) => ({ table: 'networks' as const, id: network.id });

/** A gateway that no member can reach (C10). */
export const gatewayOutside = (_show: Show, facts: AddressingFacts) =>
  facts.networks
    .filter(
      (on) =>
        on.gateway !== null && (!contains(on.subnet, on.gateway) || on.gateway < on.first || on.gateway > on.last),
    )
    .map((on) =>
      finding(
        'addressing',
        'gateway_outside',
        'risky',
        [subject(on)],
        { ...about(on), ip: formatIp(on.gateway ?? 0) },
        [fixWith('Leave the gateway empty', planNetworkEdit(on.network, { gateway: null }))],
      ),
    );

/** Two networks that share addresses: a computer on both cannot tell where to send. Sorted, so neighbours suffice. */
export const networksOverlap = (_show: Show, facts: AddressingFacts) =>
  facts.networks.flatMap((on, at) =>
    facts.networks
      .slice(at + 1)
      .filter((other) => overlaps(on.subnet, other.subnet))
      .map((other) =>
        finding('addressing', 'networks_overlap', 'risky', [subject(on), subject(other)], {
          ...about(on),
          other: `${other.network.name} ${other.network.network}/${other.network.prefix}`,
        }),
      ),
  );

/** A range that belongs to somebody on the internet (C7): works while isolated, misleads as soon as a router is near. */
export const publicRange = (_show: Show, facts: AddressingFacts) =>
  facts.networks
    .filter((on) => ipKind(on.subnet.network) === 'public')
    .map((on) => finding('addressing', 'public_range', 'note', [subject(on)], about(on)));

/** Self-assigned addresses have a /16 of their own (RFC 3927); another mask splits units that could talk (need 2.6). */
export const linkLocalMask = (_show: Show, facts: AddressingFacts) =>
  facts.networks
    .filter((on) => ipKind(on.subnet.network) === 'link_local' && on.subnet.prefix !== 16)
    .map((on) => {
      const change = planNetworkEdit(on.network, { network: '169.254.0.0', prefix: 16 });
      return finding('addressing', 'link_local_mask', 'risky', [subject(on)], about(on), [
        fixWith('Use 255.255.0.0', change),
      ]);
    });

/** A block that reaches over the edge of its network. */
export const blockOutside = (_show: Show, facts: AddressingFacts) =>
  facts.networks.flatMap((on) =>
    on.blocks
      .filter(({ from, to }) => from < on.first || to > on.last || from > to)
      .map(({ block }) =>
        finding('addressing', 'block_outside', 'note', [{ table: 'blocks', id: block.id }], {
          ...about(on),
          label: block.label,
          from: block.first,
          to: block.last,
        }),
      ),
  );
