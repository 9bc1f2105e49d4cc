import type { show as core } from '@deep-patch/core';
import type { Site } from '../site/site.ts';
import { faultKinds } from './all.ts';

interface Set {
  readonly fault: core.SetFault;
  readonly hidden: boolean;
  undo: () => void;
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
  set(kind: core.FaultKind, deviceId: string, hidden = false): core.SetFault {
    const standin = this.site.standins.get(deviceId);
    if (!standin) throw new Error('there is no such unit on the bench');
    const undo = faultKinds[kind].set(this.site, standin);
    if (typeof undo === 'string') throw new Error(undo);
    if (faultKinds[kind].inWiring) this.site.linksChanged();
    const fault = { id: `f${this.nextId}`, kind, deviceId };
    this.nextId += 1;
    this.open.set(fault.id, { fault, hidden, undo });
    return fault;
  }

  clear(id: string): void {
    const set = this.open.get(id);
    this.open.delete(id);
    set?.undo();
    if (set && faultKinds[set.fault.kind].inWiring) this.site.linksChanged();
  }

  /** Those that the user set; hidden ones are the rehearsal's. */
  list(): core.SetFault[] {
    return [...this.open.values()].filter(({ hidden }) => !hidden).map(({ fault }) => fault);
  }

  /** After a new plan: cables and switches are new, so what was wrong with them has to be set again. */
  setAgain(): void {
    for (const [id, set] of this.open) {
      const standin = this.site.standins.get(set.fault.deviceId);
      if (!standin) this.open.delete(id);
      else if (faultKinds[set.fault.kind].inWiring) {
        const undo = faultKinds[set.fault.kind].set(this.site, standin);
        if (typeof undo === 'string') this.open.delete(id);
        else set.undo = undo;
      }
    }
  }
}
