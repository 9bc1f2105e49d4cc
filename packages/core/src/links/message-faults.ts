import type { Command, ServiceType } from '../show/index.ts';

type Argument = Command['args'][number];
type Value = number | string | boolean;

/** Why a target would not understand a message: the first argument that does not fit, and how. */
export type MessageFault =
  | { readonly code: 'argument_count'; readonly wanted: number; readonly given: number }
  | { readonly code: 'argument_type'; readonly name: string; readonly type: Argument['type'] }
  | { readonly code: 'argument_range'; readonly name: string; readonly value: string; readonly range: string }
  | { readonly code: 'argument_spelling'; readonly name: string; readonly value: string };

/**
 * Does every value fit its argument, in the form in which it travels? Within an address, a path, a line or a MIDI message
 * a value is text; OSC carries whole numbers in 32 bits and others as 32-bit floats (OSC 1.0).
 */
export function messageFault(
  { protocol }: Pick<ServiceType, 'protocol'>,
  command: Command,
  args: readonly Value[],
): MessageFault | undefined {
  if (args.length !== command.args.length)
    return { code: 'argument_count', wanted: command.args.length, given: args.length };
  for (const [at, argument] of command.args.entries()) {
    const value = args[at] as Value;
    const asText = protocol === 'text' || protocol === 'midi' || command.address.includes(`{${argument.name}}`);
    const fault = asText ? faultInText(protocol, argument, value) : faultOfValue(protocol, argument, value);
    if (fault) return fault;
  }
  return undefined;
}

function faultOfValue(protocol: ServiceType['protocol'], argument: Argument, value: Value): MessageFault | undefined {
  const { name, type } = argument;
  const fits =
    type === 's' ? typeof value === 'string' : type === 'T' ? typeof value === 'boolean' : typeof value === 'number';
  if (!fits || (type === 'i' && !Number.isInteger(value))) return { code: 'argument_type', name, type };
  return typeof value === 'number' ? outOfRange(protocol, argument, value) : undefined;
}

/** A pattern is tried on so many numbers at most. */
const mostNumbers = 10_000;
const whole = /^[+-]?\d+$/;
const decimal = /^[+-]?\d+(\.\d+)?(e[+-]?\d+)?$/i;

function faultInText(protocol: ServiceType['protocol'], argument: Argument, value: Value): MessageFault | undefined {
  const { name, type } = argument;
  const text = String(value);
  if (protocol === 'osc' && standsForSome(argument, text)) return undefined;
  if (text === '' || !travels(protocol, text)) return { code: 'argument_spelling', name, value: text };
  if (type === 's') return undefined;
  if (type === 'T') return text === 'true' || text === 'false' ? undefined : { code: 'argument_type', name, type };
  if (!(type === 'i' ? whole : decimal).test(text)) return { code: 'argument_type', name, type };
  return outOfRange(undefined, argument, Number(text));
}

/** A whole number of a known range may be written as a pattern: the command is done for every number that fits (OSC 1.0). */
function standsForSome({ type, min, max }: Argument, text: string): boolean {
  if (type !== 'i' || min === undefined || max === undefined || !/^[\d*?]*[*?][\d*?]*$/.test(text)) return false;
  const fits = new RegExp(`^${text.replaceAll('*', '\\d*').replaceAll('?', '\\d')}$`);
  const last = Math.min(max, min + mostNumbers - 1);
  for (let number = min; number <= last; number += 1) if (fits.test(String(number))) return true;
  return false;
}

/** Parts of an OSC address are printable ASCII without the characters that patterns are made of (OSC 1.0). */
function travels(protocol: ServiceType['protocol'], text: string): boolean {
  if (protocol === 'osc') return /^[!-~]+$/.test(text) && !/[#*,/?[\]{}]/.test(text);
  return true;
}

const [lowestInt, highestInt, highestFloat] = [-(2 ** 31), 2 ** 31 - 1, 3.402_823_466_385_288_6e38];

function outOfRange(
  protocol: ServiceType['protocol'] | undefined,
  { name, type, min, max, unit }: Argument,
  value: number,
): MessageFault | undefined {
  const isFloat = protocol === 'osc' && type === 'f';
  const limit = protocol !== 'osc' ? Infinity : type === 'f' ? highestFloat : highestInt;
  const lowest = protocol !== 'osc' ? -Infinity : type === 'f' ? -highestFloat : lowestInt;
  const [from, to] = [Math.max(lowest, min ?? -Infinity), Math.min(limit, max ?? Infinity)];
  // a limit such as 0.1 is rounded to a 32-bit float as the value is
  const sent = isFloat ? Math.fround(value) : value;
  if (sent >= (isFloat ? Math.fround(from) : from) && sent <= (isFloat ? Math.fround(to) : to)) return undefined;
  return {
    code: 'argument_range',
    name,
    value: String(value),
    range: `${min ?? '−∞'} to ${max ?? '∞'}${unit ? ` ${unit}` : ''}`,
  };
}
