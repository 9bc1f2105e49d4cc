import type { OscPacket } from '@deep-patch/codecs';
import type { show } from '@deep-patch/core';
import { filled } from '../units/doing.ts';

/** What a unit tells of one of its own parameters. */
export interface News {
  readonly parameter: string;
  readonly value: string;
}

/** What a message of a unit tells of its own parameters, as the replies in its dictionary mean it. */
export function newsInOsc(commands: readonly show.Command[], packet: OscPacket): readonly News[] {
  if (!('address' in packet)) return packet.elements.flatMap((element) => newsInOsc(commands, element));
  const given = packet.args.map((arg) => {
    const value = 'value' in arg ? arg.value : arg.type === 'T';
    return typeof value === 'object' ? '' : String(value);
  });
  return commands.flatMap(({ reply, sets }) => {
    if (!reply || reply.args.length !== given.length) return [];
    const inAddress = namesIn(reply.address, packet.address, '[^/]+');
    const values = inAddress && argumentsIn(reply.args, given, packet.args);
    return values ? newsOf(sets, new Map([...inAddress, ...values])) : [];
  });
}

/** No state is longer, and a line with several values in it is not searched without end. */
const longestTold = 400;

/** The same of a line of text, or of a MIDI message in words; there a value is one word. */
export const newsInWords = (commands: readonly show.Command[], words: string, isOneWord: boolean): readonly News[] =>
  commands.flatMap(({ reply, sets }) => {
    const values = reply && namesIn(reply.address, words.slice(0, longestTold), isOneWord ? '\\S+' : '.+?');
    return values ? newsOf(sets, values) : [];
  });

const newsOf = (sets: show.Command['sets'], values: ReadonlyMap<string, string>): News[] =>
  sets.map(({ parameter, value }) => ({ parameter: filled(parameter, values), value: filled(value, values) }));

/** The values that stand in a text in place of the names of a template; undefined where it is another text. */
function namesIn(template: string, text: string, value: string): Map<string, string> | undefined {
  const { names, pattern } = templateOf(template, value);
  const match = pattern.exec(text);
  return match ? new Map(names.map((name, at) => [name, match[at + 1] ?? ''])) : undefined;
}

/** Texts of dictionaries, read once: there are as many as commands, whatever comes over the network. */
const templates = new Map<string, { readonly names: readonly string[]; readonly pattern: RegExp }>();
const mostTemplates = 5000;

function templateOf(template: string, value: string) {
  const key = `${value} ${template}`;
  const known = templates.get(key);
  if (known) return known;
  const pattern = template.replace(/\{(\w+)\}|[^{]+|\{/g, (part, name: string | undefined) =>
    name === undefined ? part.replace(/[.*+?^${}()|[\]\\]/g, '\\$&') : `(${value})`,
  );
  const names = Array.from(template.matchAll(/\{(\w+)\}/g), ([, name = '']) => name);
  const fresh = { names, pattern: new RegExp(`^${pattern}$`) };
  if (templates.size < mostTemplates) templates.set(key, fresh);
  return fresh;
}

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
