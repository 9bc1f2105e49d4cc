import type { ReactNode } from 'react';
import { Field } from './field.tsx';

interface Props {
  readonly label: string;
  readonly value: string;
  readonly onType: (text: string) => void;
  readonly error?: string | undefined;
  readonly hint?: string | undefined;
  readonly look?: 'text' | 'key' | 'number';
  readonly most?: number;
  readonly placeholder?: string;
  /** A password is typed anew and never filled in from elsewhere. */
  readonly secret?: 'account' | 'password';
}

/** A labelled line whose text somebody else keeps. */
export function TypedField({ label, value, onType, error, hint, look = 'text', most, placeholder, secret }: Props) {
  return (
    <Field label={label} error={error} hint={hint}>
      {(ids) => (
        <input
          {...ids}
          className={`field ${look === 'text' ? '' : 'key-num'}`}
          value={value}
          onChange={(event) => onType(event.target.value)}
          maxLength={most}
          placeholder={placeholder}
          type={secret === 'password' ? 'password' : 'text'}
          autoComplete={secret && { account: 'off', password: 'new-password' }[secret]}
          inputMode={look === 'number' ? 'numeric' : undefined}
          spellCheck={look === 'text' ? undefined : false}
        />
      )}
    </Field>
  );
}

/** A labelled choice whose value somebody else keeps. */
export function ChosenField({
  label,
  value,
  onChoose,
  error,
  hint,
  children,
}: {
  readonly label: string;
  readonly value: string | undefined;
  readonly onChoose: (value: string) => void;
  readonly error?: string | undefined;
  readonly hint?: string | undefined;
  readonly children: ReactNode;
}) {
  return (
    <Field label={label} error={error} hint={hint}>
      {(ids) => (
        <select {...ids} className="field-select" value={value} onChange={(event) => onChoose(event.target.value)}>
          {children}
        </select>
      )}
    </Field>
  );
}

export function Tick({
  checked,
  onTick,
  children,
  size = 'sm',
}: {
  readonly checked: boolean;
  readonly onTick: (checked: boolean) => void;
  readonly children: ReactNode;
  readonly size?: 'sm' | 'xs';
}) {
  return (
    <label className={`flex items-center ${size === 'sm' ? 'gap-2' : 'gap-1.5 py-0.5'}`}>
      <input
        type="checkbox"
        className={`checkbox ${size === 'sm' ? 'checkbox-sm' : 'checkbox-xs'}`}
        checked={checked}
        onChange={(event) => onTick(event.target.checked)}
      />
      {children}
    </label>
  );
}
