import { bringup, show as core } from '@deep-patch/core';
import type { News } from '../protocols/news.ts';
import type { Site } from '../site/site.ts';
import { heldAgainst } from '../units/contents.ts';
import { Following } from './following.ts';
import { hearDatagrams, type Way } from './hear-datagrams.ts';

/**
 * Partners that were brought into step stay so (need 7.5): what is done at the one, by whomever, shows at the other, as
 * it tells over their link. Those that hold different things show nothing of each other.
 */
export class Mirrors {
  private readonly site: Site;
  private readonly following: Following;
  private plan: core.Show | undefined;
  private first: unknown;
  private stops: (() => void)[] = [];

  constructor(site: Site) {
    this.site = site;
    const heard = (way: Way, news: readonly News[]) => this.show(way, news);
    this.following = new Following(site, partnerWays, { heard, lost: () => undefined });
  }

  look(): void {
    this.following.look();
    const { plan, standins } = this.site;
    const first = standins.values().next().value;
    if (this.plan === plan.show && this.first === first) return;
    this.plan = plan.show;
    this.first = first;
    for (const stop of this.stops.splice(0)) stop();
    for (const way of partnerWays(plan.show)) {
      const own = standins.get(way.link.controllerId);
      if (own) this.stops.push(hearDatagrams(this.site, own, [way], (told, news) => this.show(told, news)));
    }
  }

  private show({ link }: Way, news: readonly News[]): void {
    const [own, other] = [link.controllerId, link.targetId].map((id) => this.site.standins.get(id));
    if (!own || !other || heldAgainst(own, other).some(({ from, to }) => from !== to)) return;
    for (const { parameter, value } of news) own.memory.face.set(parameter, value);
  }
}

/** Links between partners, whichever of the two controls the other. */
const partnerWays = (show: core.Show): Way[] =>
  bringup.partnersIn(show).flatMap(({ one, other }) =>
    [one, other].flatMap(({ id }) =>
      (core.rowsBy(show, 'links', 'controllerId').get(id) ?? []).flatMap((link): Way[] => {
        const isTheirs = link.targetId === one.id || link.targetId === other.id;
        const service = isTheirs && core.serviceTypeOf(show, show.devices[link.targetId], link.serviceKey);
        return service ? [{ link, service }] : [];
      }),
    ),
  );
