import { addressing, cabling, links as linkRoom, rig, show as core, type Change, type Show } from '@deep-patch/core';
import { shippedLibrary, typeLibrary } from '@deep-patch/demo';

/** Who controls whom in a job, all of it from shipped types: a unit as `name: model`, a program as `name: model on unit`. */
export interface Job {
  readonly job: string;
  readonly gear: readonly string[];
  /** `controller > target/service`, or `controller > target` where it has one service. */
  readonly links: readonly string[];
}

export const jobs: readonly Job[] = [
  {
    job: 'a camera remote steers cameras of two kinds',
    gear: ['Remote: camera-remote', 'Mole: pan-tilt-camera', 'Tower: pan-tilt-camera', 'Hand: cinema-camera'],
    links: ['Remote > Mole', 'Remote > Tower', 'Remote > Hand'],
  },
  {
    job: 'cue software starts the light',
    gear: ['Desk: lighting-desk', 'Book: laptop', 'Cues: cue-program on Book'],
    links: ['Cues > Desk'],
  },
  {
    job: 'cue software calls guests in by name',
    gear: ['Gateway: caller-gateway', 'Book: laptop', 'Cues: cue-program on Book'],
    links: ['Cues > Gateway'],
  },
  {
    job: 'a panel drives show software through a bridge, which shows its state',
    gear: ['Panel: button-panel', 'Book: laptop', 'Bridge: panel-bridge on Book', 'Cues: cue-program on Book'],
    links: ['Panel > Bridge', 'Bridge > Cues'],
  },
  {
    job: 'a control program sets amplifiers',
    gear: ['Left: amplifier', 'Right: amplifier', 'Book: laptop', 'Control: amplifier-program on Book'],
    links: ['Control > Left', 'Control > Right'],
  },
  {
    job: 'an editor works on the mixing desk',
    gear: ['Mixer: audio-mixer', 'Book: laptop', 'Editor: mixer-editor on Book'],
    links: ['Editor > Mixer/osc'],
  },
  {
    job: 'pages of a touch screen move the mixing desk',
    gear: ['Mixer: audio-mixer', 'Book: laptop', 'Pages: touch-pages on Book'],
    links: ['Pages > Mixer/osc'],
  },
  {
    job: 'two tablets mix the monitors',
    gear: [
      'Mixer: audio-mixer',
      'Tab one: tablet',
      'Tab two: tablet',
      'Mix one: mixer-remote on Tab one',
      'Mix two: mixer-remote on Tab two',
    ],
    links: ['Mix one > Mixer/osc', 'Mix two > Mixer/osc'],
  },
  {
    job: 'fader banks move the desk by network MIDI',
    gear: ['Mixer: audio-mixer', 'Bank one: fader-bank', 'Bank two: fader-bank'],
    links: ['Bank one > Mixer/midi', 'Bank two > Mixer/midi'],
  },
  {
    job: 'time code runs to everybody who follows it',
    gear: [
      'Clock: timecode-source',
      'Display: timecode-display',
      'Server: media-server',
      'Book: laptop',
      'Tracks: track-player on Book',
      'Way in: timecode-interface',
    ],
    links: ['Clock > Display', 'Clock > Server/timecode', 'Clock > Tracks', 'Clock > Way in'],
  },
  {
    job: 'presentation computers move each other on',
    gear: ['Left: presentation-computer', 'Right: presentation-computer'],
    links: ['Left > Right', 'Right > Left'],
  },
  {
    job: 'the switcher starts playout',
    gear: ['Switcher: production-switcher', 'Clips: playout-machine'],
    links: ['Switcher > Clips'],
  },
  {
    job: 'a program works the switcher',
    gear: ['Switcher: production-switcher', 'Book: laptop', 'Panel: switcher-program on Book'],
    links: ['Panel > Switcher'],
  },
  {
    job: 'a wall program sets every LED processor',
    gear: [
      ...['Large: led-processor', 'Small: small-led-processor', 'Trunks: trunk-led-processor'],
      ...['Book: laptop', 'Wall: wall-program on Book'],
    ],
    links: ['Wall > Large', 'Wall > Small', 'Wall > Trunks'],
  },
  {
    job: 'a show host drives media and words',
    gear: ['Host: show-host', 'Server: media-server', 'Words: presentation-computer'],
    links: ['Host > Server/osc', 'Host > Server/osc-stream', 'Host > Words'],
  },
  {
    job: 'media control is the hub of an installation',
    gear: [
      'Hub: media-control-server',
      'Server: media-server',
      'Left: projector',
      'Right: projector',
      'Small: small-led-processor',
    ],
    links: ['Hub > Server/osc', 'Hub > Left', 'Hub > Right', 'Hub > Small'],
  },
  {
    job: 'a telephone and a tablet call scenes of the media control',
    gear: ['Hub: media-control-server', 'Phone: telephone', 'Tab: tablet'],
    links: ['Phone > Hub', 'Tab > Hub'],
  },
  { job: 'a panel records', gear: ['Panel: button-panel', 'Recorder: network-recorder'], links: ['Panel > Recorder'] },
  {
    job: 'messages are watched on a computer',
    gear: ['Host: show-host', 'Book: laptop', 'Monitor: message-monitor on Book'],
    links: ['Host > Monitor'],
  },
  {
    job: 'a technician’s computer looks into cameras and light',
    gear: ['Own: technician-computer', 'Mole: pan-tilt-camera', 'Desk: lighting-desk'],
    links: ['Own > Mole', 'Own > Desk'],
  },
];

