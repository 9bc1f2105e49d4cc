import type { contract, show as core } from '@deep-patch/core';
import type { Site } from '../site/site.ts';
import { faultKinds } from './all.ts';
import type { Standin } from '../units/standin.ts';
import type { Broken } from './fault.ts';

interface Set {
  readonly fault: contract.SetFault;
  readonly hidden: boolean;
  broken: Broken;
  /** Entries of controllers that had lost their target before. */
  readonly lostBefore: ReadonlySet<string>;
}

/** All faults of one site: set by hand or hidden by a rehearsal. */
export class Faults {
  private readonly open = new Map<string, Set>();
  private nextId = 1;
  private readonly site: Site;

  constructor(site: Site) {
    this.site = site;
  }

  /** Throws a plain Error with the reason where such a fault makes no sense at that unit. */
  set(kind: core.FaultKind, deviceId: string, hidden = false): contract.SetFault {
    const standin = this.site.standins.get(deviceId);
    if (!standin) throw new Error('there is no such unit on the bench');
    const lostBefore = new Set(this.lost().map(({ linkId }) => linkId));
    const broken = faultKinds[kind].set(this.site, standin);
    if (typeof broken === 'string') throw new Error(broken);
    if (faultKinds[kind].inWiring) this.site.linksChanged();
    const fault = { id: `f${this.nextId}`, kind, deviceId };
    this.nextId += 1;
    this.open.set(fault.id, { fault, hidden, broken, lostBefore });
    return fault;
  }

  /**
   * Mends one. Of its kind, those that were set after it stand on it: they are taken off first and set again, so that
   * each stays until it is mended itself.
   */
  clear(id: string): void {
    const set = this.open.get(id);
    if (!set) return;
    const { kind } = set.fault;
    const alike = [...this.open.entries()].filter(([, other]) => other.fault.kind === kind);
    const later = alike.slice(alike.findIndex(([other]) => other === id) + 1);
    for (const [, { broken }] of later.toReversed()) broken.mend();
    this.open.delete(id);
    set.broken.mend();
    for (const [other, each] of later) this.setOneAgain(other, each);
    if (faultKinds[kind].inWiring) this.site.linksChanged();
    this.keyInAgain(set.lostBefore);
  }

  private lost(): { readonly controller: Standin; readonly linkId: string }[] {
    return [...this.site.standins.values()].flatMap((controller) =>
      [...controller.memory.lookedUp].flatMap(([linkId, { ip }]) => (ip === null ? [{ controller, linkId }] : [])),
    );
  }

  /** A fault that is mended leaves nothing behind: entries that lost their target by it are keyed in again. */
  private keyInAgain(except: ReadonlySet<string>): void {
    const lost = this.lost().filter(({ linkId }) => !except.has(linkId));
    for (const { controller, linkId } of lost) controller.memory.lookedUp.delete(linkId);
    for (const controller of new Set(lost.map((one) => one.controller))) this.site.refresh(controller);
  }

  /** Whether somebody who names this kind at this unit is right about a fault. */
  isRight(id: string, guess: { readonly kind: core.FaultKind; readonly deviceId: string }): boolean {
    const set = this.open.get(id);
    return set?.fault.kind === guess.kind && set.broken.at.includes(guess.deviceId);
  }

  /** Those that the user set; hidden ones are the rehearsal's. */
  list(): contract.SetFault[] {
    return [...this.open.values()].filter(({ hidden }) => !hidden).map(({ fault }) => fault);
  }

  /** After a new plan: cables and switches are new, so what was wrong with them has to be set again. */
  setAgain(): void {
    for (const [id, set] of this.open) {
      if (!this.site.standins.has(set.fault.deviceId)) this.open.delete(id);
      else if (faultKinds[set.fault.kind].inWiring) this.setOneAgain(id, set);
    }
  }

  private setOneAgain(id: string, set: Set): void {
    const standin = this.site.standins.get(set.fault.deviceId);
    const broken = standin && faultKinds[set.fault.kind].set(this.site, standin);
    if (typeof broken === 'object') set.broken = broken;
    else this.open.delete(id);
  }
}
