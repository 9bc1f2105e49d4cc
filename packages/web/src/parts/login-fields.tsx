import { show as core } from '@deep-patch/core';
import type { FieldValues, Path, UseFormReturn } from 'react-hook-form';
import { Field } from './field.tsx';
import { messageOf } from './message-of.ts';
import { textRule } from './rules.ts';

export interface LoginValues extends FieldValues {
  account: string;
  password: string;
}

interface Props<Values extends LoginValues> {
  readonly form: Pick<UseFormReturn<Values>, 'register' | 'formState'>;
  readonly type: core.ServiceType;
  readonly hasPassword: boolean;
}

/** Account and password where a service asks for them; a password that is set is never shown again, only replaced. */
export function LoginFields<Values extends LoginValues>({ form, type, hasPassword }: Props<Values>) {
  const { errors } = form.formState;
  if (!core.asksForLogin(type)) return null;
  return (
    <div className="grid grid-cols-2 gap-x-3">
      <Field label="Account" error={messageOf(errors['account'])} hint="empty: no login">
        {(ids) => (
          <input
            {...ids}
            {...form.register('account' as Path<Values>, textRule(core.limits.text))}
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
            {...form.register('password' as Path<Values>, textRule(core.limits.password))}
            type="password"
            autoComplete="new-password"
            className="field key-num"
          />
        )}
      </Field>
    </div>
  );
}
