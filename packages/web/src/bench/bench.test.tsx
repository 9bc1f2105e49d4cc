import { type contract, show as core } from '@deep-patch/core';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { beforeEach, expect, test, vi } from 'vitest';
import { takeTapNews } from '../live/tap-store.ts';
import { AllUnitsDialog } from './all-units-dialog.tsx';
import { BreakSection } from './break-section.tsx';
import { FaultsStrip } from './faults-strip.tsx';
import { RehearsalStrip } from './rehearsal-strip.tsx';
import { ScanStrip } from './scan-strip.tsx';
import { TapPanel } from './tap-panel.tsx';
import { UnitMenu } from './unit-menu.tsx';

const devices = { host: { id: 'host', name: 'Show host' }, desk: { id: 'desk', name: 'Lighting desk' } };
const links = { l: { id: 'l', controllerId: 'host', targetId: 'desk' } };
// asks the server; seen in the browser
vi.mock('./ways-in.tsx', () => ({ WaysIn: () => null }));
vi.mock('../live/workspace.tsx', () => ({
  useShow: () => ({ devices, links }),
  useWorkspace: () => ({ showId: 's', show: { devices, links } }),
}));

const done: unknown[] = [];
const act = (wanted: unknown) => Promise.resolve(done.push(wanted) > 0);
beforeEach(() => done.splice(0));

const type = {
  adapters: [{ key: 'lan', label: 'network' }],
  sockets: [{ key: 'port-1', label: 'port 1', adapter: 'lan', connector: 'rj45' }],
  services: [{ key: 'osc', label: 'OSC control', logins: ['none'], lowestFirmware: null }],
  ways: [{ way: 'menu' }],
  helpers: [],
  variants: [{ key: 'tour', label: 'on tour', sockets: [] }],
  sets: 2,
  forwards: false,
  managed: false,
  kind: 'lighting',
  form: 'unit',
} as unknown as core.DeviceType;
const standin = (patch: Partial<contract.StandinState> = {}): contract.StandinState => ({
  deviceId: 'desk',
  powered: true,
  status: 'up',
  circling: [],
  has: [],
  readyInMs: null,
  face: [],
  menu: [['network', '10.61.20.61 /24']],
  settings: {
    addresses: [{ adapter: 'lan', method: 'static', ip: '10.61.20.61', prefix: 24, gateway: null }],
    services: [
      {
        key: 'osc',
        enabled: true,
        receivePort: 8300,
        sendPort: null,
        sendTo: null,
        alsoTo: [],
        openFor: [],
        role: null,
        login: null,
        account: null,
        hasPassword: false,
      },
    ],
    firmware: '7.4',
    variant: null,
    followsPlan: true,
  },
  pending: [],
  application: 'ready',
  firewall: false,
  helper: null,
  allowed: [],
  sets: [],
  earlier: null,
  unstored: false,
  lamps: [],
  endpoints: [],
  lists: {},
  heard: 0,
  lastAt: null,
  ...patch,
});
const menu = (state: contract.StandinState) =>
  render(<UnitMenu device={devices.desk as core.Device} type={type} state={state} act={act} />);

test('an address that cannot be is told at its field and not keyed in; a good one is, with the mask that stood there', async () => {
  menu(standin());
  await userEvent.click(screen.getByRole('button', { name: 'Key something in' }));
  const field = screen.getByLabelText('Address and mask');
  for (const wrong of ['10.61.20.300', '10.61.20', 'north']) {
    await userEvent.clear(field);
    await userEvent.type(field, wrong);
    await userEvent.click(screen.getByRole('button', { name: 'Key it in' }));
    expect([wrong, field.getAttribute('aria-invalid'), done.length]).toEqual([wrong, 'true', 0]);
  }
  await userEvent.clear(field);
  await userEvent.type(field, '10.61.20.66');
  await userEvent.click(screen.getByRole('button', { name: 'Key it in' }));
  const change = { of: 'address', adapter: 'lan', method: 'static', ip: '10.61.20.66', prefix: 24, gateway: null };
  expect(done).toEqual([{ act: 'key_in', deviceId: 'desk', change }]);
});

test('what is pending names its acts in their order, and only the next one is a button', async () => {
  menu(
    standin({
      pending: [
        { of: 'address', acts: ['confirm_entry', 'restart_device'], stage: 'typed', what: 'network: 10.61.20.66 /24' },
      ],
    }),
  );
  expect(screen.getByText(/not in force yet/).textContent).toMatch(/First confirm each entry, then restart the unit/);
  expect(screen.queryByRole('button', { name: 'Restart the unit' })).toBeNull();
  await userEvent.click(screen.getByRole('button', { name: 'Confirm each entry' }));
  expect(done).toEqual([{ act: 'commit', deviceId: 'desk', step: 'confirm_entry', of: 'address' }]);
});

