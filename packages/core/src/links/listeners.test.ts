import { expect, test } from 'vitest';
import { addressingFacts } from '../addressing/index.ts';
import { adapter, address, device, network, service, showOf, typeWith, types } from '../show/sample-show.test-data.ts';
import { listenerName, listenersOf } from './listeners.ts';

const offering = (
  model: string,
  form: 'unit' | 'program',
  ...services: (readonly [string, 'osc' | 'midi' | 'text', number])[]
) =>
  typeWith(model, {
    name: model,
    kind: form === 'program' ? 'media' : 'computer',
    form,
    factory: { mode: 'dhcp', ip: null, prefix: null },
    services: services.map(([key, protocol, receivePort]) => ({
      key,
      label: `${key} input`,
      protocol,
      transport: protocol === 'text' ? 'tcp' : 'udp',
      receivePort,
      sendPort: null,
      logins: ['none'],
      onByDefault: true,
      lowestFirmware: null,
      commands: [],
    })),
  });

const own = [
  ...types,
  offering('pc', 'unit', ['panel', 'osc', 8000]),
  offering('player', 'program', ['osc', 'osc', 8000], ['session', 'midi', 5004]),
  offering('sequencer', 'program', ['session', 'midi', 5005], ['lines', 'text', 8000], ['names', 'osc', 5353]),
];
const on = (deviceId: string, key: string, receivePort: number, enabled = true) =>
  service(deviceId, { id: `${deviceId}-${key}`, key, receivePort, enabled, sendTo: null, sendPort: null });

function listenersWith(enabled = true) {
  const show = showOf({
    types: own,
    networks: [network()],
    devices: [
      device('pc', 'pc'),
      device('a-player', 'player', { runsOn: 'pc', name: 'Player' }),
      device('b-sequencer', 'sequencer', { runsOn: 'pc', name: 'Sequencer' }),
    ],
    interfaces: [adapter('pc')],
    addresses: [{ ...address('pc', null), method: 'dhcp' as const }],
    services: [
      on('pc', 'panel', 8000, enabled),
      on('a-player', 'osc', 8000),
      on('a-player', 'session', 5004),
      on('b-sequencer', 'session', 5005),
      on('b-sequencer', 'lines', 8000),
      on('b-sequencer', 'names', 5353),
    ],
  });
  return { show, listeners: listenersOf(show, addressingFacts(show)) };
}

test('a port belongs to whoever starts first: the system, the computer, then its programs by their ids', () => {
  const { show, listeners } = listenersWith();
  const who = (transport: 'udp' | 'tcp', port: number) => {
    const found = listeners.at('pc', transport, port);
    return found && `${found.device.id} ${found.service?.key ?? found.label}`;
  };
  expect(who('udp', 8000)).toBe('pc panel');
  expect(listeners.wanting('pc', 'udp', 8000).map(({ device: { id } }) => id)).toEqual(['pc', 'a-player']);
  // another transport has ports of its own
  expect(who('tcp', 8000)).toBe('b-sequencer lines');
  // a session of network MIDI takes both of its ports, or none
  expect([who('udp', 5004), who('udp', 5005), who('udp', 5006)]).toEqual([
    'a-player session',
    'a-player session',
    undefined,
  ]);
  expect([who('udp', 68), who('udp', 67), who('udp', 5353)]).toEqual(['pc DHCP client', undefined, 'pc DNS-SD']);
  expect([listeners.at('elsewhere', 'udp', 8000), who('udp', 9)]).toEqual([undefined, undefined]);
  const [first, second] = listeners.wanting('pc', 'udp', 8000);
  const target = show.devices['pc'];
  if (!first || !second || !target) throw new Error('two want the port');
  expect([listenerName(target, first), listenerName(target, second)]).toEqual(['panel input', 'osc input of Player']);
});

test('what is switched off wants no port', () => {
  const { listeners } = listenersWith(false);
  expect(listeners.at('pc', 'udp', 8000)?.device.id).toBe('a-player');
  expect(listeners.wanting('pc', 'udp', 8000)).toHaveLength(1);
});
