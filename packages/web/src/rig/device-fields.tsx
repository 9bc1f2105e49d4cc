import type { FieldErrors, FieldValues, Path, UseFormRegister } from 'react-hook-form';
import { Field } from '../parts/field.tsx';
import { messageOf } from '../parts/message-of.ts';
import { rules, type DeviceFields } from './device-form.ts';

interface Props<Values extends DeviceFields & FieldValues> {
  readonly register: UseFormRegister<Values>;
  readonly errors: FieldErrors<Values>;
}

const small: readonly (readonly [Exclude<keyof DeviceFields, 'name' | 'note'>, string, string, string?])[] = [
  ['unit', 'Unit', 'field key-num', 'addresses follow it'],
  ['place', 'Place', 'field'],
  ['firmware', 'Firmware', 'field key-num'],
  ['mac', 'MAC address', 'field key-num'],
];

/** What a unit is told about itself, when it is added and on its page. */
export function DeviceFieldset<Values extends DeviceFields & FieldValues>({ register, errors }: Props<Values>) {
  return (
    <>
      <Field label="Name" error={messageOf(errors['name'])}>
        {(ids) => <input {...ids} {...register('name' as Path<Values>, rules.name)} className="field" />}
      </Field>
      <div className="grid grid-cols-2 gap-x-3">
        {small.map(([name, label, look, hint]) => (
          <Field key={name} label={label} error={messageOf(errors[name])} hint={hint}>
            {(ids) => (
              <input
                {...ids}
                {...register(name as Path<Values>, rules[name])}
                inputMode={name === 'unit' ? 'numeric' : 'text'}
                className={look}
              />
            )}
          </Field>
        ))}
      </div>
    </>
  );
}
