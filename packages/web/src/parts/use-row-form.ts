import { show as core } from '@deep-patch/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import {
  useForm,
  type DefaultValues,
  type FieldValues,
  type Path,
  type PathValue,
  type UseFormReturn,
} from 'react-hook-form';
import { draftAt } from './drafts.ts';
import { useKeeping, type Draft } from './use-keeping.ts';

export interface RowForm<Row, Values extends FieldValues> extends UseFormReturn<Values> {
  /** The row that the form stands on: what a change is based on. */
  readonly opened: Row;
  /** Somebody else saved this row while the form was being filled in. */
  readonly movedOn: boolean;
  /** After saving: `values` are saved, whatever of `after` is empty again, and what was typed meanwhile stays. */
  readonly settle: (values: Values, after?: Partial<Values>) => void;
  /** Drops what was typed for what is saved now. */
  readonly adopt: () => void;
}

/** Draws a row anew; what was typed since the one before stays. */
function useShowing<Values extends FieldValues>({ getValues, reset, setValue }: UseFormReturn<Values>, first: Values) {
  /** What fields hold that nobody has saved is kept over a row that comes from elsewhere, unless somebody dropped it. */
  const saved = useRef<Values>(first);
  const show = useCallback(
    (next: Values, known: Values = saved.current) => {
      const now = getValues();
      const typed = Object.keys(next).filter((key) => !core.isEqual(now[key], known[key]));
      reset(next);
      for (const key of typed)
        setValue(key as Path<Values>, now[key] as PathValue<Values, Path<Values>>, { shouldDirty: true });
      saved.current = next;
    },
    [getValues, reset, setValue],
  );
  const drop = useCallback(
    (next: Values) => {
      reset(next);
      saved.current = next;
    },
    [reset],
  );
  return { saved, show, drop };
}

/**
 * A form on one row of the plan. While nobody has typed, it follows the row; once somebody types, it stays on the row
 * as it was opened, so that saving over another person's change is noticed by its revision and nothing typed is lost.
 * Whoever leaves it half-typed finds it so again: `where` names the form among all others of the tab.
 */
export function useRowForm<Row extends { readonly rev: number }, Values extends FieldValues>(
  row: Row,
  valuesOf: (row: Row) => Values,
  where: string,
): RowForm<Row, Values> {
  const [draft] = useState(() => draftAt(where) as Draft<Row, Values> | undefined);
  const first = draft?.opened ?? row;
  const form = useForm<Values>({ defaultValues: valuesOf(first) as DefaultValues<Values> });
  const [opened, setOpened] = useState(first);
  /** The row that comes next is what was saved here. */
  const [isOwnNext, setOwnNext] = useState(false);
  const latest = useRef(row);
  const drawn = useRef(first);
  const { saved, show, drop } = useShowing(form, valuesOf(first));
  useKeeping(form, { opened, saved, where }, draft);
  // what was left half-typed is in its fields only after the first drawing
  const isDirty = form.formState.isDirty || opened === draft?.opened;
  const moved = row.rev !== opened.rev;
  if (moved && (!isDirty || isOwnNext)) {
    setOpened(row);
    setOwnNext(false);
  }

  useEffect(() => {
    latest.current = row;
    // the first row is drawn already: resetting to it again could wipe what somebody typed at once
    if (drawn.current === opened) return;
    drawn.current = opened;
    show(valuesOf(opened));
  });

  return {
    ...form,
    opened,
    movedOn: moved && isDirty,
    settle: (values, after) => {
      show({ ...values, ...after }, values);
      if (latest.current.rev === opened.rev) setOwnNext(isDirty);
      else setOpened(latest.current);
    },
    adopt: () => {
      drop(valuesOf(row));
      setOpened(row);
    },
  };
}
