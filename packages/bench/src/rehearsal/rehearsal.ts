import type { contract, show as core } from '@deep-patch/core';
import { faultKinds } from '../faults/all.ts';
import type { Faults } from '../faults/faults.ts';
import type { Site } from '../site/site.ts';

/** Faults that show on a link whichever of its two units they sit at. */
const hideable = (Object.keys(faultKinds) as core.FaultKind[]).filter((kind) => faultKinds[kind].mayHide);

/** Nobody waits longer for a rehearsal to begin (simulated milliseconds). */
const beginsWithinMs = 20_000;
const mostTries = 200;

/** A hidden fault that the user has to find: on a link that worked, at one of its two units. */
export class Rehearsal {
  state: contract.RehearsalState;
  private readonly fault: contract.SetFault;
  private readonly faults: Faults;
  private readonly clock: () => number;

  private constructor(faults: Faults, fault: contract.SetFault, linkId: string, clock: () => number) {
    this.faults = faults;
    this.fault = fault;
    this.clock = clock;
    this.state = { startedAt: clock(), linkId, result: null };
  }

  /**
   * Breaks something that can be found. Both are tried out before it starts: the link works without the fault and
   * does not with it. Undefined when no link of the show works on the bench.
   */
  static async begin(
    site: Site,
    faults: Faults,
    random: () => number,
    clock: () => number,
  ): Promise<Rehearsal | undefined> {
    const works = async (linkId: string) =>
      (await site.sound(linkId))?.layers.every(({ state }) => state !== 'fail') ?? false;
    const links = Object.values(site.plan.show.links);
    const sound = new Set<string>();
    const end = site.scheduler.now() + beginsWithinMs;
    // dice that only ever ask for what cannot be set take no time: they are counted as well
    for (let tries = 0; tries < mostTries && links.length > 0 && site.scheduler.now() < end; tries += 1) {
      const at = Math.floor(random() * links.length);
      const link = links[at];
      if (!link) continue;
      if (!sound.has(link.id) && !(await works(link.id))) {
        links.splice(at, 1);
        continue;
      }
      sound.add(link.id);
      const kind = hideable[Math.floor(random() * hideable.length)] ?? 'cable_out';
      const deviceId = random() < 0.75 ? link.targetId : link.controllerId;
      const fault = tryToSet(faults, kind, deviceId);
      if (!fault) continue;
      if (!(await works(link.id))) return new Rehearsal(faults, fault, link.id, clock);
      faults.clear(fault.id);
    }
    return undefined;
  }

  /** Ends it: tells what it was, and whether that was the guess. Null gives up. */
  end(guess: { readonly kind: core.FaultKind; readonly deviceId: string } | null): void {
    // a second answer, from another tab or a double click, changes nothing
    if (this.state.result) return;
    const { kind, deviceId } = this.fault;
    this.state = {
      ...this.state,
      result: {
        right: guess !== null && this.faults.isRight(this.fault.id, guess),
        tookMs: this.clock() - this.state.startedAt,
        kind,
        deviceId,
        guessedKind: guess?.kind ?? null,
        guessedDeviceId: guess?.deviceId ?? null,
      },
    };
    this.faults.clear(this.fault.id);
  }
}

function tryToSet(faults: Faults, kind: core.FaultKind, deviceId: string): contract.SetFault | undefined {
  try {
    return faults.set(kind, deviceId, true);
  } catch {
    return undefined;
  }
}
