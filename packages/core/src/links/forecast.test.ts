import { describe, expect, test } from 'vitest';
import { addressingFacts } from '../addressing/index.ts';
import {
  applyChange,
  contentOf,
  nothingSeen,
  type Content,
  type DeviceType,
  type MeasuredSounding,
  type Show,
} from '../show/index.ts';
import { address, adapter, device, link, network, service, showOf, soundRows } from '../show/sample-show.test-data.ts';
import { analyse } from '../analyse.ts';
import { basisOf } from './basis.ts';
import { depthOf } from './depth.ts';
import { forecast, linkFacts, type Sounding } from './forecast.ts';
import { planAddLink } from './plan-links.ts';
import { layerWords } from './side-words.ts';
import { stopWords } from './stop-words.ts';

const soundingOf = (show: Show, id: string): Sounding => {
  const row = show.links[id];
  if (!row) throw new Error(`no link ${id}`);
  return forecast(show, linkFacts(show, addressingFacts(show)), row);
};
type Rows = Parameters<typeof showOf>[0];
const bent = (patch: Partial<Rows>) => showOf({ ...soundRows, ...patch });
const camera = (patch: Partial<Content<'links'>>) => ({
  links: [link('camera', { serviceKey: 'web', port: 80, replyPort: null, account: 'ops', secretId: 's1', ...patch })],
});
const desk = (patch: Partial<Content<'links'>>) => ({ links: [link('desk', patch)] });
const deskService = (patch: Partial<Content<'services'>>) => ({ services: [service('desk', patch)] });

