import type { Change } from '@deep-patch/core';
import type { Pool } from 'pg';
import { Failure } from '../http/failure.ts';
import type { LoggedChange } from './log.ts';
import { inTransaction } from './pool.ts';
import { needsOwnBatch, writeBatch, type Asked } from './write-batch.ts';

/** More wait for one show only when something is wrong: they are refused, so that memory does not grow. */
const mostWaiting = 200;
const mostInBatch = 50;

/** A fault of one change among several; whatever else fails, fails for all of them alike. */
const ofOneAlone: ReadonlySet<unknown> = new Set(['DANGLING', 'BROKEN_ROW']);

interface Waiting {
  readonly asked: Asked;
  readonly done: (line: LoggedChange) => void;
  readonly refuse: (error: unknown) => void;
}

/**
 * Saves changes whole or not at all, those of one show in the order in which they came. What comes while others are
 * being saved is saved next, all together: a commit waits for the disk once, however many people are in it.
 */
export class Changes {
  private readonly lanes = new Map<string, Waiting[]>();
  private readonly pool: Pool;

  constructor(pool: Pool) {
    this.pool = pool;
  }

  save(showId: string, request: { id: string; author: string; change: Change }): Promise<LoggedChange> {
    return this.line(showId, { ...request, kind: 'do' });
  }

  /** Takes the author's last standing change back, or does the last one taken back again. */
  stepBack(showId: string, request: { id: string; author: string }, kind: 'undo' | 'redo'): Promise<LoggedChange> {
    return this.line(showId, { ...request, kind, change: null });
  }

  private line(showId: string, asked: Asked): Promise<LoggedChange> {
    const lane = this.lanes.get(showId);
    if (lane && lane.length >= mostWaiting) return Promise.reject(new Failure('DATABASE_BUSY'));
    return new Promise((done, refuse) => {
      const waiting = { asked, done, refuse };
      if (lane) lane.push(waiting);
      else void this.empty(showId, [waiting]);
    });
  }

  private async empty(showId: string, lane: Waiting[]): Promise<void> {
    this.lanes.set(showId, lane);
    while (lane.length > 0) await this.write(showId, lane.splice(0, batchLength(lane)));
    this.lanes.delete(showId);
  }

  private async write(showId: string, batch: readonly Waiting[]): Promise<void> {
    try {
      const outcomes = await inTransaction(this.pool, (client) =>
        writeBatch(
          client,
          showId,
          batch.map(({ asked }) => asked),
        ),
      );
      for (const [at, outcome] of outcomes.entries())
        if (outcome instanceof Failure) batch[at]?.refuse(outcome);
        else batch[at]?.done(outcome);
    } catch (error) {
      const isOfOne = !(error instanceof Failure) || ofOneAlone.has(error.code);
      if (batch.length > 1 && isOfOne) for (const one of batch) await this.write(showId, [one]);
      else for (const { refuse } of batch) refuse(error);
    }
  }
}

function batchLength(lane: readonly Waiting[]): number {
  const alone = lane.findIndex(({ asked }) => needsOwnBatch(asked));
  return Math.min(alone === -1 ? lane.length : Math.max(1, alone), mostInBatch);
}