test.each(['no power', 'starting', 'fault'] as const)('nothing can be keyed in at a unit in state “%s”', (status) => {
  menu(standin({ status, powered: status !== 'no power' }));
  expect(screen.getByRole('button', { name: 'Key something in' })).toHaveProperty('disabled', true);
});

test('every kind of fault has words of its own; a unit offers those that make sense, and mends what is set', async () => {
  expect(new Set(core.faultKinds.flatMap((kind) => [core.faults[kind].does, core.faults[kind].is])).size).toBe(
    2 * core.faultKinds.length,
  );
  const offered = core.faultsFor(type);
  expect(offered).toContain('cable_out');
  for (const kind of ['loop', 'dhcp_gone', 'firewall_on', 'helper_quit', 'cable_swapped'] as const)
    expect(offered).not.toContain(kind);
  render(
    <BreakSection
      deviceId="desk"
      type={type}
      faults={[
        { id: 'f1', kind: 'cable_out', deviceId: 'desk' },
        { id: 'f2', kind: 'wrong_mask', deviceId: 'host' },
      ]}
      act={act}
    />,
  );
  // the fault of the other unit is not told here, and what is set is not offered again
  expect(screen.queryByText('wrong mask')).toBeNull();
  expect(screen.queryByRole('button', { name: 'Pull its cable' })).toBeNull();
  await userEvent.click(screen.getByRole('button', { name: 'Mend: cable out' }));
  await userEvent.click(screen.getByRole('button', { name: 'Key in a wrong mask' }));
  expect(done).toEqual([
    { act: 'clear_fault', id: 'f1' },
    { act: 'set_fault', kind: 'wrong_mask', deviceId: 'desk' },
  ]);
});

test('a rehearsal tells where it shows and nothing more, takes a guess, and says afterwards what it was', async () => {
  const running = { startedAt: Date.now(), linkId: 'l', result: null };
  const show = (rehearsal: contract.RehearsalState) => (
    <MemoryRouter>
      <RehearsalStrip rehearsal={rehearsal} act={act} />
    </MemoryRouter>
  );
  const { rerender } = render(show(running));
  expect(screen.getByText(/Something is broken/).textContent).toContain('Show host no longer drives Lighting desk');
  const guess = screen.getByRole('button', { name: 'That is it' });
  expect(guess).toHaveProperty('disabled', true);
  await userEvent.selectOptions(screen.getByLabelText('What is wrong'), 'cable out');
  await userEvent.click(guess);
  expect(done).toEqual([{ act: 'guess', kind: 'cable_out', deviceId: 'desk' }]);
  const result = {
    right: false,
    tookMs: 83_000,
    kind: 'wrong_vlan',
    deviceId: 'host',
    guessedKind: 'cable_out',
    guessedDeviceId: 'desk',
  } as const;
  rerender(show({ ...running, result }));
  expect(screen.getByText(/Not that/).textContent).toContain(
    'it was wrong VLAN at Show host, not cable out at Lighting desk. 1 min 23 s from start to answer.',
  );
  rerender(show({ ...running, result: { ...result, right: true, guessedKind: 'wrong_vlan' } }));
  expect(screen.getByText(/^Right/).textContent).not.toContain(', not ');
});

test('a scan shows how far it is and can be stopped; afterwards it says what it could not see and what would', async () => {
  const scan = { running: true, done: 64, total: 253, found: 3, stopped: false, from: 'Book', outside: [] };
  const strip = (state: contract.ScanState) => (
    <MemoryRouter>
      <ScanStrip scan={state} act={act} />
    </MemoryRouter>
  );
  const { rerender } = render(strip(scan));
  expect(screen.getByRole('progressbar', { name: 'Addresses asked' }).getAttribute('value')).toBe('64');
  await userEvent.click(screen.getByRole('button', { name: 'Stop' }));
  expect(done).toEqual([{ act: 'stop_scan' }]);
  const outside = [{ network: 'LED', units: 1, setting: 'wired: 10.61.40.254 /24' }];
  rerender(strip({ ...scan, running: false, stopped: true, outside }));
  expect(screen.getByText(/Book stopped: 3 units answered/)).toBeTruthy();
  expect(screen.getByRole('listitem').textContent).toBe('LED, 1 unit: wired: 10.61.40.254 /24');
});

