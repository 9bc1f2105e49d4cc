import type { LayerSays, SideBySide } from '../layer.ts';
import { some } from '../some.ts';

type Both = {
  readonly left: string;
  readonly right: string;
  readonly controller: string;
  readonly target: string;
};
type Entered = Both & { readonly entered: string };
export type Passes = {
  same_machine: Entered;
  own_address: Entered;
  on_link: Both;
  by_router: Both & { router: string };
};
export type Stops = {
  not_placed: Both;
  on_no_network: Both & { name: string };
  not_known: Both & { name: string; method: string };
  aims_elsewhere: Entered & { ip: string; slip: string };
  two_owners: Both & { ip: string; name: string; other: string };
  not_a_host: Both & { ip: string; name: string };
  aims_away: Entered;
  loopback_elsewhere: Entered & { ip: string };
  one_way: Both;
  other_subnet: Both & { slip: string };
  not_passed_on: Both & { at: string; asked: string };
  answer_not_passed_on: Both & { at: string; asked: string };
  answer_elsewhere: Both;
  nobody_answers: Both & { ip: string };
  depends_on_lease: Both;
};

const sides =
  (between: string) =>
  (f: Both): SideBySide => ({
    left: some(f.left, 'no address'),
    right: some(f.right, 'no address'),
    between,
  });
const aimed =
  (between: string) =>
  (f: Entered): SideBySide => ({
    left: some(f.left, 'no address'),
    right: `aims at ${f.entered}`,
    between,
  });

function waiting({ left, right, controller, target }: Both): string {
  if (left === '' && right === '') return `Neither ${controller} nor ${target} has an address yet.`;
  return `${left === '' ? controller : target} has no address yet.`;
}

export const addressSays: LayerSays<Passes, Stops> = {
  passes: {
    same_machine: aimed('loopback'),
    own_address: aimed('same machine, by its own address'),
    on_link: sides('on-link both ways'),
    by_router: (f) => sides(`through ${f.router}`)(f),
  },
  stops: {
    not_placed: {
      sides: sides('not placed yet'),
      said: (f) => [
        waiting(f),
        f.right === '' ? 'There is nothing to send to.' : 'It has nothing to send from.',
        'Place the waiting addresses.',
      ],
    },
    on_no_network: {
      sides: sides('on no network'),
      said: (f) => [
        `${f.name} is on no network.`,
        'Without one it has no address that anybody could send to.',
        'Put one of its adapters on the network of the other end.',
      ],
    },
    not_known: {
      sides: sides('address not known beforehand'),
      said: (f) => [
        `${f.name} gets its address ${f.method === 'dhcp' ? 'from the server' : 'by itself'}, so nobody knows it beforehand.`,
        `What is keyed into ${f.controller} today may belong to another unit tomorrow.`,
        f.method === 'dhcp'
          ? 'Give it a fixed address, or reserve one for it at a server that it reaches.'
          : 'Give it a fixed address, or switch it on and write down what it shows: it takes the same one again.',
      ],
    },
    aims_elsewhere: {
      sides: aimed('not the target'),
      said: (f) => [
        `${f.controller} aims at ${f.entered}; ${f.target} is planned at ${some(f.ip, 'no address')}.`,
        f.slip ? `One figure is ${f.slip}.` : 'The target was moved, or the entry was never right.',
        'Aim it at the planned address.',
      ],
    },
    two_owners: {
      sides: sides('two units own it'),
      said: (f) => [
        `${f.name} and ${f.other} share ${f.ip}.`,
        'Whichever answers first takes the controls.',
        'Move one of them.',
      ],
    },
    not_a_host: {
      sides: sides('not a host address'),
      said: (f) => [
        `${f.name} has ${f.ip}, which by its mask names the network or everybody on it.`,
        'No unit can own it.',
        'Move it.',
      ],
    },
    aims_away: {
      sides: aimed('leaves the machine'),
      said: (f) => [
        f.controller === f.target
          ? `${f.entered} is another machine than its own.`
          : `${f.controller} and ${f.target} run on one machine, but ${f.entered} is another.`,
        'Messages leave the machine and do not come back.',
        'Use 127.0.0.1, or the address of the adapter that the target was told to use.',
      ],
    },
    loopback_elsewhere: {
      sides: aimed('points back at itself'),
      said: (f) => [
        `${f.controller} sends to ${f.entered}, which is always the machine it runs on.`,
        `${f.target} is on another machine.`,
        f.ip ? `Aim it at ${f.ip}.` : 'Aim it at the address of the target.',
      ],
    },
    one_way: {
      sides: sides('only one side sees the other'),
      said: () => [
        'Only one side sees the other in its subnet.',
        'The masks differ: requests arrive and answers do not, or the reverse.',
        'Give both the same mask.',
      ],
    },
    other_subnet: {
      sides: sides('different subnets'),
      said: (f) => [
        `${some(f.left, 'The controller')} and ${some(f.right, 'the target')} are in different subnets.`,
        f.slip
          ? `One figure is ${f.slip}. Without a router nothing passes between them.`
          : 'Without a router nothing passes between them.',
        'Move one end into the network of the other.',
      ],
    },
    not_passed_on: {
      sides: sides('no router leads there'),
      said: (f) => [
        `What ${f.controller} sends is lost at ${f.at}${f.asked ? `, which asks for ${f.asked}` : ''}.`,
        'The subnets differ, and the gateway does not lead from one to the other.',
        'Enter the router of this network as the gateway, or move one end into the network of the other.',
      ],
    },
    answer_not_passed_on: {
      sides: sides('no router leads back'),
      said: (f) => [
        `What ${f.target} answers is lost at ${f.at}${f.asked ? `, which asks for ${f.asked}` : ''}.`,
        'Requests arrive, but the gateway of the target does not lead back.',
        'Enter the router of its network as the gateway of the target.',
      ],
    },
    answer_elsewhere: {
      sides: sides('answers go elsewhere'),
      said: (f) => [
        `What ${f.target} answers goes to another machine than ${f.controller}.`,
        'Somebody else has the address that the answer is sent to.',
        'Give each machine an address of its own.',
      ],
    },
    nobody_answers: {
      sides: sides('nobody answers'),
      said: (f) => [
        `Nobody answers at ${f.ip}.`,
        'The adapter that has this address is not in this segment.',
        'Plug that adapter in here, or give the address to the adapter that is.',
      ],
    },
    depends_on_lease: {
      sides: sides('depends on the address it is given'),
      said: (f) => [
        `Whether ${f.controller} reaches ${f.target} depends on the address that a server hands out.`,
        'Part of the range is in a subnet of the other, part is not.',
        'Give it a fixed address.',
      ],
    },
  },
};
