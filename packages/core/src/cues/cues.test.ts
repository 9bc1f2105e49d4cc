import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { applyChange, type Change, type Content, type Show } from '../show/index.ts';
import { device, link, network, showOf, typeWith } from '../show/sample-show.test-data.ts';
import { cueWords, findCues } from './find-cues.ts';
import { commandOf, oscOf } from './messages.ts';
import { checkName } from './names.ts';
import { cuesInOrder, numberBetween, planAddCue, planMoveCue, planRenumber } from './order.ts';
import { readOsc, writtenOsc, type OscText, type OscValue } from './osc-notation.ts';
import { planReplace } from './replace.ts';
import { messageFor, planSeries, readList } from './series.ts';
import { planTakeNames, structureNews } from './structure.ts';
import { proofOf, basisOfCue } from './triggers.ts';

const argument = (name: string, type: 'i' | 's' | 'T', more: object = {}) => ({
  name,
  type,
  example: type === 's' ? 'a' : 1,
  ...more,
});
const gateway = typeWith('gateway', {
  ...{ name: 'Gateway', kind: 'caller', factory: { mode: 'dhcp', ip: null, prefix: null } },
  lists: [{ key: 'callers', label: 'Callers', names: ['Rosa Lindquist', 'Bram Okafor', 'Twin', 'Twin'] }],
  services: [
    {
      ...{ key: 'osc', label: 'OSC', protocol: 'osc', transport: 'udp', receivePort: 5000, sendPort: null },
      ...{ logins: ['none'], onByDefault: true, lowestFirmware: null, perSecond: 3 },
      commands: [
        {
          key: 'show',
          label: 'Show',
          address: '/show',
          args: [argument('name', 's', { list: 'callers' })],
          sets: [],
          reply: null,
        },
        {
          key: 'clip',
          label: 'Clip',
          address: '/clip/{clip}/play',
          args: [argument('clip', 'i', { min: 1, max: 9 }), argument('loop', 'T')],
          sets: [],
          reply: null,
        },
        { key: 'go', label: 'Go', address: '/go', trigger: 'true', args: [argument('on', 'i')], sets: [], reply: null },
        {
          key: 'greet',
          label: 'Greet',
          address: '/greet',
          args: [argument('who', 's', { list: 'callers' }), argument('words', 's')],
          sets: [],
          reply: null,
        },
        {
          key: 'cut',
          label: 'Cut',
          address: '/cut',
          args: [argument('input', 'i')],
          sets: [{ parameter: 'on air', value: '{input}' }],
          reply: null,
        },
      ],
    },
  ] as never,
});
const host = typeWith('host', {
  name: 'Host',
  kind: 'show-host',
  factory: { mode: 'dhcp', ip: null, prefix: null },
  drives: ['osc'],
});
const base = showOf({
  types: [gateway, host],
  networks: [network()],
  devices: [device('gate', 'gateway'), device('host', 'host')],
  links: [link('gate', { controllerId: 'host' })],
});
const after = (show: Show, change: Change | undefined): Show => {
  const applied = applyChange(show, change ?? expect.fail('no change'));
  return applied.ok ? applied.show : expect.fail('refused');
};
const message = (command: string, args: (string | number | boolean)[], more: object = {}) => ({
  ...{ targetId: 'gate', serviceKey: 'osc', command, args, typed: '', delayMs: 0 },
  ...more,
});
const withCues = (...cues: Partial<Content<'cues'>>[]): Show =>
  cues.reduce<Show>(
    (show, cue, at) =>
      after(
        show,
        planAddCue(show, { id: `c-${at + 1}`, name: `Cue ${at + 1}`, controllerId: 'host', ...cue }, undefined),
      ),
    base,
  );
const codes = (show: Show): string[] =>
  findCues(show)
    .map(({ code }) => code)
    .sort();
const numbers = (show: Show): number[] => cuesInOrder(show).map(({ number }) => number);

