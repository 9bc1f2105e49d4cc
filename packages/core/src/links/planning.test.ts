import { expect, test } from 'vitest';
import {
  addressingFacts,
  looseInterfaces,
  planHold,
  planJoin,
  planMethod,
  planMove,
  planNetwork,
  planNetworkEdit,
  planRelease,
} from '../addressing/index.ts';
import { followMove } from '../addressing/follow-move.ts';
import { plannedSettings } from '../bringup/planned-settings.ts';
import { deviceEdits, planAddDevice, planEditDevice, planRemoveDevices } from '../rig/plan-devices.ts';
import { writeTypeFile } from '../rig/type-file.ts';
import { applyChange, filledRow, typeFaults, type Change, type Content, type Show } from '../show/index.ts';
import {
  adapter,
  address,
  device,
  link,
  network,
  programType,
  service,
  showOf,
  soundRows,
  types,
  typeWith,
} from '../show/sample-show.test-data.ts';
import {
  drivable,
  notDrivable,
  nextSlot,
  planAddLink,
  planAddLinks,
  slotsOf,
  planEditLink,
  planEditService,
  planRemoveLink,
} from './plan-links.ts';
import { slotShared } from './slot-shared.ts';
import { planMoveEverywhere, whoStores } from './who-stores.ts';

const show = showOf(soundRows);
const after = (at: Show, change: Change | undefined): Show => {
  const applied = change && applyChange(at, change);
  if (!applied?.ok) throw new Error('the change does not apply');
  return applied.show;
};
const addressOf = (at: Show, id: string) => at.addresses[id] ?? expect.fail(`no ${id}`);

test('an address is moved, held, released, and got in another way', () => {
  const desk = addressOf(show, 'desk-a');
  const rowAfter = (change: Change | undefined) => after(show, change).addresses['desk-a'];
  const moved = planMove(show, desk, 0x0a010007, true);
  expect([moved?.label, rowAfter(moved)]).toMatchObject(['Move desk to 10.1.0.7', { ip: '10.1.0.7', held: true }]);
  expect(rowAfter(planMove(show, desk, 0x0a010007))?.held).toBe(false);
  const held = planHold(show, desk, true);
  expect([held?.label, rowAfter(held)?.held]).toEqual(['Hold the address of desk', true]);
  expect(planHold(after(show, held), addressOf(after(show, held), 'desk-a'), false)?.label).toBe(
    'Release the address of desk',
  );
  const released = planRelease(after(show, held), addressOf(after(show, held), 'desk-a'));
  expect([released?.label, after(after(show, held), released).addresses['desk-a']]).toMatchObject([
    'Take the address of desk back',
    { ip: null, held: false },
  ]);
  const own = planMethod(show, desk, 'self');
  expect([own?.label, rowAfter(own)]).toMatchObject([
    'Give desk a self-assigned address',
    { method: 'self', ip: null },
  ]);
  const leased = planMethod(show, desk, 'dhcp');
  expect([leased?.label, rowAfter(leased)]).toMatchObject([
    'Give desk an address from the server',
    { method: 'dhcp', ip: '10.1.0.60' },
  ]);
  expect(planMethod(show, desk, 'static')).toBeUndefined();
  expect(planMethod(show, { ...desk, method: 'dhcp' }, 'static')?.label).toBe('Give desk a fixed address');
  const joined = planJoin(show, { id: 'new', interfaceId: 'desk-lan', networkId: 'net' });
  expect([joined.label, after(show, joined).addresses['new']]).toMatchObject([
    'Put desk on Control',
    { ip: null, networkId: 'net', interfaceId: 'desk-lan', method: 'static' },
  ]);
  expect(planJoin(show, { id: 'new', interfaceId: 'gone', networkId: 'gone' }).label).toBe(
    'Put the unit on the network',
  );
});

