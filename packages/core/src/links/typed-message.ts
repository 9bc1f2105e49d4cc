import type { Command, ServiceType } from '../show/index.ts';

/** One value as somebody typed it; in quotation marks it is a text whatever it looks like. */
export interface TypedValue {
  readonly text: string;
  readonly isQuoted: boolean;
}
export type Value = number | string | boolean;

const quotes: Readonly<Record<string, string>> = { '"': '"', '“': '”', '„': '“', '«': '»' };

/**
 * Divides what was typed at commas, and at blanks where `byBlanks` says so, but not inside quotation marks of any of the
 * usual kinds. A doubled straight mark inside straight ones stands for one.
 */
export function typedValues(text: string, { byBlanks = false } = {}): TypedValue[] {
  const values: TypedValue[] = [];
  let [part, isQuoted, isOpen] = ['', false, false];
  const end = (): void => {
    if (isQuoted || part.trim() !== '' || (isOpen && !byBlanks))
      values.push({ text: isQuoted ? part : part.trim(), isQuoted });
    [part, isQuoted, isOpen] = ['', false, false];
  };
  for (let at = 0; at < text.length; at += 1) {
    const letter = text[at] ?? '';
    const closing = part.trim() === '' && !isQuoted ? quotes[letter] : undefined;
    if (closing !== undefined) {
      const read = quotedFrom(text, at + 1, closing);
      [part, isQuoted, at] = [read.text, true, read.end];
    } else if (letter === ',') {
      isOpen = true;
      end();
      isOpen = true;
    } else if (byBlanks && /\s/.test(letter)) end();
    else if (!isQuoted) part += letter;
  }
  if (part.trim() !== '' || isQuoted || isOpen) end();
  return values;
}

function quotedFrom(text: string, from: number, closing: string): { text: string; end: number } {
  let part = '';
  for (let at = from; at < text.length; at += 1) {
    const letter = text[at] ?? '';
    if (letter !== closing) part += letter;
    else if (closing === '"' && text[at + 1] === '"') {
      part += '"';
      at += 1;
    } else return { text: part, end: at };
  }
  return { text: part, end: text.length };
}

/** A value as an argument of that type: what does not fit stays text, for the check to show. */
export function valueOf({ text, isQuoted }: TypedValue, type: Command['args'][number]['type'] | undefined): Value {
  if (isQuoted || type === 's') return text;
  if (/^(true|false)$/i.test(text)) return text.toLowerCase() === 'true';
  return text !== '' && Number.isFinite(Number(text)) ? Number(text) : text;
}

/** Values as they are typed again: a text that looks like anything else, or that would be divided, in quotation marks. */
export const writtenValues = (values: readonly Value[]): string =>
  values
    .map((value) =>
      typeof value === 'string' &&
      (value === '' ||
        /[,"“„«\s]/.test(value) ||
        typeof valueOf({ text: value, isQuoted: false }, undefined) !== 'string')
        ? `"${value.replaceAll('"', '""')}"`
        : String(value),
    )
    .join(', ');

/** Arguments of a command by what was typed. */
export const argumentsFrom = (command: Pick<Command, 'args'>, text: string): Value[] =>
  typedValues(text).map((value, at) => valueOf(value, command.args[at]?.type));

export interface TypedCommand {
  readonly command: Command;
  readonly args: readonly Value[];
}

/**
 * A whole message as somebody types it, found in a command list: its address with the values in their places, the rest
 * behind it. Undefined where no command of the service reads so.
 */
export function commandFrom(
  { commands, protocol }: Pick<ServiceType, 'commands' | 'protocol'>,
  typed: string,
): TypedCommand | undefined {
  const text = typed.trim();
  for (const command of commands) {
    const args = protocol === 'osc' ? oscArguments(command, text) : lineArguments(command, text);
    if (args) return { command, args };
  }
  return undefined;
}

/** An OSC message as typed: its address, and the values behind it. */
export function oscParts(text: string): { readonly address: string; readonly behind: readonly TypedValue[] } {
  const [, address = '', behind = ''] = /^\s*([^\s,]*)\s*,?\s*(.*)$/s.exec(text) ?? [];
  return { address, behind: typedValues(behind, { byBlanks: true }) };
}

function oscArguments(command: Command, text: string): Value[] | undefined {
  const { address, behind } = oscParts(text);
  const inside = insideOf(command, address);
  return inside && inOrder(command, inside, behind);
}

/** Of a path or a line the values stand in their braces, and what is behind is divided by blanks. */
function lineArguments(command: Command, text: string): Value[] | undefined {
  const bare = text.replace(/^(GET|PUT|POST)\s+/, '');
  const whole = insideOf(command, bare);
  if (whole) return inOrder(command, whole, []);
  const words = command.address.split(/\s+/).length;
  const parts = bare.split(/\s+/);
  const inside = insideOf(command, parts.slice(0, words).join(' '));
  return inside && inOrder(command, inside, typedValues(parts.slice(words).join(' '), { byBlanks: true }));
}

/** What stands in the braces of an address, by the names in them. */
function insideOf({ address }: Command, text: string): Map<string, string> | undefined {
  const names = Array.from(address.matchAll(/\{(\w+)\}/g), ([, name = '']) => name);
  const pattern = address
    .split(/\{\w+\}/)
    .map((piece) => piece.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'))
    .join('(.+?)');
  const found = new RegExp(`^${pattern}$`).exec(text);
  return found ? new Map(names.map((name, at) => [name, found[at + 1] ?? ''])) : undefined;
}

function inOrder(command: Command, inside: ReadonlyMap<string, string>, behind: readonly TypedValue[]): Value[] {
  const left = [...behind];
  const own = command.args.flatMap(({ name, type }): Value[] => {
    const text = inside.get(name);
    const value = text === undefined ? left.shift() : { text, isQuoted: false };
    return value ? [valueOf(value, type)] : [];
  });
  // more than it takes is told by the check
  return [...own, ...left.map((value) => valueOf(value, undefined))];
}

/** Does the message do anything at all: some commands act on a true value only. */
export const doesTrigger = ({ trigger, args }: Command, values: readonly Value[]): boolean => {
  if (trigger === undefined || trigger === 'any') return true;
  const at = args.findIndex(({ type }) => type === 'T' || type === 'i' || type === 'f');
  const value = values[at];
  return at < 0 || (value !== false && value !== 0);
};
