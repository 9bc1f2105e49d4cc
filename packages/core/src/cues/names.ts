import { distance } from 'fastest-levenshtein';
import { typeOf, type Command, type Device, type Show } from '../show/index.ts';

/** The names that a unit has in one of its lists now: read off it where it runs, else those that the show knows. */
export type NamesOf = (deviceId: string, list: string) => readonly string[] | undefined;

/** What the show knows of the lists: as they were last taken over from the unit, else as its type comes. */
export const knownNames =
  (show: Show): NamesOf =>
  (deviceId, list) => {
    const device = show.devices[deviceId];
    const own = device?.names.find((each) => each.list === list);
    return own?.names ?? typeOf(show, device)?.lists.find(({ key }) => key === list)?.names;
  };

/** A name that was given, beside the names that there are (need 8.9): only the very same one reaches anybody. */
export type NameCheck =
  { readonly state: 'exact' | 'doubled' } | { readonly state: 'unknown'; readonly nearest: string | undefined };

/** So many letters may differ in what was probably meant. */
const slip = 2;

export function checkName(names: readonly string[], given: string): NameCheck {
  const same = names.filter((name) => name === given).length;
  if (same > 0) return { state: same > 1 ? 'doubled' : 'exact' };
  const [nearest] = names
    .map((name) => ({ name, off: distance(plainly(name), plainly(given)) }))
    .sort((a, b) => a.off - b.off);
  return { state: 'unknown', nearest: nearest && nearest.off <= slip ? nearest.name : undefined };
}

/** Capitals, blanks and accents are slips too. */
const plainly = (text: string): string =>
  text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase().replace(/\s+/g, ' ').trim();

/** The names in a message that somebody has to have, with what is found of each. */
export function namesIn(
  target: Device | undefined,
  command: Command | undefined,
  args: readonly unknown[],
  namesOf: NamesOf,
): { readonly at: number; readonly given: string; readonly check: NameCheck }[] {
  if (!target || !command) return [];
  return command.args.flatMap(({ list }, at) => {
    const names = list === undefined ? undefined : namesOf(target.id, list);
    const given = args[at];
    return names && typeof given === 'string' ? [{ at, given, check: checkName(names, given) }] : [];
  });
}
