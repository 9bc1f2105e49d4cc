import { onair, show as core } from '@deep-patch/core';
import type { Surroundings } from '../../units/surroundings.ts';
import { isUp, type Standin } from '../../units/standin.ts';
import { agentOf } from '../../protocols/http/agent.ts';
import { requestWeb } from '../../protocols/http/web-client.ts';
import { callersIn, callerSeen } from './callers.ts';
import { loseEntry } from './look-up-once.ts';

/**
 * A switcher with a program and a next bus. Taking an input on air sends the order to the machine that feeds it (the
 * entry's number is its input) by what was ruled for it, and changes the bus so many frames later as the take delay says.
 * Only a machine that the switcher has found is told; one that does not take the order is lost.
 */
export function cutsInputs(site: Surroundings, switcher: Standin): void {
  const buses = new Buses(site, switcher);
  switcher.followers.push((command, values) => {
    if (command.key === 'cut' || command.key === 'fade') buses.cut(Number(values.get('input')));
    else if (command.key === 'fill') buses.fill();
  });
  switcher.renewers.push(() => buses.showCaller());
  const stop = site.air.listen(({ what, deviceId }) => {
    if (what === 'list') buses.offeredAnew(deviceId);
    else if (what === 'call') buses.showCaller();
  });
  switcher.closers.push(() => {
    stop();
    buses.forget();
  });
}

class Buses {
  private readonly site: Surroundings;
  private readonly switcher: Standin;
  private readonly entries: readonly core.Link[];
  /** Which item of each player is ready, by its entry: counted from 1. */
  private readonly ready = new Map<string, number>();
  private onAir: number | undefined;
  private coming: { readonly input: number; readonly cancel: () => void } | undefined;

  constructor(site: Surroundings, switcher: Standin) {
    this.site = site;
    this.switcher = switcher;
    this.entries = core
      .rowsOf(site.plan.show, 'links')
      .filter(({ controllerId }) => controllerId === switcher.device.id);
    const { face } = switcher.memory;
    this.onAir = Number(face.get('on air')) || undefined;
    this.showCaller();
    const { takeDelay } = switcher.device;
    if (takeDelay !== null) face.set('take delay', `${takeDelay} frames`);
  }

  forget(): void {
    this.coming?.cancel();
    this.coming = undefined;
  }

  /** A player offers another list: the first of its items is the next to start. */
  offeredAnew(playerId: string): void {
    for (const { id, targetId } of this.entries) if (targetId === playerId) this.ready.delete(id);
  }

  /** Who calls in is on air with the input that the channel is on. */
  showCaller(): void {
    const callers = callersIn(this.site, this.switcher.device.id);
    if (callers.length === 0 && !this.switcher.memory.face.has('caller')) return;
    const input = callers.find(({ number }) => number === this.onAir);
    this.switcher.memory.face.set('caller', (input && callerSeen(this.site, input)) ?? '—');
  }

  fill(): void {
    this.forget();
    const left = this.onAir;
    this.onAir = undefined;
    this.showCaller();
    if (left !== undefined) this.leave(left);
  }

  cut(input: number): void {
    const { face } = this.switcher.memory;
    this.note('cut', input);
    if (this.coming?.input === input || (this.onAir === input && !this.coming)) {
      face.set('on air', String(this.onAir ?? input));
      return;
    }
    this.forget();
    face.set('on air', String(this.onAir ?? '—'));
    face.set('next', String(input));
    if (this.ruleOf(input).goes === 'with_cut') this.start(input);
    const ms = this.delayMs();
    // without a delay the bus changes in the same moment
    if (ms === 0) this.change(input);
    else
      this.coming = {
        input,
        cancel: this.site.scheduler.after(ms, () => {
          if (isUp(this.switcher)) this.change(input);
        }),
      };
  }

  private change(input: number): void {
    this.coming = undefined;
    const left = this.onAir;
    this.onAir = input;
    const { face } = this.switcher.memory;
    face.set('on air', String(input));
    face.set('next', '—');
    this.showCaller();
    // somebody cut away and back before the bus had changed
    if (left === input) return;
    this.note('on_air', input);
    if (left !== undefined) this.leave(left);
    if (this.ruleOf(input).goes === 'when_on_air') this.start(input);
  }

  private leave(input: number): void {
    const entry = this.entryOf(input);
    const { leaves } = this.ruleOf(input);
    if (!entry || leaves === 'nothing') return;
    if (leaves === 'stop') this.tell(entry, '/clips/stop');
    else if (leaves === 'hold') this.tell(entry, '/clips/hold');
    else {
      const last = this.itemsOf(entry, input);
      const next = Math.min((this.ready.get(entry.id) ?? 1) + 1, Math.max(1, last));
      this.ready.set(entry.id, next);
      this.tell(entry, `/clips/${next}/ready`);
    }
  }

  private start(input: number): void {
    const entry = this.entryOf(input);
    if (entry) this.tell(entry, `/clips/${this.ready.get(entry.id) ?? 1}/play`);
  }

  private itemsOf(entry: core.Link, input: number): number {
    const { show } = this.site.plan;
    const player = show.devices[entry.targetId];
    const selected = this.site.standins.get(entry.targetId)?.memory.face.get('list');
    return onair.offeredList(show, { rule: this.ruleOf(input), player }, selected)?.items.length ?? 1;
  }

  private ruleOf(input: number): core.Content<'inputRules'> {
    const { id } = this.switcher.device;
    return onair.ruleOf(this.site.plan.show, id, input) ?? onair.usualRule(id, input);
  }

  private entryOf = (input: number): core.Link | undefined => this.entries.find(({ slot }) => slot === input);

  private delayMs(): number {
    const frames = parseInt(this.switcher.memory.face.get('take delay') ?? '', 10) || 0;
    return (frames * 1000) / onair.pictureRate(this.switcher.device.rate);
  }

  private tell(entry: core.Link, path: string): void {
    const ip = this.switcher.memory.lookedUp.get(entry.id)?.ip;
    if (ip === undefined || ip === null) return;
    void requestWeb(this.switcher.host, {
      ...{ ip, port: entry.port, method: 'POST', path, body: {}, login: undefined },
      agent: agentOf(this.switcher),
    }).then((answer) => {
      const target = this.site.standins.get(entry.targetId);
      if (typeof answer === 'string' && target) loseEntry(this.switcher, target, entry);
    });
  }

  private note(what: 'cut' | 'on_air', input: number): void {
    const { scheduler, air } = this.site;
    air.note({ at: scheduler.now(), deviceId: this.switcher.device.id, what, input, item: '' });
  }
}