describe('the running order', () => {
  test('a cue goes between two others, and further between those, until three places are used up', () => {
    expect([
      numberBetween(3, 4),
      numberBetween(3, 3.5),
      numberBetween(undefined, 1),
      numberBetween(4, undefined),
    ]).toEqual([3.5, 3.3, 0, 5]);
    expect(numberBetween(3, 3.001)).toBeUndefined();
    let [low, high, times] = [3, 4, 0];
    for (let next = numberBetween(low, high); next !== undefined; next = numberBetween(low, high)) {
      expect(next > low && next < high && Number(next.toFixed(3)) === next).toBe(true);
      if (times % 2 === 0) low = next;
      else high = next;
      times += 1;
    }
    expect(times).toBeGreaterThan(5);
  });

  test('whatever is moved where, the order is the one that a plain list would have', () => {
    let moved = 0;
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(5), fc.nat(5)), { minLength: 1, maxLength: 40 }), (moves) => {
        let show = withCues({}, {}, {}, {}, {}, {});
        const plain = cuesInOrder(show).map(({ id }) => id);
        for (const [from, to] of moves) {
          const id = plain[from] ?? '';
          const change = planMoveCue(show, id, to);
          plain.splice(to, 0, ...plain.splice(from, 1));
          if (!change) continue;
          show = after(show, change);
          moved += 1;
          expect(cuesInOrder(show).map((cue) => cue.id)).toEqual(plain);
          expect(new Set(numbers(show)).size).toBe(6);
        }
        expect(
          numbers(
            after({ ...show, cues: { ...show.cues } }, planRenumber(show) ?? planMoveCue(show, plain[0] ?? '', 5)),
          ),
        ).toHaveLength(6);
      }),
      { numRuns: 100 },
    );
    expect(moved).toBeGreaterThan(300);
  });

  test('what follows what was proved is stale as soon as its message or its way is another', () => {
    const show = withCues({ messages: [message('clip', [3, true])] });
    const cue = show.cues['c-1'] ?? expect.fail();
    const proved = (outcomes: 'done'[] | 'refused'[]) => ({
      ...show,
      cues: { 'c-1': { ...cue, proved: { at: 1, basis: basisOfCue(show, cue), outcomes, tookMs: 5 } } },
    });
    const stateOf = (own: Show) => proofOf(own, own.cues['c-1'] ?? expect.fail());
    expect([stateOf(show), stateOf(proved(['done'])), stateOf(proved(['refused']))]).toEqual([
      'none',
      'done',
      'failed',
    ]);
    const other = proved(['done']);
    const [way] = Object.values(other.links);
    const moved = { ...other, links: { [way?.id ?? '']: { ...(way ?? expect.fail()), port: 9 } } };
    expect(stateOf(moved)).toBe('stale');
  });
});

describe('what is wrong with a cue', () => {
  test('nobody there, no way, a value that does not fit, and one that starts nothing', () => {
    expect(codes(withCues({ messages: [message('show', ['Bram Okafor'])] }))).toEqual([]);
    expect(codes(withCues({ messages: [message('show', ['Bram Okafor'], { targetId: 'nobody' })] }))).toEqual([
      'cue_target_gone',
    ]);
    expect(codes({ ...withCues({ messages: [message('go', [1])] }), links: {} })).toEqual(['cue_no_way']);
    expect(codes(withCues({ messages: [message('clip', [10, true])] }))).toEqual(['cue_value_unfit']);
    expect(codes(withCues({ messages: [message('clip', [9, true])] }))).toEqual([]);
    expect([0, 1].map((on) => codes(withCues({ messages: [message('go', [on])] })))).toEqual([
      ['cue_does_not_trigger'],
      [],
    ]);
    expect(codes(withCues({ messages: [message('leap', [])] }))).toEqual(['cue_command_unknown']);
  });

  test('a name has to be exactly the one that is shown, and the nearest is offered (8.9)', () => {
    const show = withCues({ messages: [message('show', ['Rosa Lindqvist'])] });
    const [found] = findCues(show);
    expect(cueWords(found ?? expect.fail()).why).toBe('gate shows “Rosa Lindquist”.');
    expect(codes(after(show, found?.fixes[0]?.change))).toEqual([]);
    expect(codes(withCues({ messages: [message('show', ['Twin'])] }))).toEqual(['cue_name_doubled']);
    expect(checkName(['Ávila'], 'avila')).toEqual({ state: 'unknown', nearest: 'Ávila' });
    expect(checkName(['Ávila'], 'Somebody')).toEqual({ state: 'unknown', nearest: undefined });
  });

  test('two that start together, and one number for two', () => {
    const clock = { by: 'clock', time: '22:15:00' } as const;
    expect(codes(withCues({ starts: clock }, { starts: clock }))).toEqual(['cue_fires_twice']);
    expect(codes(withCues({ starts: clock }, { starts: clock, enabled: false }))).toEqual([]);
    expect(codes(withCues({ number: 2 }, { number: 2 }))).toEqual(['cue_number_shared']);
  });

  test('circles, by name and by what a cut does', () => {
    const by = (cueId: string) => ({ by: 'cue', cueId, delayMs: 0 }) as const;
    expect(codes(withCues({ starts: by('c-2') }, { starts: by('c-1') }))).toEqual(['cue_circle']);
    expect(codes(withCues({}, { starts: by('c-1') }))).toEqual([]);
    const onAir = (input: number) => ({ by: 'on_air', deviceId: 'gate', input }) as const;
    const cut = (input: number) => [message('cut', [input])];
    expect(codes(withCues({ starts: onAir(1), messages: cut(2) }, { starts: onAir(2), messages: cut(1) }))).toEqual([
      'cue_circle',
    ]);
    expect(codes(withCues({ starts: onAir(1), messages: cut(2) }, { starts: onAir(2), messages: cut(3) }))).toEqual([]);
  });

  test('more than a target takes within a second, with what follows by itself', () => {
    const three = [message('go', [1]), message('go', [2]), message('go', [3])];
    expect(codes(withCues({ messages: three }))).toEqual([]);
    const next = { starts: { by: 'after', delayMs: 900 } as const, messages: [message('go', [4])] };
    expect(codes(withCues({ messages: three }, next))).toEqual(['cue_too_fast']);
    expect(codes(withCues({ messages: three }, { ...next, starts: { by: 'after', delayMs: 1000 } }))).toEqual([]);
  });
});

