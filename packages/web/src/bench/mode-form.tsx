import type { show as core } from '@deep-patch/core';
import { useState } from 'react';
import { Field } from '../parts/field.tsx';
import type { DoOnBench } from './use-bench.ts';

interface Props {
  readonly deviceId: string;
  readonly type: core.DeviceType;
  readonly now: string | null;
  readonly act: DoOnBench;
}

/** The mode that a unit is in: in another one its sockets may lead elsewhere. */
export function ModeForm({ deviceId, type, now, act }: Props) {
  const [mode, setMode] = useState(now ?? '');
  return (
    <form
      className="grid gap-1 rounded-field border border-line p-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        void act({ act: 'key_in', deviceId, change: { of: 'mode', variant: mode === '' ? null : mode } });
      }}
    >
      <Field label="Mode" hint="its sockets may serve something else in another one">
        {(ids) => (
          <select {...ids} className="field-select" value={mode} onChange={(event) => setMode(event.target.value)}>
            <option value="">usual</option>
            {type.variants.map(({ key, label }) => (
              <option key={key} value={key}>
                {label}
              </option>
            ))}
          </select>
        )}
      </Field>
      <button type="submit" className="act btn-xs justify-self-start" aria-label="Key the mode in">
        Key it in
      </button>
    </form>
  );
}
