import { onair, show as core, type Show } from '@deep-patch/core';
import { demoPasswords, demoShow } from '@deep-patch/demo';
import { describe, expect, test } from 'vitest';
import { demoBench, stopBenches } from '../demo-bench.test-data.ts';
import { dice } from '../rigs/dice.test-data.ts';
import { takeTimes, tryDeeds, type TrialTake } from './trial.ts';

const planOf = (show: Show) => ({ show, passwords: demoPasswords });
const none = { isStopped: () => false };

async function takesOf(show: Show, times: number, seed = 3): Promise<readonly TrialTake[]> {
  let taken: readonly TrialTake[] = [];
  await takeTimes(
    planOf(show),
    { switcherId: 'switcher', input: 5, times },
    {
      ...none,
      random: dice(seed),
      tell: (takes) => (taken = takes),
    },
  );
  return taken;
}

const needed: ReadonlySet<string> = new Set(['switcher', 'deck-a', 'deck-b', 'switch-quay']);
/** The switcher, its players and the switch between them: whatever else the demo has only takes time. */
function few(): Show {
  const demo = demoShow();
  const others = Object.keys(demo.devices).filter((id) => !needed.has(id));
  const left = core.applyChange(demo, core.planRemove(demo, 'devices', others, 'few'));
  if (!left.ok) throw new Error('they cannot be removed');
  return left.show;
}

/** The demo with Playout B mended, its inputs ruled as asked, and another delay. */
function ruled(rules: Partial<core.Content<'inputRules'>>[], takeDelay: number): Show {
  const show = few();
  const [switcher, entry] = [show.devices['switcher'], show.links['switcher-to-deck-b']];
  if (!switcher || !entry) throw new Error('no switcher');
  const inputRules = rules.map((rule, at) => ({
    ...core.contentWith('inputRules', { id: `r-${at}`, switcherId: 'switcher', input: at === 0 ? 5 : 7, ...rule }),
    rev: 1,
  }));
  return {
    ...show,
    devices: { ...show.devices, switcher: { ...switcher, takeDelay } },
    links: { ...show.links, [entry.id]: { ...entry, slot: 7, port: 5310 } },
    inputRules: Object.fromEntries(inputRules.map((rule) => [rule.id, rule])),
  };
}

describe('takes on a bench of their own', () => {
  test('200 takes say the delay, and with it set 200 others show no frozen frame', async () => {
    const show = few();
    const takes = await takesOf(show, 200);
    expect(takes).toHaveLength(200);
    const delay = onair.takeDelay(takes, 25);
    const { startMs = 0, jitterMs = 0 } = show.types['playout-machine']?.plays ?? {};
    expect(delay?.frames).toBe(Math.ceil(((delay?.moves.worst ?? 0) * 25) / 1000));
    expect([
      (delay?.moves.worst ?? 0) > startMs + jitterMs * 0.9,
      (delay?.moves.worst ?? 0) < startMs + jitterMs + 5,
    ]).toEqual([true, true]);
    const switcher = show.devices['switcher'];
    if (!delay || !switcher) throw new Error('nothing was measured');
    const set = { ...show, devices: { ...show.devices, switcher: { ...switcher, takeDelay: delay.frames } } };
    const again = await takesOf(set, 200, 99);
    // by the bench's own bus and its own first frame, which the figure does not use
    expect(again.filter(({ bus, moves }) => bus < moves)).toEqual([]);
    expect(new Set(again.map(({ bus }) => Math.round(bus)))).toEqual(new Set([delay.frames * 40]));
    const before = { ...show, devices: { ...show.devices, switcher: { ...switcher, takeDelay: delay.frames - 1 } } };
    expect((await takesOf(before, 200, 99)).some(({ bus, moves }) => bus < moves)).toBe(true);
  });

  test('over the air an order takes longer, and the delay with it', async () => {
    const show = few();
    const run = Object.values(show.cables).find(
      ({ fromDevice, toDevice }) =>
        [fromDevice, toDevice].includes('deck-a') && [fromDevice, toDevice].some((id) => id.startsWith('switch-')),
    );
    if (!run) throw new Error('no run');
    const air = {
      ...show,
      cables: {
        ...show.cables,
        [run.id]: { ...run, medium: 'wireless' as const, grade: null, lengthM: null, delayMs: 60 },
      },
    };
    const [wired, wireless] = [
      onair.takeDelay(await takesOf(show, 60), 25),
      onair.takeDelay(await takesOf(air, 60), 25),
    ];
    expect((wireless?.arrives.median ?? 0) - (wired?.arrives.median ?? 0)).toBeGreaterThan(50);
    expect(wireless?.frames).toBeGreaterThan(wired?.frames ?? Infinity);
  });

  test('it is stopped between two takes, a player that is not found fails, and a switcher without a cut says so', async () => {
    let told = 0;
    await takeTimes(
      planOf(few()),
      { switcherId: 'switcher', input: 5, times: 50 },
      {
        random: dice(1),
        isStopped: () => told >= 3,
        tell: (takes) => (told = takes.length),
      },
    );
    expect(told).toBe(3);
    const failed: number[] = [];
    await takeTimes(
      planOf(few()),
      { switcherId: 'switcher', input: 2, times: 1 },
      {
        ...none,
        random: dice(1),
        tell: (_, count) => failed.push(count),
      },
    );
    expect(failed).toEqual([1]);
    await expect(takesOf({ ...demoShow(), types: {} }, 1)).rejects.toThrow();
  });
});

