import type { Show } from '../show/index.ts';

/** An id that no link has, made of what it joins. */
export function freeLinkId(show: Show, text: string): string {
  const id = text.slice(0, 36);
  let n = 2;
  let own = id;
  while (show.links[own]) {
    own = `${id}-${n}`;
    n += 1;
  }
  return own;
}
