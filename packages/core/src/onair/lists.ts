import {
  changeOf,
  contentWith,
  insertRow,
  removeRow,
  typeOf,
  updateRow,
  type Change,
  type Clip,
  type Content,
  type Device,
  type Show,
} from '../show/index.ts';
import { listsOf } from './inputs.ts';

/** A file of a watched folder, with what its own header says where it was read. */
export interface FolderFile {
  readonly name: string;
  readonly seconds: number | null;
  readonly form: Content<'clips'>['form'];
}

/** What a watched folder changes in a list (C67, need 9.7): the item that plays stays until it is over. */
export interface FolderNews {
  readonly added: readonly FolderFile[];
  readonly removed: readonly Clip[];
  /** Gone from the folder, and kept since it plays. */
  readonly held: readonly Clip[];
  /** The same name, and another length or form. */
  readonly changed: readonly { readonly clip: Clip; readonly file: FolderFile }[];
}

export function folderNews(
  items: readonly Clip[],
  files: readonly FolderFile[],
  playing: string | undefined,
): FolderNews {
  const there = new Map(files.map((file) => [file.name, file]));
  const known = new Set(items.map(({ name }) => name));
  const gone = items.filter(({ name }) => !there.has(name));
  return {
    // one of each name: a folder has no two
    added: [...there.values()].filter(({ name }) => !known.has(name)),
    removed: gone.filter(({ name }) => name !== playing),
    held: gone.filter(({ name }) => name === playing),
    changed: items.flatMap((clip) => {
      const file = there.get(clip.name);
      const isOther =
        file !== undefined &&
        ((file.seconds !== null && file.seconds !== clip.seconds) ||
          (file.form !== null && JSON.stringify(file.form) !== JSON.stringify(clip.form)));
      return isOther ? [{ clip, file }] : [];
    }),
  };
}

/** Takes the news of a folder over into a list, new items at its end in the order of their names. */
export function planFollowFolder(
  show: Show,
  { deviceId, list, ids }: { readonly deviceId: string; readonly list: string; readonly ids: readonly string[] },
  { added, removed, changed }: FolderNews,
): Change | undefined {
  const gone = new Set(removed.map(({ id }) => id));
  const left = (listsOf(show, deviceId).get(list) ?? []).filter(({ id }) => !gone.has(id));
  const changes = new Map(changed.map(({ clip, file }) => [clip.id, file]));
  const edits = [
    ...removed.map((clip) => removeRow('clips', clip)),
    ...left.flatMap((clip, place) => {
      const file = changes.get(clip.id);
      const patch = {
        place,
        ...(file ? { seconds: file.seconds ?? clip.seconds, form: file.form ?? clip.form } : {}),
      };
      return clip.place === place && !file ? [] : [updateRow('clips', clip, patch)];
    }),
    ...added
      .toSorted((a, b) => (a.name < b.name ? -1 : 1))
      .flatMap(({ name, seconds, form }, at) => {
        const id = ids[at];
        const row = { id: id ?? '', deviceId, list, place: left.length + at, name, seconds, form };
        return id === undefined ? [] : [insertRow('clips', contentWith('clips', row))];
      }),
  ];
  return edits.length > 0 ? changeOf(`Follow the folder of “${list}”`, edits) : undefined;
}

/** Moves an item within its list. */
export function planMoveClip(show: Show, clip: Clip, by: number): Change | undefined {
  const items = listsOf(show, clip.deviceId).get(clip.list) ?? [];
  const from = items.findIndex(({ id }) => id === clip.id);
  const to = Math.max(0, Math.min(items.length - 1, from + by));
  if (from < 0 || to === from) return undefined;
  const order = items.toSpliced(from, 1).toSpliced(to, 0, clip);
  return changeOf(
    `Move “${clip.name}”`,
    order.flatMap((item, place) => (item.place === place ? [] : [updateRow('clips', item, { place })])),
  );
}

/** What is wrong with an action of a clip (C66, need 9.8). Seconds. */
export interface ActionFault {
  readonly at: number;
  /** Which of the clip's actions: two may be meant for one moment. */
  readonly index: number;
  readonly fault: 'beyond_the_end' | 'runs_over' | 'too_close';
}

/** Two that follow sooner than that cannot be read. */
export const closest = 1;

export function actionFaults({ seconds, actions }: Pick<Clip, 'seconds' | 'actions'>): ActionFault[] {
  const sorted = actions.map((action, index) => ({ ...action, index })).toSorted((a, b) => a.at - b.at);
  return sorted.flatMap(({ at, lasts, index }, n): ActionFault[] => {
    const next = sorted[n + 1];
    const faults: ActionFault[] = [];
    if (seconds !== null && at >= seconds) faults.push({ at, index, fault: 'beyond_the_end' });
    else if (seconds !== null && lasts !== null && at + lasts > seconds) faults.push({ at, index, fault: 'runs_over' });
    if (next && (next.at - at < closest || (lasts !== null && next.at < at + lasts)))
      faults.push({ at, index, fault: 'too_close' });
    return faults;
  });
}

/** Why a player cannot play an item, in words; undefined where it can, or nobody knows (need 9.9). */
export function unplayable(show: Show, player: Device, { form }: Pick<Clip, 'form'>): string | undefined {
  const plays = typeOf(show, player)?.plays;
  if (!plays || !form) return undefined;
  const { codecs, most } = plays;
  if (codecs.length > 0 && !codecs.some((codec) => codec.toLowerCase() === form.codec.toLowerCase()))
    return `it knows no ${form.codec || form.container}.`;
  if (!most) return undefined;
  if ((form.width ?? 0) > most.width || (form.height ?? 0) > most.height)
    return `it has ${form.width} x ${form.height} pixels, and ${most.width} x ${most.height} is the most.`;
  if ((form.fps ?? 0) > most.fps + 0.01) return `it has ${form.fps} pictures a second, and ${most.fps} is the most.`;
  return undefined;
}