describe('a message as it is typed', () => {
  const text = fc.string({ unit: fc.constantFrom('a', 'Ü', ' ', '"', '\\', '7', '/', ','), maxLength: 8 });
  const arg: fc.Arbitrary<OscValue> = fc.oneof(
    fc.record({ type: fc.constant('i' as const), value: fc.integer({ min: -(2 ** 31) + 1, max: 2 ** 31 - 1 }) }),
    fc.record({ type: fc.constant('f' as const), value: fc.integer({ min: -9999, max: 9999 }).map((n) => n / 8) }),
    fc.record({ type: fc.constant('s' as const), value: text }),
    fc.record({ type: fc.constantFrom('T' as const, 'F' as const) }),
  );

  test('comes back from each notation that can say it as it went in', () => {
    const said = { blanks: 0, quoted: 0, typed: 0 };
    fc.assert(
      fc.property(fc.array(arg, { maxLength: 5 }), (args) => {
        const message: OscText = { address: '/quay/3/go', args };
        for (const notation of ['blanks', 'quoted', 'typed'] as const) {
          const written = writtenOsc(message, notation);
          // in quotation marks a number is told as a fault although it is a text that somebody means
          const isMeant = args.some((own) => own.type === 's' && /^[+-]?\d+$/.test(own.value));
          if (written === undefined || (notation === 'quoted' && isMeant)) continue;
          said[notation] += 1;
          expect([notation, readOsc(written, notation)]).toEqual([notation, { ok: true, message }]);
        }
      }),
      { numRuns: 1000 },
    );
    expect(Math.min(said.blanks, said.quoted)).toBeGreaterThan(200);
    expect(said.typed).toBe(1000);
  });

  test('each fault by its place', () => {
    const faults = (typed: string, notation: 'blanks' | 'quoted' | 'typed') => {
      const read = readOsc(typed, notation);
      return read.ok ? [] : read.faults.map(({ at, code }) => [at, code]);
    };
    expect(faults('cue/1/go', 'quoted')).toEqual([[0, 'no_stroke']]);
    expect(faults('/cue /1/go', 'quoted')).toEqual([[4, 'blank_in_address']]);
    expect(faults('/cue "1"', 'quoted')).toEqual([[5, 'number_as_text']]);
    expect(faults('/say "open', 'quoted')).toEqual([[5, 'mark_open']]);
    expect(faults('/cue/ü 1', 'quoted')).toEqual([[5, 'letter_in_address']]);
    expect(faults('/cue ,ix 1', 'typed')).toEqual([[7, 'tag_unknown']]);
    expect(faults('/cue ,ii 1', 'typed')).toEqual([[10, 'too_few']]);
    expect(faults('/cue ,i 1 2', 'typed')).toEqual([[10, 'too_many']]);
    expect(faults('/cue ,i one', 'typed')).toEqual([[8, 'not_a_number']]);
    expect(faults('/cue 1', 'quoted')).toEqual([]);
  });

  test('a command and its message are found from each other; one number is in the address, the other behind it', () => {
    const service = gateway.services[0] ?? expect.fail();
    const command = service.commands.find(({ key }) => key === 'clip') ?? expect.fail();
    const osc = oscOf({ target: undefined, service, command, args: [3, true] });
    expect(osc).toEqual({ address: '/clip/3/play', args: [{ type: 'T' }] });
    expect(commandOf(service, osc ?? expect.fail())).toEqual({ command, args: [3, true] });
    expect(commandOf(service, { address: '/clip/3/stop', args: [] })).toBeUndefined();
  });
});