describe('what a sequence of cuts leads to', () => {
  const ends = ['nothing', 'stop', 'hold', 'next'] as const;
  const begins = ['nothing', 'when_on_air', 'with_cut'] as const;

  test('is what the bench does, whatever was ruled and whenever somebody cuts', async () => {
    const random = dice(4711);
    const pick = <Item>(of: readonly Item[]): Item => of[Math.floor(random() * of.length)] as Item;
    let [cases, happenings] = [0, 0];
    const seen = new Set<string>();
    for (; cases < 150; cases += 1) {
      const rule = () => ({
        ...{ goes: pick(begins), leaves: pick(ends), offers: pick(['selected', 'fixed'] as const) },
        list: pick(['Sailors', 'Breaks', 'Harbour']),
      });
      const show = ruled([rule(), rule()], pick([0, 3, 12]));
      let at = 0;
      const deeds = Array.from({ length: 9 }, (): onair.Deed => {
        // now and then before the bus has changed
        at += pick([0.21, 1.3, 4, 19, 50]);
        const input = pick([1, 2, 5, 7]);
        const deed = pick(['cut', 'cut', 'cut', 'play', 'stop', 'select'] as const);
        return deed === 'select'
          ? { at, do: deed, input, list: pick(['Sailors', 'Breaks', 'Harbour']) }
          : { at, do: deed, input };
      }).filter(({ do: deed, input }) => deed === 'cut' || input > 2);
      const forecast = onair.whatHappens(show, 'switcher', deeds, 1);
      const happened = await tryDeeds(planOf(show), { switcherId: 'switcher', deeds, onAir: 1 }, { ...none, random });
      const difference = onair.firstDifference(forecast, happened);
      expect([cases, deeds, difference]).toEqual([cases, deeds, undefined]);
      happenings += happened.length;
      for (const { what } of happened) seen.add(what);
    }
    expect([cases, happenings > 600, [...seen].sort()]).toEqual([
      150,
      true,
      ['ends', 'holds', 'on_air', 'ready', 'starts', 'stops'],
    ]);
  }, 240_000);
});

test('another list that is chosen by hand begins with its first item, and what stands is not renamed', async () => {
  const select = (at: number, list: string) => ({ at, do: 'select', input: 7, list }) as const;
  const deeds: onair.Deed[] = [
    ...[7, 1].map((input, at) => ({ at: at * 3, do: 'cut' as const, input })),
    ...[select(4, 'Ceremony'), { at: 6, do: 'cut' as const, input: 7 }],
    ...[select(7, 'Breaks'), { at: 8, do: 'stop' as const, input: 7 }],
  ];
  for (const [offers, second] of [
    ['selected', 'anthem.mp4'],
    ['fixed', 'break-2.mp4'],
  ] as const) {
    const show = ruled([{}, { goes: 'with_cut', leaves: 'next', offers, list: 'Breaks' }], 3);
    const forecast = onair.whatHappens(show, 'switcher', deeds, 1);
    const of = (what: onair.Happening['what']) => forecast.filter((one) => one.what === what).map(({ item }) => item);
    expect([of('starts'), of('ready'), of('stops')]).toEqual([['break-1.mp4', second], ['break-2.mp4'], [second]]);
    const random = dice(7);
    const happened = await tryDeeds(planOf(show), { switcherId: 'switcher', deeds, onAir: 1 }, { ...none, random });
    expect([offers, onair.firstDifference(forecast, happened)]).toEqual([offers, undefined]);
  }
});

test('titles come at their times, and an item ends with its length', async () => {
  const { act, face, eventually, site } = await demoBench();
  expect(await eventually(async () => (await face('switcher'))['Playout A'] === 'connected')).toBe(true);
  const seen: string[] = [];
  const made = site();
  const deck = made.standins.get('deck-a') ?? expect.fail('no deck');
  const stop = made.air.listen(({ what, item }) => what === 'ends' && seen.push(`${what} ${item}`));
  await act({ act: 'touch', deviceId: 'deck-a', serviceKey: 'web', command: 'play', args: [1] });
  await new Promise<void>((done) => void made.scheduler.after(4000, done));
  expect([deck.memory.face.get('picture'), deck.memory.face.get('title')]).toEqual(['moving', 'Rosa Lindquist, helm']);
  await new Promise<void>((done) => void made.scheduler.after(40_000, done));
  expect([seen, deck.memory.face.get('picture'), deck.memory.face.get('title')]).toEqual([
    ['ends lindquist.mp4'],
    'last frame, still',
    '—',
  ]);
  stop();
  stopBenches();
});
