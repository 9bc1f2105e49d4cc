import type { show } from '@deep-patch/core';
import { fitInAddress, matchCommand, type Match } from '../../units/match-command.ts';

/** A whole number stands for so many addresses at most. */
const mostNumbers = 10_000;
const hasPattern = /[*?[\]{}]/;
/** What no address and no pattern holds (OSC 1.0, "OSC Address Spaces"). */
const isForeign = /[# ]|[^!-~]/;

/**
 * The commands that a message is for: the one with its address, or, where that is a pattern, every one that fits (OSC
 * 1.0, "OSC Message Dispatching and Pattern Matching"). A whole number within an address stands for all numbers of its
 * range; a text within an address stands for none that a pattern could tell.
 */
export function commandsFor(commands: readonly show.Command[], address: string): readonly Match[] {
  const match = matchCommand(commands, address);
  // what stands in the dictionary as it is, is no pattern
  if (match && match.values.size === 0) return [match];
  if (isForeign.test(address)) return [];
  if (!hasPattern.test(address)) return match && fitInAddress(match) ? [match] : [];
  const parts = address.split('/').map(matcherOf);
  if (parts.includes(undefined)) return [];
  return commands.flatMap((command) => fitting(command, parts as Matcher[]));
}

type Matcher = (text: string) => boolean;

/** Every way in which a command's address fits, part by part. */
function fitting(command: show.Command, matchers: readonly Matcher[]): Match[] {
  const parts = command.address.split('/');
  if (parts.length !== matchers.length) return [];
  let values = [new Map<string, string>()];
  for (const [at, part] of parts.entries()) {
    const matches = matchers[at] ?? (() => false);
    const name = /^\{(\w+)\}$/.exec(part)?.[1];
    if (name === undefined) {
      if (!matches(part)) return [];
      continue;
    }
    const numbers = numbersOf(command.args.find((argument) => argument.name === name)).filter(matches);
    values = values.flatMap((known) => numbers.map((number) => new Map([...known, [name, number]])));
    if (values.length > mostNumbers) return [];
  }
  const within = command.args.filter(({ name }) => command.address.includes(`{${name}}`));
  const rest = command.args.filter((argument) => !within.includes(argument));
  return values.map((own) => ({ command, values: own, rest, within }));
}

function numbersOf(argument: show.Command['args'][number] | undefined): string[] {
  if (argument?.type !== 'i' || argument.min === undefined || argument.max === undefined) return [];
  const count = Math.min(mostNumbers, argument.max - argument.min + 1);
  return Array.from({ length: Math.max(0, count) }, (_, at) => String((argument.min ?? 0) + at));
}

/** One part of a pattern; undefined for one that is broken. */
function matcherOf(part: string): Matcher | undefined {
  let source = '';
  for (let at = 0; at < part.length; at += 1) {
    const letter = part[at] ?? '';
    if (letter === '*') source += '.*';
    else if (letter === '?') source += '.';
    else if (letter === '[' || letter === '{') {
      const close = part.indexOf(letter === '[' ? ']' : '}', at);
      if (close < 0) return undefined;
      const inside = part.slice(at + 1, close);
      source += letter === '[' ? classOf(inside) : `(?:${inside.split(',').map(escaped).join('|')})`;
      at = close;
    } else if (letter === ']' || letter === '}') return undefined;
    else source += escaped(letter);
  }
  const pattern = new RegExp(`^${source}$`);
  return (text) => pattern.test(text);
}

/** Letters and ranges between brackets; an exclamation mark before them turns them round, a stroke at an end is itself. */
function classOf(inside: string): string {
  const isTurned = inside.startsWith('!');
  const letters = isTurned ? inside.slice(1) : inside;
  const safe = letters.replace(/[\\\]^]/g, '\\$&').replace(/(^-)|(-$)/g, '\\-');
  if (letters === '') return isTurned ? '.' : '(?!)';
  return isOrdered(letters) ? `[${isTurned ? '^' : ''}${safe}]` : '(?!)';
}

/** A range from a later letter to an earlier one holds nothing. */
const isOrdered = (letters: string): boolean =>
  [...letters.matchAll(/(.)-(.)/g)].every(([, from = '', to = '']) => from <= to);

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
