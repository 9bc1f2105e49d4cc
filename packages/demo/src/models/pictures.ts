import {
  command,
  httpService,
  lanSocket,
  makeType,
  midiService,
  oscService,
  pictureIn,
  pictureOut,
  textService,
  usb,
  type TypeContent,
} from './make-type.ts';

export const switcher = makeType({
  model: 'production-switcher',
  name: 'Production switcher',
  kind: 'switcher',
  factoryIp: '10.88.0.80',
  sockets: [
    lanSocket,
    usb(),
    ...Array.from({ length: 8 }, (_, at) => pictureIn(`in-${at + 1}`, `input ${at + 1}`, at < 4 ? 'sdi' : 'hdmi')),
  ],
  drives: ['http'],
  lampMeans: 'application',
  looksUpOnce: true,
  ways: [{ way: 'usb', note: 'with its set-up program' }, { way: 'menu' }],
  commits: [
    { of: 'address', acts: [{ act: 'store' }, { act: 'restart_device', seconds: 30 }] },
    { of: 'mode', acts: [{ act: 'restart_device', seconds: 30 }] },
  ],
  startsInSeconds: 30,
  most: { sources: 8, controllers: null },
  services: [
    httpService({ port: 8090, logins: ['none'], needsOpening: ['tablet', 'phone'] }, [
      command({
        key: 'cut',
        label: 'Take an input on air',
        method: 'PUT',
        address: '/on-air/{input}',
        args: [{ name: 'input', type: 'i', min: 1, max: 8, example: 5 }],
        sets: [{ parameter: 'on air', value: '{input}' }],
        reply: { address: '/on-air', args: ['{input}'] },
      }),
      command({
        key: 'fade',
        label: 'Bring an input on air over some frames',
        method: 'PUT',
        address: '/on-air/{input}/over/{frames}',
        args: [
          { name: 'input', type: 'i', min: 1, max: 8, example: 5 },
          { name: 'frames', type: 'i', min: 1, max: 250, example: 25, unit: 'frames' },
        ],
        sets: [{ parameter: 'on air', value: '{input}' }],
        reply: { address: '/on-air', args: ['{input}'] },
      }),
      command({
        key: 'load-still',
        label: 'Load a still into a place',
        method: 'PUT',
        address: '/stills/{place}/{name}',
        args: [
          { name: 'place', type: 'i', min: 1, max: 8, example: 1 },
          { name: 'name', type: 's', example: 'final-board.png' },
        ],
        sets: [{ parameter: 'still', value: '{place}: {name}' }],
        reply: { address: '/stills/{place}', args: ['{name}'] },
      }),
      command({
        key: 'take-delay',
        label: 'Set the take delay of playout',
        method: 'PUT',
        address: '/take-delay/{frames}',
        args: [{ name: 'frames', type: 'i', min: 0, max: 250, example: 10, unit: 'frames' }],
        sets: [{ parameter: 'take delay', value: '{frames} frames' }],
        reply: { address: '/take-delay', args: ['{frames}'] },
      }),
      command({
        key: 'fill',
        label: 'Put a colour on air in place of the inputs',
        method: 'PUT',
        address: '/on-air/fill/{colour}',
        args: [{ name: 'colour', type: 's', example: 'blue' }],
        sets: [{ parameter: 'on air', value: '{colour} fill' }],
        reply: { address: '/on-air', args: ['{colour}'] },
      }),
    ]),
  ],
  face: [
    { parameter: 'on air', start: '1' },
    { parameter: 'next', start: '—' },
    { parameter: 'still', start: '—' },
    { parameter: 'take delay', start: '0 frames' },
  ],
  features: [
    { key: 'callers', label: 'take callers without a gateway', lowest: '9.0', bundle: null },
    { key: 'decks', label: 'drive playout machines', lowest: '8.4', bundle: null },
  ],
  matches: [{ model: 'switcher-program', rule: 'first_part' }],
  power: [{ feed: 'mains' }],
  erases: ['macros', 'labels', 'audio settings'],
  papers: ['input and label sheet'],
});

const picture = command({
  key: 'picture',
  label: 'Show a test picture',
  method: 'PUT',
  address: '/picture',
  args: [{ name: 'picture', type: 's', example: 'grid' }],
  sets: [{ parameter: 'picture', value: '{picture}' }],
  reply: { address: '/picture', args: ['{picture}'] },
});

