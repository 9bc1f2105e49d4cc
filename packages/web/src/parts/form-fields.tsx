import type { ReactNode } from 'react';
import type { FieldValues, Path, RegisterOptions, UseFormReturn } from 'react-hook-form';
import { Field } from './field.tsx';
import { messageOf } from './message-of.ts';
import { MovedOn } from './moved-on.tsx';
import type { RowForm } from './use-row-form.ts';

interface Common<Values extends FieldValues, Name extends Path<Values>> {
  readonly form: Pick<UseFormReturn<Values>, 'register' | 'formState'>;
  readonly name: Name;
  readonly label: string;
  readonly hint?: string | undefined;
  readonly rule?: RegisterOptions<Values, Name> | undefined;
}

interface TextProps<Values extends FieldValues, Name extends Path<Values>> extends Common<Values, Name> {
  /** Figures, addresses and versions stand in the letters of keys. */
  readonly look?: 'text' | 'key' | 'number';
  readonly type?: 'text' | 'date';
  /** Several lines. */
  readonly rows?: number;
}

/** A labelled line, or several, of a form with its fault below. */
export function TextField<Values extends FieldValues, Name extends Path<Values>>({
  form,
  name,
  label,
  hint,
  rule,
  look = 'text',
  type = 'text',
  rows,
}: TextProps<Values, Name>) {
  const letters = look === 'text' ? '' : 'key-num';
  return (
    <Field label={label} error={messageOf(form.formState.errors[name])} hint={hint}>
      {(ids) =>
        rows === undefined ? (
          <input
            {...ids}
            {...form.register(name, rule)}
            type={type}
            inputMode={look === 'number' ? 'numeric' : undefined}
            className={`field ${letters}`}
          />
        ) : (
          <textarea
            {...ids}
            {...form.register(name, rule)}
            rows={rows}
            className={`textarea textarea-sm min-h-14 w-full border-line bg-base-100 ${letters}`}
          />
        )
      }
    </Field>
  );
}

/** A labelled choice of a form; its options are the children. */
export function SelectField<Values extends FieldValues, Name extends Path<Values>>({
  form,
  name,
  label,
  hint,
  children,
}: Common<Values, Name> & { readonly children: ReactNode }) {
  return (
    <Field label={label} error={messageOf(form.formState.errors[name])} hint={hint}>
      {(ids) => (
        <select {...ids} {...form.register(name)} className="field-select">
          {children}
        </select>
      )}
    </Field>
  );
}

/** Options with a word of their own each. */
export function Options({ of }: { of: Iterable<readonly [key: string, words: string]> }) {
  return [...of].map(([key, words]) => (
    <option key={key} value={key}>
      {words}
    </option>
  ));
}

/** What ends a form on a row: somebody else's change, if there is one, and the button. */
export function SaveRow<Values extends FieldValues>({
  form: { movedOn, adopt, formState },
  label,
  look = 'act',
}: {
  readonly form: Pick<RowForm<unknown, Values>, 'movedOn' | 'adopt' | 'formState'>;
  readonly label: string;
  readonly look?: 'act' | 'act-main';
}) {
  return (
    <>
      {movedOn && <MovedOn onAdopt={adopt} />}
      <button
        type="submit"
        className={`${look} justify-self-start`}
        aria-busy={formState.isSubmitting}
        disabled={!formState.isDirty || formState.isSubmitting}
      >
        {formState.isSubmitting ? 'Saving…' : label}
      </button>
    </>
  );
}