test('a unit brings the parts of its type as the factory leaves them, and joins the only network there is', () => {
  let next = 0;
  const newId = () => `n${(next += 1)}`;
  const type = { ...(types[1] as Content<'types'>), rev: 1 };
  const intent = { type, name: 'Board', unit: 4, place: 'Booth', mac: '02:00:00:00:00:09', firmware: null };
  const added = planAddDevice(show, intent, newId);
  const at = after(show, added);
  expect(added.label).toBe('Add Board');
  expect(at.devices['n1']).toMatchObject({ typeId: 'desk', name: 'Board', unit: 4, place: 'Booth', note: '' });
  expect(at.interfaces['n2']).toMatchObject({ deviceId: 'n1', adapter: 'lan', mac: '02:00:00:00:00:09' });
  expect(at.services['n3']).toMatchObject({
    deviceId: 'n1',
    key: 'osc',
    enabled: true,
    receivePort: 8000,
    sendPort: 8001,
  });
  expect(at.addresses['n4']).toMatchObject({ interfaceId: 'n2', networkId: 'net', ip: null });
  const none = showOf({ ...soundRows, networks: [], addresses: [] });
  const two = showOf({ ...soundRows, networks: [network(), network({ id: 'b' })] });
  for (const other of [none, two])
    expect(planAddDevice(other, intent, newId).edits.map(({ table }) => table)).toEqual([
      'devices',
      'interfaces',
      'services',
    ]);
  const twoSided = { ...type, adapters: [...type.adapters, { key: 'aux', label: 'AUX' }] };
  const macs = deviceEdits({ ...intent, type: twoSided }, newId).flatMap(({ table, after: row }) =>
    table === 'interfaces' ? [(row as Content<'interfaces'>).mac] : [],
  );
  expect(macs).toEqual(['02:00:00:00:00:09', null]);
  const board = at.devices['n1'] ?? expect.fail('no board');
  const edited = planEditDevice(at, board, { place: 'Roof', mac: null });
  expect([edited?.label, after(at, edited).devices['n1']?.place, after(at, edited).interfaces['n2']?.mac]).toEqual([
    'Change Board',
    'Roof',
    null,
  ]);
  expect(planEditDevice(at, board, { place: 'Roof' })?.edits).toHaveLength(1);
  const removed = planRemoveDevices(at, ['n1']);
  expect([removed.label, Object.keys(after(at, removed).addresses).includes('n4')]).toEqual(['Remove Board', false]);
  expect(planRemoveDevices(at, ['n1', 'desk']).label).toBe('Remove 2 units');
});

test('a controller is offered what speaks its protocols, and a new link is numbered and told of', () => {
  const host = show.devices['host'] ?? expect.fail('no host');
  expect(drivable(show, host).map(({ target, label }) => [target.id, label])).toEqual([
    ['desk', 'OSC · UDP 8000'],
    ['camera', 'Web · TCP 80'],
  ]);
  expect(drivable(show, show.devices['desk'] ?? host)).toEqual([]);
  const others = notDrivable(show, show.devices['desk'] ?? host);
  expect(others.map(({ target, speaks }) => [target.id, speaks])).toEqual([
    ['host', []],
    ['camera', ['http']],
  ]);
  expect(notDrivable(show, host)).toEqual([]);
  const numbered = showOf({ ...soundRows, links: [1, 2, 4].map((slot) => link('desk', { id: `l${slot}`, slot })) });
  expect([nextSlot(numbered, 'host'), nextSlot(numbered, 'desk')]).toEqual([3, 1]);
  const fresh = showOf({ ...soundRows, links: [], services: [service('desk', { sendTo: null })] });
  const intent = { id: 'new', controllerId: 'host', targetId: 'desk', serviceKey: 'osc', slot: 5 };
  const added = planAddLink(fresh, intent);
  const at = after(fresh, added);
  expect(added?.label).toBe('Let host control desk');
  expect(at.links['new']).toMatchObject({ slot: 5, port: 8000, replyPort: 8001, host: null, command: 'go', args: [3] });
  expect(at.services['desk-s']?.sendTo).toBe('10.1.0.2');
  expect(planAddLink(fresh, { ...intent, serviceKey: 'gone' })).toBeUndefined();
  // who knows already where to reply is not told anew
  const known = showOf({ ...soundRows, links: [], services: [service('desk', { sendTo: '10.1.0.99' })] });
  expect(after(known, planAddLink(known, intent)).services['desk-s']?.sendTo).toBe('10.1.0.99');
  const row = show.links['to-desk'] ?? expect.fail('no link');
  const its = show.services['desk-s'] ?? expect.fail('no service');
  expect([
    planEditLink(show, row, { port: 9 })?.label,
    planEditService(show, its, { receivePort: 9 })?.label,
    planRemoveLink(show, row).label,
  ]).toEqual(['Change the link to desk', 'Change OSC of desk', 'Remove the link to desk']);
});

