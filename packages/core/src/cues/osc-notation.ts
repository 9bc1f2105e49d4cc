/** An OSC argument as controllers show it: 32-bit whole number, 32-bit float, text, true and false (OSC 1.0). */
export type OscValue =
  | { readonly type: 'i' | 'f'; readonly value: number }
  | { readonly type: 's'; readonly value: string }
  | { readonly type: 'T' | 'F' };

export interface OscText {
  readonly address: string;
  readonly args: readonly OscValue[];
}

/**
 * Ways in which controllers have a message typed. `blanks`: parts divided by blanks, a text holds none; `quoted`: texts in
 * quotation marks, numbers bare; `typed`: the type tags of OSC 1.0 behind a comma, then the values.
 */
export const notations = ['blanks', 'quoted', 'typed'] as const;
export type Notation = (typeof notations)[number];

/** A fault in what was typed, at a place counted in letters from zero. */
export interface NotationFault {
  readonly at: number;
  readonly length: number;
  readonly code:
    | 'no_stroke'
    | 'blank_in_address'
    | 'letter_in_address'
    | 'number_as_text'
    | 'mark_open'
    | 'tag_unknown'
    | 'too_few'
    | 'too_many'
    | 'not_a_number';
}

export type NotationRead =
  { readonly ok: true; readonly message: OscText } | { readonly ok: false; readonly faults: readonly NotationFault[] };

interface Part {
  readonly text: string;
  readonly at: number;
  readonly length: number;
  readonly quoted: boolean;
}

const isNumber = (text: string): boolean => /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(text);
const isWhole = (text: string): boolean => /^[+-]?\d+$/.test(text) && Math.abs(Number(text)) < 2 ** 31;
const numberOf = (text: string): OscValue => ({ type: isWhole(text) ? 'i' : 'f', value: Number(text) });

/** The message in one notation; undefined where that cannot say it, as a text with a blank between blanks. */
export function writtenOsc({ address, args }: OscText, notation: Notation): string | undefined {
  const parts = args.map((arg) => writtenValue(arg, notation));
  if (parts.some((part) => part === undefined)) return undefined;
  const tags = notation === 'typed' ? [`,${args.map(({ type }) => type).join('')}`] : [];
  return [address, ...tags, ...parts.filter((part) => part !== '')].join(' ');
}

