import { show as core } from '@deep-patch/core';
import { demoShow } from '@deep-patch/demo';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { byPage, type KeyedChange } from './keyed-change.ts';
import { keyIn, putBack } from './keying.ts';
import { freshMemory } from './memory.ts';
import { doAct, losePower, restartProgram } from './pending.ts';
import { plannedSettings } from './settings.ts';
import { settingsOf, type Standin } from './standin.ts';

type Acts = readonly core.CommitAct[];

/** The mixer of the demo whose type asks for these acts. */
function unit(commits: Partial<Record<core.SettingKind, Acts>> = {}, id = 'desk'): Standin {
  const show = demoShow();
  const device = show.devices[id] ?? expect.fail(id);
  const found = core.typeOf(show, device) ?? expect.fail(id);
  const type = {
    ...found,
    commits: Object.entries(commits).map(([of, acts]) => ({
      of: of as core.SettingKind,
      acts: acts.map((act) => ({ act, seconds: null })),
    })),
  };
  return { device, type, memory: freshMemory(type), planned: plannedSettings(show, device, {}) } as unknown as Standin;
}
const address = (last: number): KeyedChange => ({
  ...{ of: 'address', adapter: 'lan', method: 'static', prefix: 24, gateway: null },
  ip: `10.61.20.${last}`,
});
const port = (receivePort: number): KeyedChange => ({ of: 'service', key: 'osc', receivePort });
const login = (account: string): KeyedChange => ({ of: 'service', key: 'osc', account });
const mode = (variant: string | null): KeyedChange => ({ of: 'mode', variant });
/** Last figure of the address, port, account and mode. */
const inForce = (standin: Standin) => {
  const { addresses, services, variant } = settingsOf(standin);
  const osc = services.find(({ key }) => key === 'osc');
  return [(addresses['lan']?.[0]?.ip ?? 0) & 255, osc?.receivePort, osc?.account ?? null, variant];
};
const [asPlanned] = [inForce(unit())];

describe('what is keyed in', () => {
  test('an address that is not confirmed stays so when a port is keyed in, and a port that waits for its program too', () => {
    const one = unit({ address: ['confirm_entry', 'restart_device'] });
    keyIn(one, address(66));
    expect(keyIn(one, port(9000))).toBe(true);
    expect(inForce(one)).toEqual([asPlanned?.[0], 9000, null, null]);
    expect(one.memory.pending.map(({ of, acts }) => [of, acts])).toEqual([
      ['address', ['confirm_entry', 'restart_device']],
    ]);
    const two = unit({ service: ['restart_program'], address: [] });
    keyIn(two, port(9000));
    keyIn(two, address(66));
    expect(inForce(two)).toEqual([66, asPlanned?.[1], null, null]);
    restartProgram(two);
    expect(inForce(two)).toEqual([66, 9000, null, null]);
  });

  test('an account has the acts of its own page, ports beside it theirs', () => {
    const standin = unit({ login: ['confirm_page', 'restart_device'] });
    standin.memory.firstSignIn = true;
    const both = { ...port(9000), login: 'digest', account: 'ops', password: 'x' } as KeyedChange;
    expect(byPage(both)).toHaveLength(2);
    keyIn(standin, both);
    expect([inForce(standin), standin.memory.firstSignIn]).toEqual([[asPlanned?.[0], 9000, null, null], true]);
    doAct(standin, 'confirm_page');
    expect(doAct(standin, 'restart_device')).toBe('restart');
    losePower(standin);
    expect([inForce(standin)[2], standin.memory.firstSignIn]).toEqual(['ops', false]);
  });

  test('what was stored is in force after the power was off, whichever way it came back', () => {
    const standin = unit({ address: ['store', 'restart_device'] });
    keyIn(standin, address(66));
    doAct(standin, 'store');
    expect([inForce(standin)[0], standin.memory.pending[0]?.isKept]).toEqual([asPlanned?.[0], true]);
    // a later entry is typed, and does not take the stored one with it
    keyIn(standin, address(77));
    losePower(standin);
    expect([inForce(standin)[0], standin.memory.pending]).toEqual([66, []]);
  });

  test('what was confirmed and never stored counts, and is gone with the power', () => {
    const standin = unit({ address: ['confirm_page', 'store'] });
    keyIn(standin, address(66));
    expect([doAct(standin, 'store'), inForce(standin)[0]]).toEqual(['nothing', asPlanned?.[0]]);
    expect([doAct(standin, 'confirm_page'), inForce(standin)[0], standin.memory.pending[0]?.isInForce]).toEqual([
      'refresh',
      66,
      true,
    ]);
    losePower(standin);
    expect([inForce(standin), standin.memory.own]).toEqual([asPlanned, undefined]);
  });

  test('confirming is of one page: the first at its turn, or the one that is named', () => {
    const standin = unit({ address: ['confirm_page'], service: ['confirm_page'] });
    keyIn(standin, address(66));
    keyIn(standin, port(9000));
    doAct(standin, 'confirm_page', 'service');
    expect(inForce(standin)).toEqual([asPlanned?.[0], 9000, null, null]);
    keyIn(standin, port(9001));
    doAct(standin, 'confirm_page');
    expect(inForce(standin)).toEqual([66, 9000, null, null]);
  });

  test('putting a computer’s address back leaves what else was keyed in', () => {
    const standin = unit({ service: ['confirm_page'] }, 'laptop');
    const key = standin.type.adapters[0]?.key ?? '';
    const before = settingsOf(standin).addresses;
    expect(() => putBack(standin)).toThrow('nothing was keyed in since');
    keyIn(standin, { ...address(66), adapter: key } as KeyedChange);
    keyIn(standin, { ...address(67), adapter: key } as KeyedChange);
    keyIn(standin, mode(null));
    standin.memory.own = { ...settingsOf(standin), firmware: '9' };
    putBack(standin);
    expect([settingsOf(standin).addresses, settingsOf(standin).firmware]).toEqual([before, '9']);
    expect(() => putBack(standin)).toThrow('nothing was keyed in since');
  });
});

