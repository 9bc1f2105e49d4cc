import type { contract, show as core, Show } from '@deep-patch/core';
import { demoPasswords, demoShow } from '@deep-patch/demo';
import { Bench } from './bench.ts';
import { dice } from './rigs/dice.test-data.ts';
import type { Site } from './site/site.ts';

const open: Bench[] = [];
export const stopBenches = (): void => open.splice(0).forEach((bench) => bench.stop());

/** The demo with a show host on a system that needs the helper of its type. */
export function withHelper(show: Show = demoShow()): Show {
  const host = show.devices['host'];
  return host ? { ...show, devices: { ...show.devices, host: { ...host, system: 'windows' } } } : show;
}

/** The demo as it is once the name of its time code is mended, with a switcher that changes its bus at once. */
export function tuned(show: Show = demoShow()): Show {
  const [hop, switcher] = [show.timeHops['clock-to-media'], show.devices['switcher']];
  if (!hop || !switcher) throw new Error('no clock or no switcher');
  return {
    ...show,
    devices: { ...show.devices, switcher: { ...switcher, takeDelay: null } },
    timeHops: { ...show.timeHops, 'clock-to-media': { ...hop, hears: hop.says } },
  };
}

/** A bound against hanging, no measure: half a minute, in steps of 20 ms. */
const patience = 1500;

/** The demo show on a bench that runs many times faster than time, everything switched on. */
export async function demoBench(show: Show = tuned(), seed = 7) {
  const bench = new Bench(200, dice(seed));
  open.push(bench);
  const showId = show.id;
  await bench.handle({ kind: 'load', plan: { show, passwords: demoPasswords } });
  await bench.handle({ kind: 'power', showId, deviceIds: Object.keys(show.devices), on: true });
  const state = async () => (await bench.handle({ kind: 'state', showId })) as contract.BenchState;
  const unit = async (id: string) => {
    const found = (await state()).standins.find(({ deviceId }) => deviceId === id);
    if (!found) throw new Error(`no ${id}`);
    return found;
  };
  const sounding = (linkId: string) =>
    bench.handle({ kind: 'sound', showId, linkId }) as Promise<core.MeasuredSounding>;
  return {
    bench,
    /** The simulated site itself, where its state does not tell enough. */
    site: (): Site => {
      const entry = (bench as unknown as { sites: Map<string, { site: Site }> }).sites.get(showId);
      if (!entry) throw new Error('not loaded');
      return entry.site;
    },
    show,
    state,
    unit,
    act: async (wanted: contract.BenchAct) =>
      (await bench.handle({ kind: 'act', showId, wanted })) as contract.BenchState,
    power: (id: string, on: boolean) => bench.handle({ kind: 'power', showId, deviceIds: [id], on }),
    sounding,
    /** The layer at which a link stops, or `bottom`. */
    stop: async (linkId: string) =>
      (await sounding(linkId)).layers.find(({ state: each }) => each === 'fail')?.layer ?? 'bottom',
    /** Every layer at which it may have stopped, by what went over the wire; the port is told by the rest. */
    open: async (linkId: string) =>
      (await sounding(linkId)).layers.flatMap(({ layer, state: each }) =>
        each === 'fail' || (each === 'unseen' && layer === 'message') ? [layer] : [],
      ),
    face: async (id: string) => Object.fromEntries((await unit(id)).face),
    eventually: async (check: () => Promise<boolean>) => {
      for (let tries = 0; tries < patience; tries += 1) {
        if (await check()) return true;
        await new Promise((done) => setTimeout(done, 20));
      }
      return false;
    },
  };
}
