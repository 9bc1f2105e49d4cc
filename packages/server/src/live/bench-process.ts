import { fork, type ChildProcess } from 'node:child_process';
import type { BenchEvent, BenchRequest } from '@deep-patch/bench';
import type { Logger } from 'pino';
import { Failure } from '../http/failure.ts';

const answerWithinMs = 20_000;
const restartMs = 300;

interface Waiting {
  readonly done: (value: unknown) => void;
  readonly refuse: (failure: Failure) => void;
  readonly timer: NodeJS.Timeout;
}

interface Answer {
  readonly id?: number;
  readonly ok?: boolean;
  readonly value?: unknown;
  readonly fault?: string;
}

export interface BenchHooks {
  readonly death: () => void;
  readonly event: (event: BenchEvent) => void;
}

/** The bench says in half a sentence why something cannot be done. */
const refusal = (reason: string): Failure =>
  new Failure('BENCH_REFUSED', { reason, detail: `${reason.charAt(0).toUpperCase()}${reason.slice(1)}.` });

/** The bench in its own process: if it dies, open requests fail with a clear problem and it starts again by itself. */
export class BenchProcess {
  private child: ChildProcess | undefined;
  private readonly waiting = new Map<number, Waiting>();
  private nextId = 1;
  private stopped = false;
  private readonly entry: string;
  private readonly speed: number;
  private readonly log: Logger;
  private readonly on: BenchHooks;

  constructor(entry: string, speed: number, log: Logger, on: BenchHooks) {
    this.entry = entry;
    this.speed = speed;
    this.log = log;
    this.on = on;
  }

  get pid(): number | undefined {
    return this.child?.pid;
  }

  async ask<Answer>(request: BenchRequest): Promise<Answer> {
    const child = (this.child ??= this.start());
    const id = (this.nextId += 1);
    return new Promise<Answer>((done, refuse) => {
      const timer = setTimeout(() => this.settle(id)?.refuse(new Failure('BENCH_AWAY')), answerWithinMs);
      this.waiting.set(id, { done: done as Waiting['done'], refuse, timer });
      // the channel may break between two messages; then the exit handler refuses what waits
      child.send({ id, request }, (error) => {
        if (error) this.settle(id)?.refuse(new Failure('BENCH_AWAY'));
      });
    });
  }

  stop(): void {
    this.stopped = true;
    this.child?.disconnect();
  }

  private start(): ChildProcess {
    // a TypeScript entry runs through the loader that runs this process; the built one is plain JavaScript
    const child = fork(this.entry, [String(this.speed)], { stdio: ['ignore', 'ignore', 'inherit', 'ipc'] });
    child.on('message', (message: Answer & { event?: BenchEvent }) => {
      if (message.event) {
        this.on.event(message.event);
        return;
      }
      const open = message.id === undefined ? undefined : this.settle(message.id);
      if (message.ok) open?.done(message.value);
      else open?.refuse(refusal(message.fault ?? 'it did not say why'));
    });
    child.on('exit', () => this.died(child));
    child.on('error', () => this.died(child));
    return child;
  }

  private died(child: ChildProcess): void {
    if (this.child !== child) return;
    this.child = undefined;
    for (const id of [...this.waiting.keys()]) this.settle(id)?.refuse(new Failure('BENCH_AWAY'));
    if (this.stopped) return;
    this.log.error({ pid: child.pid }, 'bench process ended; starting another');
    setTimeout(() => {
      if (!this.stopped) this.child ??= this.start();
    }, restartMs).unref();
    this.on.death();
  }

  private settle(id: number): Waiting | undefined {
    const open = this.waiting.get(id);
    this.waiting.delete(id);
    clearTimeout(open?.timer);
    return open;
  }
}
