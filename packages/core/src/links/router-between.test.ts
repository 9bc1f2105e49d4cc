import fc from 'fast-check';
import { expect, test } from 'vitest';
import { addressingFacts } from '../addressing/index.ts';
import type { Content } from '../show/index.ts';
import {
  adapter,
  address,
  cable,
  device,
  link,
  network,
  service,
  showOf,
  types,
  typeWith,
} from '../show/sample-show.test-data.ts';
import { forecast, linkFacts } from './forecast.ts';
import { layerWords } from './side-words.ts';

const router = typeWith('router', {
  name: 'Router',
  kind: 'router',
  factory: { mode: 'static', ip: '10.9.0.1', prefix: 24 },
  forwards: true,
});
const hub = typeWith('managed', {
  name: 'Hub',
  kind: 'switch',
  factory: { mode: 'none', ip: null, prefix: null },
  adapters: [],
  sockets: ['p-1', 'p-2', 'p-3'].map((key) => ({ key, label: key, adapter: null })),
  forwards: true,
  managed: true,
});

interface Rig {
  /** Addresses of the router in the controller's and in the target's network. */
  readonly legs: readonly [boolean, boolean];
  readonly gateways: readonly [boolean, boolean];
  readonly vlans: readonly [number | null, number | null];
  readonly plugged: boolean;
  /** The target aims its answers at a gateway of its own that is no router. */
  readonly stray: boolean;
}

/** A host on 10.1.0.0/24 that drives a desk on 10.2.0.0/24; both and a router hang on one managed switch. */
function soundingOf({ legs, gateways, vlans, plugged, stray }: Rig) {
  const leg = (at: 0 | 1): Content<'addresses'>[] =>
    legs[at] ? [address('router', `10.${at + 1}.0.1`, { id: `leg-${at}`, networkId: `net-${at}` })] : [];
  const show = showOf({
    types: [...types, router, hub],
    networks: ([0, 1] as const).map((at) =>
      network({
        id: `net-${at}`,
        name: `Net ${at}`,
        network: `10.${at + 1}.0.0`,
        vlan: vlans[at],
        gateway: gateways[at] ? `10.${at + 1}.0.1` : null,
      }),
    ),
    devices: [device('host', 'host'), device('desk', 'desk'), device('router', 'router'), device('hub', 'managed')],
    interfaces: [adapter('host'), adapter('desk'), adapter('router')],
    addresses: [
      address('host', '10.1.0.2', { networkId: 'net-0' }),
      address('desk', '10.2.0.60', { networkId: 'net-1', gateway: stray ? '10.2.0.99' : null }),
      ...leg(0),
      ...leg(1),
    ],
    cables: [cable('host', 'p-1'), cable('desk', 'p-2'), ...(plugged ? [cable('router', 'p-3')] : [])],
    services: [service('desk', { sendTo: '10.1.0.2' })],
    links: [link('desk')],
  });
  const row = show.links['to-desk'];
  if (!row) throw new Error('no link');
  return forecast(show, linkFacts(show, addressingFacts(show)), row);
}

const whole: Rig = { legs: [true, true], gateways: [true, true], vlans: [20, 30], plugged: true, stray: false };

test.each([
  ['through tagged VLANs', whole.vlans, 'routed'],
  ['on one segment without VLANs', [null, null] as const, 'same_segment'],
])('a router carries a link from one subnet to another %s', (_, vlans, segment) => {
  const { layers, depth } = soundingOf({ ...whole, vlans });
  expect([layers[1]?.code, layers[2]?.code, depth]).toEqual([segment, 'by_router', 8]);
  const words = layers.map((layer) => layerWords(layer).between);
  expect(words[2]).toBe('through router');
  if (segment === 'routed') expect(words[1]).toBe('through router');
});

test('without any one part of the way it does not get across', () => {
  const flag = fc.boolean();
  const rig: fc.Arbitrary<Rig> = fc.record({
    legs: fc.tuple(flag, flag),
    gateways: fc.tuple(flag, flag),
    vlans: fc.constantFrom([20, 30] as const, [null, null] as const),
    plugged: flag,
    stray: flag,
  });
  fc.assert(
    fc.property(rig, (one) => {
      const isWhole = [...one.legs, ...one.gateways, one.plugged, !one.stray].every(Boolean);
      const { stopsAt } = soundingOf(one);
      // between VLANs nobody hears anybody, unless a router leads there and only the answer is lost
      const arrives = one.legs.every(Boolean) && one.gateways[0] && one.plugged;
      const wanted = isWhole ? undefined : one.vlans[0] === null || arrives ? 'address' : 'segment';
      expect([one, stopsAt?.layer]).toEqual([one, wanted]);
    }),
    { numRuns: 200, examples: [[whole]] },
  );
});
