import type { bringup, Show } from '@deep-patch/core';
import type { Sheet } from './use-sheet.ts';

/** What a step needs that is done in a way of its own. */
export interface OwnStepProps {
  readonly show: Show;
  readonly step: bringup.BringUpStep;
  readonly sheet: Sheet;
  readonly benchIsOn: boolean;
  readonly isShut: boolean;
  readonly onDone: () => void;
}