const everything = 'c-secret';
/** The password of all logins of these shows. */
export const jobPasswords = { [everything]: 'tide table' };

/** The show of a job as somebody makes it with what the screens offer: gear, network, addresses, cables, links. */
export function jobShow({ job, gear, links }: Job): Show {
  const names = new Map<string, string>();
  let show = {
    ...core.emptyShow({ id: 'job', name: job }),
    libraries: { [shippedLibrary.id]: { ...shippedLibrary, rev: 0 } },
    types: Object.fromEntries(typeLibrary.map((type) => [type.id, { ...type, rev: 0 }])),
  } as Show;
  let count = 0;
  const newId = () => `n${(count += 1)}`;
  const make = (change: Change | undefined, what: string) => {
    const applied = change && core.applyChange(show, change);
    if (!applied?.ok) throw new Error(`${job}: ${what}`);
    show = applied.show;
  };
  const deviceOf = (name: string) => {
    const device = show.devices[names.get(name) ?? ''];
    if (!device) throw new Error(`${job}: no ${name}`);
    return device;
  };
  const network = { ip: addressing.mustIp('10.70.3.0'), prefix: 24, vlan: null, purpose: '', join: [], blocks: [] };
  make(addressing.planNetwork({ ...network, id: 'net', name: 'Control' }), 'network');
  for (const line of [...gear, 'Switch: managed-switch', 'Air: access-point']) {
    const [, name = '', model = '', on] = /^(.*): (\S+)(?: on (.*))?$/.exec(line) ?? [];
    const type = show.types[model];
    if (!type) throw new Error(`${job}: no type ${model}`);
    // the version that every function asks for, and the same one on partners
    const more = { runsOn: on === undefined ? null : deviceOf(on).id };
    const intent = { type, name, unit: null, place: '', mac: null, firmware: '9.0', more };
    const change = rig.planAddDevice(show, intent, newId);
    names.set(name, change.edits[0]?.id ?? '');
    make(change, line);
  }
  make(addressing.planPlacement(show).change, 'addresses');
  for (const device of core.rowsOf(show, 'devices')) {
    const [own] = core.interfacesOf(show, device.id);
    if (own && device.name !== 'Switch') plugIn(own, device.name);
  }
  function plugIn(own: core.Interface, name: string): void {
    const hub = core.typeOf(show, deviceOf(name))?.kind;
    const isRadio = hub === 'tablet' || hub === 'phone';
    const [other] = core.interfacesOf(show, deviceOf(isRadio ? 'Air' : 'Switch').id);
    if (other) make(cabling.planPlugTogether(show, cabling.cablingFacts(show), own, other), `cable of ${name}`);
  }
  for (const line of links) {
    const [, from = '', to = '', key] = /^(.*) > ([^/]*)(?:\/(.*))?$/.exec(line) ?? [];
    const target = deviceOf(to);
    const service = core
      .rowsOf(show, 'services')
      .find((row) => row.deviceId === target.id && (!key || row.key === key));
    if (!service) throw new Error(`${job}: no service of ${to}`);
    const controllerId = deviceOf(from).id;
    const slot = linkRoom.nextSlot(show, controllerId);
    const id = newId();
    make(
      linkRoom.planAddLink(show, { id, controllerId, targetId: target.id, serviceKey: service.key, slot }),
      `link ${line}`,
    );
    const type = core.serviceTypeOf(show, target, service.key);
    if (type?.logins[0] === 'none') continue;
    const login = { account: 'crew', secretId: everything };
    const [link, told] = [show.links[id], show.services[service.id]];
    if (link) make(linkRoom.planEditLink(show, link, login), `login ${line}`);
    if (told && told.account === null) make(linkRoom.planEditService(show, told, login), `account of ${to}`);
  }
  return show;
}