test('a controller with groups counts the slots of each anew; two in one slot of one group are told', () => {
  const at = (slotGroup: number | null) =>
    showOf({ ...soundRows, links: [link('desk', { slot: 3, slotGroup: 1 }), link('camera', { slot: 3, slotGroup })] });
  expect(slotShared.find(at(2))).toEqual([]);
  expect(slotShared.find(at(null))).toEqual([]);
  const [finding] = slotShared.find(at(1));
  expect(finding?.facts).toMatchObject({ controller: 'host', slot: 3, group: '1', names: ['camera', 'desk'] });
  expect(after(at(1), finding?.fixes[0]?.change).links['to-desk']).toMatchObject({ slot: 1, slotGroup: 1 });
  expect(
    plannedSettings(at(2), addressingFacts(at(2)), at(2).devices['host'] ?? expect.fail()).map(({ value }) => value),
  ).toEqual(
    expect.arrayContaining([
      expect.stringMatching(/^group 1, number 3: /),
      expect.stringMatching(/^group 2, number 3: /),
    ]),
  );
});

test('everybody who holds an address is named, and follows it', () => {
  const at = showOf({
    ...soundRows,
    networks: [network({ gateway: '10.1.0.60' })],
    links: [
      ...soundRows.links,
      link('desk', { id: 'typed', host: '10.1.0.60', slot: 7 }),
      link('camera', { id: 'stray', serviceKey: 'web', host: '10.1.0.60' }),
    ],
    services: [...soundRows.services.map((row) => (row.key === 'web' ? { ...row, sendTo: '10.1.0.60' } : row))],
  });
  const desk = addressOf(at, 'desk-a');
  const said = whoStores(at, desk).map(({ kind, device: who, where }) => `${kind} ${who?.id ?? '-'} ${where}`);
  expect(said).toEqual([
    'controller host ',
    'controller_typed host slot 7',
    'controller_typed host ',
    'reply camera Web',
    'gateway - Control',
  ]);
  const moved = after(at, planMoveEverywhere(at, desk, 0x0a010009));
  expect([
    moved.addresses['desk-a']?.ip,
    moved.links['typed']?.host,
    moved.links['stray']?.host,
    moved.links['to-desk']?.host,
    moved.services['camera-s']?.sendTo,
    moved.networks['net']?.gateway,
  ]).toEqual(['10.1.0.9', '10.1.0.9', '10.1.0.9', null, '10.1.0.9', '10.1.0.9']);
  const reserved = showOf({ ...soundRows, links: [], addresses: [address('desk', '10.1.0.60', { method: 'dhcp' })] });
  expect(whoStores(reserved, addressOf(reserved, 'desk-a')).map(({ kind, where }) => [kind, where])).toEqual([
    ['reservation', 'Control'],
  ]);
});

test('what is keyed into a unit is said as a menu asks for it', () => {
  const strict = types.map((type) =>
    type.id === 'host'
      ? { ...type, needsGateway: true, adapters: [...type.adapters, { key: 'aux', label: 'AUX' }] }
      : type.id === 'camera'
        ? { ...type, variants: [{ key: 'wide', label: 'Wide', sockets: [] }] }
        : type,
  );
  const at = showOf({
    ...soundRows,
    types: [...strict, programType],
    networks: [network(), network({ id: 'net-2', name: 'Second' })],
    devices: [
      ...soundRows.devices.map((row) =>
        row.id === 'camera'
          ? { ...row, variant: 'wide', ipv6: 'off' as const }
          : { ...row, ipv6: 'as_delivered' as const },
      ),
      device('play', 'program', { runsOn: 'host', firmware: null }),
    ],
    interfaces: [...soundRows.interfaces, { ...adapter('host'), id: 'host-aux', adapter: 'aux' }],
    addresses: [
      ...soundRows.addresses,
      { ...address('host', null, { method: 'dhcp', networkId: 'net-2' }), id: 'aux-a', interfaceId: 'host-aux' },
    ],
    services: [
      service('desk', { enabled: false }),
      service('camera', {
        key: 'web',
        receivePort: 81,
        sendPort: null,
        sendTo: null,
        login: 'basic',
        account: 'ops',
        secretId: 's1',
      }),
    ],
    links: [
      link('desk', { id: 'second', slot: 2, host: '10.1.0.99', label: 'main desk' }),
      link('camera', {
        id: 'first',
        slot: 1,
        serviceKey: 'web',
        port: 81,
        replyPort: null,
        account: 'ops',
        secretId: 's1',
      }),
    ],
  });
  const keyed = (id: string) =>
    plannedSettings(at, addressingFacts(at), at.devices[id] ?? expect.fail('no unit')).map(
      ({ of, label, value }) => `${of} · ${label} · ${value}`,
    );
  expect(keyed('host')).toEqual([
    expect.stringMatching(/^address · network on Control · 10\.1\.0\.2, mask 255\.255\.255\.0, gateway 10\.1\.0\.\d+$/),
    'address · AUX on Second · by DHCP',
    'entry · camera, Web · number 1: 10.1.0.31:81, account ops',
    'entry · camera: password · s1',
    'entry · main desk, OSC · number 2: 10.1.0.99:8000, hears replies on 8001',
  ]);
  expect(keyed('camera')).toEqual([
    'mode · variant or mode · Wide',
    'address · network on Control · 10.1.0.31, mask 255.255.255.0, gateway none',
    'address · IPv6 · off',
    'service · Web · on, hears 81',
    'login · Web: login · basic, account ops',
    'login · Web: password · s1',
  ]);
  expect([keyed('desk').at(-1), keyed('play')]).toEqual(['service · OSC · off', ['install · on host · any version']]);
});

