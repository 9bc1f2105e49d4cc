import { planSaveType } from '../rig/index.ts';
import { changeOf, isEqual, updateRow, type Change, type Content, type RealWall, type Show } from '../show/index.ts';
import type { KnownWall } from './known-wall.ts';
import { renumbered } from './parts.ts';
import type { WallState } from './pixels.ts';
import { asEntered, builtAs, hung, realState, wrongsOf, type Wrong } from './real.ts';
import { wallSize, type Panel } from './size.ts';

/** One thing that may be otherwise than it is entered, and what the wall shows then. */
export interface Cause {
  readonly key: string;
  readonly of: Wrong['of'];
  readonly real: RealWall;
  readonly state: WallState;
}

/**
 * From the picture to the cause: every single setting that may be wrong, as this very wall would show it while the
 * player sends. For small pictures a panel of fewer pixels does, as long as its modules keep their rows.
 */
export function causesOf({ wall, panel }: Pick<KnownWall, 'wall' | 'panel'>, drawn: Panel = panel): Cause[] {
  const scaled = smaller(wall, panel, drawn);
  return wrongsOf(wall, panel).map(({ of, real: other }): Cause => {
    const real = { ...asEntered, ...other };
    const small = {
      ...real,
      width: real.width === null ? null : Math.round((real.width * drawn.width) / panel.width),
      height: real.height === null ? null : Math.round((real.height * drawn.height) / panel.height),
    };
    return { key: `${of} ${JSON.stringify(other)}`, of, real, state: realState(scaled, drawn, small, 'player') };
  });
}

/** A wall whose entries are as many times smaller as its panels are. */
export function smaller(wall: KnownWall['wall'], panel: Panel, drawn: Panel): KnownWall['wall'] {
  const scaled = (value: number | null, to: number, from: number) =>
    value === null ? null : Math.round((value * to) / from);
  const { width, height } = wall.program;
  return {
    ...wall,
    program: {
      ...wall.program,
      width: scaled(width, drawn.width, panel.width),
      height: scaled(height, drawn.height, panel.height),
    },
  };
}

/** What is to be entered in a wall that really is like that. */
export function mendOf({ wall, panel }: Pick<KnownWall, 'wall' | 'panel'>, real: RealWall): Partial<Content<'walls'>> {
  const { scan, colours, dataFrom } = real;
  const { width, height } = wallSize(wall, panel);
  const program = {
    ...wall.program,
    ...(scan === null ? {} : { scan }),
    ...(colours === null ? {} : { colours }),
    ...(dataFrom === null ? {} : { dataFrom }),
    ...(real.width === null ? {} : { width }),
    ...(real.height === null ? {} : { height }),
  };
  const playerOutput = {
    ...wall.playerOutput,
    ...(real.start === null ? {} : { start: 'top_left' as const, saved: false, restarted: false }),
  };
  const order =
    real.order === null
      ? {}
      : { ...renumbered(wall, [...hung(wall.parts, real.order)]), numberedFrom: 'front' as const };
  return { program, playerOutput, ...order, stored: false };
}

const typeWith = ({ rev: _, ...content }: KnownWall['type'], panel: Panel): Content<'types'> => ({ ...content, panel });

/**
 * Enters what was found. Where the panels are built otherwise than their type says, the type is told as well, in the
 * show's own library, so that the next wall of them begins right.
 */
export function planMend(show: Show, own: KnownWall, real: RealWall, newId: () => string): Change | undefined {
  const { wall, panel, type } = own;
  const built = builtAs(panel, real);
  const told = isEqual(built, panel) ? undefined : planSaveType(show, typeWith(type, built), newId);
  return changeOf(`${wall.name}: as it was found`, [
    updateRow('walls', wall, mendOf(own, real)),
    ...(told?.edits ?? []),
  ]);
}
