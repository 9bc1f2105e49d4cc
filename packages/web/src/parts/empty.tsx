import type { ReactNode } from 'react';

/** An empty screen teaches the next step in one sentence with one button. */
export function Empty({ text, children }: { text: string; children?: ReactNode }) {
  return (
    <div className="grid h-full place-content-center justify-items-center gap-4 p-10 text-center">
      <p className="max-w-md text-mute">{text}</p>
      {children}
    </div>
  );
}

/** Keeps the layout while rows are on their way. */
export function Loading({ rows = 12 }: { rows?: number }) {
  return (
    <div role="status" aria-busy="true" aria-label="Loading" className="grid gap-px p-4">
      {Array.from({ length: rows }, (_, at) => (
        <div key={at} className="h-7 bg-base-300 opacity-60" />
      ))}
    </div>
  );
}
