import { expect, test } from 'vitest';
import { addressingFacts } from '../addressing/index.ts';
import { vlanTable } from '../cabling/index.ts';
import { powerOrder } from '../rig/index.ts';
import {
  adapter,
  address,
  cable,
  device,
  link,
  network,
  service,
  showOf,
  types,
  typeWith,
} from '../show/sample-show.test-data.ts';
import { firewallRules, portTable } from './port-table.ts';

const dhcp = { mode: 'dhcp', ip: null, prefix: null } as const;
const pc = typeWith('pc', {
  name: 'Pc',
  kind: 'computer',
  factory: dhcp,
  ways: [{ way: 'system' }],
  drives: ['osc'],
  startsInSeconds: 20,
});
const managed = typeWith('managed', {
  name: 'Managed',
  kind: 'switch',
  factory: dhcp,
  managed: true,
  forwards: true,
  startsInSeconds: 90,
  sockets: ['p-1', 'p-2', 'p-3'].map((key) => ({ key, label: key, adapter: null })),
});
const deskType = types.find(({ id }) => id === 'desk');
const program = typeWith('program', {
  name: 'Program',
  kind: 'computer',
  form: 'program',
  factory: { mode: 'none', ip: null, prefix: null },
  adapters: [],
  sockets: [],
  services: deskType?.services ?? [],
});

const show = showOf({
  types: [...types, pc, managed, program],
  networks: [network({ vlan: 20 }), network({ id: 'two', name: 'Two', network: '10.2.0.0', vlan: 30 })],
  devices: [
    device('host', 'pc'),
    device('desk', 'desk'),
    device('x', 'program', { runsOn: 'host' }),
    device('y', 'program', { runsOn: 'host' }),
    device('s1', 'managed'),
    device('s2', 'managed'),
  ],
  interfaces: [adapter('host'), adapter('desk')],
  addresses: [
    address('host', '10.1.0.2'),
    { ...address('host', '10.2.0.2'), id: 'h2', networkId: 'two' },
    address('desk', '10.1.0.60'),
  ],
  cables: [
    { ...cable('host', 'p-1'), toDevice: 's1' },
    { ...cable('desk', 'p-1'), toDevice: 's2' },
    { ...cable('s1', 'p-3'), fromSocket: 'p-2', toDevice: 's2', id: 'trunk' },
  ],
  services: [service('desk'), { ...service('x'), id: 'xs' }, { ...service('y'), id: 'ys' }],
  links: [link('desk'), link('x', { id: 'inside' })],
});

test('ports by machine, with programs of one computer clashing', () => {
  const own = portTable(show).filter(({ machine }) => machine.id === 'host');
  expect(own.map(({ owner, port, use, clash }) => [owner.id, port, use, clash])).toEqual([
    ['x', 8000, 'hears', true],
    ['y', 8000, 'hears', true],
    ['x', 8001, 'sends_from', false],
    ['y', 8001, 'sends_from', false],
    ['host', 8001, 'hears_replies', false],
    ['host', 8001, 'hears_replies', false],
  ]);
});

const midi = typeWith('session', {
  name: 'Session',
  kind: 'mixer',
  factory: dhcp,
  ways: [{ way: 'system' }],
  services: (deskType?.services ?? []).map((each) => ({ ...each, key: 'midi', protocol: 'midi', receivePort: 5004 })),
});
const sessions = showOf({
  types: [...types, { ...pc, drives: ['osc', 'midi'] }, midi, program],
  devices: [device('host', 'pc'), device('mix', 'session'), device('x', 'program', { runsOn: 'mix' })],
  services: [
    service('mix', { key: 'midi', receivePort: 5004, sendPort: null }),
    service('x', { receivePort: 5005, sendPort: null }),
  ],
  links: [link('mix', { serviceKey: 'midi', port: 5004, replyPort: null })],
});

test('a session of MIDI has two ports, in the table and in the firewalls', () => {
  expect(portTable(sessions).map(({ owner, port, clash }) => [owner.id, port, clash])).toEqual([
    ['mix', 5004, false],
    ['mix', 5005, true],
    ['x', 5005, true],
  ]);
  expect(firewallRules(sessions).map(({ machine, direction, port }) => [machine.id, direction, port])).toEqual([
    ['host', 'out', 5004],
    ['host', 'out', 5005],
    ['mix', 'in', 5004],
    ['mix', 'in', 5005],
  ]);
});

test('a program that hears where replies arrive clashes with them, replies of several targets do not', () => {
  const replyAt = (port: number) => ({
    ...show,
    services: { ys: { ...(show.services['ys'] ?? expect.fail('no service')), receivePort: port, sendPort: null } },
  });
  const clashes = (port: number) => portTable(replyAt(port)).map(({ use, clash }) => [use, clash]);
  expect(clashes(8001)).toEqual([
    ['hears', true],
    ['hears_replies', true],
    ['hears_replies', true],
  ]);
  expect(clashes(8002).map(([, clash]) => clash)).toEqual([false, false, false]);
});

test('a port that one service has is no clash, whatever else is sent from it or heard on it', () => {
  const alone = { ...show, services: { ys: show.services['ys'] ?? expect.fail('no service') } };
  expect(portTable(alone).map(({ owner, port, use, clash }) => [owner.id, port, use, clash])).toEqual([
    ['y', 8000, 'hears', false],
    ['y', 8001, 'sends_from', false],
    ['host', 8001, 'hears_replies', false],
    ['host', 8001, 'hears_replies', false],
  ]);
});

test('firewalls of computers only, both ways of a UDP link, nothing for a link within one machine', () => {
  expect(firewallRules(show).map(({ machine, direction, port, peer }) => [machine.id, direction, port, peer])).toEqual([
    ['host', 'in', 8001, 'desk'],
    ['host', 'out', 8000, 'desk'],
  ]);
});

test('switch sockets: one VLAN is access, two are a trunk, between switches everything', () => {
  expect(
    vlanTable(show, addressingFacts(show)).map(({ hub, socket, mode, vlans }) => [hub.id, socket, mode, vlans]),
  ).toEqual([
    ['s1', 'p-1', 'trunk', [20, 30]],
    ['s1', 'p-2', 'trunk', [20, 30]],
    ['s2', 'p-1', 'access', [20]],
    ['s2', 'p-3', 'trunk', [20, 30]],
  ]);
});

test('switching on: network first, then targets, what controls them, programs last', () => {
  expect(
    powerOrder(show).map(({ stage, devices, waitSeconds }) => [stage, devices.map(({ id }) => id), waitSeconds]),
  ).toEqual([
    ['network', ['s1', 's2'], 90],
    ['targets', ['desk'], 0],
    ['controllers', ['host'], 20],
    ['programs', ['x', 'y'], 0],
  ]);
});
