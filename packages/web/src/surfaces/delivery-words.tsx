import type { contract } from '@deep-patch/core';
import { Mark } from '../parts/mark.tsx';

const outcomes = {
  done: ['pass', 'did it'],
  refused: ['risky', 'arrived, nothing done'],
  not_arrived: ['fail', 'did not arrive'],
  not_sent: ['fail', 'was not sent'],
} as const;

/** Sent, arrived, done: three different things (need 8.4). */
export function DeliveryWords({ delivery }: { readonly delivery: contract.Delivery }) {
  const [mark, words] = outcomes[delivery.outcome];
  const ms = delivery.doneMs ?? delivery.arrivedMs;
  return (
    <span className="text-xs text-mute" title={delivery.why}>
      <Mark state={mark} size={12} /> {words}
      {ms !== null && ` after ${Math.round(ms * 10) / 10} ms`}
    </span>
  );
}