test('the tap filters by text, protocol and unit, and stands still while it is held', async () => {
  const line = (at: number, patch: Partial<contract.HeardMessage>): contract.HeardMessage => ({
    at,
    from: 'Show host',
    to: 'Lighting desk',
    fromId: 'host',
    toId: 'desk',
    protocol: 'OSC',
    text: '/desk/cue/31/start 4.0',
    ok: true,
    ...patch,
  });
  render(
    <TapPanel
      heard={[line(1, {}), line(2, { protocol: 'HTTP', text: '401 to PUT /x', toId: 'other', ok: false })]}
      forget={() => act('forget')}
    />,
    { wrapper: MemoryRouter },
  );
  const lines = () =>
    within(screen.getByRole('list'))
      .getAllByRole('listitem')
      .map((item) => item.textContent ?? '');
  expect(lines()).toHaveLength(2);
  expect(lines()[0]).toContain('401 to PUT /x');
  await userEvent.selectOptions(screen.getByLabelText('Protocol'), 'OSC');
  expect(lines()).toHaveLength(1);
  await userEvent.selectOptions(screen.getByLabelText('Protocol'), '');
  await userEvent.selectOptions(screen.getByLabelText('To'), 'Lighting desk');
  expect(lines().map((text) => text.includes('/desk/cue'))).toEqual([true]);
  await userEvent.selectOptions(screen.getByLabelText('From'), 'Lighting desk');
  expect(lines()).toEqual(['No line passes the filter.']);
  await userEvent.selectOptions(screen.getByLabelText('From'), '');
  await userEvent.selectOptions(screen.getByLabelText('To'), '');
  await userEvent.type(screen.getByLabelText('Show only lines with'), 'PUT');
  expect(lines().map((text) => text.includes('401'))).toEqual([true]);
  await userEvent.clear(screen.getByLabelText('Show only lines with'));

  await userEvent.click(screen.getByRole('button', { name: 'Hold' }));
  const lamps = { in: ['desk'], out: ['host'] };
  const { act: inReact } = await import('react');
  inReact(() => takeTapNews({ showId: 's', lines: [line(3, { text: '/late' })], perSecond: 1, addresses: 1, lamps }));
  expect(lines()).toHaveLength(2);
  await userEvent.click(screen.getByRole('button', { name: 'Go on' }));
  // the same again is one line with its count, until every line is asked for
  inReact(() => takeTapNews({ showId: 's', lines: [line(9, { text: '/late' })], perSecond: 1, addresses: 1, lamps }));
  expect(lines()).toHaveLength(3);
  expect(lines()[0]).toContain('2 times');
  await userEvent.click(screen.getByLabelText('every line'));
  expect(lines()).toHaveLength(4);
  await userEvent.click(screen.getByLabelText('every line'));
  expect(lines()[0]).toContain('/late');
});

test('all that was broken is listed with its unit, and mended from the last to the first', async () => {
  const faults = [
    { id: 'f1', kind: 'cable_out', deviceId: 'desk' },
    { id: 'f2', kind: 'wrong_vlan', deviceId: 'host' },
  ] as const;
  const { rerender } = render(<FaultsStrip faults={faults} act={act} />, { wrapper: MemoryRouter });
  const strip = within(screen.getByRole('region', { name: 'What you broke' }));
  expect(strip.getAllByRole('link').map(({ textContent }) => textContent)).toEqual(['Lighting desk', 'Show host']);
  expect(strip.getByText(core.faults.wrong_vlan.is)).toBeTruthy();
  await userEvent.click(strip.getByRole('button', { name: 'Put all right' }));
  expect(done).toEqual(['f2', 'f1'].map((id) => ({ act: 'clear_fault', id })));
  rerender(<FaultsStrip faults={[]} act={act} />);
  expect(screen.queryByRole('region')).toBeNull();
});

test('everything as delivered or as planned is one act for all units, and says what is lost before', async () => {
  const bench = {
    startUps: 'skipped',
    faults: [{ id: 'f1', kind: 'cable_out', deviceId: 'desk' }],
  } as unknown as contract.BenchState;
  const closed = vi.fn<() => void>();
  render(<AllUnitsDialog deviceIds={['desk', 'host']} bench={bench} act={act} onClose={closed} />);
  expect(screen.getByText(/What was keyed in is lost/)).toBeTruthy();
  expect(screen.getByText(/The fault that you set stays until it is mended\./)).toBeTruthy();
  await userEvent.click(screen.getByRole('button', { name: /as delivered/ }));
  await userEvent.click(screen.getByRole('button', { name: /as planned/ }));
  const deviceIds = ['desk', 'host'];
  expect(done).toEqual([
    { act: 'factory', deviceIds },
    { act: 'follow_plan', deviceIds },
  ]);
  expect(closed).toHaveBeenCalledTimes(2);
  await userEvent.selectOptions(screen.getByLabelText('Start-up times'), 'real');
  expect(done.at(-1)).toEqual({ act: 'start_ups', mode: 'real' });
});