const processor = (model: string, name: string, factoryIp: string, outputs: number) =>
  makeType({
    model,
    name,
    kind: 'led-processor',
    factoryIp,
    sockets: [
      { ...lanSocket, label: 'management', role: 'management' },
      pictureIn('in-1', 'picture in', 'hdmi'),
      ...Array.from({ length: outputs }, (_, at) => ({
        key: `out-${at + 1}`,
        label: `output ${at + 1}`,
        adapter: null,
        role: 'led' as const,
      })),
    ],
    services: [httpService({ port: 80, logins: ['none'] }, [picture])],
    face: [{ parameter: 'picture', start: 'input 1' }],
    ways: [{ way: 'menu' }, { way: 'program', note: 'its remote application' }],
    commits: [
      { of: 'address', acts: [{ act: 'confirm_page' }, { act: 'restart_device', seconds: 40 }] },
      { of: 'output', acts: [{ act: 'store' }] },
    ],
    startsInSeconds: 40,
    matches: [{ model: 'wall-program', rule: 'equal' }],
    erases: ['the wall layout'],
    papers: ['tile data sheet'],
  });

export const largeProcessor = processor('led-processor', 'LED processor', '10.61.40.50', 10);
export const smallProcessor = processor('small-led-processor', 'Small LED processor', '10.88.0.52', 2);

export const distributionUnit = makeType({
  model: 'led-distribution',
  name: 'LED distribution unit',
  kind: 'led-receiver',
  factory: { mode: 'none' },
  adapters: [],
  sockets: [
    { key: 'in-1', label: 'trunk in', adapter: null, role: 'led', connector: 'sfp' },
    ...Array.from({ length: 10 }, (_, at) => ({
      key: `out-${at + 1}`,
      label: `output ${at + 1}`,
      adapter: null,
      role: 'led' as const,
    })),
  ],
  ways: [],
});

export const receivingCard = makeType({
  model: 'led-receiving-card',
  name: 'LED receiving card',
  kind: 'led-receiver',
  factory: { mode: 'none' },
  adapters: [],
  sockets: [
    { key: 'data-1', label: 'data 1', adapter: null, role: 'led' },
    { key: 'data-2', label: 'data 2', adapter: null, role: 'led' },
  ],
  ways: [{ way: 'program', note: 'the wall program' }],
  commits: [{ of: 'output', acts: [{ act: 'store' }] }],
  chain: { most: 24, delayMs: 0.02 },
  power: [{ feed: 'supply', note: 'of the tile' }],
});

const cueTarget = (
  model: string,
  name: string,
  kind: TypeContent['kind'],
  root: string,
  ports: { receivePort: number; sendPort: number },
) => ({
  model,
  name,
  kind,
  services: [
    oscService(ports, [
      command({
        key: 'go-to',
        label: 'Go to an item',
        address: `/${root}/item/{item}`,
        args: [{ name: 'item', type: 'i' as const, min: 1, max: 9999, example: 1 }],
        sets: [{ parameter: 'item', value: '{item}' }],
        reply: { address: `/${root}/now`, args: ['{item}'] },
      }),
      command({
        key: 'clear',
        label: 'Clear the output',
        address: `/${root}/clear`,
        sets: [{ parameter: 'item', value: '—' }],
        reply: { address: `/${root}/now`, args: ['0'] },
      }),
      command({
        key: 'follow',
        label: 'Follow a linked computer',
        address: `/${root}/follow/{from}/{to}`,
        args: [
          { name: 'from', type: 'i' as const, min: 0, max: 9999, example: 1 },
          { name: 'to', type: 'i' as const, min: 1, max: 9999, example: 2 },
        ],
        sets: [{ parameter: 'item', value: '{to}' }],
      }),
    ]),
  ],
  face: [{ parameter: 'item', start: '—' }],
});

const mediaCommands = cueTarget('media-server', 'Media server', 'media', 'media', {
  receivePort: 4710,
  sendPort: 4711,
});

