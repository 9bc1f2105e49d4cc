import { show } from '@deep-patch/core';

export type TypeContent = show.Content<'types'>;
export type ServiceContent = TypeContent['services'][number];
export type Feedback = NonNullable<ServiceContent['feedback']>[number];
export type CommandContent = ServiceContent['commands'][number];

type Given = Parameters<typeof show.filledRow<'types'>>[1];
type Spec = Partial<Omit<Given, 'id' | 'factory' | 'commits'>> &
  Pick<Given, 'model' | 'name' | 'kind'> & {
    factoryIp?: string;
    factory?: Partial<Given['factory']>;
    /** What an address change needs before it counts; short for `commits`. */
    afterAddress?: TypeContent['commits'][number]['acts'][number]['act'][];
    commits?: Given['commits'];
  };

/** The library that every new show starts with. */
export const shippedLibrary: show.Content<'libraries'> = { id: 'shipped', name: 'Shipped types', position: 1000 };

/** A type with one network adapter behind one socket, unless the spec says otherwise. */
export function makeType({ factoryIp, factory, afterAddress, ...spec }: Spec): TypeContent {
  const isProgram = spec.form === 'program';
  const adapters = spec.adapters ?? (isProgram ? [] : [{ key: 'lan', label: 'network' }]);
  const sockets = adapters.map(({ key, label }, at) => ({
    key: `port-${at + 1}`,
    label: adapters.length > 1 ? label : 'port 1',
    adapter: key,
  }));
  const acts = (afterAddress ?? []).map((act) => ({ act, seconds: act === 'restart_device' ? 40 : null }));
  return show.filledRow('types', {
    id: spec.model,
    libraryId: shippedLibrary.id,
    version: '1.0',
    factory: factoryIp
      ? { mode: 'static', ip: factoryIp, prefix: 24, ...factory }
      : { mode: isProgram ? 'none' : 'dhcp', ip: null, prefix: null, ...factory },
    adapters,
    sockets,
    ways: isProgram ? [] : [{ way: 'menu' }],
    power: isProgram ? [] : [{ feed: 'mains' }],
    commits: acts.length > 0 ? [{ of: 'address', acts }] : [],
    ...spec,
  });
}

/** A box that forwards between its sockets and has one address of its own for its settings. */
export function makeSwitch(spec: Spec, sockets: number): TypeContent {
  const ports = Array.from({ length: sockets }, (_, at) => ({
    key: `p-${at + 1}`,
    label: `p${at + 1}`,
    adapter: null,
  }));
  return makeType({ ways: [{ way: 'web' }], ...spec, sockets: ports, forwards: true });
}

type OscSpec = Pick<CommandContent, 'key' | 'label' | 'address'> & Partial<CommandContent>;
export const command = (spec: OscSpec): CommandContent => ({ args: [], sets: [], reply: null, ...spec });

export function oscService(
  ports: Pick<ServiceContent, 'receivePort' | 'sendPort'> &
    Partial<Pick<ServiceContent, 'replies' | 'feedback' | 'perSecond'>>,
  commands: CommandContent[],
  lowestFirmware: string | null = null,
): ServiceContent {
  return {
    key: 'osc',
    label: 'OSC control',
    protocol: 'osc',
    transport: 'udp',
    ...ports,
    logins: ['none'],
    onByDefault: true,
    lowestFirmware,
    commands,
  };
}

export function httpService(
  spec: { port: number; logins: ServiceContent['logins']; lowestFirmware?: string } & Pick<
    ServiceContent,
    'needsOpening'
  >,
  commands: CommandContent[],
  feedback: Feedback[] = [],
): ServiceContent {
  return {
    key: 'web',
    label: 'remote control',
    protocol: 'http',
    transport: 'tcp',
    receivePort: spec.port,
    sendPort: null,
    logins: spec.logins,
    onByDefault: true,
    lowestFirmware: spec.lowestFirmware ?? null,
    ...(spec.needsOpening ? { needsOpening: spec.needsOpening } : {}),
    commands,
    feedback,
  };
}

/** A session of network MIDI; commands are messages in words. */
export const midiService = (key: string, label: string, commands: CommandContent[]): ServiceContent => ({
  key,
  label,
  protocol: 'midi',
  roles: ['waits', 'opens'],
  transport: 'udp',
  receivePort: 5004,
  sendPort: null,
  logins: ['none'],
  onByDefault: true,
  lowestFirmware: null,
  commands,
});

/** One command a line over TCP. */
export const textService = (port: number, commands: CommandContent[], feedback: Feedback[] = []): ServiceContent => ({
  ...midiService('text', 'text control', commands),
  feedback,
  protocol: 'text',
  transport: 'tcp',
  receivePort: port,
});

const pictureSocket = (direction: 'in' | 'out') => (key: string, label: string, connector: 'sdi' | 'hdmi') =>
  ({ key, label, adapter: null, role: 'video', connector, direction }) as const;
export const pictureIn = pictureSocket('in');
export const pictureOut = pictureSocket('out');
export const usb = (key = 'usb', label = 'USB') =>
  ({ key, label, adapter: null, role: 'setup', connector: 'usb' }) as const;
/** The network socket of a unit with one. */
export const lanSocket = { key: 'port-1', label: 'port 1', adapter: 'lan' } as const;
