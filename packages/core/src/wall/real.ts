import { colourOrders, dataSides, wallCorners, type RealWall, type Wall } from '../show/index.ts';
import { inPlace, mirrored, panelsIn, type Part } from './parts.ts';
import { enteredModule, moduleSize, wallState, type WallState } from './pixels.ts';
import { scans, wallSize, type Panel } from './size.ts';

/** A wall that is exactly as it is planned and entered. */
export const asEntered: RealWall = {
  ...{ scan: null, colours: null, dataFrom: null, order: null, width: null, height: null },
  ...{ cuts: [], turned: [], start: null, reaches: null },
};

/** Who sends the picture: the processor by itself, or the player into it. */
export type Sender = 'processor' | 'player';

/** What a wall shows that really is like that, with what is entered for it. */
export function realState(wall: Wall, panel: Panel, real: RealWall, sender: Sender = 'processor'): WallState {
  const { program, numberedFrom, playerOutput } = wall;
  const { width, height } = wallSize(wall, panel);
  const start = real.start ?? playerOutput.start;
  const isPlayed = sender === 'player';
  return wallState(wall, builtAs(panel, real), {
    hangs: hung(wall.parts, real.order),
    told: numberedFrom === 'back' ? mirrored(wall.parts) : wall.parts,
    entered: enteredModule(wall, panel),
    believed: { width: real.width ?? program.width ?? width, height: real.height ?? program.height ?? height },
    silent: real.cuts.flatMap(({ output, panels }) => endOf(wall, output, real.order, panels)),
    upsideDown: real.turned,
    turned: { across: isPlayed && start.endsWith('right'), down: isPlayed && start.startsWith('bottom') },
    isCutOff: isPlayed && real.reaches === false,
  });
}

/** What runs in the receivers of a wall on the bench, how it really is, and what the player does. */
export interface Running {
  /** Null: nothing runs in them. */
  readonly runs: Pick<Wall, 'program' | 'parts' | 'numberedFrom'> | null;
  readonly real: RealWall;
  readonly start: NonNullable<RealWall['start']>;
  /** Nothing of what is sent gets there. */
  readonly isDark: boolean;
}

/** What a wall on the bench shows. What hangs where was decided when it was hung: other entries do not move it. */
export function runningState(wall: Wall, panel: Panel, running: Running, sender: Sender): WallState {
  const { runs, real, start, isDark } = running;
  const order = real.order ?? inPlace(wall.parts).map(({ output }) => output);
  const state = realState({ ...wall, ...runs }, panel, { ...real, order, start }, sender);
  return { ...state, isCutOff: isDark || runs === null };
}

/** The wall with what stands in the set-up program, as far as somebody wrote it down, and with strings that end too early. */
export const enteredState = (wall: Wall, panel: Panel): WallState =>
  realState(wall, panel, { ...asEntered, cuts: wall.found });

/** A panel as its modules really are. */
export const builtAs = (
  panel: Panel,
  { scan, colours, dataFrom }: Pick<RealWall, 'scan' | 'colours' | 'dataFrom'>,
) => ({
  ...panel,
  ...{ scan: scan ?? panel.scan, colours: colours ?? panel.colours, dataFrom: dataFrom ?? panel.dataFrom },
});

/** Parts with the outputs that really hang at them. */
export function hung(parts: readonly Part[], order: RealWall['order']): readonly Part[] {
  return order === null ? parts : inPlace(parts).map((part, at) => ({ ...part, output: order[at] ?? part.output }));
}

/** The panels of an output behind so many: along its string where one is drawn for the part at which it hangs. */
function endOf(wall: Wall, output: number, order: RealWall['order'], panels: number): Wall['strings'][number]['path'] {
  const at = hung(wall.parts, order).find((part) => part.output === output);
  const planned = wall.parts.find((part) => part.x === at?.x && part.y === at.y);
  const string = wall.strings.find((one) => one.output === planned?.output)?.path;
  const own = string ?? (planned ? panelsIn(wall, planned).map(([x, y]): [number, number] => [x, y]) : []);
  return own.slice(panels);
}

