import type { ReactNode } from 'react';

/** Title, one line of what the screen holds, and its actions; the main one is brass. */
export function ScreenHead({ title, summary, children }: { title: string; summary: string; children?: ReactNode }) {
  return (
    <div className="flex flex-wrap items-end gap-x-3.5 gap-y-2 px-4.5 pt-3.5 pb-2.5 max-sm:items-center max-sm:gap-y-1 max-sm:pt-2 max-sm:pb-1.5">
      <h1 className="text-xl font-bold">{title}</h1>
      <p className="mb-0.5 text-mute max-sm:order-last max-sm:w-full max-sm:truncate max-sm:text-[13px]">{summary}</p>
      <div className="ml-auto flex flex-wrap gap-2">{children}</div>
    </div>
  );
}
