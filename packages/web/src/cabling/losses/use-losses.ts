import type { Show } from '@deep-patch/core';
import { useEffect, useState } from 'react';
import { useWorkerFailure } from '../../live/use-worker-failure.ts';
import type { LossAnswers, LossJob, LossQuestion } from './losses.worker.ts';

/**
 * The answer to a question about losses, worked out beside the screen while somebody wants to know; undefined until it
 * is, and after each change until it is again. A question is another one when its text is.
 */
export function useLossAnswer<Ask extends LossQuestion['ask']>(
  show: Show,
  question: Extract<LossQuestion, { ask: Ask }> | undefined,
): LossAnswers[Ask] | undefined {
  const [state, setState] = useState<{ readonly of: Show; readonly to: string; readonly answer: LossAnswers[Ask] }>();
  const failed = useWorkerFailure('What a loss takes down');
  const asked = question && JSON.stringify(question);
  useEffect(() => {
    if (asked === undefined) return undefined;
    const worker = new Worker(new URL('./losses.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<LossAnswers[Ask]>) => setState({ of: show, to: asked, answer: data });
    worker.onerror = ({ message }) => failed(message);
    worker.postMessage({ show, question: JSON.parse(asked) as LossQuestion } satisfies LossJob);
    return () => worker.terminate();
  }, [show, asked, failed]);
  return state?.of === show && state.to === asked ? state.answer : undefined;
}

const each = { ask: 'each' } as const;

/** What each loss takes down, and what every link passes. */
export const useLosses = (show: Show, isWanted: boolean): LossAnswers['each'] | undefined =>
  useLossAnswer<'each'>(show, isWanted ? each : undefined);