describe('forecast', () => {
  test('a sound plan reaches bottom on both links', () => {
    const show = showOf(soundRows);
    expect(Object.keys(show.links).map((id) => soundingOf(show, id).depth)).toEqual([8, 8]);
  });

  const faults: [string, string, Rows, string][] = [
    [
      'cable',
      'target_unplugged',
      { cables: soundRows.cables.filter(({ fromDevice }) => fromDevice !== 'desk') },
      'to-desk',
    ],
    ['cable', 'both_unplugged', { cables: [] }, 'to-desk'],
    [
      'segment',
      'apart',
      {
        devices: [...soundRows.devices, device('hub-2', 'switch')],
        cables: soundRows.cables.map((row) => (row.fromDevice === 'desk' ? { ...row, toDevice: 'hub-2' } : row)),
      },
      'to-desk',
    ],
    [
      'address',
      'not_placed',
      { addresses: [soundRows.addresses[0], address('desk', null)] as Content<'addresses'>[] },
      'to-desk',
    ],
    [
      'address',
      'other_subnet',
      { addresses: [soundRows.addresses[0], address('desk', '10.2.0.60')] as Content<'addresses'>[] },
      'to-desk',
    ],
    [
      'address',
      'one_way',
      { addresses: [address('host', '10.1.0.2', { prefix: 30 }), address('desk', '10.1.0.60')] },
      'to-desk',
    ],
    [
      'address',
      'two_owners',
      { addresses: [address('host', '10.1.0.2'), address('desk', '10.1.0.60'), address('camera', '10.1.0.60')] },
      'to-desk',
    ],
    ['address', 'not_a_host', { addresses: [address('host', '10.1.0.2'), address('desk', '10.1.0.255')] }, 'to-desk'],
    ['address', 'aims_elsewhere', desk({ host: '10.1.0.66' }), 'to-desk'],
    ['port', 'interchanged', desk({ port: 8001, replyPort: 8000 }), 'to-desk'],
    ['port', 'slip', desk({ port: 800 }), 'to-desk'],
    ['port', 'still_default', deskService({ receivePort: 9000 }), 'to-desk'],
    ['port', 'other_port', desk({ port: 1234 }), 'to-desk'],
    ['port', 'switched_off', deskService({ enabled: false }), 'to-desk'],
    ['access', 'missing', camera({ account: null, secretId: null }), 'to-camera'],
    ['access', 'password_differs', camera({ secretId: 's2' }), 'to-camera'],
    ['access', 'account_differs', camera({ account: 'admin' }), 'to-camera'],
    ['message', 'unknown_command', desk({ command: 'gone' }), 'to-desk'],
    ['message', 'argument_count', desk({ args: [] }), 'to-desk'],
    ['message', 'argument_type', desk({ args: ['three'] }), 'to-desk'],
    ['message', 'argument_range', desk({ args: [100] }), 'to-desk'],
    ['reply', 'no_way_back', deskService({ sendTo: null }), 'to-desk'],
    ['reply', 'replies_elsewhere', deskService({ sendTo: '10.1.0.3' }), 'to-desk'],
    ['reply', 'other_reply_port', desk({ replyPort: 9999 }), 'to-desk'],
  ];

  test('a reply port with one figure wrong is told as that', () => {
    const slipOf = (replyPort: number) => {
      const show = showOf({ ...soundRows, ...desk({ replyPort }) });
      const { layers } = soundingOf(show, 'to-desk');
      return layers.find(({ state }) => state === 'fail')?.facts['slip'];
    };
    expect([slipOf(801), slipOf(8010), slipOf(8002), slipOf(9999)]).toEqual(['dropped', 'transposed', 'changed', '']);
  });

  test.each(faults)(
    '%s: %s stops there with words, and its fix brings the link to bottom',
    (layer, code, patch, id) => {
      const show = bent(patch);
      const sounding = soundingOf(show, id);
      expect([sounding.stopsAt?.layer, sounding.stopsAt?.code]).toEqual([layer, code]);
      if (!sounding.stopsAt) throw new Error('passes');
      const words = stopWords(sounding.stopsAt);
      expect(Object.values<string>({ ...words }).every((text) => text.length > 0 && !/undefined|null/.test(text))).toBe(
        true,
      );
      let healed = show;
      for (let step = 0; step < 4 && soundingOf(healed, id).stopsAt; step += 1) {
        const change = soundingOf(healed, id).stopsAt?.fixes[0]?.change;
        if (!change) throw new Error(`no fix at ${soundingOf(healed, id).stopsAt?.layer}`);
        const applied = applyChange(healed, change);
        if (!applied.ok) throw new Error('the fix does not apply');
        healed = applied.show;
      }
      expect(soundingOf(healed, id).depth).toBe(8);
    },
  );

  test('what stands below the failing layer waits', () => {
    const { layers } = soundingOf(bent(desk({ port: 8001 })), 'to-desk');
    expect(layers.map(({ state }) => state)).toEqual([
      'pass',
      'pass',
      'pass',
      'fail',
      'waits',
      'waits',
      'waits',
      'waits',
    ]);
  });

  test.each([
    [
      'old firmware',
      { devices: soundRows.devices.map((row) => (row.id === 'camera' ? { ...row, firmware: '1.3.9' } : row)) },
      'version_below',
    ],
    [
      'unknown firmware',
      { devices: soundRows.devices.map((row) => (row.id === 'camera' ? { ...row, firmware: null } : row)) },
      'version_unknown',
    ],
    [
      'a pre-release',
      { devices: soundRows.devices.map((row) => (row.id === 'camera' ? { ...row, firmware: '1.4-beta' } : row)) },
      'version_unclear',
    ],
  ])('%s passes with a warning', (_what, patch, code) => {
    const { depth, risks } = soundingOf(bent(patch), 'to-camera');
    expect([depth, risks.map((risk) => risk.code)]).toEqual([8, [code]]);
  });

  test('of two services on one port the first of the type has it, and the other stops', () => {
    const { types } = showOf(soundRows);
    const desk = types['desk'] as DeviceType;
    const [osc] = desk.services;
    if (!osc) throw new Error('no service');
    const withTwin = (services: DeviceType['services']) =>
      bent({
        types: [...Object.values(types).filter(({ id }) => id !== 'desk'), { ...desk, services }].map(contentOf),
        services: [service('desk'), service('desk', { id: 'twin', key: 'twin', receivePort: 8000 })],
      });
    const twin = { ...osc, key: 'twin', label: 'Twin' };
    expect(soundingOf(withTwin([twin, osc]), 'to-desk').stopsAt).toMatchObject({
      code: 'two_listeners',
      facts: { other: 'Twin' },
    });
    const first = soundingOf(withTwin([osc, twin]), 'to-desk');
    expect([first.depth, first.risks.map(({ code }) => code)]).toEqual([8, ['starts_first']]);
  });
});

test('a new link is filled in from both ends, and a target that knew nobody is told where replies go', () => {
  const show = bent({ links: [], services: [service('desk', { receivePort: 9100, sendTo: null })] });
  const change = planAddLink(show, {
    id: 'new',
    controllerId: 'host',
    targetId: 'desk',
    serviceKey: 'osc',
    slot: null,
  });
  const applied = change && applyChange(show, change);
  expect(applied?.ok && soundingOf(applied.show, 'new').depth).toBe(8);
});

