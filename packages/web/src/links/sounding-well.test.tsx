import {
  type contract,
  addressing,
  analyse,
  links as linkRoom,
  show as core,
  withTriedFixes,
  type Analysis,
  type Change,
  type Seen,
  type Show,
} from '@deep-patch/core';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { beforeEach, expect, test, vi } from 'vitest';
import { SoundingWell } from './sounding-well.tsx';
import { WatchStrip } from './watch-strip.tsx';

interface State {
  show: Show | undefined;
  seen: Seen;
  readonly saved: Change[];
  powered: number;
  isTried: boolean;
}
const state = vi.hoisted((): State => ({
  show: undefined,
  seen: { soundings: {}, found: {} },
  saved: [],
  powered: 0,
  isTried: true,
}));
const settle = (show: Show, analysis: Analysis) => (state.isTried ? withTriedFixes(show, analysis) : analysis);
vi.mock('../live/workspace.tsx', () => ({
  useShow: () => state.show,
  useSaving: () => false,
  useWorkspace: () => ({
    show: state.show,
    seen: state.seen,
    analysis: state.show && settle(state.show, analyse(state.show, state.seen, 0)),
    showId: 's',
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
    Object.fromEntries(rows.map((row) => [row.id, { ...core.filledRow(name, row as never), rev: 1 }]));
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

function draw(
  show: Show,
  measured?: core.MeasuredLayer[],
  rttMs: number | null = null,
  rev = 1,
  back: core.BackSounding | null = null,
): { unmount: () => void } {
  state.show = show;
  const row = show.links['l'];
  // a revision that changed the link is one in which the plan forecast something else
  const basis =
    rev === show.rev && row
      ? linkRoom.basisOf(show, linkRoom.linkFacts(show, addressing.addressingFacts(show)), row)
      : 'another';
  state.seen = {
    found: {},
    soundings: measured
      ? {
          l: {
            linkId: 'l',
            source: 'bench',
            at: Date.UTC(2026, 7, 1, 9, 12),
            rev,
            basis,
            layers: measured,
            rttMs,
            back,
          },
        }
      : {},
  };
  const link = show.links['l'];
  if (!link) throw new Error('no link');
  return render(
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
  state.isTried = false;
  const { unmount } = draw(rig(800));
  const untried = screen.getByRole<HTMLButtonElement>('button', { name: 'Send to 8000' });
  expect(untried.disabled, 'a fix waits until the plan was tried with it').toBe(true);
  unmount();
  state.isTried = true;
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

const allPass = layers(...Array<'pass'>(8).fill('pass'));

test.each([
  [
    { came: true, ms: 1.4, did: 'fader 3 -6 dB', told: '/level' },
    'passes',
    'told to the controller in 1.4 ms as /level.',
  ],
  [{ came: false, ms: null, did: 'fader 3 -6 dB', told: '/level' }, 'stops here', 'the controller was told nothing'],
] as const)('the other direction is told where the link has one: %o', (back, mark, words) => {
  draw(rig(8000), allPass, 3.2, 1, back);
  const line = screen.getByText(/^From the other end: fader 3 -6 dB/).closest('p');
  expect(line?.textContent).toContain(words);
  expect(line?.querySelector('[role=img]')?.getAttribute('aria-label')).toBe(mark);
});

test('nothing is told of the other direction without one, nor after a change', () => {
  draw(rig(8000), allPass, 3.2);
  expect(screen.queryByText(/From the other end/)).toBeNull();
});

test('a symptom sorts its causes by the sounding; a sounding that no longer holds rules nothing out', async () => {
  draw(rig(8000), layers('pass', 'pass', 'pass', 'pass', 'fail'));
  await userEvent.click(screen.getByText('From what you see to what may cause it'));
  await userEvent.selectOptions(screen.getByLabelText('What do you see?'), 'A message leaves but nothing happens');
  const under = (title: string) =>
    [...(screen.getByText(title).parentElement?.querySelectorAll('li') ?? [])].map((item) => item.textContent);
  expect(under('Ruled out: the sounding went past it')).toEqual([
    expect.stringContaining('Does somebody else have its address?'),
    'Have both the same mask?',
  ]);
  // what stops at the same layer comes first, with the way to make sure of it
  expect(under('To look at, the likeliest first')[0]).toMatch(
    /^Is it the port .* To be sure, see Desk’s own screen\.$/,
  );
});

test('a symptom without a sounding asks for one and lists every cause in its order', async () => {
  draw(rig(8000), layers('fail'), null, 0);
  await userEvent.click(screen.getByText('From what you see to what may cause it'));
  await userEvent.selectOptions(screen.getByLabelText('What do you see?'), 'The status stays at “trying”');
  expect(screen.getByText(/^Sound the link first/)).toBeTruthy();
  expect(screen.queryByText(/^Ruled out/)).toBeNull();
});

test('a watch tells the newest change first, with what it was and what it is; unwatched without changes it is not there', () => {
  state.show = rig(8000);
  const at = Date.UTC(2026, 7, 1, 9, 12);
  const strip = (watch: contract.WatchState) => (
    <MemoryRouter>
      <WatchStrip watch={watch} />
    </MemoryRouter>
  );
  const changes: contract.LinkChange[] = [
    { at, linkId: 'l', from: null, to: 'cable' },
    { at: at + 1000, linkId: 'l', from: 'cable', to: 'port' },
    { at: at + 2000, linkId: 'l', from: 'port', to: null },
  ];
  const { container, rerender } = render(strip({ everySeconds: null, changes: [] }));
  expect(container.textContent).toBe('');
  rerender(strip({ everySeconds: 15, changes: [] }));
  expect(container.textContent).toContain('every 15 s. No command is sent');
  rerender(strip({ everySeconds: null, changes }));
  expect(screen.getAllByRole('listitem').map((item) => item.textContent.replace(/\d\d:\d\d:\d\d/, ''))).toEqual([
    'Host → Deskworks again, stopped at port',
    'Host → Deskport, was cable',
    'Host → Deskstops at cable now',
  ]);
});

test('what no packet told is not ticked off, and silence is said as such', () => {
  const states = ['pass', 'pass', 'pass', 'unseen', 'unseen', 'unseen', 'unseen', 'fail'] as const;
  const silent = core.layerNames.map((layer, at) => ({
    layer,
    state: states[at] ?? ('waits' as const),
    code: states[at] === 'unseen' ? 'not_told' : layer === 'reply' ? 'missing' : 'up',
    facts: { port: 8001 },
  }));
  draw(rig(8000), silent);
  expect(screen.getAllByText('sent; nothing tells how it went')).toHaveLength(4);
  expect(screen.getByText('It was sent, and nothing came back.')).toBeDefined();
});
