import { filledRow, emptyShow, type Content, type Row, type Show } from './index.ts';
import type { TableName } from './entities.ts';

/** A small rig for tests: a controller, targets that speak OSC and HTTP, a switch, one network. Each test bends it. */
const command = (key: string, address: string): Content<'types'>['services'][number]['commands'][number] => ({
  key,
  label: key,
  method: 'PUT',
  address,
  args: [{ name: 'cue', type: 'i', min: 1, max: 99, example: 3 }],
  sets: [{ parameter: 'cue', value: '{cue}' }],
  reply: { address: '/done', args: ['{cue}'] },
});

const lan = {
  adapters: [{ key: 'lan', label: 'network' }],
  sockets: [{ key: 'port-1', label: 'port 1', adapter: 'lan' }],
};

type Given = Parameters<typeof filledRow<'types'>>[1];
/** A type of the library `ours`, named by its model. */
export const typeWith = (model: string, given: Partial<Given> & Pick<Given, 'name' | 'kind' | 'factory'>) =>
  filledRow('types', { id: model, libraryId: 'ours', model, version: '1.0', ...lan, ...given });

export const types: readonly Content<'types'>[] = [
  typeWith('host', {
    name: 'Host',
    kind: 'show-host',
    factory: { mode: 'dhcp', ip: null, prefix: null },
    drives: ['osc', 'http'],
  }),
  typeWith('desk', {
    name: 'Desk',
    kind: 'lighting',
    factory: { mode: 'static', ip: '10.9.0.60', prefix: 24 },
    services: [
      {
        key: 'osc',
        label: 'OSC',
        protocol: 'osc',
        transport: 'udp',
        receivePort: 8000,
        sendPort: 8001,
        logins: ['none'],
        onByDefault: true,
        lowestFirmware: null,
        commands: [command('go', '/cue/{cue}')],
      },
    ],
  }),
  typeWith('camera', {
    name: 'Camera',
    kind: 'camera',
    factory: { mode: 'static', ip: '10.9.0.40', prefix: 24 },
    services: [
      {
        key: 'web',
        label: 'Web',
        protocol: 'http',
        transport: 'tcp',
        receivePort: 80,
        sendPort: null,
        logins: ['digest', 'basic', 'none'],
        onByDefault: true,
        lowestFirmware: '1.4',
        commands: [command('go', '/position')],
      },
    ],
  }),
  typeWith('switch', {
    name: 'Switch',
    kind: 'switch',
    factory: { mode: 'none', ip: null, prefix: null },
    adapters: [],
    sockets: Array.from({ length: 8 }, (_, at) => ({ key: `p-${at + 1}`, label: `p${at + 1}`, adapter: null })),
    forwards: true,
  }),
];
/** A program that speaks what the desk speaks, and drives both protocols. */
export const programType = typeWith('program', {
  name: 'Program',
  kind: 'playout',
  form: 'program',
  adapters: [],
  sockets: [],
  factory: { mode: 'none', ip: null, prefix: null },
  services: types.find(({ id }) => id === 'desk')?.services ?? [],
  drives: ['osc', 'http'],
});
const libraries = [{ id: 'ours', name: 'Ours', position: 0 }];

type Rows = { readonly [T in TableName]?: readonly Content<T>[] };

export function showOf(rows: Rows, rev = 1): Show {
  const tables = Object.entries({ libraries, types, ...rows }).map(([name, list]) => [
    name,
    Object.fromEntries((list as Content[]).map((row) => [row.id, { ...row, rev }])),
  ]);
  return { ...emptyShow({ id: 'test', name: 'Test' }), rev, ...Object.fromEntries(tables) } as Show;
}

export const device = (id: string, typeId: string, patch: Partial<Content<'devices'>> = {}): Content<'devices'> =>
  filledRow('devices', {
    id,
    typeId,
    name: id,
    unit: null,
    place: '',
    firmware: '2.0',
    note: '',
    ...patch,
  });
export const adapter = (deviceId: string): Content<'interfaces'> =>
  filledRow('interfaces', {
    id: `${deviceId}-lan`,
    deviceId,
    adapter: 'lan',
    mac: null,
  });
export const address = (
  deviceId: string,
  ip: string | null,
  patch: Partial<Content<'addresses'>> = {},
): Content<'addresses'> =>
  filledRow('addresses', {
    id: `${deviceId}-a`,
    interfaceId: `${deviceId}-lan`,
    networkId: 'net',
    ip,
    prefix: null,
    gateway: null,
    held: false,
    ...patch,
  });
export const network = (patch: Partial<Content<'networks'>> = {}): Content<'networks'> =>
  filledRow('networks', {
    id: 'net',
    name: 'Control',
    network: '10.1.0.0',
    prefix: 24,
    vlan: null,
    purpose: '',
    gateway: null,
    poolFrom: null,
    poolTo: null,
    ...patch,
  });
export const cable = (deviceId: string, socket: string): Content<'cables'> =>
  filledRow('cables', {
    id: `c-${deviceId}`,
    fromDevice: deviceId,
    fromSocket: 'port-1',
    toDevice: 'hub',
    toSocket: socket,
    medium: 'copper',
    lengthM: 5,
    delayMs: null,
  });
export const service = (deviceId: string, patch: Partial<Content<'services'>> = {}): Content<'services'> =>
  filledRow('services', {
    id: `${deviceId}-s`,
    deviceId,
    key: 'osc',
    enabled: true,
    receivePort: 8000,
    sendPort: 8001,
    sendTo: '10.1.0.2',
    account: null,
    secretId: null,
    ...patch,
  });
export const link = (targetId: string, patch: Partial<Content<'links'>> = {}): Content<'links'> =>
  filledRow('links', {
    id: `to-${targetId}`,
    controllerId: 'host',
    targetId,
    serviceKey: 'osc',
    slot: null,
    host: null,
    port: 8000,
    replyPort: 8001,
    account: null,
    secretId: null,
    command: 'go',
    args: [3],
    ...patch,
  });

/** Host, desk over OSC and camera over HTTP on one switch: every link reaches bottom. */
export const soundRows = {
  networks: [network()],
  devices: [device('host', 'host'), device('desk', 'desk'), device('camera', 'camera'), device('hub', 'switch')],
  interfaces: [adapter('host'), adapter('desk'), adapter('camera')],
  addresses: [address('host', '10.1.0.2'), address('desk', '10.1.0.60'), address('camera', '10.1.0.31')],
  cables: [cable('host', 'p-1'), cable('desk', 'p-2'), cable('camera', 'p-3')],
  services: [
    service('desk'),
    service('camera', { key: 'web', receivePort: 80, sendPort: null, sendTo: null, account: 'ops', secretId: 's1' }),
  ],
  links: [
    link('desk'),
    link('camera', { serviceKey: 'web', port: 80, replyPort: null, account: 'ops', secretId: 's1' }),
  ],
} satisfies Rows;

export const rowOf = <T extends TableName>(show: Show, table: T, id: string): Row<T> =>
  show[table][id] as unknown as Row<T>;
