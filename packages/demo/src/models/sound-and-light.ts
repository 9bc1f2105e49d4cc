import { faderStrips } from './control-layouts.ts';
import { command, httpService, lanSocket, makeType, midiService, oscService, usb } from './make-type.ts';

const cue = { name: 'cue', type: 'i', min: 1, max: 9999, example: 31 } as const;
const fade = { name: 'fade', type: 'f', min: 0, max: 600, unit: 's', example: 4 } as const;
const level = { name: 'level', type: 'f', min: -90, max: 10, unit: 'dB', example: -6, neutral: 0 } as const;

const chooseTimecode = command({
  key: 'source',
  label: 'Choose the time code to follow',
  address: 'program-change 1 {source}',
  args: [{ name: 'source', type: 'i', min: 0, max: 127, example: 1 }],
  sets: [{ parameter: 'follows', value: 'time code {source}' }],
});

export const lightingDesk = makeType({
  model: 'lighting-desk',
  name: 'Lighting desk',
  kind: 'lighting',
  factoryIp: '10.88.0.60',
  timecode: { takes: ['network_midi', 'midi'], gives: [], inputs: 1, makes: false },
  services: [
    oscService(
      {
        receivePort: 8300,
        sendPort: 8310,
        perSecond: 100,
        feedback: [
          { key: 'runs', label: 'a cue runs', parameter: 'state', means: 'the cue is running', lit: ['running'] },
        ],
      },
      [
        command({
          key: 'start-cue',
          essential: true,
          counterpart: 'stop-cue',
          label: 'Start a cue',
          address: '/desk/cue/{cue}/start',
          args: [cue, fade],
          sets: [
            { parameter: 'cue', value: '{cue}' },
            { parameter: 'state', value: 'running, {fade} s' },
          ],
          reply: { address: '/desk/cue/{cue}/running', args: ['T'] },
        }),
        command({
          key: 'stop-cue',
          counterpart: 'start-cue',
          label: 'Stop a cue',
          address: '/desk/cue/{cue}/stop',
          args: [cue],
          sets: [
            { parameter: 'cue', value: '{cue}' },
            { parameter: 'state', value: 'stopped' },
          ],
          reply: { address: '/desk/cue/{cue}/running', args: ['F'] },
        }),
        command({
          key: 'grand-master',
          label: 'Set the grand master',
          address: '/desk/master',
          args: [{ name: 'share', type: 'f', min: 0, max: 1, example: 1, neutral: 1 }],
          sets: [{ parameter: 'master', value: '{share}' }],
          reply: { address: '/desk/master', args: ['{share}'] },
        }),
      ],
    ),
    midiService('timecode', 'time code in', [chooseTimecode]),
  ],
  face: [
    { parameter: 'time code', start: 'none' },
    { parameter: 'follows', start: 'any' },
    { parameter: 'cue', start: '—' },
    { parameter: 'state', start: 'idle' },
    { parameter: 'master', start: '1' },
  ],
  afterAddress: ['confirm_entry', 'restart_device'],
  startsInSeconds: 90,
  erases: ['show data', 'patch'],
  papers: ['OSC command list'],
});

const mainLevel = {
  ...{ key: 'main', label: 'the main level', parameter: 'main', means: 'the main level is up', lit: [], ask: 'tell' },
};

