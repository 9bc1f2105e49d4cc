import { onair, show as core } from '@deep-patch/core';
import { startScheduler } from '../ether/scheduler.ts';
import { Site } from '../site/site.ts';
import { touch } from '../soundings/touch.ts';
import type { AirEvent } from '../units/air-log.ts';
import type { BenchPlan } from '../units/plan.ts';
import { serviceOf, type Standin } from '../units/standin.ts';

/** Until units have their addresses and the switcher has looked its players up. */
const settlesMs = 20_000;
/** Between takes: the player is still again, and nothing of the take before is on its way. */
const restMs = 900;
/** A take that has not moved by then has failed. */
const failsMs = 10_000;

export interface TrialTake extends onair.Take {
  /** Milliseconds from the cut until the bus changed. */
  readonly bus: number;
}

/** A site of its own, as planned and all switched on, on which time passes as fast as the machine allows. */
async function ownSite(plan: BenchPlan, random: () => number): Promise<{ site: Site; end: () => void }> {
  const scheduler = startScheduler(Infinity);
  const site = new Site(plan, scheduler, random);
  const end = () => {
    site.power(Object.keys(plan.show.devices), false);
    scheduler.stop();
  };
  try {
    site.power(Object.keys(plan.show.devices), true);
    await site.settled();
    await pass(site, settlesMs);
    return { site, end };
  } catch (fault) {
    end();
    throw fault;
  }
}

const pass = (site: Site, ms: number): Promise<void> => new Promise((done) => void site.scheduler.after(ms, done));

function switcherOn(site: Site, id: string): { readonly unit: Standin; readonly serviceKey: string } {
  const unit = site.standins.get(id);
  const service = unit?.type.services.find(({ commands }) => commands.some(({ key }) => key === 'cut'));
  if (!unit || !service || !serviceOf(unit, service.key))
    throw new Error('it has no command “cut” to take an input with');
  return { unit, serviceKey: service.key };
}

/**
 * Takes an input on air so many times, each from another input, and measures from the cut. Takes in which nothing moved
 * are counted, not measured. `isStopped` is asked between takes, `tell` told after each.
 */
export async function takeTimes(
  plan: BenchPlan,
  { switcherId, input, times }: { readonly switcherId: string; readonly input: number; readonly times: number },
  {
    random,
    isStopped,
    tell,
  }: {
    readonly random: () => number;
    readonly isStopped: () => boolean;
    readonly tell: (takes: readonly TrialTake[], failed: number) => void;
  },
): Promise<void> {
  const { site, end } = await ownSite(plan, random);
  try {
    const { unit, serviceKey } = switcherOn(site, switcherId);
    const others = onair
      .airInputs(plan.show)
      .filter((each) => each.switcher.id === switcherId && each.number !== input);
    const away = others.find(({ player }) => !player)?.number ?? others[0]?.number ?? (input === 1 ? 2 : 1);
    const takes: TrialTake[] = [];
    let failed = 0;
    for (let at = 0; at < times && !isStopped(); at += 1) {
      touch(unit, serviceKey, 'cut', [away]);
      // never at the same moment of what else goes on there
      await pass(site, restMs + random() * 400);
      const take = await oneTake(site, unit, serviceKey, input);
      if (take) takes.push(take);
      else failed += 1;
      tell(takes, failed);
    }
  } finally {
    end();
  }
}

