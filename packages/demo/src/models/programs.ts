import { command, httpService, makeType, midiService, oscService, type Feedback } from './make-type.ts';

const everywhere = [
  { system: 'windows', lowest: '10.0' },
  { system: 'macos', lowest: '12.0' },
] as const;
const lastReply = [{ parameter: 'last reply', start: '—' }];

const cueState: Feedback = {
  ...{ key: 'state', label: 'what it does', parameter: 'state', means: 'a cue is playing', lit: ['playing', 'paused'] },
  colours: [
    { says: 'playing', colour: 'green' },
    { says: 'paused', colour: 'amber' },
  ],
};
const cueArgument = { name: 'cue', type: 'i', min: 1, max: 9999, example: 12 } as const;

/** Starts what is in its list, and says in which state a cue is: playing, paused or stopped. */
const cueProgram = makeType({
  model: 'cue-program',
  form: 'program',
  name: 'Cue program',
  kind: 'show-host',
  version: '1.1',
  drives: ['osc', 'http', 'midi'],
  services: [
    oscService({ receivePort: 6440, sendPort: 6441, replies: 'sender', feedback: [cueState] }, [
      command({
        key: 'start',
        label: 'Start a cue',
        address: '/cues/{cue}/start',
        args: [cueArgument],
        sets: [
          { parameter: 'cue', value: '{cue}' },
          { parameter: 'state', value: 'playing' },
        ],
        reply: { address: '/cues/{cue}/state', args: ['playing'] },
      }),
      command({
        key: 'pause',
        label: 'Pause a cue',
        address: '/cues/{cue}/pause',
        args: [cueArgument],
        sets: [
          { parameter: 'cue', value: '{cue}' },
          { parameter: 'state', value: 'paused' },
        ],
        reply: { address: '/cues/{cue}/state', args: ['paused'] },
      }),
      command({
        key: 'stop-all',
        label: 'Stop everything',
        address: '/cues/stop',
        sets: [{ parameter: 'state', value: 'stopped' }],
        reply: { address: '/cues/state', args: ['stopped'] },
      }),
    ]),
  ],
  face: [{ parameter: 'cue', start: '—' }, { parameter: 'state', start: 'stopped' }, ...lastReply],
  runsOn: [{ system: 'macos', lowest: '13.0' }],
  features: [
    { key: 'network-cues', label: 'network cues', lowest: null, bundle: 'network' },
    { key: 'adapter-choice', label: 'choose the adapter', lowest: '5.3', bundle: null },
  ],
  bundles: [{ key: 'network', label: 'Network bundle', per: 'unit' }],
  online: ['download and licence sign-in'],
});

const messageMonitor = makeType({
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
  runsOn: [...everywhere, { system: 'linux', lowest: null }],
});

const switcherProgram = makeType({
  model: 'switcher-program',
  form: 'program',
  name: 'Switcher program',
  kind: 'computer',
  drives: ['http'],
  runsOn: [...everywhere],
  matches: [{ model: 'production-switcher', rule: 'first_part' }],
  commits: [{ of: 'install', acts: [{ act: 'restart_computer', seconds: 120 }] }],
  online: ['download of the version that the switcher has'],
});

const wallProgram = makeType({
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
});

/**
 * Stands between a panel and show software: keys come in by HTTP, messages go out by OSC. Its lamp for a target knows
 * three states, and it finds the target again by itself.
 */
const panelBridge = makeType({
  model: 'panel-bridge',
  form: 'program',
  name: 'Panel bridge',
  kind: 'computer',
  drives: ['osc', 'http', 'text'],
  lampMeans: 'show',
  services: [
    httpService({ port: 8460, logins: ['none'] }, [
      command({
        key: 'press',
        label: 'Press a key',
        method: 'POST',
        address: '/keys/{key}/press',
        args: [{ name: 'key', type: 'i', min: 1, max: 32, example: 5 }],
        sets: [{ parameter: 'last key', value: '{key}' }],
        reply: { address: '/keys/{key}', args: ['T'] },
      }),
    ]),
  ],
  face: [{ parameter: 'last key', start: '—' }, ...lastReply],
  runsOn: [...everywhere, { system: 'linux', lowest: null }],
  erases: ['pages and keys'],
});

const amplifierProgram = makeType({
  model: 'amplifier-program',
  form: 'program',
  name: 'Amplifier program',
  kind: 'computer',
  drives: ['http'],
  runsOn: [...everywhere],
  online: ['download'],
  papers: ['speaker presets'],
});

/** The editor of the desk: one side's scene replaces the other's when they meet. */
const mixerEditor = makeType({
  model: 'mixer-editor',
  form: 'program',
  name: 'Mixer editor',
  kind: 'computer',
  drives: ['osc'],
  runsOn: [...everywhere],
  matches: [{ model: 'audio-mixer', rule: 'first_part' }],
  helpers: [{ label: 'audio driver', purpose: 'plays and records through the desk', system: 'windows' }],
  face: lastReply,
});

const mixerRemote = makeType({
  model: 'mixer-remote',
  form: 'program',
  name: 'Mixer remote',
  kind: 'tablet',
  drives: ['osc'],
  runsOn: [{ system: 'mobile', lowest: null }],
  online: ['download to the tablet or phone'],
  face: lastReply,
});

/** Sound from many tracks that follows a time code. */
const trackPlayer = makeType({
  model: 'track-player',
  form: 'program',
  name: 'Track player',
  kind: 'playout',
  ownComputer: true,
  drives: ['midi'],
  services: [
    midiService('timecode', 'time code in', [
      command({
        key: 'locate',
        label: 'Go to a song',
        address: 'program-change 1 {song}',
        args: [{ name: 'song', type: 'i', min: 0, max: 127, example: 1 }],
        sets: [{ parameter: 'song', value: '{song}' }],
      }),
    ]),
  ],
  face: [
    { parameter: 'song', start: '—' },
    { parameter: 'time code', start: 'none' },
  ],
  runsOn: [...everywhere],
});

/** Pages for a touch screen: each address or message that somebody sends them is a control of theirs. */
const touchPages = makeType({
  model: 'touch-pages',
  form: 'program',
  name: 'Touch pages',
  kind: 'tablet',
  drives: ['osc'],
  services: [
    oscService({ receivePort: 9010, sendPort: null, replies: 'sender' }, [
      command({
        key: 'page',
        label: 'Show a page',
        address: '/pages/{page}',
        args: [{ name: 'page', type: 'i', min: 1, max: 20, example: 1 }],
        sets: [{ parameter: 'page', value: '{page}' }],
      }),
    ]),
    midiService('midi', 'controllers in', []),
  ],
  face: [{ parameter: 'page', start: '1' }],
  runsOn: [...everywhere, { system: 'linux', lowest: null }, { system: 'mobile', lowest: null }],
});

/** Programs: they run on a computer of the rig and use its adapters. */
export const programs = [
  cueProgram,
  messageMonitor,
  switcherProgram,
  wallProgram,
  panelBridge,
  amplifierProgram,
  mixerEditor,
  mixerRemote,
  trackPlayer,
  touchPages,
];
