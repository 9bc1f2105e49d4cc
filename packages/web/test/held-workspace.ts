import { analyse, show as core, type Analysis, type Change, type Show } from '@deep-patch/core';
import { demoShow } from '@deep-patch/demo';
import { useSyncExternalStore } from 'react';

/** A workspace without a server: what is saved is written at once, and the analysis is that of core. */
class Held {
  show: Show = demoShow();
  analysis: Analysis = analyse(this.show, core.nothingSeen, 0);
  readonly saved: Change[] = [];
  /** When whoever saves hears of it. */
  answer = Promise.resolve(true);
  private readonly listeners = new Set<() => void>();

  begin(show: Show): void {
    this.saved.length = 0;
    this.answer = Promise.resolve(true);
    this.take(show);
  }

  readonly save = (change: Change | undefined): Promise<boolean> => {
    if (!change || change.edits.length === 0) return Promise.resolve(true);
    const applied = core.applyChange(this.show, core.changeSchema.parse(change));
    if (!applied.ok) throw new Error(`a conflict in ${change.label}`);
    this.saved.push(change);
    this.take(applied.show);
    return this.answer;
  };

  /** The labels of what was saved since the start. */
  labels(): string[] {
    return this.saved.map(({ label }) => label);
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  private take(show: Show): void {
    this.show = show;
    this.analysis = analyse(show, core.nothingSeen, 0);
    for (const listener of this.listeners) listener();
  }
}

export const held = new Held();
const useHeld = () => useSyncExternalStore(held.subscribe, () => held.analysis);

/** Stands for the module of the workspace in tests that draw whole screens. */
export const workspaceModule = {
  useShow: () => {
    useHeld();
    return held.show;
  },
  useSaving: () => false,
  useWorkspace: () => ({
    showId: held.show.id,
    show: held.show,
    seen: core.nothingSeen,
    analysis: useHeld(),
    save: held.save,
    allSaved: () => Promise.resolve([]),
  }),
};