test('parts of a type that lead nowhere are named by their place', () => {
  const sound = typeWith('odd', {
    name: 'Odd',
    kind: 'camera',
    factory: { mode: 'none', ip: null, prefix: null },
    variants: [{ key: 'v', label: 'V', sockets: [{ key: 'port-1', role: 'any', adapter: null }] }],
    features: [{ key: 'f', label: 'F', bundle: 'b' }],
    bundles: [{ key: 'b', label: 'B', per: 'unit' }],
    accessories: [{ key: 'a', label: 'A', need: 'f' }],
    services: (types[1] as Content<'types'>).services,
  });
  const faults = (patch: object) =>
    typeFaults({ ...sound, ...patch }).map(({ path, message }) => `${path.join('.')}: ${message}`);
  const [osc] = sound.services;
  const command = osc?.commands[0];
  expect(faults({})).toEqual([]);
  expect(faults({ sockets: [{ key: 'port-1', label: 'P', adapter: 'wan' }] })).toEqual([
    'sockets.0.adapter: There is no adapter “wan”',
  ]);
  expect(
    faults({ variants: [{ key: 'v', label: 'V', sockets: [{ key: 'p', role: 'any', adapter: 'wan' }] }] }),
  ).toEqual([
    'variants.0.sockets.0.key: There is no socket “p”',
    'variants.0.sockets.0.adapter: There is no adapter “wan”',
  ]);
  expect(faults({ bundles: [] })).toEqual(['features.0.bundle: There is no bundle “b”']);
  expect(faults({ features: [] })).toEqual(['accessories.0.need: There is no feature “f”']);
  expect(faults({ adapters: [...sound.adapters, ...sound.adapters] })).toEqual([
    'adapters.1.key: “lan” stands here twice',
  ]);
  expect(faults({ factory: { ...sound.factory, ip: '10.0.0.1' } })).toEqual([
    'factory.ip: A factory address and its mask belong together',
  ]);
  expect(faults({ factory: { ...sound.factory, mode: 'static' } })).toEqual([
    'factory.ip: A fixed factory address is missing',
  ]);
  expect(faults({ form: 'program' })).toEqual(['form: A program has no adapters or sockets of its own']);
  const reply = { address: 'done', args: [] };
  expect(faults({ services: [{ ...osc, commands: [{ ...command, address: 'go', reply }] }] })).toEqual([
    'services.0.commands.0.address: OSC addresses and paths start with a stroke',
    'services.0.commands.0.reply: OSC addresses and paths start with a stroke',
  ]);
  expect(
    faults({ services: [{ ...osc, protocol: 'text', commands: [{ ...command, address: 'go', reply }] }] }),
  ).toEqual([]);
});

test('a network is made from any address in it, with its blocks, and what is on none yet joins', () => {
  const block = { id: 'b', networkId: 'fresh', label: 'B', kinds: [], first: '10.5.5.10', last: '10.5.5.19' };
  const change = planNetwork({
    id: 'fresh',
    name: 'Fresh',
    ip: 0x0a050577,
    prefix: 24,
    vlan: 7,
    purpose: 'spare',
    join: [{ id: 'j', interfaceId: 'camera-lan' }],
    blocks: [filledRow('blocks', block)],
  });
  const at = after(show, change);
  expect(change.label).toBe('Add network Fresh 10.5.5.0/24');
  expect(at.networks['fresh']).toMatchObject({
    network: '10.5.5.0',
    prefix: 24,
    vlan: 7,
    purpose: 'spare',
    gateway: null,
  });
  expect(at.addresses['j']).toMatchObject({ interfaceId: 'camera-lan', networkId: 'fresh', ip: null, held: false });
  expect(at.blocks['b']?.networkId).toBe('fresh');
  const row = at.networks['fresh'] ?? expect.fail('no network');
  expect([planNetworkEdit(row, { vlan: 8 })?.label, planNetworkEdit(row, { vlan: 7 })]).toEqual([
    'Change network Fresh',
    undefined,
  ]);
  const loose = showOf({
    ...soundRows,
    types: types.map((type) =>
      type.id === 'camera' ? { ...type, adapters: [{ key: 'first', label: 'F' }, ...type.adapters] } : type,
    ),
    interfaces: [...soundRows.interfaces, { ...adapter('camera'), id: 'camera-first', adapter: 'first' }],
    addresses: soundRows.addresses.filter(({ interfaceId }) => interfaceId === 'host-lan'),
  });
  expect(looseInterfaces(loose).map(({ id }) => id)).toEqual(['desk-lan', 'camera-first']);
});

