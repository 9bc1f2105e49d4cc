import { show as core, type contract } from '@deep-patch/core';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { beforeEach, expect, test, vi } from 'vitest';
import { newerOf } from '../live/newer-of.ts';
import { EndpointsSection } from './endpoints-section.tsx';
import { LookingSection } from './looking-section.tsx';
import { ModeForm } from './mode-form.tsx';
import { ScriptStrip } from './script-strip.tsx';
import { ServiceForm } from './service-form.tsx';
import { StoredSets } from './stored-sets.tsx';
import { TouchSection } from './touch-section.tsx';
import { TroubleStrip } from './trouble-strip.tsx';

const desk = { id: 'desk', name: 'Lighting desk' } as core.Device;
const cable = { id: 'c1', fromDevice: 'desk', fromSocket: 'port-1', toDevice: 'host', toSocket: 'port-1' };
const devices = { desk, host: { ...desk, id: 'host', name: 'Show host' } };
vi.mock('../live/workspace.tsx', () => ({
  useShow: () => ({ ...core.emptyShow({ id: 's', name: 'Show' }), devices, cables: { c1: cable } }),
  useWorkspace: () => ({ showId: 's' }),
}));
const done: unknown[] = [];
const act = (wanted: unknown) => Promise.resolve(done.push(wanted) > 0);
beforeEach(() => done.splice(0));
const click = (name: string | RegExp) => userEvent.click(screen.getByRole('button', { name }));
async function fill(label: string | RegExp, text: string) {
  await userEvent.clear(screen.getByLabelText(label));
  if (text !== '') await userEvent.type(screen.getByLabelText(label), text);
}

const osc = {
  key: 'osc',
  label: 'OSC control',
  protocol: 'osc',
  transport: 'udp',
  logins: ['none'],
  commands: [
    {
      key: 'level',
      label: 'Set a level',
      args: [
        { name: 'channel', type: 'i', example: 3 },
        { name: 'level', type: 'f', unit: 'dB', example: -6 },
      ],
    },
    { key: 'mute', label: 'Mute', args: [{ name: 'on', type: 'T', example: true }] },
  ],
} as unknown as core.ServiceType;
const setting = {
  key: 'osc',
  enabled: true,
  receivePort: 8300,
  sendPort: 8310,
  sendTo: '10.1.0.2',
  alsoTo: [],
  openFor: [],
  role: null,
  login: null,
  account: null,
  hasPassword: false,
} as const;

test('a function’s page refuses every wrong field at once and keys in nothing; good ones go in together', async () => {
  render(<ServiceForm deviceId="desk" type={osc} service={setting} act={act} />);
  await fill('Receiving port', '70000');
  await fill('Sends to', '10.1.0.400');
  await fill('Its port', 'x');
  await click('Key in OSC control');
  expect(screen.getAllByText('A port is a number from 1 to 65535')).toHaveLength(2);
  expect(
    ['Receiving port', 'Sends to', 'Its port'].map((label) =>
      screen.getByLabelText(label).getAttribute('aria-invalid'),
    ),
  ).toEqual(['true', 'true', 'true']);
  expect(done).toEqual([]);
  await fill('Receiving port', '8301');
  await fill('Sends to', '');
  await fill('Its port', '');
  await click('Key in OSC control');
  await click('Turn OSC control off');
  const change = { of: 'service', key: 'osc' };
  expect(done).toEqual([
    {
      act: 'key_in',
      deviceId: 'desk',
      change: { ...change, receivePort: 8301, sendTo: null, sendPort: null },
    },
    { act: 'key_in', deviceId: 'desk', change: { ...change, enabled: false } },
  ]);
});

test('a login is keyed in with its method; an empty password leaves the one that is set', async () => {
  const web = {
    ...osc,
    key: 'web',
    label: 'remote control',
    protocol: 'http',
    transport: 'tcp',
    logins: ['digest', 'none'],
  };
  const service = {
    ...setting,
    key: 'web',
    sendTo: null,
    alsoTo: [],
    openFor: [],
    role: null,
    sendPort: null,
    receivePort: 80,
    hasPassword: true,
  };
  render(<ServiceForm deviceId="desk" type={web as core.ServiceType} service={service} act={act} />);
  expect(screen.getByText('one is set; empty keeps it')).toBeTruthy();
  await fill('Account', ' ops ');
  await click('Key in remote control');
  await fill('Password', 'lantern');
  await click('Key in remote control');
  await userEvent.selectOptions(screen.getByLabelText('Login'), 'none');
  await click('Key in remote control');
  const change = { of: 'service', key: 'web', receivePort: 80, login: 'digest', account: 'ops' };
  expect(done.map((each) => (each as { change: unknown }).change)).toEqual([
    change,
    { ...change, password: 'lantern' },
    { ...change, login: 'none', account: null, password: 'lantern' },
  ]);
});

