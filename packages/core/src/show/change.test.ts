import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  applyChange,
  changeSchema,
  contentWith,
  filledRow,
  schemas,
  tableNames,
  conflictsOf,
  contentOf,
  danglingReferences,
  fieldChoices,
  inverseOf,
  planRemove,
  removeRow,
  rowsOf,
  settled,
  updateRow,
  insertRow,
  type Change,
  type Content,
  type TableName,
  type Show,
} from './index.ts';
import type { Given } from '../schemas/index.ts';
import { adapter, address, device, rowOf, showOf, soundRows } from './sample-show.test-data.ts';

const name = fc.string({ minLength: 1, maxLength: 12 });
const deviceRow = fc.record({
  id: fc.integer({ min: 0, max: 20 }).map((n) => `d${n}`),
  name,
  unit: fc.option(fc.nat(99)),
  place: name,
});
const randomShow = fc
  .uniqueArray(deviceRow, { selector: ({ id }) => id, maxLength: 12 })
  .map((rows) => showOf({ devices: rows.map((row) => device(row.id, 'desk', row)) }, 5));

/** A change of the given show: some rows removed, some altered, some new, as a person would make it. */
const randomChange = (show: Show) =>
  fc
    .record({
      fates: fc.array(fc.constantFrom('keep', 'remove', 'alter'), { minLength: 12, maxLength: 12 }),
      names: fc.array(name, { minLength: 12, maxLength: 12 }),
      fresh: fc.nat(4),
    })
    .map(({ fates, names, fresh }): Change => {
      const old = rowsOf(show, 'devices').flatMap((row, at) => {
        if (fates[at] === 'remove') return [removeRow('devices', row)];
        return fates[at] === 'alter' ? [updateRow('devices', row, { name: names[at] ?? 'x' })] : [];
      });
      const made = Array.from({ length: fresh }, (_, at) => insertRow('devices', device(`new${at}`, 'desk')));
      return { label: 'random', edits: [...old, ...made] };
    });

const contents = (show: Show) => Object.fromEntries(rowsOf(show, 'devices').map((row) => [row.id, contentOf(row)]));
const must = (applied: ReturnType<typeof applyChange>): Show => {
  if (!applied.ok) throw new Error('unexpected conflict');
  return applied.show;
};

describe('changes', () => {
  test('a change and its inverse lead back to the same rows, on random shows', () => {
    fc.assert(
      fc.property(
        randomShow.chain((show) => fc.tuple(fc.constant(show), randomChange(show))),
        ([show, change]) => {
          const after = must(applyChange(show, change));
          const back = must(applyChange(after, inverseOf(after, change, 'back')));
          expect(contents(back)).toEqual(contents(show));
          expect(back.rev).toBe(show.rev + 2);
          expect(must(applyChange(back, inverseOf(back, inverseOf(after, change, 'back'), 'again')))).toMatchObject({
            devices: {},
          });
        },
      ),
    );
  });

  test('a row that moved meanwhile stops the whole change and names both versions', () => {
    const show = showOf({ devices: [device('a', 'desk'), device('b', 'desk')] });
    const mine: Change = {
      label: 'mine',
      edits: [
        updateRow('devices', rowOf(show, 'devices', 'a'), { name: 'Mine' }),
        updateRow('devices', rowOf(show, 'devices', 'b'), { place: 'Quay' }),
      ],
    };
    const moved = must(
      applyChange(show, {
        label: 'theirs',
        edits: [updateRow('devices', rowOf(show, 'devices', 'a'), { name: 'Theirs', unit: 7 })],
      }),
    );
    const conflicts = conflictsOf(moved, mine);
    expect(conflicts).toMatchObject([{ id: 'a', yours: { name: 'Mine' }, theirs: { name: 'Theirs', unit: 7 } }]);
    expect(applyChange(moved, mine)).toEqual({ ok: false, conflicts });
    const [conflict] = conflicts;
    if (!conflict) throw new Error('no conflict');
    expect(fieldChoices(conflict)).toEqual([
      { field: 'name', base: 'a', yours: 'Mine', theirs: 'Theirs', both: true },
      { field: 'unit', base: null, yours: null, theirs: 7, both: false },
    ]);
    const edit = settled(conflict, new Set(['name']));
    expect(edit && must(applyChange(moved, { label: 'settled', edits: [edit] })).devices['a']).toMatchObject({
      name: 'Mine',
      unit: 7,
    });
  });

  test('an inverse over a row that somebody altered since is refused, not forced', () => {
    const show = showOf({ devices: [device('a', 'desk')] });
    const change: Change = { label: 'x', edits: [updateRow('devices', rowOf(show, 'devices', 'a'), { name: 'X' })] };
    const after = must(applyChange(show, change));
    const theirs = must(
      applyChange(after, { label: 'y', edits: [updateRow('devices', rowOf(after, 'devices', 'a'), { name: 'Y' })] }),
    );
    expect(applyChange(theirs, inverseOf(theirs, change, 'back')).ok).toBe(false);
    // whatever the revision of the row is
    expect(inverseOf(theirs, change, 'back').edits.map(({ base }) => base)).toEqual([-1]);
  });

  test('removing a device takes along all that would point nowhere', () => {
    const show = showOf(soundRows);
    for (const { id } of rowsOf(show, 'devices'))
      expect(danglingReferences(must(applyChange(show, planRemove(show, 'devices', [id], 'remove'))))).toEqual([]);
    expect(
      danglingReferences(showOf({ interfaces: [adapter('gone')], addresses: [address('gone', null)] })),
    ).toHaveLength(2);
  });
});

