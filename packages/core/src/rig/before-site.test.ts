import { expect, test } from 'vitest';
import { applyChange, filledRow } from '../show/index.ts';
import { adapter, cable, device, link, showOf, types, typeWith } from '../show/sample-show.test-data.ts';
import { beforeSite, planTick, type SiteItem } from './before-site.ts';

/** A camera that needs everything, its program, the computer that runs it, a monitor and the switch they hang on. */
const none = { mode: 'none', ip: null, prefix: null } as const;
const eye = typeWith('eye', {
  name: 'Eye',
  kind: 'camera',
  factory: { ...none, login: 'create' },
  sockets: [{ key: 'port-1', label: 'port 1', adapter: 'lan', connector: 'usb' }],
  ways: [{ way: 'web' }],
  services: [
    {
      key: 'web',
      label: 'Web',
      protocol: 'http',
      transport: 'tcp',
      receivePort: 80,
      sendPort: null,
      logins: ['none'],
      onByDefault: true,
      lowestFirmware: '1.4',
      commands: [],
    },
  ],
  features: [
    { key: 'zoom', label: 'Zoom', lowest: '2.0', bundle: 'plus' },
    { key: 'pan', label: 'Pan', lowest: '9.0' },
  ],
  bundles: [{ key: 'plus', label: 'Plus', per: 'unit' }],
  power: [{ feed: 'mains' }, { feed: 'supply', note: '12 V' }],
  accessories: [
    { key: 'box', label: 'network box', need: 'network', count: 2 },
    { key: 'lens', label: 'wide lens', need: 'zoom' },
    { key: 'hood', label: 'hood', need: 'pan' },
  ],
  erases: ['positions', 'names'],
  online: ['register it'],
  papers: ['Manual', 'Card'],
});
const desk = typeWith('view', {
  name: 'View',
  kind: 'show-host',
  form: 'program',
  adapters: [],
  sockets: [],
  factory: none,
  drives: ['http'],
  matches: [
    { model: 'eye', rule: 'equal' },
    { model: 'switch', rule: 'first_part' },
  ],
  helpers: [
    { label: 'Driver', purpose: 'finds eyes', system: 'windows' },
    { label: 'Bridge', purpose: 'joins them', system: 'macos' },
    { label: 'Font', purpose: 'titles' },
  ],
  commits: [{ of: 'install', acts: [{ act: 'restart_computer' }] }],
});
const laptop = typeWith('laptop', { name: 'Laptop', kind: 'computer', factory: none, ways: [{ way: 'system' }] });
const rows = {
  types: [...types, eye, desk, laptop],
  devices: [
    device('pc', 'laptop', { system: 'windows' }),
    device('prog', 'view', { runsOn: 'pc', firmware: '1.9' }),
    device('eye-10', 'eye', { firmware: '1.9', features: ['zoom'], feed: 'supply', packed: ['lens'] }),
    device('eye-9', 'eye', { firmware: '2.1', savedOn: '2026-08-01' }),
    device('hub', 'switch', { firmware: '1.0' }),
  ],
  interfaces: [adapter('eye-10')],
  cables: [cable('eye-10', 'p-1')],
  links: [link('eye-10', { controllerId: 'prog', serviceKey: 'web' })],
  licences: [filledRow('licences', { id: 'l', model: 'eye', bundle: 'plus', owned: 0, note: '' })],
  documents: [
    filledRow('documents', { id: 'd', title: 'Card', model: 'eye', url: 'https://example.test/card' } as never),
  ],
};
const show = showOf(rows);
const said = ({ section, device: unit, text, count, done }: SiteItem) =>
  `${done ? '✓' : '·'} ${section} ${unit?.name ?? '-'}: ${count > 1 ? `${count} × ` : ''}${text}`;

test('the list says for every unit what to update, pack, buy, install, do online, sign in to, save and have at hand', () => {
  expect(beforeSite(show).map(said)).toEqual([
    '· update eye-10: 1.9 to 2.0 or later, over the network, which must be up, by the maker’s enclosed steps; it is gone for a while',
    '· update prog: 1.9 to 2.1 or later, without the network, by the maker’s enclosed steps; it is gone for a while',
    '· pack eye-10: converter usb to rj45, towards hub',
    '· pack eye-10: 2 × network box',
    '✓ pack eye-10: wide lens',
    '· pack eye-10: its own supply, 12 V',
    '· licence -: Plus for Eye: 0 of 1 owned; without one: Pan',
    '· install prog: Driver: finds eyes (link to eye-10)',
    '· install prog: Font: titles (link to eye-10)',
    '· install prog: start it once on pc and allow what the system asks',
    '· install prog: restart pc after installing it',
    '· online eye-9: register it',
    '· online eye-10: register it',
    '· access eye-9: its administrator: who has it?',
    '· access eye-10: its administrator: who has it?',
    '· access pc: account of its operating system: who has it?',
    '✓ save eye-9: a copy of positions and names',
    '· save eye-10: a copy of positions and names',
    '✓ papers eye-10: Card (Eye; kept with the show: Card)',
    '· papers eye-10: Manual (Eye; kept with the show: Card)',
  ]);
});

test('an account counts as known when somebody keeps its password; a licence when enough are owned', () => {
  const account = (keeper: string) => ({ use: 'administrator' as const, account: 'ops', keeper });
  const told = (keeper: string) =>
    beforeSite(
      showOf({
        ...rows,
        devices: rows.devices.map((row) => (row.id === 'eye-9' ? { ...row, accounts: [account(keeper)] } : row)),
        licences: rows.licences.map((row) => ({ ...row, owned: 1 })),
      }),
    )
      .filter(({ section, device: unit }) => section === 'licence' || (section === 'access' && unit?.id === 'eye-9'))
      .map(said);
  const licence = '✓ licence -: Plus for Eye: 1 of 1 owned; without one: Pan';
  expect(told('Ann')).toEqual([licence, '✓ access eye-9: its administrator: ops, Ann knows the password']);
  expect(told('')).toEqual([licence, '· access eye-9: its administrator: ops']);
});

test('every item that can be ticked is done after its change, and open again after the second', () => {
  const items = beforeSite(show);
  const same = (one: SiteItem) => (other: SiteItem) => other.key === one.key && other.device?.id === one.device?.id;
  const find = (among: readonly SiteItem[], item: SiteItem) => among.find(same(item));
  let ticked = 0;
  for (const item of items) {
    const change = planTick(item, '2026-11-25');
    if (!change) {
      // settled elsewhere: bought, written down with an account, kept with the show
      const settled = item.device === undefined || item.section === 'access' || item.key === 'papers:Card';
      expect([settled, item.key]).toEqual([true, item.key]);
      continue;
    }
    ticked += 1;
    const after = applyChange(show, change);
    if (!after.ok) throw new Error('a tick does not apply');
    const [now, others] = [find(beforeSite(after.show), item), beforeSite(after.show)];
    expect([item.key, now?.done, others.length]).toEqual([item.key, !item.done, items.length]);
    const again = now && planTick(now, '2026-11-25');
    const back = again && applyChange(after.show, again);
    expect(back?.ok && find(beforeSite(back.show), item)?.done).toBe(item.done);
    expect(change.label).toBe(`${item.done ? 'Open again' : 'Done'}: ${item.text}`.slice(0, 120));
  }
  expect(ticked).toBe(15);
  const saved = items.find(({ key }) => key === 'save:eye-10');
  const edit = saved && planTick(saved, '2026-11-25')?.edits[0];
  expect(edit?.after).toMatchObject({ savedOn: '2026-11-25' });
});
