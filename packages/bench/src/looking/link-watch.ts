import type { show as core } from '@deep-patch/core';
import type { Site } from '../site/site.ts';

const mostChanges = 100;

/**
 * Keeps an eye on every link: sounds one after the other, round by round, and notes where one stops at another layer
 * than before. A round that a new plan cuts into counts for nothing.
 */
export class LinkWatch {
  everySeconds: number | null = null;
  readonly changes: core.LinkChange[] = [];
  private readonly known = new Map<string, core.LayerName | null>();
  private stop: () => void = () => undefined;
  private readonly site: Site;
  private readonly tell: (sounding: core.MeasuredSounding) => void;

  constructor(site: Site, tell: (sounding: core.MeasuredSounding) => void) {
    this.site = site;
    this.tell = tell;
  }

  /** Null ends it. What was noted stays. */
  set(everySeconds: number | null): void {
    this.stop();
    this.everySeconds = everySeconds;
    if (everySeconds === null) return;
    let running = true;
    let cancel: () => void = () => undefined;
    this.stop = () => {
      running = false;
      cancel();
    };
    const round = async (): Promise<void> => {
      for (const linkId of Object.keys(this.site.plan.show.links)) if (running) await this.look(linkId);
      if (running) cancel = this.site.scheduler.after(everySeconds * 1000, () => void round());
    };
    void round();
  }

  private async look(linkId: string): Promise<void> {
    const { rev } = this.site;
    // a sounding that breaks off tells nothing of the link
    const sounding = await this.site.sound(linkId).catch(() => undefined);
    if (!sounding || this.site.rev !== rev || sounding.rev !== rev) return;
    const now = sounding.layers.find(({ state }) => state === 'fail')?.layer ?? null;
    const before = this.known.get(linkId);
    this.known.set(linkId, now);
    if (before === now) return;
    this.tell(sounding);
    if (before === undefined) return;
    this.changes.push({ at: sounding.at, linkId, from: before, to: now });
    if (this.changes.length > mostChanges) this.changes.shift();
  }
}
