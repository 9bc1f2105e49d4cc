import { useEffect, useRef, useState } from 'react';
import { useForm, type DefaultValues, type FieldValues, type UseFormReturn } from 'react-hook-form';

export interface RowForm<Row, Values extends FieldValues> extends UseFormReturn<Values> {
  /** The row that the form stands on: what a change is based on. */
  readonly opened: Row;
  /** Somebody else saved this row while the form was being filled in. */
  readonly movedOn: boolean;
  /** After saving: what is on screen is what is saved. */
  readonly settle: (values: Values) => void;
  /** Drops what was typed for what is saved now. */
  readonly adopt: () => void;
}

/**
 * A form on one row of the plan. While nobody has typed, it follows the row; once somebody types, it stays on the row
 * as it was opened, so that saving over another person's change is noticed by its revision and nothing typed is lost.
 */
export function useRowForm<Row extends { readonly rev: number }, Values extends FieldValues>(
  row: Row,
  valuesOf: (row: Row) => Values,
): RowForm<Row, Values> {
  const form = useForm<Values>({ defaultValues: valuesOf(row) as DefaultValues<Values> });
  const [opened, setOpened] = useState(row);
  const { reset } = form;
  const { isDirty } = form.formState;
  const moved = row.rev !== opened.rev;
  if (moved && !isDirty) setOpened(row);
  const drawn = useRef(row);
  useEffect(() => {
    // the first row is drawn already: resetting to it again could wipe what somebody typed at once
    if (drawn.current === opened) return;
    drawn.current = opened;
    reset(valuesOf(opened));
    // valuesOf is as stable as the row that it reads
    // oxlint-disable-next-line react/exhaustive-deps
  }, [opened, reset]);
  return { ...form, opened, movedOn: moved && isDirty, settle: (values) => reset(values), adopt: () => setOpened(row) };
}
