import { Worker } from 'node:worker_threads';
import type { z } from 'zod';
import { Failure, type FailureCode } from '../http/failure.ts';
import type { saveChangeSchema } from './schemas.ts';

export interface ReadRequest {
  readonly id: number;
  readonly text: string;
}
type SavedChange = z.output<typeof saveChangeSchema>;
export interface ReadAnswer {
  readonly id: number;
  readonly value?: SavedChange;
  readonly refused?: { readonly code: FailureCode; readonly facts: Readonly<Record<string, unknown>> };
}

/** Each may be 10 MB: more of them than that are sent again later. */
const mostWaiting = 8;

interface Waiting {
  readonly done: (value: SavedChange) => void;
  readonly refuse: (error: unknown) => void;
}

/** Checks large changes one after the other in a thread, which starts when it is first needed and again if it dies. */
export class ChangeReader {
  private readonly entry: string;
  private worker: Worker | undefined;
  private readonly waiting = new Map<number, Waiting>();
  private lastId = 0;

  constructor(entry: string) {
    this.entry = entry;
  }

  /** The change of a request's body, or a failure with every fault in it. */
  read(text: string): Promise<SavedChange> {
    if (this.waiting.size >= mostWaiting) return Promise.reject(new Failure('IMPORTS_BUSY'));
    const worker = (this.worker ??= this.start());
    const id = (this.lastId += 1);
    return new Promise((done, refuse) => {
      this.waiting.set(id, { done, refuse });
      worker.postMessage({ id, text } satisfies ReadRequest);
    });
  }

  stop(): void {
    void this.worker?.terminate();
  }

  private start(): Worker {
    const worker = new Worker(this.entry);
    worker.unref();
    worker.on('message', ({ id, value, refused }: ReadAnswer) => {
      const open = this.waiting.get(id);
      this.waiting.delete(id);
      if (value) open?.done(value);
      else open?.refuse(refused ? new Failure(refused.code, refused.facts) : new Error('nothing was read'));
    });
    worker.on('error', (error) => this.died(worker, error));
    worker.on('exit', () => this.died(worker, new Error('the reader of changes ended')));
    return worker;
  }

  private died(worker: Worker, error: unknown): void {
    if (this.worker !== worker) return;
    this.worker = undefined;
    for (const { refuse } of this.waiting.values()) refuse(error);
    this.waiting.clear();
  }
}
