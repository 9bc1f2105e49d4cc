import { show as core, type wall as walls } from '@deep-patch/core';

/** What a profile of panels is called in its file, and which edition of that it is. */
const format = 'deep-patch-panel-profile';
const edition = 1;
const mostBytes = 100_000;

type Read = { readonly set: walls.WallSet } | { readonly faults: readonly string[] };

/** A profile as text: JSON with its format, its edition and what it has; documented in docs/panel-profile.md. */
export const writeProfile = (name: string, set: walls.WallSet): string =>
  `${JSON.stringify({ format, edition, name, ...set }, null, 2)}\n`;

/** Reads a profile whole, or says everything that is wrong with it. */
export function readProfile(text: string): Read {
  if (text.length > mostBytes) return { faults: ['It is larger than any profile.'] };
  let given: unknown;
  try {
    given = JSON.parse(text);
  } catch {
    return { faults: ['It is no JSON: take a file that was saved as a profile.'] };
  }
  if (typeof given !== 'object' || given === null) return { faults: ['It holds no profile.'] };
  const { format: own, edition: from, name: _, ...set } = given as Record<string, unknown>;
  if (own !== format) return { faults: [`It does not begin as a profile: “format” has to be “${format}”.`] };
  if (from !== edition) return { faults: [`It is of edition ${String(from)}, and ${edition} can be read.`] };
  const read = core.schemas.walls.shape.profile.safeParse(set);
  if (read.success) return { set: read.data };
  return { faults: read.error.issues.map(({ path, message }) => `${path.join('.') || 'the profile'}: ${message}.`) };
}
