import { counted, nameList, oneOr, type Finding, type Words } from '../findings/index.ts';
import type { DeviceType } from '../show/index.ts';
import type { EntryFault, IpEntry } from './read-ip-entry.ts';

/** What, why and what to do for each finding of this room. */
export function addressingWords({ code, facts: f, fixes }: Finding): Words {
  const move = fixes.length > 0 ? 'Move it to the place shown, or type another.' : 'Type a free address.';
  switch (code) {
    case 'duplicate_ip':
      return {
        what: `${nameList(f['names'])} share ${f['ip']}.`,
        why: 'Whichever answers first takes the controls, so a command may move the wrong unit.',
        fix: fixes.length > 0 ? 'Let one keep it and move the other.' : 'Type a free address for one of them.',
      };
    case 'ipv6_on':
      return {
        what: `${nameList(f['names'])} still ${oneOr(countOf(f['names']), 'forms', 'form')} an IPv6 address beside the planned one.`,
        why: 'Good for a first contact; afterwards it is one more way in, and programs may list the unit twice.',
        fix: 'Plan it off, and switch it off in each menu after the first sign-in.',
      };
    case 'network_address':
      return {
        what: `${f['name']} has ${f['ip']}, the name of the network ${f['network']} itself.`,
        why: 'No unit may own it: the unit stays silent.',
        fix: move,
      };
    case 'broadcast_address':
      return {
        what: `${f['name']} has ${f['ip']}, the address that means everybody on ${f['network']}.`,
        why: 'What is sent there goes to all units and none answers.',
        fix: move,
      };
    case 'outside_subnet':
      return {
        what: `${f['name']} has ${f['ip']}, outside ${f['on']} (${f['network']}).`,
        why: 'Nothing on that network can reach it, and it is not discovered.',
        fix: f['slip'] ? `Probably meant ${f['slip']}: one figure slipped.` : move,
      };
    case 'unusable_kind':
      return {
        what: `${f['name']} has ${f['ip']}, which no unit can use.`,
        why: 'The range is kept for loopback, multicast or other purposes.',
        fix: move,
      };
    case 'mask_differs':
      return {
        what: `${f['name']} has the mask ${f['mask']}, the rest of ${f['on']} has ${f['wanted']}.`,
        why: 'The two sides draw the border of the network in different places: some units answer, others seem gone.',
        fix: `Give it ${f['wanted']}.`,
      };
    case 'two_adapters':
      return {
        what: `${f['name']} is on ${f['on']} with ${f['count']} adapters.`,
        why: 'Its programs may send through either, and answers come back to the wrong one.',
        fix: 'Keep one of them there, or put the other on a network of its own.',
      };
    case 'on_gateway':
      return {
        what: `${f['name']} has ${f['ip']}, the gateway of ${f['on']}.`,
        why: 'It clashes with the router as soon as one is plugged in.',
        fix: move,
      };
    case 'in_pool':
      return {
        what: `${f['name']} has the fixed address ${f['ip']} inside the automatic pool of ${f['on']}.`,
        why: 'The server may hand the same address to another unit.',
        fix: move,
      };
    case 'on_factory':
      return {
        what: `${f['name']} has ${f['ip']}, the factory address of ${f['other']}.`,
        why: 'A unit straight from its box, or after a reset, clashes with it.',
        fix: move,
      };
    case 'not_granted':
      return {
        what: `${f['name']} has ${f['ip']}, outside what the house granted on ${f['on']}.`,
        why: 'It may belong to somebody else there.',
        fix: f['other'] ? `${move} Or ask: ${f['other']}.` : move,
      };
    case 'on_reserved':
      return {
        what: `${f['name']} has ${f['ip']}, in the range kept free for ${f['other']}.`,
        why: 'Sooner or later somebody else uses it.',
        fix: move,
      };
    case 'gateway_missing':
      return {
        what: `${f['on']} needs something outside and has no gateway.`,
        why: 'Its members reach nothing beyond the network.',
        fix: 'Type the address of the router, or say that nothing outside is needed.',
      };
    case 'gateway_idle':
      return {
        what: `${f['on']} has the gateway ${f['ip']}, and nothing outside is needed.`,
        why: 'An empty gateway keeps traffic of the show inside.',
        fix: 'Leave it empty where the menus allow, or say that it is needed.',
      };
    case 'no_grant':
      return {
        what: `${f['on']} belongs to the house and no range was granted yet.`,
        why: 'Whatever we take may be somebody’s.',
        fix: f['contact'] ? `Agree it: ${f['contact']}.` : 'Agree it with whoever runs the network.',
      };
    case 'network_tight':
    case 'block_tight':
      return {
        what: `${f['label'] ? `The block ${f['label']}` : f['on']} has room for ${f['room']}; with ${f['growth']} % to grow it needs ${f['short']} more.`,
        why: `${counted(f['units'], 'unit is', 'units are')} planned there. One more case at the last minute finds no place.`,
        fix: f['label'] ? 'Widen the block.' : 'Widen the network or ask for less growth.',
      };
    case 'pool_outside':
      return {
        what: `The automatic pool ${f['from']} to ${f['to']} reaches over the edge of ${f['network']}.`,
        why: 'Servers refuse it or hand out addresses that reach nothing.',
        fix: 'Draw it inside the network.',
      };
    case 'pool_over_block':
      return {
        what: `The block ${f['label']} and the automatic pool ${f['from']} to ${f['to']} share addresses.`,
        why: 'Placement leaves them to the server, so the block has less room than it seems.',
        fix: 'Move the pool or the block.',
      };
    case 'pool_reversed':
      return {
        what: `The pool of ${f['on']} goes from ${f['from']} to ${f['to']}: it ends before it starts.`,
        why: 'A server refuses such a range, or hands out nothing.',
        fix: 'Turn it round.',
      };
    case 'pool_unserved':
      return {
        what: `${f['on']} has a pool, and no router of the plan stands there to hand it out.`,
        why: `${nameList(f['names'])} ${oneOr(countOf(f['names']), 'asks', 'ask')} in vain, and then ${oneOr(countOf(f['names']), 'makes', 'make')} an address up.`,
        fix: 'Give a router an address on it, or fixed addresses to those who ask.',
      };
    case 'pool_small':
      return {
        what: `${counted(f['asking'], 'unit asks', 'units ask')} the server of ${f['on']}, which has ${counted(f['size'], 'address', 'addresses')}.`,
        why: 'The last ones get none.',
        fix: 'Widen the pool or give some a fixed address.',
      };
    case 'factory_inside':
      return {
        what: `${nameList(f['names'])} ${oneOr(countOf(f['names']), 'leaves', 'leave')} the factory with an address inside ${f['on']}: ${nameList(f['ips'])}.`,
        why: 'Straight from its box, or after a reset, it is on the network at once.',
        fix: 'Nothing is placed there. Plug new ones in one at a time.',
      };
    case 'second_needs_fixed':
      return {
        what: `An adapter of ${f['name']} has addresses on ${nameList(f['networks'])}, and not all are fixed.`,
        why: 'Most systems allow a second address only beside a fixed one.',
        fix: 'Give it fixed addresses on both.',
      };
    case 'no_server':
      return {
        what: `${nameList(f['names'])} ${oneOr(countOf(f['names']), 'waits', 'wait')} for an address from a server, and ${f['on']} has none.`,
        why: 'After a while a unit makes one up that nobody knows.',
        fix: 'Give fixed addresses there, or plan a pool.',
      };
    case 'found_elsewhere':
      return {
        what: `${f['name']} is planned at ${f['planned'] || 'no address'} and was found at ${f['ip']}.`,
        why: 'Whoever sends to the planned address reaches nobody, or somebody else.',
        fix: 'Set the unit to its planned address, or plan it where it is.',
      };
    case 'found_two_owners':
      return {
        what: `${f['planned']} of ${f['name']} is also used by ${nameList(f['rivals'])}.`,
        why: 'Whichever answers first takes the controls.',
        fix: 'Switch one off: its address must go silent. Then give it another.',
      };
    case 'found_as_delivered':
      return {
        what: `${f['name']} still has its factory address ${f['ip']}.`,
        why: 'It clashes with the next one straight from its box, and nobody finds it where the plan says.',
        fix: `Set it to ${f['planned'] || 'its planned address'}.`,
      };
    case 'found_self_assigned':
      return {
        what: `${f['name']} gave itself ${f['ip']}.`,
        why: 'It asked for an address and no server answered.',
        fix: `Set it to ${f['planned'] || 'a fixed address'}, or look for the server.`,
      };
    case 'found_no_address':
      return {
        what: `${f['name']} was seen, but without an address.`,
        why: 'Its cable works; its address may not be set.',
        fix: `Set it to ${f['planned'] || 'its planned address'}.`,
      };
    case 'found_mask':
      return {
        what: `${f['name']} was found with the mask /${f['mask']} instead of /${f['wanted']}.`,
        why: 'The two sides draw the border of the network in different places.',
        fix: `Set its mask to /${f['wanted']}.`,
      };
    case 'found_version':
      return {
        what: `${f['name']} runs ${f['version']}; the list says ${f['written']}.`,
        why: 'What was found counts, the list is only paper.',
        fix: 'Write the found version down.',
      };
    case 'found_mac':
      return {
        what: `${f['name']} was recognised by its ${f['by']} and has the MAC address ${f['mac']}.`,
        why: 'Written down, it is recognised wherever it turns up.',
        fix: 'Write it down.',
      };
    case 'found_missing':
      return {
        what: `${f['count']} ${f['count'] === 1 ? 'unit was' : 'units were'} not found: ${nameList(f['names'])}.`,
        why: 'Off, unplugged, in another network, or silent.',
        fix: 'Check power and cable, then look again.',
      };
    case 'found_strangers':
      return {
        what: `${f['count']} ${f['count'] === 1 ? 'host is' : 'hosts are'} on the network and not in the plan: ${nameList(f['names'])}.`,
        why: 'They may take addresses that the plan counts as free.',
        fix: 'Add them to the rig, or ask whose they are.',
      };
    case 'gateway_outside':
      return {
        what: `The gateway ${f['ip']} of ${f['on']} lies outside ${f['network']}.`,
        why: 'No unit can reach it, and some refuse the whole entry.',
        fix: 'Leave it empty unless something outside is needed, or type one inside the network.',
      };
    case 'networks_overlap':
      return {
        what: `${f['on']} ${f['network']} and ${f['other']} share addresses.`,
        why: 'A computer on both cannot tell where to send.',
        fix: 'Give one of them another range.',
      };
    case 'public_range':
      return {
        what: `${f['on']} uses ${f['network']}, a range that belongs to somebody on the internet.`,
        why: String(f['network']).startsWith('2.')
          ? 'Crews often use it for shows, but it is not private. With a router near, traffic may leave or get lost.'
          : 'It works while the network is alone. With a router near, traffic may leave or get lost.',
        fix: 'Take a range from 10.x, 172.16 to 172.31 or 192.168 if you are free to choose.',
      };
    case 'link_local_mask':
      return {
        what: `${f['on']} uses ${f['network']} out of the self-assigned range.`,
        why: 'Units that give themselves an address use 255.255.0.0 there; another mask hides some of them.',
        fix: 'Use the mask 255.255.0.0.',
      };
    case 'block_outside':
      return {
        what: `The block ${f['label']} ${f['from']} to ${f['to']} reaches over the edge of ${f['network']}.`,
        why: 'Placement finds less room than the block promises.',
        fix: 'Draw the block inside the network.',
      };
    case 'waiting':
      return {
        what: `${f['count']} ${f['count'] === 1 ? 'interface' : 'interfaces'} on ${f['on']} ${f['count'] === 1 ? 'waits' : 'wait'} for an address.`,
        why: 'Links to them cannot be sounded yet.',
        fix: 'Place them by their unit numbers.',
      };
    case 'no_room':
      return {
        what: `On ${f['on']} there is no room for ${nameList(f['names'])}.`,
        why: 'Their block, or what the blocks leave free, has fewer places than units.',
        fix: 'Open the placement in Addresses: it shows what would make room.',
      };
    case 'on_no_network':
      return {
        what: `${f['count']} ${f['count'] === 1 ? 'unit is' : 'units are'} on no network: ${nameList(f['names'])}.`,
        why: 'They get no address, and no link can reach them.',
        fix: 'Choose a network for them in Addresses.',
      };
    default:
      return { what: code, why: '', fix: '' };
  }
}

