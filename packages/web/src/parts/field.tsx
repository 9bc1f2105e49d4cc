import { useId, type ReactNode } from 'react';

interface Props {
  readonly label: string;
  readonly error?: string | undefined;
  readonly hint?: string | undefined;
  readonly children: (ids: { id: string; 'aria-invalid': boolean; 'aria-describedby': string }) => ReactNode;
}

/** A labelled control with its hint or its fault below. */
export function Field({ label, error, hint, children }: Props) {
  const id = useId();
  const note = `${id}-note`;
  return (
    <div className="grid content-start gap-1 pb-2">
      <label htmlFor={id} className="text-xs font-semibold text-mute">
        {label}
      </label>
      {children({ id, 'aria-invalid': error !== undefined, 'aria-describedby': note })}
      <p id={note} className={`text-xs empty:hidden ${error ? 'text-error' : 'text-mute'}`}>
        {error ?? hint}
      </p>
    </div>
  );
}