describe('the gate for changes from outside', () => {
  const good = {
    label: 'x',
    edits: [{ table: 'devices', id: 'a', base: 0, before: null, after: device('a', 'desk') }],
  };

  test('takes what the planners make', () => expect(changeSchema.safeParse(good).success).toBe(true));

  test.each([
    ['an unknown field', { ...good, extra: 1 }],
    [
      'an unknown field of a row',
      { ...good, edits: [{ ...good.edits[0], after: { ...device('a', 'desk'), colour: 'red' } }] },
    ],
    ['an unknown table', { ...good, edits: [{ ...good.edits[0], table: 'users' }] }],
    ['two edits of one row', { ...good, edits: [good.edits[0], good.edits[0]] }],
    ['an edit of nothing', { ...good, edits: [{ ...good.edits[0], after: null }] }],
    ['a row under another id', { ...good, edits: [{ ...good.edits[0], id: 'b' }] }],
    ['no edit', { ...good, edits: [] }],
    [
      'host bits in a network',
      {
        label: 'x',
        edits: [
          {
            table: 'networks',
            id: 'n',
            base: 0,
            before: null,
            after: {
              id: 'n',
              name: 'N',
              network: '10.0.0.1',
              prefix: 24,
              vlan: null,
              purpose: '',
              gateway: null,
              poolFrom: null,
              poolTo: null,
            },
          },
        ],
      },
    ],
  ])('refuses %s', (_what, change) => expect(changeSchema.safeParse(change).success).toBe(false));

  test('lists all faults at once', () => {
    const wrong: Content<'devices'> = { ...device('a', 'desk'), name: '', unit: -1, place: 'x'.repeat(300) };
    const read = changeSchema.safeParse({ ...good, edits: [{ ...good.edits[0], after: wrong }] });
    expect(read.error?.issues.map(({ path }) => path.at(-1))).toEqual(['name', 'unit', 'place']);
  });
});

describe('what may be left out of a row', () => {
  const rows: { readonly [T in Exclude<TableName, 'types'>]: Given<T> } = {
    libraries: { id: 'a', name: 'A', position: 1 },
    licences: { id: 'a', model: 'm', bundle: 'b', owned: 1 },
    networks: {
      id: 'a',
      name: 'A',
      network: '10.0.0.0',
      prefix: 24,
      vlan: null,
      purpose: '',
      gateway: null,
      poolFrom: null,
      poolTo: null,
    },
    blocks: { id: 'a', networkId: 'n', label: 'L', kinds: [], first: '10.0.0.1', last: '10.0.0.2' },
    devices: { id: 'a', typeId: 't', name: 'A', unit: null, place: '', firmware: null, note: '' },
    interfaces: { id: 'a', deviceId: 'd', adapter: 'lan', mac: null },
    addresses: { id: 'a', interfaceId: 'i', networkId: 'n', ip: null, prefix: null, gateway: null, held: false },
    cables: {
      id: 'a',
      fromDevice: 'a',
      fromSocket: 's',
      toDevice: 'b',
      toSocket: 's',
      medium: 'copper',
      lengthM: null,
    },
    services: {
      id: 'a',
      deviceId: 'd',
      key: 'osc',
      enabled: true,
      receivePort: 1,
      sendPort: null,
      sendTo: null,
      account: null,
      secretId: null,
    },
    links: {
      id: 'a',
      controllerId: 'a',
      targetId: 'b',
      serviceKey: 'osc',
      slot: null,
      host: null,
      port: 1,
      replyPort: null,
      account: null,
      secretId: null,
      command: null,
      args: [],
    },
    keyedIn: { id: 'a', deviceId: 'd', of: 'address', value: {}, at: 1 } as unknown as Given<'keyedIn'>,
    progress: { id: 'a', deviceId: 'd' },
    documents: { id: 'a', model: 'm', title: 'T', fileId: 'a'.repeat(64), bytes: 1 },
    contacts: { id: 'a', name: 'A' },
    controls: { id: 'a', deviceId: 'd', label: 'A', kind: 'fader', row: 0, column: 0 },
    assignments: { id: 'a', deviceId: 'd', control: 'f-1' },
    banks: {
      ...{
        id: 'a',
        deviceId: 'd',
        targetId: 't',
        serviceKey: 'osc',
        command: 'level',
        channel: 'channel',
        level: 'level',
      },
      place: 0,
    },
    cues: { id: 'a', number: 1, name: 'A', controllerId: 'd' },
    inputRules: { id: 'a', switcherId: 's', input: 5 },
    clips: { id: 'a', deviceId: 'd', list: 'Main', place: 0, name: 'opener.mov' },
    timeHops: { id: 'a', fromId: 'a', toId: 'b', format: 'linear' },
    walls: { id: 'a', name: 'A', panel: 'p', columns: [{ panels: 2, drop: 0, gapMm: 0, angle: 0 }] },
  };

  test.each(Object.keys(rows) as (keyof typeof rows)[])('has the value that the schema gives it: %s', (table) =>
    expect(contentWith(table, rows[table])).toEqual(filledRow(table, rows[table])),
  );
  test('every table is listed, in the order of the schemas', () => expect(tableNames).toEqual(Object.keys(schemas)));
});
