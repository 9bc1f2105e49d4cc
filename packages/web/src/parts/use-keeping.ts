import { show as core } from '@deep-patch/core';
import { useEffect, useRef, type RefObject } from 'react';
import type { FieldValues, Path, PathValue, UseFormReturn } from 'react-hook-form';
import { keepDraft } from './drafts.ts';

export interface Draft<Row, Values> {
  readonly opened: Row;
  readonly values: Values;
}

/** Puts what was left half-typed back into its fields, and keeps what is typed as it is typed. */
export function useKeeping<Row, Values extends FieldValues>(
  { getValues, setValue, watch }: UseFormReturn<Values>,
  { opened, saved, where }: { opened: Row; saved: RefObject<Values | undefined>; where: string },
  draft: Draft<Row, Values> | undefined,
): void {
  const now = useRef(opened);
  useEffect(() => {
    now.current = opened;
  });
  useEffect(() => {
    const before = getValues();
    for (const [key, value] of Object.entries(draft?.values ?? {}))
      if (!core.isEqual(value, before[key]))
        setValue(key as Path<Values>, value as PathValue<Values, Path<Values>>, { shouldDirty: true });
    const keep = () => {
      const values = getValues();
      keepDraft(where, core.isEqual(values, saved.current) ? undefined : { opened: now.current, values });
    };
    const typing = watch(keep);
    return () => {
      typing.unsubscribe();
      keep();
    };
  }, [getValues, setValue, watch, where, saved, draft]);
}
