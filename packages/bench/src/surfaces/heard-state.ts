import type { OscPacket } from '@deep-patch/codecs';
import type { show } from '@deep-patch/core';
import { filled } from '../units/doing.ts';
import { matchCommand } from '../units/match-command.ts';

/** What a message of a unit tells of its own parameters, as the replies in its dictionary mean it. */
export function heardState(
  commands: readonly show.Command[],
  packet: OscPacket,
): readonly { readonly parameter: string; readonly value: string }[] {
  if (!('address' in packet)) return packet.elements.flatMap((element) => heardState(commands, element));
  const given = packet.args.map((arg) => {
    const value = 'value' in arg ? arg.value : arg.type === 'T';
    return typeof value === 'object' ? '' : String(value);
  });
  return commands.flatMap(({ reply, sets }) => {
    if (!reply || reply.args.length !== given.length) return [];
    const match = matchCommand([{ ...noCommand, address: reply.address }], packet.address);
    const values = match && argumentsIn(reply.args, given, packet.args);
    if (!match || !values) return [];
    const all = new Map([...match.values, ...values]);
    return sets.map(({ parameter, value }) => ({ parameter: filled(parameter, all), value: filled(value, all) }));
  });
}

const noCommand: show.Command = { key: 'reply', label: 'reply', address: '/', args: [], sets: [], reply: null };

/** The values of the names in a reply's arguments; undefined where one that stands as it is says something else. */
function argumentsIn(
  told: readonly string[],
  given: readonly string[],
  args: readonly { readonly type: string }[],
): Map<string, string> | undefined {
  const values = new Map<string, string>();
  for (const [at, text] of told.entries()) {
    const name = /^\{(\w+)\}$/.exec(text)?.[1];
    const isTag = text === 'T' || text === 'F';
    if (name !== undefined) values.set(name, given[at] ?? '');
    else if (isTag ? args[at]?.type !== text : given[at] !== text) return undefined;
  }
  return values;
}

/** Is a lamp lit by what a parameter says? */
export const isLit = ({ lit }: Pick<show.Feedback, 'lit'>, says: string | undefined): boolean =>
  says !== undefined &&
  (lit.length > 0 ? lit.some((value) => says.startsWith(value)) : !['', '0', 'false', '—', 'none'].includes(says));