export const mediaServer = makeType({
  ...mediaCommands,
  services: [
    ...mediaCommands.services,
    ...mediaCommands.services.map((service) => ({
      ...service,
      key: 'osc-stream',
      label: 'OSC over TCP',
      transport: 'tcp' as const,
      receivePort: 4712,
      sendPort: null,
    })),
    midiService('timecode', 'time code in', [
      command({
        key: 'source',
        label: 'Choose the time code to follow',
        address: 'program-change 1 {source}',
        args: [{ name: 'source', type: 'i', min: 0, max: 127, example: 1 }],
        sets: [{ parameter: 'follows', value: 'time code {source}' }],
      }),
    ]),
  ],
  face: [
    { parameter: 'item', start: '—' },
    { parameter: 'time code', start: 'none' },
    { parameter: 'follows', start: 'any' },
  ],
  adapters: [
    { key: 'lan', label: 'control' },
    { key: 'media', label: 'media' },
  ],
  timecode: { takes: ['network_midi', 'midi'], gives: [], inputs: 1, makes: false },
  ways: [{ way: 'system' }],
  commits: [{ of: 'service', acts: [{ act: 'restart_program', seconds: 30 }] }],
  features: [
    { key: 'second-output', label: 'a second output', lowest: null, bundle: 'outputs' },
    { key: 'wall-map', label: 'wall mapping', lowest: '5.2', bundle: 'mapping' },
  ],
  bundles: [
    { key: 'outputs', label: 'Output licence', per: 'output' },
    { key: 'mapping', label: 'Mapping bundle', per: 'site' },
  ],
  online: ['licences are activated online once'],
});

export const presentationComputer = makeType({
  ...cueTarget('presentation-computer', 'Presentation computer', 'lyrics', 'slides', {
    receivePort: 7420,
    sendPort: 7421,
  }),
  version: '1.1',
  // linked computers move each other on
  drives: ['osc'],
  sockets: [lanSocket, pictureOut('screen-out', 'screen out', 'hdmi')],
  ways: [{ way: 'system' }],
  services: [
    oscService(
      { receivePort: 7420, sendPort: 7421 },
      cueTarget('', '', 'lyrics', 'slides', { receivePort: 1, sendPort: 1 }).services[0]?.commands ?? [],
    ),
  ],
  features: [
    { key: 'linked', label: 'move together with others', lowest: '7.6', bundle: null },
    { key: 'output', label: 'feed an output', lowest: null, bundle: 'seat' },
  ],
  bundles: [{ key: 'seat', label: 'Seat', per: 'output' }],
  matches: [{ model: 'presentation-computer', rule: 'first_part' }],
  online: ['the first start asks for an account'],
  power: [{ feed: 'mains' }, { feed: 'battery' }],
});

export const playout = makeType({
  model: 'playout-machine',
  name: 'Playout machine',
  kind: 'playout',
  factoryIp: '172.27.5.20',
  sockets: [lanSocket, pictureOut('out-1', 'picture out', 'hdmi')],
  services: [
    httpService(
      { port: 5310, logins: ['none'] },
      [
        command({
          key: 'play',
          label: 'Play a clip',
          method: 'POST',
          address: '/clips/{clip}/play',
          args: [{ name: 'clip', type: 'i', min: 1, max: 500, example: 1 }],
          sets: [{ parameter: 'clip', value: 'playing {clip}' }],
          reply: { address: '/clips', args: ['{clip}'] },
          essential: true,
          counterpart: 'stop',
        }),
        command({
          key: 'stop',
          label: 'Stop the clip',
          method: 'POST',
          address: '/clips/stop',
          sets: [{ parameter: 'clip', value: 'stopped' }],
          reply: { address: '/clips', args: ['0'] },
        }),
        command({
          key: 'hold',
          label: 'Hold the picture',
          method: 'POST',
          address: '/clips/hold',
          sets: [{ parameter: 'clip', value: 'holds' }],
          reply: { address: '/clips', args: ['0'] },
        }),
        command({
          key: 'ready',
          label: 'Make a clip ready',
          method: 'POST',
          address: '/clips/{clip}/ready',
          args: [{ name: 'clip', type: 'i', min: 1, max: 500, example: 1 }],
          sets: [{ parameter: 'clip', value: 'ready {clip}' }],
          reply: { address: '/clips', args: ['{clip}'] },
        }),
        command({
          key: 'select',
          label: 'Select a list',
          method: 'PUT',
          address: '/lists/{list}',
          args: [{ name: 'list', type: 's', example: 'Sailors' }],
          sets: [{ parameter: 'list', value: '{list}' }],
          reply: { address: '/lists', args: ['{list}'] },
        }),
        command({ key: 'state', label: 'Ask what plays', method: 'GET', address: '/clips/state' }),
      ],
      [
        {
          ...{ key: 'plays', label: 'what plays', parameter: 'clip', means: 'a clip is playing', ask: 'state' },
          ...{
            lit: ['playing'],
            colours: [
              { says: 'playing', colour: 'red' },
              { says: 'ready', colour: 'green' },
            ],
          },
        },
      ],
    ),
  ],
  face: [
    { parameter: 'clip', start: 'ready' },
    { parameter: 'picture', start: 'first frame, still' },
    { parameter: 'list', start: '—' },
    { parameter: 'item', start: '1' },
    { parameter: 'title', start: '—' },
  ],
  plays: {
    startMs: 105,
    jitterMs: 80,
    codecs: ['H.264', 'H.265', 'VC-3', 'PCM', 'AAC', 'PNG', 'JPEG'],
    most: { width: 3840, height: 2160, fps: 60 },
    togetherFrom: null,
  },
  most: { sources: null, controllers: 1 },
  erases: ['the play list'],
});

