import { analyse, show as core, type Change, type Seen, type Show } from '@deep-patch/core';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { beforeEach, expect, test, vi } from 'vitest';
import { SoundingWell } from './sounding-well.tsx';

interface State {
  show: Show | undefined;
  seen: Seen;
  readonly saved: Change[];
  powered: number;
}
const state = vi.hoisted((): State => ({ show: undefined, seen: { soundings: {}, found: {} }, saved: [], powered: 0 }));
vi.mock('../live/workspace.tsx', () => ({
  useShow: () => state.show,
  useWorkspace: () => ({
    show: state.show,
    seen: state.seen,
    analysis: state.show && analyse(state.show, state.seen, 0),
    showId: 's',
    saving: false,
    save: (change: Change) => Promise.resolve(state.saved.push(change) > 0),
  }),
}));
vi.mock('./use-sound.ts', () => ({ useSound: () => ({ sounding: undefined, soundAll: () => undefined }) }));
vi.mock('../bench/use-bench.ts', () => ({ useBench: () => ({ power: () => Promise.resolve((state.powered += 1)) }) }));

const base = {
  libraryId: 'ours',
  version: '1.0',
  adapters: [{ key: 'lan', label: 'network' }],
  sockets: [{ key: 'port-1', label: 'port 1', adapter: 'lan' }],
  factory: { mode: 'dhcp', ip: null, prefix: null },
} as const;
const service = {
  key: 'osc',
  label: 'OSC',
  protocol: 'osc',
  transport: 'udp',
  receivePort: 8000,
  sendPort: null,
  logins: ['none'],
  onByDefault: true,
  lowestFirmware: null,
  commands: [],
};

function rig(port: number): Show {
  const table = (name: core.TableName, rows: { id: string }[]) =>
    Object.fromEntries(rows.map((row) => [row.id, { ...core.contentWith(name, row as never), rev: 1 }]));
  const device = (id: string, typeId: string) => ({
    id,
    typeId,
    name: id,
    unit: null,
    place: '',
    firmware: null,
    note: '',
  });
  const address = (id: string, ip: string) => ({
    id: `${id}-a`,
    interfaceId: `${id}-i`,
    networkId: 'n',
    ip,
    prefix: null,
    gateway: null,
    held: false,
  });
  return {
    ...core.emptyShow({ id: 's', name: 'S' }),
    rev: 1,
    types: table('types', [
      { ...base, id: 'host', model: 'host', name: 'Host', kind: 'show-host', drives: ['osc'] } as { id: string },
      { ...base, id: 'desk', model: 'desk', name: 'Desk', kind: 'lighting', services: [service] } as { id: string },
    ]),
    networks: table('networks', [
      {
        id: 'n',
        name: 'Control',
        network: '10.0.0.0',
        prefix: 24,
        vlan: null,
        purpose: '',
        gateway: null,
        poolFrom: null,
        poolTo: null,
      } as { id: string },
    ]),
    devices: table('devices', [device('Host', 'host'), device('Desk', 'desk')]),
    interfaces: table(
      'interfaces',
      ['Host', 'Desk'].map((id) => ({ id: `${id}-i`, deviceId: id, adapter: 'lan', mac: null })),
    ),
    addresses: table('addresses', [address('Host', '10.0.0.2'), address('Desk', '10.0.0.3')]),
    cables: table('cables', [
      {
        id: 'c',
        fromDevice: 'Host',
        fromSocket: 'port-1',
        toDevice: 'Desk',
        toSocket: 'port-1',
        medium: 'copper',
        lengthM: 3,
        delayMs: null,
      } as { id: string },
    ]),
    services: table('services', [
      {
        id: 's',
        deviceId: 'Desk',
        key: 'osc',
        enabled: true,
        receivePort: 8000,
        sendPort: null,
        sendTo: null,
        account: null,
        secretId: null,
      } as { id: string },
    ]),
    links: table('links', [
      {
        id: 'l',
        controllerId: 'Host',
        targetId: 'Desk',
        serviceKey: 'osc',
        slot: null,
        host: null,
        port,
        replyPort: null,
        account: null,
        secretId: null,
        command: null,
        args: [],
      } as { id: string },
    ]),
  } as unknown as Show;
}

function draw(show: Show, measured?: core.MeasuredLayer[], rttMs: number | null = null, rev = 1): void {
  state.show = show;
  state.seen = {
    found: {},
    soundings: measured
      ? { l: { linkId: 'l', source: 'bench', at: Date.UTC(2026, 7, 1, 9, 12), rev, layers: measured, rttMs } }
      : {},
  };
  const link = show.links['l'];
  if (!link) throw new Error('no link');
  render(
    <MemoryRouter>
      <SoundingWell link={link} />
    </MemoryRouter>,
  );
}
const layers = (...states: core.MeasuredLayer['state'][]): core.MeasuredLayer[] =>
  core.layerNames.map((layer, at) => ({ layer, state: states[at] ?? 'waits', code: 'not_reached', facts: {} }));
const marks = () =>
  screen.getAllByRole('listitem').map((item) => item.querySelector('[role=img]')?.getAttribute('aria-label'));
beforeEach(() => {
  state.saved.length = 0;
  state.powered = 0;
});

test('a forecast is called one, and the first failing layer is opened with its fix', async () => {
  draw(rig(800));
  expect(screen.getByText(/Forecast from the plan/)).toBeTruthy();
  expect(marks()).toEqual([...Array<string>(3).fill('passes'), 'stops here', ...Array<string>(4).fill('not reached')]);
  await userEvent.setup().click(screen.getByRole('button', { name: 'Send to 8000' }));
  expect(state.saved).toMatchObject([{ edits: [{ table: 'links', after: { port: 8000 } }] }]);
});

test('a measurement takes the place of the forecast, with its time', () => {
  draw(rig(8000), layers('pass', 'pass', 'pass', 'pass', 'pass', 'pass', 'pass', 'pass'), 3.2);
  expect(screen.getByText(/Sounded on the bench at .*: reply in 3.2 ms/)).toBeTruthy();
  expect(screen.getByText('8', { selector: 'span' })).toBeTruthy();
});

test('a measurement from before the last change is told as old, and the forecast stands again', () => {
  draw(rig(8000), layers('fail'), null, 0);
  expect(screen.getByText(/but the plan was changed since/)).toBeTruthy();
  expect(marks()[0]).toBe('passes');
});

test('what only the bench saw is said as such; without power the way out is a button', async () => {
  draw(rig(8000), layers('fail'));
  expect(screen.getByText(/No lamp on the bench/)).toBeTruthy();
  await userEvent.setup().click(screen.getByRole('button', { name: 'Power on all stand-ins' }));
  expect(state.powered).toBe(1);
});
