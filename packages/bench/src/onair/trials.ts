import type { contract } from '@deep-patch/core';
import type { Site } from '../site/site.ts';
import { takeTimes, tryDeeds } from './trial.ts';

type Take = Extract<contract.BenchAct, { act: 'take_times' }>;
type Cuts = Extract<contract.BenchAct, { act: 'try_cuts' }>;

/** One trial at a time, each on a site of its own with the plan as it stands then. */
export class Trials {
  state: contract.TrialState | null = null;
  private isStopped = false;
  private readonly site: Site;
  private readonly random: () => number;

  constructor(site: Site, random: () => number) {
    this.site = site;
    this.random = random;
  }

  take({ switcherId, input, times }: Take): void {
    const known = this.begin('takes', switcherId, input, times);
    const tell = (takes: readonly { arrives: number; starts: number; moves: number; bus: number }[], failed: number) =>
      (this.state = {
        ...known,
        ...{ failed, done: takes.length + failed },
        takes: takes.map(({ arrives, starts, moves, bus }) => [arrives, starts, moves, bus].map(rounded) as Quadruple),
      });
    void this.run(takeTimes(this.site.given, { switcherId, input, times }, { ...this.hands(), tell }));
  }

  cut({ switcherId, onAir, deeds }: Cuts): void {
    const known = this.begin('cuts', switcherId, onAir, deeds.length);
    void this.run(
      tryDeeds(this.site.given, { switcherId, onAir, deeds }, this.hands()).then((happened) => {
        this.state = { ...known, happened, done: deeds.length };
      }),
    );
  }

  stop(): void {
    this.isStopped = true;
  }

  private hands() {
    return { random: this.random, isStopped: () => this.isStopped };
  }

  private begin(of: 'takes' | 'cuts', switcherId: string, input: number, total: number): contract.TrialState {
    if (this.state?.running) throw new Error('something is tried already');
    if (!this.site.given.show.devices[switcherId]) throw new Error('no such unit');
    this.isStopped = false;
    const { rev } = this.site;
    const known = { of, switcherId, input, rev, total, running: true, done: 0, failed: 0, fault: null };
    return (this.state = { ...known, takes: [], happened: [] });
  }

  /** However it ends, it is over. */
  private async run(work: Promise<void>): Promise<void> {
    let fault: string | null = null;
    try {
      await work;
    } catch (thrown) {
      fault = thrown instanceof Error ? thrown.message : 'it went wrong';
    }
    if (this.state) this.state = { ...this.state, running: false, fault };
  }
}

type Quadruple = [number, number, number, number];
const rounded = (ms: number): number => Math.round(ms * 100) / 100;
