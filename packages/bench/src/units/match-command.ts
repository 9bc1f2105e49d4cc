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
  const rest = command.args.filter((argument) => !isWithin(argument));
  // in a line of words everything travels as text: what is not in the address stands behind it
  const isLine = between === ' ';
  const behind = isLine ? rest.map(({ name }) => ({ name, text: `{${name}}` })) : [];
  return {
    command,
    rest: isLine ? [] : rest,
    within: isLine ? command.args : command.args.filter(isWithin),
    parts: [
      ...command.address.split(between).map((text) => ({ name: /^\{(\w+)\}$/.exec(text)?.[1], text })),
      ...behind,
    ],
    isFixed: behind.length === 0 && !command.address.includes('{'),
  };
}

/**
 * Finds the command whose address has the same parts; a part in braces takes any text. Paths have their parts between
 * strokes, lines of text and MIDI messages in words between blanks. `decode` makes a value of its text.
 */
export function matchCommand(
  commands: readonly show.Command[],
  address: string,
  { method, between = '/', decode = asItIs }: Reading = {},
): Match | undefined {
  let given: readonly string[] | undefined;
  for (const { command, parts, isFixed, rest, within } of entriesOf(commands, between)) {
    if (method !== undefined && (command.method ?? 'GET') !== method) continue;
    if (isFixed && command.address !== address) continue;
    const values = isFixed ? new Map<string, string>() : valuesOf(parts, (given ??= address.split(between)), decode);
    if (values) return { command, values, rest, within };
  }
  return undefined;
}

interface Reading {
  readonly method?: string;
  readonly between?: '/' | ' ';
  readonly decode?: (text: string) => string | undefined;
}
const asItIs = (text: string): string => text;

/** Percent-encoding taken off (RFC 3986 section 2.1); undefined where it is broken. */
export function decoded(text: string): string | undefined {
  try {
    return decodeURIComponent(text);
  } catch {
    return undefined;
  }
}

function valuesOf(
  parts: Entry['parts'],
  given: readonly string[],
  decode: (text: string) => string | undefined,
): Map<string, string> | undefined {
  if (parts.length !== given.length) return undefined;
  const values = new Map<string, string>();
  for (const [at, { name, text }] of parts.entries()) {
    const there = given[at] ?? '';
    const value = name === undefined || there === '' ? undefined : decode(there);
    if (name !== undefined && value !== undefined) values.set(name, value);
    else if (text !== there) return undefined;
  }
  return values;
}

/** Does a value that came over the wire fit an argument of the dictionary? `rounded` is how its limits travel. */
export function fitsArgument(
  { type, min, max }: show.Command['args'][number],
  value: unknown,
  rounded: (limit: number) => number = (limit) => limit,
): boolean {
  if (type === 's') return typeof value === 'string';
  if (type === 'T') return typeof value === 'boolean';
  if (typeof value !== 'number' || (type === 'i' && !Number.isInteger(value))) return false;
  const limit = (edge: number) => (type === 'f' ? rounded(edge) : edge);
  return value >= limit(min ?? -Infinity) && value <= limit(max ?? Infinity) && Math.abs(value) < Infinity;
}

const whole = /^[+-]?\d+$/;
const decimal = /^[+-]?\d+(\.\d+)?(e[+-]?\d+)?$/i;

/** The same for the values within an address, which travel as text. */
export const fitInAddress = ({ within, values }: Match): boolean =>
  within.every((argument) => {
    const text = values.get(argument.name) ?? '';
    if (argument.type === 's') return true;
    if (argument.type === 'T') return text === 'true' || text === 'false';
    return (argument.type === 'i' ? whole : decimal).test(text) && fitsArgument(argument, Number(text));
  });
