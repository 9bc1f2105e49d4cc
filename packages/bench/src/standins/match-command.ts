import type { show } from '@deep-patch/core';

export interface Match {
  readonly command: show.Command;
  /** Values of the address's own parts by argument name, as text. */
  readonly values: Map<string, string>;
  /** Arguments that travel behind the address. */
  readonly rest: show.Command['args'];
  /** Arguments within the address. */
  readonly within: show.Command['args'];
}

/** A command with its address taken apart: a part is a text or the name of an argument. */
interface Entry extends Omit<Match, 'values'> {
  readonly parts: readonly { readonly name: string | undefined; readonly text: string }[];
  readonly isFixed: boolean;
}

/** Dictionaries are looked into for every message, and are taken apart once. */
const known = new WeakMap<readonly show.Command[], Map<string, readonly Entry[]>>();

function entriesOf(commands: readonly show.Command[], between: string): readonly Entry[] {
  const byBlank = known.get(commands) ?? new Map<string, readonly Entry[]>();
  known.set(commands, byBlank);
  const there = byBlank.get(between);
  if (there) return there;
  const entries = commands.map((command) => entryOf(command, between));
  byBlank.set(between, entries);
  return entries;
}

function entryOf(command: show.Command, between: string): Entry {
  const isWithin = ({ name }: { name: string }) => command.address.includes(`{${name}}`);
  return {
    command,
    rest: command.args.filter((argument) => !isWithin(argument)),
    within: command.args.filter(isWithin),
    parts: command.address.split(between).map((text) => ({ name: /^\{(\w+)\}$/.exec(text)?.[1], text })),
    isFixed: !command.address.includes('{'),
  };
}

/**
 * Finds the command whose address has the same parts; a part in braces takes any text. Paths have their parts between
 * strokes, lines of text and MIDI messages in words between blanks.
 */
export function matchCommand(
  commands: readonly show.Command[],
  address: string,
  method?: string,
  between = '/',
): Match | undefined {
  let given: readonly string[] | undefined;
  for (const { command, parts, isFixed, rest, within } of entriesOf(commands, between)) {
    if (method !== undefined && (command.method ?? 'GET') !== method) continue;
    if (isFixed && command.address !== address) continue;
    const values = isFixed ? new Map<string, string>() : valuesOf(parts, (given ??= address.split(between)));
    if (values) return { command, values, rest, within };
  }
  return undefined;
}

function valuesOf(parts: Entry['parts'], given: readonly string[]): Map<string, string> | undefined {
  if (parts.length !== given.length) return undefined;
  const values = new Map<string, string>();
  for (const [at, { name, text }] of parts.entries()) {
    const there = given[at] ?? '';
    if (name !== undefined && there !== '') values.set(name, there);
    else if (text !== there) return undefined;
  }
  return values;
}

/** Does a value that came over the wire fit an argument of the dictionary? */
export function fitsArgument({ type, min, max }: show.Command['args'][number], value: unknown): boolean {
  if (type === 's') return typeof value === 'string';
  if (type === 'T') return typeof value === 'boolean';
  if (typeof value !== 'number' || (type === 'i' && !Number.isInteger(value))) return false;
  return value >= (min ?? -Infinity) && value <= (max ?? Infinity);
}

/** The same for the values within an address, which travel as text. */
export const fitInAddress = ({ within, values }: Match): boolean =>
  within.every(
    (argument) =>
      argument.type === 's' || argument.type === 'T' || fitsArgument(argument, Number(values.get(argument.name))),
  );