export const mixer = makeType({
  model: 'audio-mixer',
  name: 'Audio mixer',
  kind: 'mixer',
  factoryIp: '10.88.0.70',
  adapters: [
    { key: 'control', label: 'control' },
    { key: 'audio', label: 'audio' },
  ],
  sockets: [
    { key: 'port-1', label: 'control', adapter: 'control', role: 'control' },
    { key: 'port-2', label: 'audio', adapter: 'audio', role: 'audio_primary' },
    usb(),
  ],
  services: [
    oscService({ receivePort: 5020, sendPort: 5021, replies: 'subscribers', feedback: [mainLevel] }, [
      command({
        key: 'channel-level',
        label: 'Set a channel’s level',
        address: '/mixer/channel/{channel}/level',
        args: [{ name: 'channel', type: 'i', min: 1, max: 32, example: 3 }, level],
        sets: [{ parameter: 'fader {channel}', value: '{level} dB' }],
        reply: { address: '/mixer/channel/{channel}/level', args: ['{level}'] },
      }),
      command({
        key: 'recall-scene',
        label: 'Recall a scene',
        address: '/mixer/scene/{scene}',
        args: [{ name: 'scene', type: 'i', min: 1, max: 100, example: 1 }],
        sets: [{ parameter: 'scene', value: '{scene}' }],
        reply: { address: '/mixer/scene', args: ['{scene}'] },
      }),
      command({
        key: 'mute',
        label: 'Mute a channel',
        address: '/mixer/channel/{channel}/mute',
        args: [
          { name: 'channel', type: 'i', min: 1, max: 32, example: 3 },
          { name: 'muted', type: 'T', example: true },
        ],
        sets: [{ parameter: 'mute {channel}', value: '{muted}' }],
        reply: { address: '/mixer/channel/{channel}/mute', args: ['{muted}'] },
      }),
      command({
        key: 'pan',
        label: 'Place a channel left or right',
        address: '/mixer/channel/{channel}/pan',
        args: [
          { name: 'channel', type: 'i', min: 1, max: 32, example: 3 },
          { name: 'pan', type: 'f', min: -1, max: 1, example: 0, neutral: 0 },
        ],
        sets: [{ parameter: 'pan {channel}', value: '{pan}' }],
        reply: { address: '/mixer/channel/{channel}/pan', args: ['{pan}'] },
      }),
      command({
        key: 'main-level',
        label: 'Set the main level',
        address: '/mixer/main/level',
        args: [level],
        sets: [{ parameter: 'main', value: '{level} dB' }],
        reply: { address: '/mixer/main/level', args: ['{level}'] },
      }),
      command({
        key: 'select',
        label: 'Select a channel',
        address: '/mixer/select',
        args: [{ name: 'channel', type: 'i', min: 1, max: 32, example: 3 }],
        sets: [{ parameter: 'selected', value: '{channel}' }],
        reply: { address: '/mixer/select', args: ['{channel}'] },
      }),
      command({ key: 'tell', label: 'Ask to be told what changes', address: '/mixer/tell' }),
    ]),
    midiService('midi', 'network MIDI', [
      command({
        key: 'fader',
        label: 'Move a fader',
        address: 'control-change {channel} 7 {value}',
        args: [
          { name: 'channel', type: 'i', min: 1, max: 16, example: 3 },
          { name: 'value', type: 'i', min: 0, max: 127, example: 90 },
        ],
        sets: [{ parameter: 'fader {channel}', value: '{value} of 127' }],
        reply: { address: 'control-change {channel} 7 {value}', args: [] },
      }),
    ]),
  ],
  face: [
    { parameter: 'scene', start: '1' },
    { parameter: 'main', start: '0 dB' },
    { parameter: 'selected', start: '1' },
    { parameter: 'mute 1', start: 'false' },
    { parameter: 'pan 1', start: '0' },
    ...[1, 2, 3, 4].map((channel) => ({ parameter: `fader ${channel}`, start: '0 dB' })),
  ],
  matches: [{ model: 'stage-rack', rule: 'equal' }],
  afterAddress: ['confirm_page'],
  startsInSeconds: 50,
  erases: ['scenes', 'show data'],
});

export const stageRack = makeType({
  model: 'stage-rack',
  name: 'Stage rack',
  kind: 'stage-rack',
  factoryIp: '10.88.0.71',
  sockets: [
    { ...lanSocket, role: 'audio_primary' },
    { key: 'port-2', label: 'spare', adapter: null, role: 'audio_secondary' },
  ],
  matches: [{ model: 'audio-mixer', rule: 'equal' }],
  startsInSeconds: 25,
  erases: ['input gains'],
});