/** How a unit of this type comes out of its box. */
export const deliveredWords = ({ factory }: DeviceType): string =>
  factory.ip === null
    ? { dhcp: 'automatic', self: 'self-assigned', none: 'no address', static: 'fixed' }[factory.mode]
    : `${factory.ip} /${factory.prefix}`;

const faults: Readonly<Record<EntryFault, string>> = {
  empty: 'Type an address, such as 10.61.20.33.',
  is_ipv6: 'This is an IPv6 address. Here goes the IPv4 one; units that speak IPv6 form theirs from their MAC address.',
  too_few_parts: 'An address has four numbers; this has fewer.',
  too_many_parts: 'An address has four numbers; this has more.',
  part_out_of_range: 'Each number goes from 0 to 255.',
  empty_part: 'There is nothing between two of the points.',
  leading_zero: 'Write numbers without leading zeros: some devices read 010 as 8.',
  stray_characters: 'Only figures, points and one mask belong here.',
  bad_prefix: 'A prefix goes from /1 to /32.',
  mask_not_contiguous: 'This is no mask: its ones must stand together on the left, as in 255.255.255.0.',
};

export const entryWords = (entry: IpEntry & { ok: false }): string =>
  entry.guess ? `${faults[entry.fault]} Did you mean ${entry.guess}?` : faults[entry.fault];

/** How many names a fact lists. */
const countOf = (names: unknown): number => (Array.isArray(names) ? names.length : 0);
