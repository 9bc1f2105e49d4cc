import type { contract, show as core } from '@deep-patch/core';
import type { Site } from '../site/site.ts';

const mostChanges = 100;

/**
 * Keeps an eye on every link without operating the show: sounds each quietly, round by round, and notes where one
 * stops at another layer than before. Links of different pairs of units are looked at side by side, so that a round
 * keeps its interval. A round that a new plan cuts into counts for nothing.
 */
export class LinkWatch {
  everySeconds: number | null = null;
  readonly changes: contract.LinkChange[] = [];
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
    const { scheduler } = this.site;
    const round = async (): Promise<void> => {
      const next = scheduler.now() + everySeconds * 1000;
      await Promise.all(this.lanes().map((lane) => this.walk(lane, () => running)));
      if (running) cancel = scheduler.after(Math.max(0, next - scheduler.now()), () => void round());
    };
    void round();
  }

  /** Links that would disturb each other stand in one lane: those of one controller to one target. */
  private lanes(): string[][] {
    const lanes = new Map<string, string[]>();
    for (const { id, controllerId, targetId } of Object.values(this.site.plan.show.links)) {
      const key = `${controllerId} ${targetId}`;
      lanes.set(key, [...(lanes.get(key) ?? []), id]);
    }
    return [...lanes.values()];
  }

  private async walk(lane: readonly string[], isWanted: () => boolean): Promise<void> {
    for (const linkId of lane) if (isWanted()) await this.look(linkId);
  }

  private async look(linkId: string): Promise<void> {
    const { rev } = this.site;
    // a sounding that breaks off tells nothing of the link
    const sounding = await this.site.soundQuietly(linkId).catch(() => undefined);
    if (!sounding || this.site.rev !== rev || sounding.rev !== rev) return;
    const now = sounding.layers.find(({ state }) => state === 'fail')?.layer ?? null;
    const before = this.known.get(linkId);
    this.known.set(linkId, now);
    if (before === now) return;
    // where it goes through, whoever sounded it with a command knows more than this
    if (before !== undefined || now !== null || !this.wasSounded(linkId)) this.tell(sounding);
    if (before === undefined) return;
    this.changes.push({ at: sounding.at, linkId, from: before, to: now });
    if (this.changes.length > mostChanges) this.changes.shift();
  }

  private wasSounded(linkId: string): boolean {
    const controller = this.site.plan.show.links[linkId]?.controllerId ?? '';
    return this.site.standins.get(controller)?.memory.tried.has(linkId) ?? false;
  }
}