/** Four sockets of one bridge; as the audio network variant two of them belong to that network alone. */
export const amplifier = makeType({
  model: 'amplifier',
  name: 'Amplifier',
  kind: 'amplifier',
  factory: { mode: 'self' },
  sockets: [1, 2, 3, 4].map((n) => ({ key: `port-${n}`, label: `port ${n}`, adapter: 'lan' })),
  variants: [
    {
      key: 'audio-network',
      label: 'with audio network',
      sockets: [
        { key: 'port-3', role: 'audio_primary', adapter: null },
        { key: 'port-4', role: 'audio_secondary', adapter: null },
      ],
    },
  ],
  version: '1.1',
  services: [
    httpService({ port: 8120, logins: ['none', 'basic'] }, [
      command({
        key: 'gain',
        label: 'Set the gain of a channel',
        method: 'PUT',
        address: '/channels/{channel}/gain',
        args: [
          { name: 'channel', type: 'i', min: 1, max: 4, example: 1 },
          { name: 'level', type: 'f', min: -60, max: 0, unit: 'dB', example: -12 },
        ],
        sets: [{ parameter: 'gain {channel}', value: '{level} dB' }],
        reply: { address: '/channels/{channel}/gain', args: ['{level}'] },
      }),
      command({
        key: 'mute',
        label: 'Mute all channels',
        method: 'PUT',
        address: '/mute',
        args: [{ name: 'muted', type: 'T', example: true }],
        sets: [{ parameter: 'muted', value: '{muted}' }],
        reply: { address: '/mute', args: ['{muted}'] },
      }),
    ]),
  ],
  face: [
    { parameter: 'muted', start: 'false' },
    { parameter: 'gain 1', start: '0 dB' },
  ],
  chain: { most: 6, delayMs: 0.2 },
  ways: [{ way: 'program', note: 'its control program' }],
  commits: [{ of: 'mode', acts: [{ act: 'restart_device', seconds: 15 }] }],
  startsInSeconds: 15,
  erases: ['presets'],
});

export const faderBank = makeType({
  model: 'fader-bank',
  name: 'Fader bank',
  kind: 'fader-bank',
  factoryIp: '10.88.0.90',
  drives: ['osc', 'midi'],
  lampMeans: 'carrier',
  controls: faderStrips,
  layers: 2,
  sockets: [lanSocket, usb()],
  face: [1, 2, 3, 4].map((channel) => ({ parameter: `fader ${channel}`, start: '0 dB' })),
  ways: [{ way: 'menu', note: 'hold its first key while switching on' }],
  afterAddress: ['confirm_entry', 'store', 'leave_setup'],
  chain: { most: 3, delayMs: 1 },
  sets: 4,
  power: [{ feed: 'usb' }, { feed: 'supply' }],
});

export const timecodeSource = makeType({
  model: 'timecode-source',
  name: 'Timecode source',
  kind: 'timecode',
  drives: ['midi'],
  timecode: { takes: [], gives: ['linear', 'network_midi'], inputs: null, makes: true },
  face: [{ parameter: 'time code', start: '00:00:00:00' }],
  power: [{ feed: 'supply' }],
});

/** Hears linear time code as sound, and says it as MIDI; made for the way into whatever takes no sound. */
export const timecodeInterface = makeType({
  model: 'timecode-interface',
  name: 'Timecode interface',
  kind: 'timecode',
  drives: ['midi'],
  timecode: {
    takes: ['linear', 'midi', 'network_midi'],
    gives: ['network_midi', 'midi', 'linear'],
    inputs: 1,
    makes: false,
  },
  services: [midiService('timecode', 'time code in', [chooseTimecode])],

  face: [
    { parameter: 'time code', start: 'none' },
    { parameter: 'follows', start: 'any' },
  ],
  power: [{ feed: 'supply' }],
});

/** Shows the running time code in large figures, and sends it on. */
export const timecodeDisplay = makeType({
  model: 'timecode-display',
  name: 'Timecode display',
  kind: 'timecode',
  timecode: { takes: ['linear', 'midi', 'network_midi'], gives: ['midi'], inputs: 1, makes: false },
  services: [
    midiService('timecode', 'time code in', [
      command({
        key: 'choose',
        label: 'Choose the time code to show',
        address: 'program-change 1 {source}',
        args: [{ name: 'source', type: 'i', min: 0, max: 127, example: 1 }],
        sets: [{ parameter: 'shows', value: 'time code {source}' }],
      }),
    ]),
  ],
  face: [
    { parameter: 'time code', start: 'none' },
    { parameter: 'shows', start: 'any' },
  ],
  power: [{ feed: 'poe' }, { feed: 'supply' }],
});
