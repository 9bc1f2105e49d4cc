import type { LookingCheck, LookingKey } from '../contract/index.ts';

type Facts = LookingCheck['facts'];

/** What each check looks at, what it says when it fails, and the next step. */
const words: Readonly<Record<LookingKey, readonly [looks: string, fails: (f: Facts) => string, next: string]>> = {
  power: [
    'It has power and has started',
    (f) => (f['state'] === 'starting' ? 'It is still starting.' : 'It has no power.'),
    'Switch it on, wait until it has started, and search again.',
  ],
  cable: ['Its link lamp is lit', () => 'No lamp is lit at it.', 'Plug its cable in, at both ends.'],
  own_cable: [
    'The computer’s link lamp is lit',
    () => 'No lamp is lit at the computer.',
    'Plug the computer in, or use the adapter that is plugged in.',
  ],
  segment: [
    'Both are in one segment',
    (f) =>
      f['swapped'] === undefined
        ? 'Nothing gets from one to the other, whatever their addresses say.'
        : 'They hear each other by other sockets than the addresses are for: the cables are swapped.',
    'Look at switches, VLANs and the adapter that is plugged in here.',
  ],
  unit_address: ['It has an address', () => 'It has no address.', 'Look at it locally, or at the DHCP server.'],
  as_planned: [
    'Its address is the planned one',
    (f) => `It is at ${f['ip']}, planned is ${f['planned']}.`,
    'Key the planned address in, or look for it where it is.',
  ],
  own_subnet: [
    'The computer has an address in its subnet',
    (f) => `It is at ${f['ip']}, the computer at ${f['own']}.`,
    'Correct the computer’s address and mask, or give it a second address there.',
  ],
  mask_back: [
    'It sees the computer in its own subnet',
    (f) => `By its own mask ${f['ip']} does not see ${f['own']}.`,
    'Give both the same mask.',
  ],
  one_owner: [
    'Nobody else has its address',
    (f) => `Two units answer at ${f['ip']}.`,
    'Move one of them, or switch it off.',
  ],
  version: [
    'Its version is new enough',
    (f) => `It runs ${f['firmware']}; ${f['lowest']} is asked for.`,
    'Update it over the network.',
  ],
  firewall: [
    'It lets in what is for it',
    (f) => `${f['ip']} is there but does not answer: a firewall keeps it out.`,
    'Let the program in at its firewall, in both directions.',
  ],
};

export interface LookingWords {
  readonly looks: string;
  /** What is wrong and what to do; empty where nothing is. */
  readonly fails: string;
  readonly next: string;
}

export function lookingWords({ key, state, facts }: LookingCheck): LookingWords {
  const [looks, fails, next] = words[key];
  return state === 'fail' ? { looks, fails: fails(facts), next } : { looks, fails: '', next: '' };
}
