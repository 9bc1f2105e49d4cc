import { X } from 'lucide-react';
import { ProblemList } from './notices.tsx';
import { useCounted } from './open-dialogs.ts';
import { useEffect, useId, useRef, useState, type ReactNode } from 'react';

interface Props {
  readonly title: string;
  readonly onClose: () => void;
  readonly children: ReactNode;
  readonly wide?: boolean | 'full';
  /** Closing would lose something; where nobody says, whatever was typed or chosen in it counts. */
  readonly unsaved?: boolean;
}

/**
 * The browser's own modal dialogue: it traps focus, closes on Escape and gives focus back. What was typed and not saved
 * is not thrown away without a word.
 */
export function Dialog({ title, onClose, children, wide = false, unsaved: given }: Props) {
  const dialog = useRef<HTMLDialogElement>(null);
  const body = useRef<HTMLDivElement>(null);
  const heading = useId();
  const [asking, setAsking] = useState(false);
  const [typed, setTyped] = useState(false);
  const unsaved = given ?? typed;
  useEffect(() => {
    const here = dialog.current;
    if (here && !here.open) here.showModal();
    // the browser would pick the close button; people come here to fill something in, or to read a table
    body.current?.querySelector<HTMLElement>('input, select, textarea, button, [tabindex="0"]')?.focus();
    return () => here?.close();
  }, []);
  useCounted();
  const leave = () => (unsaved ? setAsking(true) : onClose());
  return (
    <dialog
      ref={dialog}
      aria-labelledby={heading}
      onCancel={(event) => {
        if (event.target !== event.currentTarget) return;
        event.preventDefault();
        leave();
      }}
      className={`m-auto max-h-[88vh] w-full overflow-auto rounded-box border border-line bg-base-200 p-0 text-base-content shadow-2xl backdrop:bg-black/50 ${wide === 'full' ? 'max-w-[96vw]' : wide ? 'max-w-5xl' : 'max-w-lg'}`}
    >
      <div className="flex items-center gap-3 border-b border-rule px-5 py-3">
        <h2 id={heading} className="text-base font-bold">
          {title}
        </h2>
        <button type="button" className="btn btn-ghost btn-sm btn-square ml-auto" onClick={leave} aria-label="Close">
          <X size={16} aria-hidden />
        </button>
      </div>
      {asking && unsaved && (
        <p
          role="alert"
          className="sticky top-0 z-2 flex flex-wrap items-center gap-3 border-b border-rule bg-base-300 px-5 py-2.5"
        >
          What you typed is not saved.
          <button type="button" className="act-main" autoFocus onClick={() => setAsking(false)}>
            Keep it open
          </button>
          <button type="button" className="act" onClick={onClose}>
            Throw it away
          </button>
        </p>
      )}
      <ProblemList />
      <div ref={body} className="p-5" onInput={() => setTyped(true)}>
        {children}
      </div>
    </dialog>
  );
}
