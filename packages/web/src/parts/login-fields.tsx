import { show as core } from '@deep-patch/core';
import type { FieldErrors, FieldValues, Path, UseFormRegister } from 'react-hook-form';
import { Field } from './field.tsx';
import { messageOf } from './message-of.ts';
import { textRule } from './rules.ts';

export interface LoginValues extends FieldValues {
  account: string;
  password: string;
}

interface Props<Values extends LoginValues> {
  readonly register: UseFormRegister<Values>;
  readonly errors: FieldErrors<Values>;
  readonly hasPassword: boolean;
}

/** Account and password; a password that is set is never shown again, only replaced. */
export function LoginFields<Values extends LoginValues>({ register, errors, hasPassword }: Props<Values>) {
  return (
    <div className="grid grid-cols-2 gap-x-3">
      <Field label="Account" error={messageOf(errors['account'])} hint="empty: no login">
        {(ids) => (
          <input
            {...ids}
            {...register('account' as Path<Values>, textRule(core.limits.text))}
            autoComplete="off"
            className="field key-num"
          />
        )}
      </Field>
      <Field
        label="Password"
        error={messageOf(errors['password'])}
        hint={hasPassword ? 'set; type to replace it' : 'not set'}
      >
        {(ids) => (
          <input
            {...ids}
            {...register('password' as Path<Values>, textRule(core.limits.password))}
            type="password"
            autoComplete="new-password"
            className="field key-num"
          />
        )}
      </Field>
    </div>
  );
}
