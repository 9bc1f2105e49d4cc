import { show as core, surfaces } from '@deep-patch/core';
import { protocols } from '../protocols/all.ts';
import { asksOf } from '../protocols/asks-of.ts';
import type { News } from '../protocols/news.ts';
import type { Talk } from '../protocols/steps.ts';
import type { Site } from '../site/site.ts';
import { sendsNothing } from '../soundings/sound.ts';
import { isDatagrams, type Way } from './hear-datagrams.ts';
import { isUp } from '../units/standin.ts';

interface Followed {
  readonly way: Way;
  /** What tells at the target: another one after it was started anew. */
  readonly teller: unknown;
  /** Undefined while it is being opened. */
  stop: (() => void) | undefined;
  /** Undoes what was left with the surface for its end. */
  leave: () => void;
}

/** Who was not reached is tried again so much later (simulated milliseconds). */
const againAfterMs = 2000;

/**
 * The ways that controllers keep open to their targets to hear what these do by themselves: a connection, a session, or a
 * question every now and then. Datagrams that come then are heard elsewhere (`hear-datagrams.ts`).
 */
export class Following {
  private readonly site: Site;
  private readonly waysIn: (show: core.Show) => readonly Way[];
  private readonly heard: (way: Way, news: readonly News[]) => void;
  private readonly lost: (way: Way) => void;
  private readonly followed = new Map<string, Followed>();
  private readonly notBefore = new Map<string, number>();
  private ways: readonly Way[] = [];
  private waysOf: core.Show | undefined;

  constructor(
    site: Site,
    waysIn: Following['waysIn'],
    told: { readonly heard: Following['heard']; readonly lost: Following['lost'] },
  ) {
    this.site = site;
    this.waysIn = waysIn;
    this.heard = told.heard;
    this.lost = told.lost;
  }

  /** Opens what should be open, and gives up what leads nowhere any more. */
  look(): void {
    const { show } = this.site.plan;
    if (this.waysOf !== show) {
      this.waysOf = show;
      // a change that has nothing to do with a way leaves it open
      const known = new Map(this.ways.map((way) => [way.link.id, way]));
      this.ways = this.waysIn(show).flatMap((way) => {
        const before = known.get(way.link.id);
        if (!isFollowed(way)) return [];
        return before?.link === way.link && before.service === way.service ? before : way;
      });
    }
    for (const [id, { way, teller }] of this.followed)
      if (!this.ways.includes(way) || !this.bothUp(way) || teller !== this.tellerOf(way)) this.end(id);
    const now = this.site.scheduler.now();
    for (const way of this.ways)
      if (!this.followed.has(way.link.id) && (this.notBefore.get(way.link.id) ?? 0) <= now && this.bothUp(way))
        void this.follow(way);
  }

  private bothUp({ link, service }: Way): boolean {
    const [controller, target] = [link.controllerId, link.targetId].map((id) => this.site.standins.get(id));
    return !!controller && !!target && isUp(controller) && isUp(target) && !sendsNothing(controller, service.protocol);
  }

  private tellerOf({ link }: Way): unknown {
    return this.site.standins.get(link.targetId)?.tellers.get(link.serviceKey);
  }

  private async follow(way: Way): Promise<void> {
    const { link, service } = way;
    const { site } = this;
    const own: Followed = { way, teller: this.tellerOf(way), stop: undefined, leave: () => undefined };
    this.followed.set(link.id, own);
    const request = site.requestFor(link);
    const { controller, target, entry } = request;
    const isCurrent = () => this.followed.get(link.id) === own;
    const end = () => isCurrent() && this.end(link.id);
    if (!controller || !target || entry.ip === undefined) {
      end();
      return;
    }
    const talk: Talk = { controller, target, type: service, ip: entry.ip, port: String(link.port), command: undefined };
    const ear = {
      tell: (_: string, news: readonly News[]) => isCurrent() && this.heard(way, news),
      ended: end,
    };
    // who is switched off or set anew follows nobody
    controller.closers.push(end);
    own.leave = () => {
      const at = controller.closers.indexOf(end);
      if (at >= 0) controller.closers.splice(at, 1);
    };
    const stop = await protocols[service.protocol].follow(request, talk, ear).catch(() => undefined);
    if (!isCurrent()) stop?.();
    else if (stop) own.stop = stop;
    else this.end(link.id);
  }

  private end(linkId: string): void {
    const own = this.followed.get(linkId);
    if (!own) return;
    this.followed.delete(linkId);
    this.notBefore.set(linkId, this.site.scheduler.now() + againAfterMs);
    own.leave();
    if (!own.stop) return;
    own.stop();
    this.lost(own.way);
  }
}

/** Who tells nothing without being asked has to be askable; a session that waits at a port leaves that to whoever sends. */
const isFollowed = ({ link, service }: Way): boolean =>
  isDatagrams(service) || service.protocol === 'http'
    ? asksOf(service).length > 0
    : service.protocol !== 'midi' || link.role !== 'waits';

/** Links of surfaces over which something is assigned. */
export function surfaceWays(show: core.Show): Way[] {
  const used = new Set<string>();
  const use = (deviceId: string, targetIds: readonly string[], serviceKey: string) => {
    for (const targetId of targetIds) used.add(`${deviceId} ${targetId} ${serviceKey}`);
  };
  for (const { deviceId, targetId, among, serviceKey } of core.rowsOf(show, 'assignments'))
    if (targetId !== null && serviceKey !== null) use(deviceId, [targetId, ...among], serviceKey);
  for (const { deviceId, targetId, serviceKey } of core.rowsOf(show, 'banks')) use(deviceId, [targetId], serviceKey);
  return surfaces.surfacesOf(show).flatMap(({ id }) =>
    (core.rowsBy(show, 'links', 'controllerId').get(id) ?? []).flatMap((link): Way[] => {
      const isUsed = used.has(`${id} ${link.targetId} ${link.serviceKey}`);
      const service = isUsed && core.serviceTypeOf(show, show.devices[link.targetId], link.serviceKey);
      return service ? [{ link, service }] : [];
    }),
  );
}