/** One thing of a wall that may be otherwise than it is entered. */
export interface Wrong {
  readonly of: Exclude<keyof RealWall, 'width' | 'height'> | 'size';
  readonly real: Partial<RealWall>;
}

/** Everything that the bench's wall may have wrong, one by one. */
export function wrongsOf(wall: Wall, panel: Panel): Wrong[] {
  const entered = enteredModule(wall, panel);
  const rows = moduleSize(panel).height;
  const of = <Field extends keyof RealWall>(field: Field, values: readonly RealWall[Field][]): Wrong[] =>
    values.map((value) => ({ of: field as Wrong['of'], real: { [field]: value } }));
  // one row at a time and all at once put the rows in the same order: nobody can tell them apart, and nobody has to
  const possible = rows % entered.scan === 0 ? scans.filter((scan) => scan > 1 && rows % scan === 0) : [];
  return [
    ...of(
      'scan',
      possible.filter((scan) => scan !== entered.scan),
    ),
    ...of(
      'colours',
      colourOrders.filter((order) => order !== entered.colours),
    ),
    ...of(
      'dataFrom',
      dataSides.filter((side) => side !== entered.dataFrom),
    ),
    ...of('order', ordersOf(wall.parts)),
    ...sizesOf(wall, panel).map((real): Wrong => ({ of: 'size', real })),
    ...of(
      'cuts',
      inPlace(wall.parts).map(({ output }) => [{ output, panels: 0 }]),
    ),
    ...of(
      'turned',
      inPlace(wall.parts).map(({ output }) => [output]),
    ),
    ...of(
      'start',
      wallCorners.filter((corner) => corner !== 'top_left'),
    ),
    ...of('reaches', [false]),
  ];
}

/** Up to so many receivers any two may be interchanged; of more, any two beside each other. */
const fewParts = 6;

/** Orders in which receivers may hang: counted from the other end, or with two interchanged. */
function ordersOf(parts: readonly Part[]): number[][] {
  const outputs = inPlace(parts).map(({ output }) => output);
  const swaps = outputs.flatMap((one, a) =>
    outputs.slice(a + 1).flatMap((other, gap) => {
      if (outputs.length > fewParts && gap > 0) return [];
      return [outputs.map((each) => (each === one ? other : each === other ? one : each))];
    }),
  );
  // of three, two interchanged are all of them the other way round
  return outputs.length > 3 ? [outputs.toReversed(), ...swaps] : swaps;
}

/** Sizes that a sender may run with instead: those of the profile, or a panel more. */
function sizesOf(wall: Wall, panel: Panel): Partial<RealWall>[] {
  const { width, height } = wallSize(wall, panel);
  const { program, profile } = wall;
  const other = (own: number, given: number | null, more: number) =>
    given !== null && given !== own && given > 0 ? given : own + more;
  return [
    { width: other(program.width ?? width, profile.width, panel.width) },
    { height: other(program.height ?? height, profile.height, panel.height) },
  ];
}

/** As it is entered, with one thing wrong, and with two things wrong. */
export function realWalls(wall: Wall, panel: Panel): RealWall[] {
  const wrongs = wrongsOf(wall, panel);
  const pairs = wrongs.flatMap((one, at) =>
    wrongs.slice(at + 1).flatMap((other) => {
      const isOne = Object.keys(other.real).some((field) => field in one.real);
      // with many receivers that would be thousands, and whoever has found the one sees the other
      const perPart = [one, other].filter(({ of }) => of === 'order' || of === 'cuts' || of === 'turned');
      const isMany = perPart.length > 1 && wall.parts.length > fewParts;
      return isOne || isMany ? [] : [{ ...asEntered, ...one.real, ...other.real }];
    }),
  );
  return [asEntered, ...wrongs.map(({ real }) => ({ ...asEntered, ...real })), ...pairs];
}

/** How many things of a wall are otherwise than entered. */
export const wrongCount = ({ cuts, turned, ...others }: RealWall): number =>
  cuts.length + turned.length + Object.values(others).filter((value) => value !== null).length;
