import { useEffect } from 'react';

export interface Shortcut {
  /** As people read it: `Ctrl K`, `?`, `g a` for two keys one after the other. */
  readonly keys: string;
  readonly what: string;
  readonly run: () => void;
}

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName));

/** Listens for shortcuts of the whole window. Plain keys are left alone while somebody types or a dialogue is open. */
export function useShortcuts(shortcuts: readonly Shortcut[]): void {
  useEffect(() => {
    let before = '';
    const onKey = (event: KeyboardEvent) => {
      const control = event.ctrlKey || event.metaKey;
      if (!control && (typing(event.target) || document.querySelector('dialog[open]'))) return;
      const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
      const pressed = control ? `Ctrl ${event.shiftKey ? 'Shift ' : ''}${key.toUpperCase()}` : key;
      const match = shortcuts.find(({ keys }) => keys === pressed || keys === `${before} ${pressed}`);
      before = pressed;
      if (!match || (control && typing(event.target) && pressed !== 'Ctrl K')) return;
      event.preventDefault();
      match.run();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [shortcuts]);
}
