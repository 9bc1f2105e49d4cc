import type { show as core } from '@deep-patch/core';
import { openJack, type Jack } from './jacks/open-jack.ts';
import { startScheduler, type Scheduler } from './ether/scheduler.ts';
import { isUp, settingsOf } from './standins/standin.ts';
import { Site } from './site.ts';
import type { BenchPlan } from './plan.ts';

/** What the server asks of the bench process, one request at a time by number. */
export type BenchRequest =
  | { readonly kind: 'load'; readonly plan: BenchPlan }
  | { readonly kind: 'power'; readonly showId: string; readonly deviceIds: readonly string[]; readonly on: boolean }
  | { readonly kind: 'sound'; readonly showId: string; readonly linkId: string }
  | { readonly kind: 'state'; readonly showId: string }
  | {
      readonly kind: 'jack';
      readonly showId: string;
      readonly deviceId: string;
      readonly serviceKey: string;
      readonly replyTo: number | null;
    }
  | { readonly kind: 'close-jack'; readonly showId: string; readonly port: number };

interface Entry {
  readonly site: Site;
  jacks: Jack[];
}

/** All shows' sites in one process. Throws a plain Error for a request that cannot be met. */
export class Bench {
  private readonly sites = new Map<string, Entry>();
  private readonly scheduler: Scheduler;
  private readonly random: () => number;

  constructor(speed = 1, random: () => number = Math.random) {
    this.scheduler = startScheduler(speed);
    this.random = random;
  }

  async handle(request: BenchRequest): Promise<unknown> {
    if (request.kind === 'load') return this.load(request.plan);
    const entry = this.sites.get(request.showId);
    if (!entry) throw new Error('not loaded');
    switch (request.kind) {
      case 'power':
        entry.site.power(request.deviceIds, request.on);
        return this.state(request.showId, entry);
      case 'sound':
        return (await entry.site.sound(request.linkId)) ?? null;
      case 'state':
        return this.state(request.showId, entry);
      case 'jack':
        return this.openJack(entry, request);
      case 'close-jack':
        for (const jack of entry.jacks) if (jack.port === request.port) jack.close();
        entry.jacks = entry.jacks.filter(({ port }) => port !== request.port);
        return this.state(request.showId, entry);
    }
  }

  stop(): void {
    for (const { jacks } of this.sites.values()) for (const jack of jacks) jack.close();
    this.scheduler.stop();
  }

  private load(plan: BenchPlan): core.BenchState {
    const known = this.sites.get(plan.show.id);
    if (known) known.site.load(plan);
    const entry = known ?? { site: new Site(plan, this.scheduler, this.random), jacks: [] };
    this.sites.set(plan.show.id, entry);
    return this.state(plan.show.id, entry);
  }

  private state(showId: string, { site, jacks }: Entry): core.BenchState {
    const open = jacks.map(({ deviceId, serviceKey, host, port, replyTo }) => ({
      deviceId,
      serviceKey,
      host,
      port,
      replyTo,
    }));
    return {
      showId,
      rev: site.rev,
      startUps: site.startUps,
      standins: site.states(),
      heard: site.heard.slice(-60),
      jacks: open,
      faults: [],
      rehearsal: null,
      scan: null,
    };
  }

  private async openJack(
    entry: Entry,
    { deviceId, serviceKey, replyTo, showId }: BenchRequest & { kind: 'jack' },
  ): Promise<core.BenchState> {
    const unit = entry.site.standins.get(deviceId);
    if (!unit || !settingsOf(unit).services.some(({ key }) => key === serviceKey)) throw new Error('no such service');
    const jack = await openJack({
      deviceId,
      serviceKey,
      replyTo,
      takeIn: (bytes, from, answer) => {
        // looked up anew each time: a changed plan replaces the stand-in, the jack stays
        const standin = entry.site.standins.get(deviceId);
        if (standin && isUp(standin)) standin.oscDoors.get(serviceKey)?.(bytes, from, answer);
      },
    });
    entry.jacks.push(jack);
    return this.state(showId, entry);
  }
}