test('every layer has words for both ends in every state', () => {
  for (const show of [showOf(soundRows), bent({ addresses: [], cables: [] })])
    for (const result of soundingOf(show, 'to-desk').layers) {
      const words = Object.values<string>({ ...layerWords(result) });
      expect(words.every((text) => text !== '' && !/undefined/.test(text))).toBe(true);
    }
});

test('a measurement counts until something that it depends on changes', () => {
  const layers = soundingOf(showOf(soundRows), 'to-desk').layers.map(({ layer }) => ({
    layer,
    state: 'pass' as const,
    code: 'x',
    facts: {},
  }));
  const before = showOf(soundRows);
  const row = before.links['to-desk'];
  if (!row) throw new Error('no link');
  const basis = basisOf(before, linkFacts(before, addressingFacts(before)), row);
  const measured: MeasuredSounding = { linkId: 'to-desk', source: 'bench', at: 1, rev: 1, basis, layers, rttMs: 3 };
  const seen = { ...nothingSeen, soundings: { 'to-desk': measured } };
  const now = (show: Show) => analyse(show, seen, 0).depths.get('to-desk');
  expect(now(before)).toMatchObject({ measured: true, stale: false, depth: 8, rttMs: 3 });
  const uplink = { devices: [...soundRows.devices, device('hub-2', 'switch')] };
  const after: readonly (readonly [string, Partial<Rows>])[] = [
    ['its cable is gone', { cables: soundRows.cables.filter(({ fromDevice }) => fromDevice !== 'desk') }],
    [
      'its cable leads elsewhere',
      {
        ...uplink,
        cables: soundRows.cables.map((one) => (one.fromDevice === 'desk' ? { ...one, toDevice: 'hub-2' } : one)),
      },
    ],
    ['its address is gone', { addresses: soundRows.addresses.filter(({ id }) => !id.includes('desk')) }],
    [
      'somebody else has its address',
      {
        addresses: [...soundRows.addresses.filter(({ id }) => !id.includes('camera')), address('camera', '10.1.0.60')],
      },
    ],
    ['its service is gone', { services: soundRows.services.filter(({ deviceId }) => deviceId !== 'desk') }],
    ['its service was changed', deskService({ sendTo: '10.1.0.9' })],
    ['the link was changed', desk({ args: [4] })],
  ];
  for (const [what, patch] of after)
    expect([what, now(bent(patch))]).toMatchObject([what, { measured: false, stale: true, rttMs: null }]);
  // a new revision that changes nothing for the link, and another name, leave it as it is
  const renamed = bent({
    devices: soundRows.devices.map((one) => (one.id === 'desk' ? { ...one, name: 'Main desk', place: 'booth' } : one)),
  });
  for (const show of [showOf(soundRows, 2), renamed]) expect(now(show)).toMatchObject({ measured: true, stale: false });
});

test('what no packet tells stands as the plan forecasts it', () => {
  const show = bent(desk({ args: [100] }));
  const row = show.links['to-desk'];
  const sounding = soundingOf(show, 'to-desk');
  if (!row) throw new Error('no link');
  const states = ['pass', 'pass', 'pass', 'unseen', 'unseen', 'unseen', 'unseen', 'fail'] as const;
  const layers = sounding.layers.map(({ layer }, at) => ({
    layer,
    state: states[at] ?? ('waits' as const),
    code: 'x',
    facts: {},
  }));
  const measured: MeasuredSounding = {
    linkId: row.id,
    source: 'bench',
    at: 1,
    rev: 1,
    basis: 'b',
    layers,
    rttMs: null,
  };
  expect(depthOf(sounding, measured, () => 'b')).toMatchObject({
    measured: true,
    proven: false,
    stopsAt: 'message',
    depth: 6,
  });
  expect(depthOf(soundingOf(showOf(soundRows), 'to-desk'), measured, () => 'b')).toMatchObject({
    stopsAt: 'reply',
    depth: 7,
  });
});

test('several adapters: the pair on one network is compared', () => {
  const show = bent({
    networks: [network(), network({ id: 'led', network: '10.3.0.0' })],
    interfaces: [...soundRows.interfaces, { ...adapter('host'), id: 'host-2', adapter: 'second' }],
    addresses: [
      { ...address('host', '10.3.0.2'), id: 'h2', interfaceId: 'host-2', networkId: 'led' },
      ...soundRows.addresses,
    ],
  });
  expect(soundingOf(show, 'to-desk').depth).toBe(8);
});