export const recorder = makeType({
  model: 'network-recorder',
  name: 'Network recorder',
  kind: 'recorder',
  most: { sources: 4, controllers: null },
  services: [
    textService(
      9700,
      [
        command({
          key: 'record',
          label: 'Record',
          address: 'record {name}',
          args: [{ name: 'name', type: 's', example: 'final' }],
          sets: [{ parameter: 'state', value: 'recording {name}' }],
          reply: { address: 'recording {name}', args: [] },
          essential: true,
          counterpart: 'stop',
        }),
        command({
          key: 'stop',
          label: 'Stop',
          address: 'stop',
          sets: [{ parameter: 'state', value: 'stopped' }],
          reply: { address: 'stopped', args: [] },
        }),
      ],
      [
        {
          ...{ key: 'records', label: 'it records', parameter: 'state', means: 'it is recording' },
          ...{ lit: ['recording'], colours: [{ says: 'recording', colour: 'red' }] },
        },
      ],
    ),
  ],
  face: [{ parameter: 'state', start: 'stopped' }],
  price: 1400,
  afterAddress: ['confirm_page'],
});

export const projector = makeType({
  model: 'projector',
  name: 'Projector',
  kind: 'projector',
  sockets: [lanSocket, pictureIn('in-1', 'picture in 1', 'hdmi'), pictureIn('in-2', 'picture in 2', 'sdi')],
  services: [
    textService(
      5620,
      [
        command({
          key: 'light',
          label: 'Switch the light on or off',
          address: 'light {lit}',
          args: [{ name: 'lit', type: 'i', min: 0, max: 1, example: 1 }],
          sets: [{ parameter: 'light', value: '{lit}' }],
          reply: { address: 'light {lit} ok', args: [] },
        }),
        command({
          key: 'shutter',
          label: 'Close or open the shutter',
          address: 'shutter {shut}',
          args: [{ name: 'shut', type: 'i', min: 0, max: 1, example: 0 }],
          sets: [{ parameter: 'shutter', value: '{shut}' }],
          reply: { address: 'shutter {shut} ok', args: [] },
        }),
        command({
          key: 'input',
          label: 'Choose an input',
          address: 'input {input}',
          args: [{ name: 'input', type: 'i', min: 1, max: 2, example: 1 }],
          sets: [{ parameter: 'input', value: '{input}' }],
          reply: { address: 'input {input} ok', args: [] },
        }),
      ],
      [
        { key: 'shut', label: 'the shutter', parameter: 'shutter', means: 'the shutter is closed', lit: ['1'] },
        { key: 'lit', label: 'the light', parameter: 'light', means: 'the light is on', lit: ['1'] },
      ],
    ),
  ],
  face: [
    { parameter: 'light', start: '0' },
    { parameter: 'shutter', start: '0' },
    { parameter: 'input', start: '1' },
  ],
  ways: [{ way: 'menu', note: 'network on in its menu first' }, { way: 'web' }],
  afterAddress: ['confirm_page'],
  startsInSeconds: 60,
  most: { sources: 2, controllers: 1 },
  power: [{ feed: 'mains' }],
  erases: ['lens positions', 'warp'],
});
