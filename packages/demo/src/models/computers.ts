import { command, lanSocket, makeType, oscService, usb } from './make-type.ts';

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
  services: [
    oscService({ receivePort: 9310, sendPort: 9311 }, [
      command({
        key: 'show-caller',
        label: 'Show a caller by name',
        address: '/callers/show',
        args: [{ name: 'name', type: 's', example: 'Harbour master' }],
        sets: [{ parameter: 'on screen', value: '{name}' }],
        reply: { address: '/callers/shown', args: ['{name}'] },
      }),
    ]),
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
  sockets: [lanSocket, usb()],
  helpers: [{ label: 'panel bridge', purpose: 'stays running in the background and drives the keys' }],
  power: [{ feed: 'poe' }, { feed: 'usb' }],
});

export const tablet = makeType({
  model: 'tablet',
  name: 'Tablet',
  kind: 'tablet',
  sockets: [{ key: 'port-1', label: 'wireless', adapter: 'lan', connector: 'radio' }],
  drives: ['osc', 'http'],
  ways: [{ way: 'system' }],
  power: [{ feed: 'battery' }],
});

/** Programs: they run on a computer of the rig and use its adapters. */
export const programs = [
  makeType({
    model: 'cue-program',
    form: 'program',
    name: 'Cue program',
    kind: 'show-host',
    drives: ['osc', 'http'],
    face: lastReply,
    looksUpOnce: false,
    runsOn: [{ system: 'macos', lowest: '13.0' }],
    features: [
      { key: 'network-cues', label: 'network cues', lowest: null, bundle: 'network' },
      { key: 'adapter-choice', label: 'choose the adapter', lowest: '5.3', bundle: null },
    ],
    bundles: [{ key: 'network', label: 'Network bundle', per: 'unit' }],
    online: ['download and licence sign-in'],
  }),
  makeType({
    model: 'message-monitor',
    form: 'program',
    name: 'Message monitor',
    kind: 'computer',
    services: [
      oscService({ receivePort: 9310, sendPort: null }, [
        command({
          key: 'note',
          label: 'Write a line',
          address: '/note',
          args: [{ name: 'text', type: 's', example: 'hello' }],
          sets: [{ parameter: 'last line', value: '{text}' }],
        }),
      ]),
    ],
    face: [{ parameter: 'last line', start: '—' }],
    runsOn: [
      { system: 'windows', lowest: '10.0' },
      { system: 'macos', lowest: '12.0' },
      { system: 'linux', lowest: null },
    ],
  }),
  makeType({
    model: 'switcher-program',
    form: 'program',
    name: 'Switcher program',
    kind: 'computer',
    drives: ['http'],
    runsOn: [
      { system: 'windows', lowest: '10.0' },
      { system: 'macos', lowest: '12.0' },
    ],
    matches: [{ model: 'production-switcher', rule: 'first_part' }],
    commits: [{ of: 'install', acts: [{ act: 'restart_computer', seconds: 120 }] }],
    online: ['download of the version that the switcher has'],
  }),
  makeType({
    model: 'wall-program',
    form: 'program',
    name: 'Wall program',
    kind: 'computer',
    drives: ['http'],
    runsOn: [{ system: 'windows', lowest: '10.0' }],
    matches: [
      { model: 'led-processor', rule: 'equal' },
      { model: 'small-led-processor', rule: 'equal' },
    ],
    helpers: [{ label: 'capture driver', purpose: 'reads packets of the receiving cards', system: 'windows' }],
    commits: [{ of: 'install', acts: [{ act: 'restart_computer', seconds: 120 }] }],
  }),
];
