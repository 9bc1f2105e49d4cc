import {
  command,
  httpService,
  lanSocket,
  makeType,
  midiService,
  oscService,
  pictureOut,
  textService,
  type TypeContent,
} from './make-type.ts';

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
