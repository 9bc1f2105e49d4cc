import type { show } from '@deep-patch/core';

export interface Match {
  readonly command: show.Command;
  /** Values of the address's own parts by argument name, as text. */
  readonly values: Map<string, string>;
  /** Arguments that travel behind the address. */
  readonly rest: show.Command['args'];
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
  for (const command of commands) {
    if (method !== undefined && (command.method ?? 'GET') !== method) continue;
    const isFixed = !command.address.includes('{');
    if (isFixed && command.address !== address) continue;
    const values = isFixed
      ? new Map<string, string>()
      : partsOf(command.address.split(between), (given ??= address.split(between)));
    if (values)
      return { command, values, rest: command.args.filter(({ name }) => !command.address.includes(`{${name}}`)) };
  }
  return undefined;
}

function partsOf(wanted: readonly string[], given: readonly string[]): Map<string, string> | undefined {
  if (wanted.length !== given.length) return undefined;
  const values = new Map<string, string>();
  for (const [at, part] of wanted.entries()) {
    const name = /^\{(\w+)\}$/.exec(part)?.[1];
    const there = given[at] ?? '';
    if (name && there !== '') values.set(name, there);
    else if (part !== there) return undefined;
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
export const fitInAddress = ({ command, values }: Match): boolean =>
  command.args.every(
    (argument) =>
      argument.type === 's' || argument.type === 'T' || fitsArgument(argument, Number(values.get(argument.name))),
  );
