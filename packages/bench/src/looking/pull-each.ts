import type { contract } from '@deep-patch/core';
import type { Site } from '../site/site.ts';

/** A switch that heard nothing for three hellos of two seconds finds that at its next one (IEEE 802.1D section 8.10). */
const forgetsMs = 8500;
/** Switches that see a lamp go dark need so long at most. */
const noticesMs = 400;

interface Pulling {
  readonly site: Site;
  readonly runIds: readonly string[];
  readonly linkIds: readonly string[];
  readonly isStopped: () => boolean;
  /** What is known so far. */
  readonly tell: (progress: Pick<contract.PullingState, 'done' | 'results'>) => void;
}

/**
 * Pulls one run after the other, sounds the links that worked before without operating anything, and plugs it in
 * again. Links that stop are sounded once more when switches had the time that spanning tree needs. Ends where it is
 * stopped or the site is built anew, by another plan or for the other stage; the run that is out then is plugged in first.
 */
export async function pullEach({ site, runIds, linkIds, isStopped, tell }: Pulling): Promise<void> {
  const { wiring } = site;
  const isOver = () => isStopped() || site.wiring !== wiring;
  const working = await reaching(site, linkIds, isOver);
  const mayHeal = hasSpare(site);
  const results: contract.PulledRun[] = [];
  for (const cableId of runIds) {
    if (isOver()) return;
    const run = site.cables.get(cableId)?.cable;
    // what somebody else has pulled stays out
    if (run && !run.cut) {
      const began = site.scheduler.now();
      run.cut = true;
      site.linksChanged();
      try {
        await wait(site, noticesMs);
        let stops = await stopping(site, working, isOver);
        if (mayHeal && stops.length > 0 && !isOver()) {
          await wait(site, Math.max(0, began + forgetsMs - site.scheduler.now()));
          stops = await stopping(site, stops, isOver);
        }
        if (isOver()) return;
        results.push({ cableId, stops });
      } finally {
        run.cut = false;
        site.linksChanged();
      }
      await wait(site, noticesMs);
    }
    tell({ done: runIds.indexOf(cableId) + 1, results: [...results] });
  }
}

const hasSpare = (site: Site): boolean =>
  [...site.standins.values()].some(({ bridge }) => (bridge?.tree?.shut().length ?? 0) > 0);

const wait = (site: Site, ms: number): Promise<void> =>
  new Promise((done) => void site.scheduler.after(ms, () => done()));

async function reaching(site: Site, linkIds: readonly string[], isOver: () => boolean): Promise<string[]> {
  const stopped = new Set(await stopping(site, linkIds, isOver));
  return linkIds.filter((id) => !stopped.has(id));
}

/** Links of different pairs are sounded side by side; those of one pair would hear each other's replies. */
async function stopping(site: Site, linkIds: readonly string[], isOver: () => boolean): Promise<string[]> {
  const { links } = site.plan.show;
  const lanes = new Map<string, string[]>();
  for (const id of linkIds) {
    const key = `${links[id]?.controllerId} ${links[id]?.targetId}`;
    lanes.set(key, [...(lanes.get(key) ?? []), id]);
  }
  const stops = await Promise.all(
    [...lanes.values()].map(async (lane) => {
      const own: string[] = [];
      for (const id of lane) if (!isOver() && (await isStopped(site, id))) own.push(id);
      return own;
    }),
  );
  return stops.flat().sort();
}

async function isStopped(site: Site, linkId: string): Promise<boolean> {
  const sounding = await site.soundQuietly(linkId).catch(() => undefined);
  return sounding?.layers.some(({ state }) => state === 'fail') ?? true;
}
