import { Check, Circle, Triangle, X } from 'lucide-react';

export type MarkState = 'pass' | 'risky' | 'fail' | 'waits';

const shapes = { pass: Check, risky: Triangle, fail: X, waits: Circle } as const;
const colours = { pass: 'text-success', risky: 'text-warning', fail: 'text-error', waits: 'text-faint' } as const;
const names = { pass: 'passes', risky: 'passes with a warning', fail: 'stops here', waits: 'not reached' } as const;

/** A state as colour and shape: check, triangle, cross, hollow ring. */
export function Mark({ state, size = 14 }: { state: MarkState; size?: number }) {
  const Shape = shapes[state];
  return (
    <Shape
      size={size}
      strokeWidth={3}
      role="img"
      aria-label={names[state]}
      className={`inline shrink-0 ${colours[state]}`}
    />
  );
}

export const markColour = (state: MarkState): string => colours[state];
export const markName = (state: MarkState): string => names[state];
