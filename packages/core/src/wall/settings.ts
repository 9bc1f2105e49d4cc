import type { Wall } from '../show/index.ts';
import { wallSize, type Panel, type WallSize } from './size.ts';

export type WallSet = Wall['program'];
export const comparedFields = ['width', 'height', 'scan', 'colours', 'dataFrom', 'chip'] as const;
export type ComparedField = (typeof comparedFields)[number];

/** One field in three places, against what is printed on the panel or follows from the wall (needs 10.6 and 10.7, C75 and C76). */
export interface Compared {
  readonly field: ComparedField;
  readonly wall: string;
  /** What each of them has; undefined where nobody has looked. */
  readonly program: string | undefined;
  readonly profile: string | undefined;
  readonly player: string | undefined;
  readonly differs: readonly ('program' | 'profile' | 'player')[];
}

const textOf = (value: string | number | null): string | undefined =>
  value === null || value === '' ? undefined : String(value);

/** What is true: the size of the wall, and what is printed on its panels. */
export function truthOf(wall: Wall, panel: Panel): WallSet {
  const { width, height } = wallSize(wall, panel);
  return { width, height, scan: panel.scan, colours: panel.colours, dataFrom: panel.dataFrom, chip: panel.chip };
}

export function compared(wall: Wall, panel: Panel): Compared[] {
  const truth = truthOf(wall, panel);
  return comparedFields.flatMap((field): Compared[] => {
    const own = textOf(truth[field]);
    if (own === undefined) return [];
    const [program, profile, player] = [wall.program, wall.profile, wall.player].map((set) => textOf(set[field]));
    const differs = (['program', 'profile', 'player'] as const).filter((who) => {
      const there = { program, profile, player }[who];
      return there !== undefined && there !== own;
    });
    return [{ field, wall: own, program, profile, player, differs }];
  });
}

/** The set-up program after a profile was loaded over it, and what is to be put back: the wall is none of the profile's business (C75). */
export function loadProfile(
  { program, profile }: Pick<Wall, 'program' | 'profile'>,
  truth: WallSet,
): { readonly loaded: WallSet; readonly putBack: Partial<WallSet> } {
  const loaded = { ...program } as Record<ComparedField, WallSet[ComparedField]>;
  for (const field of comparedFields) if (textOf(profile[field]) !== undefined) loaded[field] = profile[field];
  const putBack = Object.fromEntries(
    (['width', 'height'] as const).flatMap((field) => (loaded[field] === truth[field] ? [] : [[field, truth[field]]])),
  );
  return { loaded: loaded as WallSet, putBack };
}

/** The part of a desktop that a sender takes, against the wall (need 10.19, C81). */
export type CaptureFit = 'equal' | 'scaled' | 'cropped';
export function captureFit(
  { width, height }: { readonly width: number; readonly height: number },
  wall: Pick<WallSize, 'width' | 'height'>,
): CaptureFit {
  if (width === wall.width && height === wall.height) return 'equal';
  // with the same shape the sender scales; with another one something is cut off, or dark
  return width * wall.height === height * wall.width ? 'scaled' : 'cropped';
}

export const channelsOfUniverse = 512;
const coloursPerPixel = 3;

export interface ChannelPlace {
  readonly universe: number;
  readonly channel: number;
}

/** The last data channel of so many pixels from a first one on, one colour after the other without a gap (need 10.15, C79). */
export function lastChannel({ universe, channel }: ChannelPlace, pixels: number): ChannelPlace {
  const last = (universe - 1) * channelsOfUniverse + (channel - 1) + pixels * coloursPerPixel - 1;
  return { universe: Math.floor(last / channelsOfUniverse) + 1, channel: (last % channelsOfUniverse) + 1 };
}

/** Do two stretches of channels share any? */
export function channelsMeet(
  a: { readonly from: ChannelPlace; readonly pixels: number },
  b: { readonly from: ChannelPlace; readonly pixels: number },
): boolean {
  const numberOf = ({ universe, channel }: ChannelPlace) => universe * channelsOfUniverse + channel;
  const endsOf = ({ from, pixels }: typeof a) => [numberOf(from), numberOf(lastChannel(from, pixels))] as const;
  const [[ownFirst, ownLast], [first, last]] = [endsOf(a), endsOf(b)];
  return ownFirst <= last && first <= ownLast;
}
