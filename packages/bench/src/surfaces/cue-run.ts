import { cues, type show as core, type contract } from '@deep-patch/core';
import type { Site } from '../site/site.ts';
import { deliver, notSent } from './deliver.ts';

const mostDone = 1000;
/** A clock is looked at so often that no second is missed (milliseconds of real time). */
const longAgoMs = 1500;

/**
 * Runs the cues of a show on its bench: by hand, and by whatever starts them. Every message proves itself by its effect.
 * What is under way goes on when the plan changes, since cues are looked up when they are due.
 */
export class CueRun {
  private readonly site: Site;
  private readonly startedAt = Date.now();
  private nextId: string | null;
  private readonly done: contract.CueDone[] = [];
  private readonly waits = new Map<string, { readonly at: number; readonly cancel: () => void }>();
  private rehearsing = false;
  /** Something happened since it was asked last. */
  private isNew = true;
  private rehearsed = false;
  private ended = false;
  /** How often it was ended: what was to be sent later is not sent after that. */
  private ends = 0;
  /** What was true of each start when it was looked at last: only what becomes true starts a cue. */
  private readonly held = new Set<string>();
  private heardBefore: ReadonlyMap<string, number>;
  private heardNow: ReadonlyMap<string, number>;
  private lookedAt = Date.now();

  constructor(site: Site, from: string | null) {
    this.site = site;
    this.nextId = from ?? this.order()[0]?.id ?? null;
    this.heardBefore = this.heardNow = this.heard();
    // what is so already starts nothing
    for (const cue of this.order()) if (this.isMet(cue)) this.held.add(cue.id);
  }

  private order(): core.Cue[] {
    return cues.cuesInOrder(this.site.plan.show).filter(({ enabled }) => enabled);
  }

  /** Does one cue now. Throws a plain Error where it is gone, or part of a circle. */
  async go(cueId: string): Promise<void> {
    const { show } = this.site.plan;
    const cue = show.cues[cueId];
    if (!cue) throw new Error('there is no such cue');
    if (cues.circlesOf(show).some((circle) => circle.some(({ id }) => id === cueId)))
      throw new Error(`cue ${cue.number} starts itself again through others: let one of them be started by hand`);
    await this.start(cue);
  }

  skip(): void {
    this.isNew = true;
    const order = this.order();
    this.nextId = order[order.findIndex(({ id }) => id === this.nextId) + 1]?.id ?? null;
  }

  /** The one before comes next again; what it did is not undone. */
  back(): void {
    this.isNew = true;
    const order = this.order();
    const at = this.nextId === null ? order.length : order.findIndex(({ id }) => id === this.nextId);
    this.nextId = order[Math.max(0, at - 1)]?.id ?? null;
  }

  end(): void {
    this.isNew = true;
    this.ended = true;
    this.ends += 1;
    this.rehearsing = false;
    for (const { cancel } of this.waits.values()) cancel();
    this.waits.clear();
  }

  /** Every cue one after the other, without its waits and triggers: whether each does what it says. */
  async rehearse(): Promise<void> {
    this.rehearsing = true;
    for (const cue of this.order()) {
      if (!this.rehearsing) break;
      this.nextId = cue.id;
      await this.send(cue, false);
    }
    this.isNew = true;
    this.rehearsed = this.rehearsing;
    this.rehearsing = false;
    this.nextId = null;
  }

  private async start(cue: core.Cue): Promise<void> {
    this.waits.get(cue.id)?.cancel();
    this.waits.delete(cue.id);
    const order = this.order();
    this.nextId = order[order.findIndex(({ id }) => id === cue.id) + 1]?.id ?? null;
    this.isNew = true;
    const { show } = this.site.plan;
    for (const other of cues.startedBy(show, cue)) {
      const { starts } = other;
      // those of an input or a message start when that is seen to happen
      if (starts.by !== 'after' && starts.by !== 'cue') continue;
      const cancel = this.site.scheduler.after(starts.delayMs, () => this.startWaiting(other.id));
      this.waits.get(other.id)?.cancel();
      this.waits.set(other.id, { at: this.site.scheduler.now() + starts.delayMs, cancel });
    }
    await this.send(cue, true);
  }

  private startWaiting(cueId: string): void {
    const cue = this.site.plan.show.cues[cueId];
    if (cue && !this.ended) void this.start(cue).catch(() => undefined);
  }

