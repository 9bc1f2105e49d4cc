import type { Change } from '@deep-patch/core';

interface Attempt {
  readonly id: string;
  readonly change: Change;
  /** The message with its "Try again". */
  readonly noticeId: number;
}

const rowsOf = ({ edits }: Change): Set<string> => new Set(edits.map(({ table, id }) => `${table} ${id}`));

/**
 * Changes of which nobody knows whether they were saved. Sent again they keep their request's id, so that the server does
 * them once; and when something newer touches the same rows, trying the old one again would only be in its way.
 */
export class Unanswered {
  private attempts: Attempt[] = [];

  /** The id under which a change was sent before, if it is still the same. */
  idOf(change: Change): string | undefined {
    const text = JSON.stringify(change);
    return this.attempts.find((attempt) => JSON.stringify(attempt.change) === text)?.id;
  }

  add(attempt: Attempt): void {
    this.attempts.push(attempt);
  }

  /** Takes out whatever touches rows of a change that is sent now, and answers the messages that go with it. */
  overtakenBy(change: Change): readonly number[] {
    const rows = rowsOf(change);
    const isOvertaken = (attempt: Attempt) => [...rowsOf(attempt.change)].some((row) => rows.has(row));
    const overtaken = this.attempts.filter(isOvertaken);
    this.attempts = this.attempts.filter((attempt) => !overtaken.includes(attempt));
    return overtaken.map(({ noticeId }) => noticeId);
  }
}