async function oneTake(site: Site, unit: Standin, serviceKey: string, input: number): Promise<TrialTake | undefined> {
  const began = site.scheduler.now();
  const seen = new Map<AirEvent['what'], number>();
  const entry = onair.linkOf(site.plan.show, unit.device.id, input);
  return new Promise((done) => {
    const settle = () => {
      stop();
      const [arrives, starts, moves, bus] = (['arrives', 'starts', 'moves', 'on_air'] as const).map((what) =>
        seen.get(what),
      );
      const isWhole = arrives !== undefined && starts !== undefined && moves !== undefined && bus !== undefined;
      done(isWhole ? { arrives, starts, moves, bus } : undefined);
    };
    const cancel = site.scheduler.after(failsMs, settle);
    const stop = site.air.listen(({ at, deviceId, what }) => {
      const isOwn = deviceId === unit.device.id ? what === 'on_air' : deviceId === entry?.targetId;
      if (isOwn && !seen.has(what)) seen.set(what, at - began);
      if (!seen.has('moves') || !seen.has('on_air')) return;
      cancel();
      settle();
    });
    touch(unit, serviceKey, 'cut', [input]);
  });
}

/** Does what somebody would on such a site, and writes down what became of it. Seconds. */
export async function tryDeeds(
  plan: BenchPlan,
  {
    switcherId,
    deeds,
    onAir,
  }: { readonly switcherId: string; readonly deeds: readonly onair.Deed[]; readonly onAir: number },
  { random, isStopped }: { readonly random: () => number; readonly isStopped: () => boolean },
): Promise<onair.Happening[]> {
  const { site, end } = await ownSite(plan, random);
  try {
    const { unit, serviceKey } = switcherOn(site, switcherId);
    touch(unit, serviceKey, 'cut', [onAir]);
    await pass(site, restMs + 20_000);
    const began = site.scheduler.now();
    const found: onair.Happening[] = [];
    const inputOf = inputsOfPlayers(plan, switcherId);
    const stop = site.air.listen((event) => {
      const happening = happeningOf(event, unit.device.id, inputOf);
      if (happening) found.push({ ...happening, at: (event.at - began) / 1000 });
    });
    for (const deed of deeds.toSorted((a, b) => a.at - b.at)) {
      if (isStopped()) break;
      await pass(site, Math.max(0, deed.at * 1000 - (site.scheduler.now() - began)));
      doDeed(site, { unit, serviceKey }, deed);
    }
    // what the longest item leads to is seen as well
    const longest = core.rowsOf(plan.show, 'clips').reduce((most, { seconds }) => Math.max(most, seconds ?? 0), 0);
    if (!isStopped()) await pass(site, longest * 1000 + failsMs);
    stop();
    return onair.inMoments(found);
  } finally {
    end();
  }
}

const inputsOfPlayers = (plan: BenchPlan, switcherId: string): ReadonlyMap<string, number> =>
  new Map(
    onair
      .airInputs(plan.show)
      .flatMap(({ switcher, player, number }) =>
        switcher.id === switcherId && player ? [[player.id, number] as const] : [],
      ),
  );

function doDeed(site: Site, { unit, serviceKey }: { unit: Standin; serviceKey: string }, deed: onair.Deed): void {
  if (deed.do === 'cut') {
    touch(unit, serviceKey, 'cut', [deed.input]);
    return;
  }
  const entry = onair.linkOf(site.plan.show, unit.device.id, deed.input);
  const player = entry && site.standins.get(entry.targetId);
  const service = player?.type.services.find(({ commands }) => commands.some(({ key }) => key === deed.do));
  if (!player || !service) return;
  const ready = Number(player.memory.face.get('item')) || 1;
  touch(player, service.key, deed.do, deed.do === 'select' ? [deed.list] : deed.do === 'play' ? [ready] : []);
}

const said: Partial<Record<AirEvent['what'], onair.Happening['what']>> = {
  ...{ on_air: 'on_air', arrives: 'starts', stops: 'stops', holds: 'holds', ready: 'ready', ends: 'ends' },
};

function happeningOf(
  { deviceId, what, input, item }: AirEvent,
  switcherId: string,
  inputOf: ReadonlyMap<string, number>,
): Omit<onair.Happening, 'at'> | undefined {
  const named = said[what];
  const number = deviceId === switcherId ? input : inputOf.get(deviceId);
  return named && number !== undefined && number !== null ? { what: named, input: number, item } : undefined;
}