test('modes, stored sets and commands at the unit go to the bench as they were chosen', async () => {
  const type = {
    sets: 2,
    variants: [{ key: 'audio', label: 'with audio network', sockets: [] }],
    services: [osc],
  } as unknown as core.DeviceType;
  const set = { position: 1, label: 'Quay', active: false, isAsStored: false };
  render(
    <>
      <ModeForm deviceId="desk" type={type} now={null} act={act} />
      <StoredSets deviceId="desk" type={type} sets={[set]} act={act} />
      <TouchSection device={desk} type={type} act={act} />
    </>,
  );
  await userEvent.selectOptions(screen.getByLabelText('Mode'), 'with audio network');
  await click('Key the mode in');
  await click('Use the set Quay');
  await userEvent.type(screen.getByLabelText('Name of the new set'), 'Tour');
  await click('Store at 2');
  await fill(/^channel/, '7');
  await click('Do it');
  await userEvent.selectOptions(screen.getByLabelText('What to do at it'), 'Mute');
  await fill('on', 'false');
  await click('Do it');
  const touched = { act: 'touch', deviceId: 'desk', serviceKey: 'osc' };
  expect(done).toEqual([
    { act: 'key_in', deviceId: 'desk', change: { of: 'mode', variant: 'audio' } },
    { act: 'take_set', deviceId: 'desk', position: 1 },
    { act: 'store_set', deviceId: 'desk', position: 2, label: 'Tour' },
    { ...touched, command: 'level', args: [7, -6] },
    { ...touched, command: 'mute', args: [false] },
  ]);
});

test('endpoints that came after the list was noted are marked, and what is gone is named', async () => {
  const endpoint = (name: string) => ({ name, called: null });
  const { rerender } = render(
    <EndpointsSection device={desk} endpoints={[endpoint('in 1'), endpoint('out 9')]} act={act} />,
  );
  expect(screen.queryByText('new')).toBeNull();
  await click('Note the list as it is');
  expect(screen.getByText(/^Noted\./)).toBeTruthy();
  rerender(
    <EndpointsSection device={desk} endpoints={[endpoint('in 1'), endpoint('in 4'), endpoint('out 5')]} act={act} />,
  );
  const fresh = screen
    .getAllByText('new')
    .map((badge) => within(badge.closest('li') as HTMLElement).getByText(/^(in|out) \d/).textContent);
  expect(fresh).toEqual(['in 4', 'out 5']);
  expect(screen.getByText('2 new, gone: out 9.')).toBeTruthy();
  await userEvent.type(screen.getByLabelText('What in 4 is'), 'Bank{Enter}');
  expect(done).toEqual([{ act: 'name_endpoint', deviceId: 'desk', endpoint: 'in 4', called: 'Bank' }]);
});

test('a unit that is looked for shows the first check that fails with what to do, and only its own search', () => {
  const checks = [
    { key: 'power', state: 'pass', facts: {} },
    { key: 'cable', state: 'fail', facts: {} },
    { key: 'segment', state: 'waits', facts: {} },
  ] as const;
  const looking = { deviceId: 'desk', from: 'Book', checks };
  const { rerender } = render(<LookingSection device={desk} looking={looking} act={act} />);
  expect(screen.getByText('No lamp is lit at it.')).toBeTruthy();
  rerender(<LookingSection device={desk} looking={{ ...looking, checks: checks.slice(0, 1) }} act={act} />);
  expect(screen.getByText('Book finds it.')).toBeTruthy();
  rerender(<LookingSection device={{ ...desk, id: 'other' }} looking={looking} act={act} />);
  expect(screen.queryByRole('listitem')).toBeNull();
});

test('a script tells nothing of what is hidden, and what was found with its time; refused steps do not count', () => {
  const step = { hidden: true, tookMs: null, reason: null, kind: null, deviceId: null } as const;
  const script: contract.ScriptState = {
    title: 'Dress rehearsal',
    startedAt: Date.now(),
    over: false,
    wrong: 2,
    steps: [
      { ...step, state: 'found', kind: 'cable_out', deviceId: 'desk', tookMs: 61_000 },
      { ...step, state: 'set' },
      { ...step, state: 'waiting' },
      { ...step, state: 'refused' },
    ],
  };
  render(<ScriptStrip script={script} act={act} />);
  const text = screen.getByRole('region').textContent;
  expect(text).toContain('1 of 3 hidden faults found, 2 wrong guesses');
  expect(screen.getAllByRole('listitem').map((item) => item.textContent)).toEqual([
    'cable out at Lighting desk found in 1 min 1 s',
    'fault 2 is hidden',
    'fault 3 is still to come',
    'fault 4 could not be set',
  ]);
});

test('units report their errors in one strip, and none is shown where all is well', () => {
  const state = (patch: Partial<contract.StandinState>) =>
    ({ deviceId: 'desk', status: 'up', menu: [], circling: [], ...patch }) as unknown as contract.StandinState;
  const strip = (states: contract.StandinState[]) => (
    <MemoryRouter>
      <TroubleStrip states={states} />
    </MemoryRouter>
  );
  const { container, rerender } = render(strip([state({}), state({ status: 'no power' })]));
  expect(container.textContent).toBe('');
  rerender(
    strip([
      state({ status: 'storm' }),
      state({ status: 'clash', menu: [['OSC control', '8300 is in use']] }),
      state({ status: 'storm', deviceId: 'host', circling: ['port-1', 'loop a'] }),
    ]),
  );
  expect(screen.getAllByRole('listitem').map((item) => item.textContent)).toEqual([
    'frames run in circles: Lighting desk, Show host',
    'another unit has its address, OSC control: 8300 is in use: Lighting desk',
    'In the circle: Lighting desk port-1 to Show host port-1, a cable at Show host that the plan does not have. ' +
      'Take one of them out, or let managed switches cut it.',
  ]);
});

test('an answer that was overtaken never replaces newer news; after the bench ended anything does', () => {
  const state = (seq: number, showId = 's') => ({ showId, seq }) as contract.BenchState;
  expect(newerOf(state(5), state(4))?.seq).toBe(5);
  expect(newerOf(state(5), state(6))?.seq).toBe(6);
  expect(newerOf(state(5), null)).toBeNull();
  expect(newerOf(null, state(4))?.seq).toBe(4);
  expect(newerOf(state(5), state(1, 'other'))?.showId).toBe('other');
});