describe('a series (C54)', () => {
  test('a list as it is pasted, with ranges both ways', () => {
    expect(readList('Rosa\nBram; 3-5, 9..8')).toEqual(['Rosa', 'Bram', '3', '4', '5', '9', '8']);
  });

  test('one cue an entry, numbers as numbers and names inside texts, past numbers that are taken', () => {
    expect(messageFor(message('clip', ['{item}', true]), '7').args).toEqual([7, true]);
    expect(messageFor(message('show', ['Good {item}!']), 'Rosa').args).toEqual(['Good Rosa!']);
    const start = withCues({ number: 5 });
    const intent = {
      template: message('show', ['{item}']),
      name: 'Caller: {item}',
      items: ['Rosa', 'Bram'],
      controllerId: 'host',
      from: 4,
    };
    let n = 0;
    const show = after(
      start,
      planSeries(start, intent, () => `s-${(n += 1)}`),
    );
    expect(cuesInOrder(show).map(({ number, name, messages }) => [number, name, messages[0]?.args])).toEqual([
      [4, 'Caller: Rosa', ['Rosa']],
      [5, 'Cue 1', undefined],
      [6, 'Caller: Bram', ['Bram']],
    ]);
  });

  test('what is replaced in messages stays a number where it is one', () => {
    const show = withCues({ messages: [message('clip', [31, true])] }, { messages: [message('show', ['Rosa 31'])] });
    const done = after(show, planReplace(show, { find: '31', by: '4', exact: true }));
    expect(cuesInOrder(done).map(({ messages }) => messages[0]?.args)).toEqual([[4, true], ['Rosa 4']]);
    expect(planReplace(show, { find: 'rosa', by: 'x', exact: true })).toBeUndefined();
  });
});

describe('what a target has now, beside what the show knows of it (6.11)', () => {
  const before = ['Rosa Lindquist', 'Bram Okafor', 'Twin', 'Twin'];
  const show = withCues(
    { messages: [message('show', ['Rosa Lindquist']), message('show', ['Bram Okafor'])] },
    { messages: [{ ...message('show', []), command: null, typed: '/show Rosa Lindquist' }] },
    { messages: [message('show', ['Nobody'])] },
    { messages: [message('greet', ['Rosa Lindquist', 'Rosa Lindquist'])] },
  );
  const now = (...names: string[]) =>
    structureNews(show, (id, list) => (id === 'gate' && list === 'callers' ? names : undefined));

  test('as it was, or not known, it is no news; a slip of whoever wrote it is none either', () => {
    expect([now(...before), structureNews(show, () => undefined)]).toEqual([[], []]);
  });

  test('one renamed in its place, one that is gone, and one that came', () => {
    const [renamed] = now('Rosa L.', ...before.slice(1));
    expect(renamed).toMatchObject({
      list: 'callers',
      gone: [{ name: 'Rosa Lindquist', now: 'Rosa L.', cues: 2, controls: 0 }],
      fresh: ['Rosa L.'],
    });
    expect(now('Bram Okafor', 'Ana')[0]).toMatchObject({ gone: [{ now: undefined }], fresh: ['Ana'] });
    // the list is shorter, and what is left is nearly the same name
    expect(now('Rosa Lindqvist', 'Bram Okafor')[0]?.gone).toMatchObject([{ now: 'Rosa Lindqvist' }]);
  });

  test('whatever says the old name follows as one change, and then the show knows the list', () => {
    const names = ['Rosa L.', ...before.slice(1)];
    const [news] = now(...names);
    const next = after(show, planTakeNames(show, news ?? expect.fail(), names));
    expect(next.cues['c-1']?.messages.map(({ args }) => args[0])).toEqual(['Rosa L.', 'Bram Okafor']);
    expect(next.cues['c-3']?.messages[0]?.args).toEqual(['Nobody']);
    // what is said to somebody may be a name as well, and is none of the list
    expect(next.cues['c-4']?.messages[0]?.args).toEqual(['Rosa L.', 'Rosa Lindquist']);
    expect(structureNews(next, () => names)).toEqual([]);
    // what the show knows is what findings go by
    expect(
      findCues(next)
        .filter(({ code }) => code === 'cue_name_unknown')
        .map(({ facts }) => facts['name']),
    ).toEqual(['Nobody']);
  });
});