test('a library is written in the order of its models, without what belongs to the show', () => {
  const file = writeTypeFile(showOf({ types: [...types].reverse() }), 'ours');
  expect([file.format, file.version, file.name, file.types.map(({ model }) => model)]).toEqual([
    'device-types',
    1,
    'Ours',
    ['camera', 'desk', 'host', 'switch'],
  ]);
  expect(file.types.some((type) => 'id' in type || 'rev' in type || 'libraryId' in type)).toBe(false);
  expect(writeTypeFile(showOf({}), 'gone')).toMatchObject({ name: 'Types', types: [] });
});

test('entries that mean a unit by its old address follow it, those of others stay', () => {
  const at = showOf({
    ...soundRows,
    devices: [...soundRows.devices, device('other', 'camera')],
    services: [
      service('desk'),
      service('camera', { key: 'web', sendTo: '10.1.0.2' }),
      service('other', { key: 'web', sendTo: '10.1.0.2' }),
    ],
    links: [
      link('desk', { host: '10.1.0.60' }),
      link('camera', { serviceKey: 'web', host: '10.1.0.2' }),
      link('desk', { id: 'elsewhere', controllerId: 'camera', host: '10.1.0.61' }),
    ],
  });
  const facts = addressingFacts(at);
  const moved = (id: string, old: string) =>
    followMove(at, facts.byDevice.get(id)?.[0] ?? expect.fail(id), old, '10.1.0.99').map(
      ({ table, id: row, after: now }) => `${table} ${row} ${Object.values(now ?? {}).includes('10.1.0.99')}`,
    );
  // the host is told of by the targets that it controls, and by nobody's typed entry
  expect(moved('host', '10.1.0.2')).toEqual(['services desk-s true', 'services camera-s true']);
  expect(moved('desk', '10.1.0.60')).toEqual(['links to-desk true']);
  expect(moved('desk', '10.1.0.61')).toEqual(['links elsewhere true']);
  const waiting = showOf({ ...soundRows, addresses: [address('desk', null)] });
  const [item] = addressingFacts(waiting).planned;
  expect(followMove(waiting, item ?? expect.fail('nothing'), '10.1.0.60', '10.1.0.99')).toEqual([]);
});

test('several links of one controller are one change: free slots from the first on, one account, every target told once', () => {
  const rig = showOf({
    networks: [network()],
    devices: [device('host', 'host'), ...['c1', 'c2', 'c3'].map((id) => device(id, 'camera')), device('desk', 'desk')],
    interfaces: ['host', 'c1', 'c2', 'c3', 'desk'].map((id) => adapter(id)),
    addresses: ['host', 'c1', 'c2', 'c3', 'desk'].map((id, at) => address(id, `10.1.0.${at + 2}`)),
    services: [
      ...['c1', 'c2', 'c3'].map((id) => service(id, { key: 'web', receivePort: 80, sendPort: null })),
      service('desk', { sendTo: null }),
    ],
    links: [link('c1', { controllerId: 'host', serviceKey: 'web', slot: 2 })],
  });
  const targets = [
    { targetId: 'c2', serviceKey: 'web' },
    { targetId: 'c3', serviceKey: 'web' },
    { targetId: 'desk', serviceKey: 'osc' },
  ];
  let n = 0;
  const plan = (firstSlot: number | null) =>
    planAddLinks(rig, { controllerId: 'host', targets, firstSlot, account: 'crew' }, () => `n${(n += 1)}`);
  const made = (change: Change | undefined) =>
    Object.values(after(rig, change).links).flatMap(({ targetId, slot, account }) =>
      targetId === 'c1' ? [] : [[targetId, slot, account]],
    );
  expect(made(plan(1))).toEqual([
    ['c2', 1, 'crew'],
    ['c3', 3, 'crew'],
    ['desk', 4, null],
  ]);
  expect(made(plan(null)).map(([, slot]) => slot)).toEqual([null, null, null]);
  expect(plan(1)?.label).toBe('Let host control 3 targets');
  expect([...slotsOf(rig, 'host')]).toEqual([[2, 'c1']]);
});
