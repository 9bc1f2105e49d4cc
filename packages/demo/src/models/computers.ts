import { screenKeys } from './control-layouts.ts';
import { command, httpService, lanSocket, makeType, oscService, pictureOut, usb } from './make-type.ts';

const lastReply = [{ parameter: 'last reply', start: '—' }];

export const showHost = makeType({
  model: 'show-host',
  name: 'Show host',
  kind: 'show-host',
  adapters: [
    { key: 'wired-1', label: 'wired 1' },
    { key: 'wired-2', label: 'wired 2' },
  ],
  drives: ['osc', 'http', 'text', 'midi'],
  lampMeans: 'data',
  face: lastReply,
  ways: [{ way: 'system' }],
  helpers: [{ label: 'audio driver', purpose: 'plays sound through the mixer', system: 'windows' }],
});

export const technicianComputer = makeType({
  model: 'technician-computer',
  name: 'Technician’s computer',
  kind: 'computer',
  adapters: [
    { key: 'lan', label: 'wired' },
    { key: 'radio', label: 'wireless' },
  ],
  sockets: [lanSocket, { key: 'radio', label: 'wireless', adapter: 'radio', connector: 'radio' }],
  drives: ['osc', 'http'],
  ways: [{ way: 'system' }],
  power: [{ feed: 'battery' }, { feed: 'mains' }],
});

export const callerGateway = makeType({
  model: 'caller-gateway',
  name: 'Caller gateway',
  kind: 'caller',
  sockets: [lanSocket, pictureOut('out-1', 'picture out', 'hdmi')],
  services: [
    oscService({ receivePort: 9310, sendPort: 9311 }, [
      command({
        key: 'show-caller',
        label: 'Show a caller by name',
        address: '/callers/show',
        args: [{ name: 'name', type: 's', example: 'Harbour master', list: 'callers' }],
        counterpart: 'hide-caller',
        sets: [{ parameter: 'on screen', value: '{name}' }],
        reply: { address: '/callers/shown', args: ['{name}'] },
      }),
      command({
        key: 'hide-caller',
        label: 'Take the caller off',
        address: '/callers/hide',
        sets: [{ parameter: 'on screen', value: 'nobody' }],
        reply: { address: '/callers/hidden', args: [] },
      }),
    ]),
  ],
  lists: [
    { key: 'channels', label: 'channels', names: ['Channel 1', 'Channel 2', 'Channel 3', 'Channel 4'] },
    {
      key: 'callers',
      label: 'callers',
      names: ['Harbour master', 'Rosa Lindquist', 'Bram Okafor', 'Ines Duarte', 'Jury boat'],
    },
  ],
  face: [{ parameter: 'on screen', start: 'nobody' }],
  most: { sources: 4, controllers: null },
  price: 900,
  online: ['an account for the calls'],
  afterAddress: ['confirm_page'],
});

export const buttonPanel = makeType({
  model: 'button-panel',
  name: 'Button panel',
  kind: 'button-panel',
  lampMeans: 'address',
  drives: ['osc', 'http', 'text'],
  controls: screenKeys,
  layers: 4,
  sockets: [lanSocket, usb()],
  helpers: [{ label: 'panel bridge', purpose: 'stays running in the background and drives the keys' }],
  power: [{ feed: 'poe' }, { feed: 'usb' }],
});

/** What is held in the hand: a radio, a battery, and programs that send. */
const handheld = {
  sockets: [{ key: 'port-1', label: 'wireless', adapter: 'lan', connector: 'radio' as const }],
  drives: ['osc' as const, 'http' as const],
  ways: [{ way: 'system' as const }],
  power: [{ feed: 'battery' as const }],
};

export const tablet = makeType({
  model: 'tablet',
  name: 'Tablet',
  kind: 'tablet',
  ...handheld,
});

/** A plain computer: what it does depends on the programs that run on it. */
export const laptop = makeType({
  model: 'laptop',
  name: 'Laptop',
  kind: 'computer',
  adapters: [
    { key: 'lan', label: 'wired' },
    { key: 'radio', label: 'wireless' },
  ],
  sockets: [
    lanSocket,
    { key: 'radio', label: 'wireless', adapter: 'radio', connector: 'radio' },
    usb(),
    pictureOut('screen-out', 'screen out', 'hdmi'),
  ],
  drives: ['osc', 'http', 'text', 'midi'],
  ways: [{ way: 'system' }],
  power: [{ feed: 'battery' }, { feed: 'mains' }],
  accessories: [{ key: 'second-adapter', label: 'USB network adapter, for a second network', need: 'second-network' }],
  features: [{ key: 'second-network', label: 'a second wired network', lowest: null, bundle: null }],
});

export const telephone = makeType({
  model: 'telephone',
  name: 'Telephone',
  kind: 'phone',
  ...handheld,
});

/** The hub of an installation: drives media server, projectors and wall, and offers operator pages. */
export const mediaControl = makeType({
  model: 'media-control-server',
  name: 'Media control server',
  kind: 'media-control',
  factoryIp: '10.88.0.30',
  factory: { login: 'preset', account: 'admin' },
  drives: ['osc', 'http', 'text', 'midi'],
  lampMeans: 'data',
  services: [
    httpService({ port: 8088, logins: ['basic', 'none'] }, [
      command({
        key: 'scene',
        label: 'Call a scene',
        method: 'PUT',
        address: '/scenes/{scene}',
        args: [{ name: 'scene', type: 'i', min: 1, max: 200, example: 1 }],
        sets: [{ parameter: 'scene', value: '{scene}' }],
        reply: { address: '/scenes', args: ['{scene}'] },
      }),
    ]),
  ],
  face: [{ parameter: 'scene', start: '—' }, ...lastReply],
  ways: [{ way: 'web' }, { way: 'search', note: 'finds it by its name' }],
  afterAddress: ['confirm_page', 'restart_device'],
  startsInSeconds: 45,
  features: [
    { key: 'scripts', label: 'more than two scripts', lowest: null, bundle: 'scripting' },
    { key: 'pages', label: 'more than one operator page', lowest: null, bundle: 'operator-pages' },
  ],
  bundles: [
    { key: 'scripting', label: 'Scripting', per: 'unit' },
    { key: 'operator-pages', label: 'Operator pages', per: 'unit' },
  ],
  erases: ['scenes and pages'],
});
