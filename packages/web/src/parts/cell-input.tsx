import { useEffect, useRef, type KeyboardEvent } from 'react';

interface Props {
  readonly label: string;
  readonly text: string;
  readonly onCommit: (text: string) => void;
  readonly onCancel: () => void;
}

/** One cell while somebody types into it: Enter keeps it, Escape leaves it as it was, leaving keeps it. */
export function CellInput({ label, text, onCommit, onCancel }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const settled = useRef(false);
  useEffect(() => {
    input.current?.focus();
    input.current?.select();
  }, []);
  const settle = (keep: boolean) => {
    if (settled.current) return;
    settled.current = true;
    const typed = input.current?.value ?? text;
    if (keep && typed !== text) onCommit(typed);
    else onCancel();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== 'Enter' && event.key !== 'Escape') return;
    event.preventDefault();
    event.stopPropagation();
    settle(event.key === 'Enter');
  };
  return (
    <input
      ref={input}
      aria-label={label}
      defaultValue={text}
      onKeyDown={onKeyDown}
      onBlur={() => settle(true)}
      onClick={(event) => event.stopPropagation()}
      className="-mx-1 w-full min-w-0 rounded-sm bg-base-100 px-1 outline-1 outline-primary"
    />
  );
}
