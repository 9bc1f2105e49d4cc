import { colourOrders, dataSides, type Content, type Wall } from '../show/index.ts';
import { mirrored, renumbered } from './parts.ts';
import { enteredModule, moduleSize, wallState, type Module, type WallState } from './pixels.ts';
import { scans, type Panel } from './size.ts';

/** One thing that may be otherwise than it is entered, and what the wall shows then. */
export interface Cause {
  readonly key: string;
  /** What it is, and what it really would be. */
  readonly of: 'scan' | 'colours' | 'dataFrom' | 'order';
  readonly really: string;
  readonly state: WallState;
  /** What mends it, where that was it. */
  readonly patch: Partial<Content<'walls'>>;
}

/**
 * From the picture to the cause: every single setting that may be wrong, as this very wall would show it. For small
 * pictures a panel of fewer pixels does, as long as its modules keep their rows.
 */
export function causesOf(wall: Wall, panel: Panel, drawn: Panel = panel): Cause[] {
  const entered = enteredModule(wall, panel);
  const { height } = moduleSize(drawn);
  const shownAs = (built: Module): WallState => wallState(wall, { ...drawn, ...built }, { entered });
  const otherwise = <Field extends 'scan' | 'colours' | 'dataFrom'>(
    of: Field,
    values: readonly Module[Field][],
  ): Cause[] =>
    values
      .filter((value) => value !== entered[of])
      .map((value) => ({
        ...{ key: `${of} ${value}`, of, really: of === 'scan' ? `1/${value}` : String(value) },
        state: shownAs({ ...entered, [of]: value }),
        patch: { program: { ...wall.program, [of]: value } },
      }));
  const possible = scans.filter((scan) => scan > 1 && height % scan === 0);
  return [
    ...otherwise('scan', height % entered.scan === 0 ? possible : []),
    ...otherwise('dataFrom', dataSides),
    ...otherwise('colours', colourOrders),
    ...(wall.parts.length > 1
      ? [
          {
            ...{ key: 'order', of: 'order' as const, really: 'from behind' },
            state: wallState(wall, { ...drawn, ...entered }, { entered, told: mirrored(wall.parts) }),
            patch: { ...renumbered(wall), numberedFrom: 'front' as const },
          },
        ]
      : []),
  ];
}
