import { contract } from '@deep-patch/core';
import { act, renderHook } from '@testing-library/react';
import { expect, test } from 'vitest';
import { enterBench, takeBench, takeBenchDifference, useBenchCount, useBenchPart } from './bench-store.ts';

const state = (showId: string, seq: number, statuses: readonly string[]) =>
  ({
    showId,
    seq,
    rev: 1,
    startUps: 'skipped',
    standins: statuses.map((status, at) => ({ deviceId: `d${at}`, status })),
    heard: [],
    jacks: [],
    faults: [],
    rehearsal: null,
    scan: null,
    script: null,
    looking: null,
    confirming: null,
    partners: null,
    copied: null,
    stage: 'show',
    pulling: null,
    watch: { everySeconds: null, changes: [] },
  }) as unknown as contract.BenchState;

test('an answer about the show before, or an older one, changes nothing; a difference that does not follow is refused', () => {
  const { result } = renderHook(() => useBenchCount());
  act(() => enterBench('b'));
  act(() => takeBench(state('a', 9, ['up'])));
  expect(result.current).toBeUndefined();
  const [first, next] = [state('b', 5, ['up', 'no power']), state('b', 6, ['up', 'up'])];
  act(() => takeBench(first));
  act(() => takeBench(state('b', 4, [])));
  expect(result.current).toEqual({ up: 1, all: 2 });
  const news = contract.benchDifference(first, next);
  act(() => expect(takeBenchDifference({ ...news, base: 3 })).toBe(false));
  expect(result.current).toEqual({ up: 1, all: 2 });
  act(() => expect(takeBenchDifference(news)).toBe(true));
  expect(result.current).toEqual({ up: 2, all: 2 });
  act(() => takeBench(null));
  expect(result.current).toBeNull();
});

test('what shows one part is drawn anew only when that part changes', () => {
  let drawn = 0;
  renderHook(() => {
    drawn += 1;
    return useBenchPart((known) => known?.watch);
  });
  const first = state('b', 1, ['up']);
  act(() => enterBench('b'));
  act(() => takeBench(first));
  const before = drawn;
  for (let seq = 2; seq < 12; seq += 1) {
    const [was, is] = [state('b', seq - 1, ['up']), state('b', seq, [seq % 2 ? 'up' : 'clash'])];
    act(() => expect(takeBenchDifference(contract.benchDifference(was, is))).toBe(true));
  }
  expect(drawn).toBe(before);
});
