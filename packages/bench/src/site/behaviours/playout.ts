import type { Standin } from '../../units/standin.ts';

/**
 * A list that follows a watched folder: what is taken out of the folder leaves the list, except what is on air, which
 * stays until it is over.
 */
export function putFolder({ memory }: Standin, clips: readonly string[]): void {
  const onAir = memory.folder.find((clip) => clip === memory.face.get('clip')?.replace(/^playing /, ''));
  memory.folder = onAir === undefined || clips.includes(onAir) ? [...clips] : [onAir, ...clips];
}
