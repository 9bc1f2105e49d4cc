import { createContext, use, useCallback, useMemo, useState, type ReactNode } from 'react';
import type { Problem } from './api.ts';

export interface NoticeInput {
  readonly text?: string;
  readonly problem?: Problem;
  readonly undo?: () => void;
  readonly retry?: () => void;
}
export interface Notice extends NoticeInput {
  readonly id: number;
}

interface Notices {
  readonly notices: readonly Notice[];
  /** Answers the id by which the message can be taken away again. */
  readonly tell: (notice: NoticeInput) => number;
  readonly dismiss: (id: number) => void;
}

const NoticesContext = createContext<Notices | undefined>(undefined);
const shownMs = 5_000;
let lastId = 0;

export function useNotices(): Notices {
  const notices = use(NoticesContext);
  if (!notices) throw new Error('useNotices needs a NoticesProvider above it');
  return notices;
}

/** What went wrong and was not read yet; nothing where no messages are kept. */
export const useProblems = (): readonly Notice[] => use(NoticesContext)?.notices.filter(({ problem }) => problem) ?? [];

/** Short messages at the bottom: what was done goes by itself, what went wrong stays until it is read. */
export function NoticesProvider({ children }: { children: ReactNode }) {
  const [notices, setNotices] = useState<readonly Notice[]>([]);
  const dismiss = useCallback((id: number) => setNotices((all) => all.filter((notice) => notice.id !== id)), []);
  const tell = useCallback(
    (input: NoticeInput) => {
      const notice = { ...input, id: (lastId += 1) };
      setNotices((all) => [...all.filter((other) => other.problem).slice(-2), notice]);
      if (!input.problem) setTimeout(() => dismiss(notice.id), shownMs);
      return notice.id;
    },
    [dismiss],
  );
  const value = useMemo(() => ({ notices, tell, dismiss }), [notices, tell, dismiss]);
  return <NoticesContext value={value}>{children}</NoticesContext>;
}