  /** All messages of a cue, each at its moment; `timed` false sends them one after the other. */
  private async send(cue: core.Cue, timed: boolean): Promise<void> {
    const { show } = this.site.plan;
    const at = Date.now();
    const start = this.site.scheduler.now();
    const { ends } = this;
    const one = async (message: core.CueMessage): Promise<contract.Delivery> => {
      if (timed && message.delayMs > 0)
        await new Promise<void>((done) => void this.site.scheduler.after(message.delayMs, done));
      if (this.ends !== ends) return notSent(message, at, 'the cues were ended before its moment');
      const { command, args } = cues.aimedAt(show, message);
      const found = command ? { command: command.key, args: [...args] } : { command: null, args: [] };
      return deliver(this.site, { ...message, ...found, controllerId: cue.controllerId });
    };
    const deliveries: contract.Delivery[] = [];
    if (timed) deliveries.push(...(await Promise.all(cue.messages.map(one))));
    else for (const message of cue.messages) deliveries.push(await one(message));
    this.isNew = true;
    this.done.push({
      ...{ cueId: cue.id, at, tookMs: Math.round(this.site.scheduler.now() - start), deliveries },
      basis: cues.basisOfCue(show, cue),
    });
    if (this.done.length > mostDone) this.done.splice(0, this.done.length - mostDone);
  }

  /** Looks at everything that starts cues by itself. */
  look(): void {
    if (this.ended || this.rehearsing) return;
    const now = Date.now();
    this.heardNow = this.heard();
    for (const cue of this.order()) {
      const isMet = this.isMet(cue, now);
      const was = this.held.has(cue.id);
      if (isMet) this.held.add(cue.id);
      else this.held.delete(cue.id);
      if (isMet && !was) void this.start(cue).catch(() => undefined);
    }
    this.heardBefore = this.heardNow;
    this.lookedAt = now;
  }

  /** How often each OSC address was heard on the network so far, where any cue waits for one. */
  private heard(): ReadonlyMap<string, number> {
    if (!this.order().some(({ starts }) => starts.by === 'message')) return new Map();
    return new Map(this.site.tap.heardAddresses().map(({ address, count }) => [address, count]));
  }

  private isMet({ starts, controllerId }: core.Cue, now = Date.now()): boolean {
    const faceOf = (id: string, parameter: string) => this.site.standins.get(id)?.memory.face.get(parameter);
    switch (starts.by) {
      case 'clock':
        return isBetween(starts.time, Math.max(this.lookedAt, now - longAgoMs), now);
      case 'timecode':
        return (faceOf(controllerId, 'time code') ?? this.runningTimecode() ?? '') >= starts.code;
      case 'on_air':
        return faceOf(starts.deviceId, 'on air') === String(starts.input);
      case 'message':
        return (this.heardNow.get(starts.address) ?? 0) > (this.heardBefore.get(starts.address) ?? 0);
      case 'level':
        return (this.site.outside.levels.get(`${starts.universe}.${starts.channel}`) ?? 0) > starts.above;
      case 'web':
        return this.site.outside.pages.get(starts.page)?.includes(starts.says) ?? false;
      default:
        return false;
    }
  }

  /** What the time code source of the site shows. */
  private runningTimecode(): string | undefined {
    for (const { type, memory } of this.site.standins.values())
      if (type.kind === 'timecode' && memory.powered) return memory.face.get('time code');
    return undefined;
  }

  /** Is there anything to tell: what happened since it was asked last, or a wait that runs down? */
  takeNews(): boolean {
    const isNew = this.isNew || this.waits.size > 0 || this.rehearsing;
    this.isNew = false;
    return isNew;
  }

  state(): contract.CueRunState {
    const now = this.site.scheduler.now();
    return {
      ...{
        nextId: this.nextId,
        running: !this.ended,
        rehearsing: this.rehearsing,
        rehearsed: this.rehearsed,
        startedAt: this.startedAt,
      },
      // to the tenth of a second: finer than anybody reads, and a state is not new at every look
      waiting: [...this.waits].map(([cueId, { at }]) => ({
        cueId,
        inMs: Math.max(0, Math.round((at - now) / 100) * 100),
      })),
      done: [...this.done],
    };
  }
}

/** Does a time of day, local as people write it, lie behind one moment and not behind another? */
function isBetween(time: string, after: number, upTo: number): boolean {
  const day = new Date(upTo);
  const [hours = 0, minutes = 0, seconds = 0] = time.split(':').map(Number);
  const at = new Date(day.getFullYear(), day.getMonth(), day.getDate(), hours, minutes, seconds).getTime();
  return at > after && at <= upTo;
}
