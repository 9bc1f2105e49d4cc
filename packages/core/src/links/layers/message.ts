import { fixWith } from '../../findings/index.ts';
import { changeOf, updateRow, type Command } from '../../show/index.ts';
import { fail, pass, risky, type Layer } from '../layer.ts';
import type { Ends } from '../ends.ts';

/** Does the target understand what the controller sends? Checked against its command list (C52, C55). */
export const message: Layer = (ends) => {
  const { link, serviceType, command, target } = ends;
  const facts = {
    command: command?.label ?? link.command ?? '',
    target: target.name,
    known: serviceType.commands.length,
  };
  if (link.command === null)
    return serviceType.commands.length > 0
      ? risky('none_chosen', facts, [chooseFix(ends)])
      : pass('nothing_to_say', facts);
  if (!command) return fail('unknown_command', facts, [chooseFix(ends)]);
  const fault = faultOf(command, link.args);
  const shown = { ...facts, left: writtenCommand(command, link.args), right: command.address };
  return fault
    ? fail(fault.code, { ...shown, ...fault.facts }, [exampleFix(ends, command)])
    : pass('understood', shown);
};

/** The address with its braces filled and the arguments behind it, as people write it. */
export function writtenCommand(command: Command, args: readonly (number | string | boolean)[]): string {
  const values = new Map(command.args.map(({ name }, at) => [name, args[at]]));
  const address = command.address.replace(/\{(\w+)\}/g, (_, name: string) => String(values.get(name) ?? `{${name}}`));
  const rest = command.args.flatMap(({ name }, at) => (inAddress(command, name) ? [] : [String(args[at] ?? '?')]));
  return [address, ...rest].join(' ');
}

export const exampleArgs = (command: Command) => command.args.map(({ example }) => example);

function faultOf(command: Command, args: readonly (number | string | boolean)[]) {
  if (args.length !== command.args.length)
    return { code: 'argument_count', facts: { wanted: command.args.length, given: args.length } };
  for (const [at, { name, type, min, max, unit }] of command.args.entries()) {
    const value = inAddress(command, name) ? asPart(args[at]) : args[at];
    const fits =
      type === 's' ? typeof value === 'string' : type === 'T' ? typeof value === 'boolean' : typeof value === 'number';
    if (!fits || (type === 'i' && !Number.isInteger(value))) return { code: 'argument_type', facts: { name, type } };
    if (typeof value === 'number' && (value < (min ?? -Infinity) || value > (max ?? Infinity)))
      return {
        code: 'argument_range',
        facts: { name, value, range: `${min ?? '−∞'} to ${max ?? '∞'}${unit ? ` ${unit}` : ''}` },
      };
  }
  return undefined;
}

const inAddress = (command: Command, name: string): boolean => command.address.includes(`{${name}}`);

/** A part of the address travels as text anyway: there "31" and 31 are the same bytes. */
const asPart = (value: number | string | boolean | undefined) =>
  typeof value === 'string' && /^-?\d+(\.\d+)?$/.test(value) ? Number(value) : value;

function chooseFix(ends: Ends) {
  const [first] = ends.serviceType.commands;
  return first && exampleFix(ends, first);
}

const exampleFix = ({ link }: Ends, command: Command) =>
  fixWith(
    `Use “${writtenCommand(command, exampleArgs(command))}”`,
    changeOf(`Test with ${command.label}`, [
      updateRow('links', link, { command: command.key, args: exampleArgs(command) }),
    ]),
  );
