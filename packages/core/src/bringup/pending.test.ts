import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { addressingFacts } from '../addressing/index.ts';
import { applyChange, commitActs, settingKinds, updateRow, type Show } from '../show/index.ts';
import { device, showOf, soundRows, types, typeWith } from '../show/sample-show.test-data.ts';
import { actsFor, missingFor, pendingOf, planKeyedIn, settingsFile } from './index.ts';

const deskType = types.find(({ id }) => id === 'desk');
const desk = typeWith('desk', {
  ...deskType,
  name: 'Desk',
  kind: 'lighting',
  factory: { mode: 'static', ip: '10.9.0.60', prefix: 24, linkLocal6: true },
  variants: [{ key: 'touring', label: 'touring', sockets: [] }],
  commits: [
    { of: 'address', acts: [{ act: 'confirm_page' }, { act: 'restart_device', seconds: 40 }] },
    { of: 'service', acts: [{ act: 'restart_service' }, { act: 'confirm_page' }] },
  ],
});
const show = showOf({ ...soundRows, types: [...types.filter(({ id }) => id !== 'desk'), desk] });
const rowIn = (at: Show, id: string) => at.devices[id] ?? expect.fail(`${id} is not there`);
const pending = (at: Show, id: string) => pendingOf(at, addressingFacts(at), rowIn(at, id));
const after = (at: Show, change: Parameters<typeof applyChange>[1] | undefined): Show => {
  const applied = change && applyChange(at, change);
  return applied?.ok ? applied.show : expect.fail('the change did not apply');
};
const setAll = (at: Show, ...ids: string[]) =>
  after(
    at,
    planKeyedIn(
      at,
      addressingFacts(at),
      ids.map((id) => rowIn(at, id)),
    ),
  );
const edit = (at: Show, change: ReturnType<typeof updateRow>) => after(at, { label: 'edit', edits: [change] });
const addressOf = (at: Show) => at.addresses['desk-a'] ?? expect.fail('no address');

describe('what is still to be keyed in', () => {
  test('a new unit wants everything; once set, only what the plan moved, with what it replaces', () => {
    const first = pending(show, 'desk');
    expect(first.neverSet).toBe(true);
    expect(first.lines.map(({ of, now }) => [of, now])).toEqual([
      ['address', '10.1.0.60, mask 255.255.255.0, gateway none'],
      ['service', 'on, hears 8000, sends to 10.1.0.2:8001'],
    ]);
    const set = setAll(show, 'desk');
    expect(pending(set, 'desk')).toEqual({ neverSet: false, lines: [], acts: [] });
    const moved = edit(set, updateRow('addresses', addressOf(set), { ip: '10.1.0.61' }));
    expect(pending(moved, 'desk').lines).toEqual([
      {
        of: 'address',
        key: 'desk-a',
        label: 'network on Control',
        was: '10.1.0.60, mask 255.255.255.0, gateway none',
        now: '10.1.0.61, mask 255.255.255.0, gateway none',
      },
    ]);
    // the controller has the target in its own list: that entry is due too
    const entries = pending(setAll(moved, 'desk'), 'host').lines.filter(({ of }) => of === 'entry');
    expect(entries.map(({ now }) => now)).toContain('10.1.0.61:8000, hears replies on 8001');
  });

  test('what the plan takes back is to be taken out, and a password is compared without being shown', () => {
    const off = edit(show, updateRow('devices', rowIn(show, 'desk'), { ipv6: 'off', variant: 'touring' }));
    const set = setAll(off, 'desk', 'camera');
    const back = edit(set, updateRow('devices', rowIn(set, 'desk'), { ipv6: 'as_delivered' }));
    expect(pending(back, 'desk').lines).toEqual([{ of: 'address', key: 'ipv6', label: 'IPv6', was: 'off', now: null }]);
    const camera = set.services['camera-s'] ?? expect.fail('no service');
    const other = edit(set, updateRow('services', camera, { secretId: 's2' }));
    expect(pending(other, 'camera').lines.map(({ key }) => key)).toEqual(['web:password']);
    expect(JSON.stringify(settingsFile(other, addressingFacts(other), rowIn(other, 'camera')))).not.toContain('s2');
  });

  test('one line can be set alone; the rest stays due', () => {
    const one = after(
      show,
      planKeyedIn(show, addressingFacts(show), [rowIn(show, 'desk')], { of: 'service', key: 'osc' }),
    );
    expect(pending(one, 'desk').lines.map(({ of }) => of)).toEqual(['address']);
  });

  test('acts come once, in the order in which they are done, and the larger restart covers the smaller', () => {
    expect(pending(show, 'desk').acts).toEqual([
      { act: 'confirm_page', seconds: null },
      { act: 'restart_device', seconds: 40 },
    ]);
    const act = fc.record({
      act: fc.constantFrom(...commitActs),
      seconds: fc.option(fc.integer({ min: 1, max: 99 })),
    });
    const commit = fc.record({ of: fc.constantFrom(...settingKinds), acts: fc.array(act, { maxLength: 4 }) });
    fc.assert(
      fc.property(fc.array(commit, { maxLength: 6 }), fc.subarray([...settingKinds]), (commits, kinds) => {
        const acts = actsFor(
          { ...desk, rev: 1, commits },
          kinds.map((of) => ({ of })),
        );
        const order = acts.map((item) => commitActs.indexOf(item.act));
        expect(order).toEqual([...new Set(order)].sort((a, b) => a - b));
        const asked = commits.filter(({ of }) => kinds.includes(of)).flatMap((item) => item.acts);
        const restarts = new Set(acts.map((item) => item.act));
        for (const { act: name } of asked)
          expect(
            restarts.has(name) ||
              (/restart_(service|program)/.test(name) &&
                (restarts.has('restart_device') || restarts.has('restart_computer'))),
          ).toBe(true);
      }),
    );
  });

  test('what is not decided yet is named instead of being left to guessing', () => {
    const open = showOf({
      ...soundRows,
      types: [...types.filter(({ id }) => id !== 'desk'), desk],
      addresses: soundRows.addresses.map((row) => (row.id === 'desk-a' ? { ...row, ip: null } : row)),
      devices: [...soundRows.devices, device('spare', 'desk')],
    });
    const missing = (id: string) => missingFor(open, addressingFacts(open), rowIn(open, id));
    expect(missing('desk')).toEqual(['its address on Control is not placed', 'its variant or mode is not chosen']);
    expect(missing('host')).toEqual(['desk that it controls has no address']);
    expect(missing('camera')).toEqual([]);
  });
});