function writtenValue(arg: OscValue, notation: Notation): string | undefined {
  if (arg.type === 'T' || arg.type === 'F') return notation === 'typed' ? '' : arg.type === 'T' ? 'true' : 'false';
  if (arg.type === 'i') return String(arg.value);
  // a float that is whole keeps its point, or it would be read as a whole number
  if (arg.type === 'f')
    return Number.isInteger(arg.value) && notation !== 'typed' ? arg.value.toFixed(1) : String(arg.value);
  const { value } = arg as Extract<OscValue, { type: 's' }>;
  if (notation === 'blanks') return value !== '' && !/[\s"]/.test(value) && !isOther(value) ? value : undefined;
  return `"${value.replace(/["\\]/g, '\\$&')}"`;
}

/** Bare it would be read as something else than a text. */
const isOther = (text: string): boolean => isNumber(text) || text === 'true' || text === 'false' || /^[,/]/.test(text);

/** Reads what was typed in one notation, with all its faults by place. */
export function readOsc(text: string, notation: Notation): NotationRead {
  const faults: NotationFault[] = [];
  const parts = partsOf(text, notation !== 'blanks', faults);
  const [first, ...rest] = parts;
  const address = first?.text ?? '';
  if (!address.startsWith('/')) faults.push({ at: first?.at ?? 0, length: 1, code: 'no_stroke' });
  const bad = address.search(/[^!-~]|[#*,?[\]{}]/);
  if (bad >= 0) faults.push({ at: (first?.at ?? 0) + bad, length: 1, code: 'letter_in_address' });
  // a part that begins with a stroke right behind the address is a piece of it that a blank cut off
  const [second] = rest;
  if (second && !second.quoted && second.text.startsWith('/'))
    faults.push({ at: second.at - 1, length: 1, code: 'blank_in_address' });
  const args = notation === 'typed' ? typedArgs(rest, text.length, faults) : rest.map((part) => valueOf(part, faults));
  return faults.length > 0
    ? { ok: false, faults: faults.sort((a, b) => a.at - b.at) }
    : { ok: true, message: { address, args } };
}

function valueOf({ text, quoted, at, length }: Part, faults: NotationFault[]): OscValue {
  if (quoted && isNumber(text)) faults.push({ at, length, code: 'number_as_text' });
  if (quoted) return { type: 's', value: text };
  if (text === 'true' || text === 'false') return { type: text === 'true' ? 'T' : 'F' };
  return isNumber(text) ? numberOf(text) : { type: 's', value: text };
}

function typedArgs([tags, ...parts]: readonly Part[], end: number, faults: NotationFault[]): OscValue[] {
  if (!tags) return [];
  if (tags.quoted || !tags.text.startsWith(',')) {
    faults.push({ at: tags.at, length: tags.length, code: 'tag_unknown' });
    return [];
  }
  const left = [...parts];
  const args = Array.from(tags.text.slice(1)).flatMap((tag, n): OscValue[] => {
    if (tag === 'T' || tag === 'F') return [{ type: tag }];
    if (tag !== 'i' && tag !== 'f' && tag !== 's') {
      faults.push({ at: tags.at + 1 + n, length: 1, code: 'tag_unknown' });
      return [];
    }
    const part = left.shift();
    if (!part) {
      faults.push({ at: end, length: 0, code: 'too_few' });
      return [];
    }
    if (tag === 's') return [{ type: 's', value: part.text }];
    const fits = !part.quoted && (tag === 'i' ? isWhole(part.text) : isNumber(part.text));
    if (!fits) faults.push({ at: part.at, length: part.length, code: part.quoted ? 'number_as_text' : 'not_a_number' });
    return [{ type: tag, value: Number(part.text) }];
  });
  for (const { at, length } of left) faults.push({ at, length, code: 'too_many' });
  return args;
}

/** What stands between blanks; inside quotation marks blanks belong to the text, and a reverse stroke keeps a mark. */
function partsOf(text: string, withMarks: boolean, faults: NotationFault[]): Part[] {
  const parts: Part[] = [];
  let at = 0;
  while (at < text.length) {
    if (/\s/.test(text[at] ?? '')) at += 1;
    else if (withMarks && text[at] === '"') {
      const read = quoted(text, at);
      if (!read.closed) faults.push({ at, length: text.length - at, code: 'mark_open' });
      parts.push({ text: read.text, at, length: read.end - at, quoted: true });
      at = read.end;
    } else {
      const length = text.slice(at).search(/\s|$/);
      parts.push({ text: text.slice(at, at + length), at, length, quoted: false });
      at += length;
    }
  }
  return parts;
}

function quoted(text: string, start: number): { text: string; end: number; closed: boolean } {
  let inside = '';
  for (let at = start + 1; at < text.length; at += 1) {
    const letter = text[at] ?? '';
    if (letter === '"') return { text: inside, end: at + 1, closed: true };
    if (letter === '\\' && at + 1 < text.length) {
      at += 1;
      inside += text[at] ?? '';
    } else inside += letter;
  }
  return { text: inside, end: text.length, closed: false };
}

const words: Readonly<Record<NotationFault['code'], string>> = {
  no_stroke: 'An address begins with a stroke: /',
  blank_in_address: 'A blank inside the address cuts it in two: take it out',
  letter_in_address: 'This letter means something else in an address: leave it out',
  number_as_text: 'A number in quotation marks is sent as text, and most targets ignore it',
  mark_open: 'This quotation mark is not closed',
  tag_unknown: 'Behind the address stands a comma with a letter a value: i, f, s, T or F',
  too_few: 'A value is missing here',
  too_many: 'No type stands for this value',
  not_a_number: 'The type asks for a number here',
};
export const notationWords = ({ code }: Pick<NotationFault, 'code'>): string => words[code];
