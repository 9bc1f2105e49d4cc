import type { OscArg, OscMessage } from '@deep-patch/codecs';
import type { show } from '@deep-patch/core';
import { filled } from '../../units/doing.ts';

/** What a unit says once it did a command; undefined where it says nothing. */
export function commandReply(
  { reply, args }: show.Command,
  values: ReadonlyMap<string, string>,
): OscMessage | undefined {
  if (!reply) return undefined;
  return { address: filled(reply.address, values), args: reply.args.map((text) => replyArg(text, args, values)) };
}

/**
 * A value that is an argument of the command has the type that the command declares, whatever it looks like; what the
 * dictionary itself says goes as what it is.
 */
function replyArg(text: string, args: show.Command['args'], values: ReadonlyMap<string, string>): OscArg {
  if (text === 'T' || text === 'F') return { type: text };
  const value = filled(text, values);
  const name = /^\{(\w+)\}$/.exec(text)?.[1];
  const declared = name === undefined ? undefined : args.find((argument) => argument.name === name)?.type;
  if (declared === 'T') return { type: value === 'true' ? 'T' : 'F' };
  if (declared === 'i' || declared === 'f') return { type: declared, value: Number(value) };
  if (declared === 's' || text.includes('{')) return { type: 's', value };
  if (/^-?\d+$/.test(value)) return { type: 'i', value: Number(value) };
  return /^-?\d+\.\d+$/.test(value) ? { type: 'f', value: Number(value) } : { type: 's', value };
}
