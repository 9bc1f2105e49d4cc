import type { addressing } from '@deep-patch/core';
import type { MarkState } from '../parts/mark.tsx';

const words: Readonly<Record<addressing.FoundState, string>> = {
  not_looked: 'not looked',
  present: 'there',
  missing: 'not found',
  wrong_address: 'at',
  two_owners: 'two units on it',
  as_delivered: 'still as delivered',
  self_assigned: 'made one up',
  no_address: 'seen, no address',
};

export const foundMarks: Readonly<Record<addressing.FoundState, MarkState>> = {
  not_looked: 'waits',
  present: 'pass',
  missing: 'waits',
  wrong_address: 'fail',
  two_owners: 'fail',
  as_delivered: 'risky',
  self_assigned: 'risky',
  no_address: 'risky',
};

/** How plan and reality compare, in the room of a table cell. */
export const foundWords = ({ state, ip }: addressing.FoundItem): string =>
  state === 'wrong_address' || state === 'self_assigned' ? `${words[state]} ${ip ?? ''}`.trim() : words[state];
