import { cameraPanel } from './control-layouts.ts';
import { command, httpService, lanSocket, makeType, pictureOut, usb } from './make-type.ts';

const position = command({
  key: 'recall',
  label: 'Recall a position',
  method: 'PUT',
  address: '/control/position/{position}',
  args: [{ name: 'position', type: 'i', min: 1, max: 100, example: 1 }],
  sets: [{ parameter: 'position', value: '{position}' }],
  reply: { address: '/control/position', args: ['{position}'] },
});

const lamp = command({
  key: 'lamp',
  label: 'Light the front lamp',
  method: 'PUT',
  address: '/control/lamp',
  args: [{ name: 'lit', type: 'T', example: true }],
  sets: [{ parameter: 'lamp', value: '{lit}' }],
  reply: { address: '/control/lamp', args: ['{lit}'] },
});

/** A picture of its own: it tells a fault of the link from one of what the lens sees. */
const bars = command({
  key: 'bars',
  label: 'Show its own colour bars',
  method: 'PUT',
  address: '/control/bars',
  args: [{ name: 'shown', type: 'T', example: true }],
  sets: [{ parameter: 'bars', value: '{shown}' }],
  reply: { address: '/control/bars', args: ['{shown}'] },
});

const iris = command({
  key: 'iris',
  label: 'Set the iris',
  method: 'PUT',
  address: '/control/iris',
  args: [{ name: 'share', type: 'f', min: 0, max: 1, example: 0.5 }],
  sets: [{ parameter: 'iris', value: '{share}' }],
  reply: { address: '/control/iris', args: ['{share}'] },
});

const angle = { name: 'angle', type: 'f', unit: '°', example: 0, neutral: 0 } as const;
const steering = [
  command({
    key: 'pan',
    label: 'Turn left or right',
    method: 'PUT',
    address: '/control/pan',
    args: [{ ...angle, min: -90, max: 90 }],
    sets: [{ parameter: 'pan', value: '{angle}°' }],
    reply: { address: '/control/pan', args: ['{angle}'] },
  }),
  command({
    key: 'tilt',
    label: 'Turn up or down',
    method: 'PUT',
    address: '/control/tilt',
    args: [{ ...angle, min: -30, max: 90 }],
    sets: [{ parameter: 'tilt', value: '{angle}°' }],
    reply: { address: '/control/tilt', args: ['{angle}'] },
  }),
  command({
    key: 'zoom',
    label: 'Zoom',
    method: 'PUT',
    address: '/control/zoom',
    args: [{ name: 'share', type: 'f', min: 0, max: 1, example: 0.5, neutral: 0 }],
    sets: [{ parameter: 'zoom', value: '{share}' }],
    reply: { address: '/control/zoom', args: ['{share}'] },
  }),
];

export const panTiltCamera = makeType({
  model: 'pan-tilt-camera',
  name: 'Pan-tilt camera',
  kind: 'camera',
  factoryIp: '10.88.0.40',
  factory: { linkLocal6: true, login: 'create' },
  sockets: [lanSocket, pictureOut('sdi-out', 'picture out', 'sdi')],
  services: [
    httpService({ port: 80, logins: ['digest', 'basic', 'none'], lowestFirmware: '1.4' }, [
      position,
      lamp,
      bars,
      ...steering,
    ]),
  ],
  features: [{ key: 'follow', label: 'follow a person', lowest: '2.0', bundle: null }],
  face: [
    { parameter: 'position', start: 'home' },
    { parameter: 'lamp', start: 'false' },
    { parameter: 'bars', start: 'false' },
    { parameter: 'pan', start: '0°' },
    { parameter: 'tilt', start: '0°' },
    { parameter: 'zoom', start: '0' },
  ],
  ways: [{ way: 'web' }, { way: 'search', note: 'finds it by its IPv6 address' }, { way: 'menu' }],
  commits: [
    { of: 'address', acts: [{ act: 'confirm_page' }, { act: 'restart_device', seconds: 60 }] },
    { of: 'login', acts: [{ act: 'confirm_page' }, { act: 'restart_device', seconds: 60 }] },
  ],
  startsInSeconds: 60,
  most: { sources: null, controllers: 5 },
  power: [{ feed: 'poe' }, { feed: 'supply', note: 'its own 12 V supply' }],
  erases: ['stored positions', 'the administrator account'],
  papers: ['command list of the remote control', 'guide to first sign-in'],
});

export const cinemaCamera = makeType({
  model: 'cinema-camera',
  name: 'Cinema camera',
  kind: 'camera',
  factory: { mode: 'none' },
  adapters: [{ key: 'lan', label: 'expansion unit' }],
  sockets: [{ ...lanSocket, label: 'on the expansion unit' }, usb(), pictureOut('sdi-out', 'picture out', 'sdi')],
  services: [httpService({ port: 80, logins: ['none', 'digest'], lowestFirmware: '3.1' }, [iris])],
  accessories: [{ key: 'expansion', label: 'expansion unit with the network socket', need: 'network' }],
  face: [{ parameter: 'iris', start: '0.5' }],
  ways: [{ way: 'menu', note: 'switch the network on first' }],
  commits: [{ of: 'service', acts: [{ act: 'confirm_page' }] }],
  power: [{ feed: 'battery' }, { feed: 'supply' }],
  erases: ['looks and button assignments'],
});

export const cameraRemote = makeType({
  model: 'camera-remote',
  name: 'Camera remote',
  kind: 'camera-remote',
  // comes with the name of its own network as address: nothing works before it is changed
  factoryIp: '10.88.0.0',
  drives: ['http'],
  lampMeans: 'login',
  looksUpOnce: true,
  controls: cameraPanel,
  needsGateway: true,
  commits: [
    { of: 'address', acts: [{ act: 'confirm_entry' }, { act: 'leave_setup' }] },
    { of: 'entry', acts: [{ act: 'confirm_entry' }, { act: 'store' }] },
  ],
  face: [{ parameter: 'last reply', start: '—' }],
  power: [{ feed: 'poe' }, { feed: 'supply' }],
  startsInSeconds: 20,
  erases: ['the list of cameras'],
});