/**
 * The same rules said once more, a field at a time: each field has a value in force, one that is stored and one that is
 * typed, with what is left to do for it.
 */
class Field {
  force: unknown;
  stored: unknown;
  waiting: { value: unknown; left: core.CommitAct[]; saved: boolean; acts: boolean }[] = [];
  readonly acts: Acts;
  constructor(start: unknown, acts: Acts) {
    this.force = this.stored = start;
    this.acts = acts;
  }
  type(value: unknown): void {
    this.waiting = this.waiting.filter(({ saved, acts }) => saved || acts);
    this.waiting.push({ value, left: [...this.acts], saved: false, acts: false });
    this.settle();
  }
  does(act: core.CommitAct): void {
    for (const each of this.waiting) if (each.left[0] === act) each.left.shift();
    this.settle();
  }
  cut(): void {
    this.force = this.stored;
    this.waiting = [];
  }
  private settle(): void {
    for (const each of this.waiting) {
      const restarts = this.acts.some((act) => act.startsWith('restart'));
      const written = !each.left.some((act) => !act.startsWith('restart'));
      if (written && !each.saved) [each.saved, this.stored] = [true, each.value];
      const confirmed = !each.left.some((act) => /confirm|leave/.test(act));
      if (confirmed && !each.acts && (!restarts || each.left.length === 0))
        [each.acts, this.force] = [true, each.value];
    }
    this.waiting = this.waiting.filter(({ left }) => left.length > 0);
  }
}

test('every order of entries, acts and power cuts leaves each field where the rules of its page put it', () => {
  const acts: fc.Arbitrary<Acts> = fc
    .tuple(
      fc.constantFrom<Acts>([], ['confirm_entry'], ['confirm_page']),
      fc.constantFrom<Acts>([], ['store']),
      fc.constantFrom<Acts>([], ['leave_setup']),
      fc.constantFrom<Acts>([], ['restart_program'], ['restart_service'], ['restart_device']),
    )
    .map((parts) => parts.flat());
  const number = fc.integer({ min: 2, max: 99 });
  type Step = { key: KeyedChange } | { does: core.CommitAct } | 'cut';
  const step: fc.Arbitrary<Step> = fc.oneof(
    number.map((n) => ({ key: address(n) })),
    number.map((n) => ({ key: port(9000 + n) })),
    number.map((n) => ({ key: login(`a${n}`) })),
    fc.constantFrom(null, ...unit().type.variants.map(({ key }) => key)).map((variant) => ({ key: mode(variant) })),
    fc.constantFrom(...core.commitActs).map((does) => ({ does })),
    fc.constant('cut' as const),
  );
  let runs = 0;
  fc.assert(
    fc.property(
      fc.record({ address: acts, service: acts, login: acts, mode: acts }),
      fc.array(step, { maxLength: 25 }),
      (commits, steps) => {
        runs += 1;
        const standin = unit(commits);
        const [ip, receivePort, account, variant] = inForce(standin);
        const fields = {
          address: new Field(ip, commits.address),
          service: new Field(receivePort, commits.service),
          login: new Field(account, commits.login),
          mode: new Field(variant, commits.mode),
        };
        const pages = Object.entries(fields) as [core.SettingKind, Field][];
        for (const one of steps) {
          if (one === 'cut') {
            losePower(standin);
            for (const [, field] of pages) field.cut();
          } else if ('key' in one) {
            const { key } = one;
            keyIn(standin, key);
            if (key.of === 'address') fields.address.type(Number(key.ip?.split('.')[3]));
            else if (key.of === 'mode') fields.mode.type(key.variant);
            else if (key.account !== undefined) fields.login.type(key.account);
            else fields.service.type(key.receivePort);
          } else if (one.does === 'restart_device' || one.does === 'restart_computer') {
            if (doAct(standin, one.does) === 'restart') losePower(standin);
            for (const [, field] of pages) field.cut();
          } else if (one.does.startsWith('confirm'))
            for (const [of, field] of pages) {
              doAct(standin, one.does, of);
              field.does(one.does);
            }
          else {
            doAct(standin, one.does);
            for (const [, field] of pages) field.does(one.does);
          }
          expect(inForce(standin)).toEqual(pages.map(([, { force }]) => force));
        }
        losePower(standin);
        expect(inForce(standin)).toEqual(pages.map(([, { stored }]) => stored));
      },
    ),
    { numRuns: 400 },
  );
  expect(runs).toBe(400);
});
