import type { contract, show as core } from '@deep-patch/core';
import type { Faults } from '../faults/faults.ts';
import type { Site } from '../site/site.ts';

interface Step {
  readonly planned: contract.ScriptStep;
  state: contract.ScriptStepState['state'];
  setAt: number | undefined;
  tookMs: number | null;
  reason: string | null;
  faultId: string | undefined;
}

/**
 * A rehearsal as it was written down: faults that come at their times, some of them hidden. What is hidden has to be
 * found; what was found, or is over, is mended. `clock` gives milliseconds since 1970.
 */
export class ScriptRun {
  private readonly steps: readonly Step[];
  private readonly cancels: (() => void)[] = [];
  private readonly startedAt: number;
  private wrong = 0;
  private over = false;
  private readonly script: contract.RehearsalScript;
  private readonly faults: Faults;
  private readonly clock: () => number;

  /** Throws a plain Error that names every step whose unit is not there. */
  constructor(script: contract.RehearsalScript, { scheduler, standins }: Site, faults: Faults, clock: () => number) {
    const missing = script.steps.flatMap(({ deviceId }, at) => (standins.has(deviceId) ? [] : [`step ${at + 1}`]));
    if (missing.length > 0) throw new Error(`the units of ${missing.join(', ')} are not in this show`);
    this.script = script;
    this.faults = faults;
    this.clock = clock;
    this.startedAt = clock();
    this.steps = script.steps.map((planned) => ({
      planned,
      state: 'waiting',
      setAt: undefined,
      tookMs: null,
      reason: null,
      faultId: undefined,
    }));
    for (const step of this.steps) {
      this.cancels.push(scheduler.after(step.planned.atSeconds * 1000, () => this.begin(step)));
      const until = step.planned.untilSeconds;
      if (until !== null) this.cancels.push(scheduler.after(until * 1000, () => this.mend(step, 'cleared')));
    }
  }

  /** Is this one of those that are hidden now? It is mended then. */
  guess(kind: core.FaultKind, deviceId: string): void {
    const step = this.steps.find(
      ({ state, planned, faultId }) =>
        state === 'set' && planned.hidden && faultId !== undefined && this.faults.isRight(faultId, { kind, deviceId }),
    );
    if (!step) {
      this.wrong += 1;
      return;
    }
    step.tookMs = this.clock() - (step.setAt ?? this.clock());
    this.mend(step, 'found');
  }

  /** Ends it and tells everything; a second time changes nothing. */
  end(): void {
    if (this.over) return;
    this.over = true;
    for (const cancel of this.cancels) cancel();
    for (const step of this.steps) if (step.state === 'set') this.mend(step, 'cleared');
  }

  state(): contract.ScriptState {
    const isOver = this.over || this.steps.every(({ state }) => state !== 'waiting' && state !== 'set');
    return {
      title: this.script.title,
      startedAt: this.startedAt,
      over: isOver,
      wrong: this.wrong,
      steps: this.steps.map(({ planned, state, tookMs, reason }) => {
        const isTold = !planned.hidden || isOver || state === 'found' || state === 'cleared';
        return {
          hidden: planned.hidden,
          state,
          tookMs,
          reason,
          kind: isTold ? planned.kind : null,
          deviceId: isTold ? planned.deviceId : null,
        };
      }),
    };
  }

  private begin(step: Step): void {
    try {
      step.faultId = this.faults.set(step.planned.kind, step.planned.deviceId, step.planned.hidden).id;
      step.state = 'set';
      step.setAt = this.clock();
    } catch (error) {
      step.state = 'refused';
      step.reason = error instanceof Error ? error.message : 'it could not be set';
    }
  }

  private mend(step: Step, state: 'found' | 'cleared'): void {
    if (step.state !== 'set') return;
    step.state = state;
    if (step.faultId !== undefined) this.faults.clear(step.faultId);
  }
}
