import {
  serviceTypeOf,
  type Command,
  type CueMessage,
  type Device,
  type ServiceType,
  type Show,
} from '../show/index.ts';
import { commandFrom, doesTrigger, messageFault, valueOf, type MessageFault } from '../links/index.ts';
import type { OscText, OscValue } from './osc-notation.ts';

type Value = CueMessage['args'][number];
type Argument = Command['args'][number];

/** A message with everything that it names, found; what is gone is undefined. */
export interface Aimed {
  readonly target: Device | undefined;
  readonly service: ServiceType | undefined;
  readonly command: Command | undefined;
  readonly args: readonly Value[];
}

/** What was typed is looked for in the target's own list: it may be one of its commands after all. */
export function aimedAt(show: Show, message: CueMessage): Aimed {
  const target = show.devices[message.targetId];
  const service = target && serviceTypeOf(show, target, message.serviceKey);
  const command = service?.commands.find(({ key }) => key === message.command);
  const typed = service && message.command === null ? commandFrom(service, message.typed) : undefined;
  return { target, service, command: command ?? typed?.command, args: command ? message.args : (typed?.args ?? []) };
}

/** Does it start anything (C55)? A value that is off elsewhere may start here, and some ask for a rising edge. */
export function triggering({ command, args }: Pick<Aimed, 'command' | 'args'>): 'triggers' | 'does_not' | 'unknown' {
  if (!command) return 'unknown';
  return doesTrigger(command, args) ? 'triggers' : 'does_not';
}

/** Why the target would not understand it; undefined where it would, or where nobody knows its commands. */
export const faultOf = ({ service, command, args }: Aimed): MessageFault | undefined =>
  service && command ? messageFault(service, command, args) : undefined;

/** Where each value of a command travels: the number in the address is another one than the number behind it (need 8.6). */
export function placesOf({ address, args }: Command): { readonly argument: Argument; readonly inAddress: boolean }[] {
  return args.map((argument) => ({ argument, inAddress: address.includes(`{${argument.name}}`) }));
}

/** The OSC message of a command with its values; undefined for other protocols. */
export function oscOf({ service, command, args }: Aimed): OscText | undefined {
  if (service?.protocol !== 'osc' || !command) return undefined;
  const values = new Map(command.args.map(({ name }, at) => [name, args[at]]));
  const address = command.address.replace(/\{(\w+)\}/g, (_, name: string) => String(values.get(name) ?? ''));
  const behind = placesOf(command).flatMap(({ argument, inAddress }, at) =>
    inAddress || args[at] === undefined ? [] : [oscValue(args[at], argument)],
  );
  return { address, args: behind };
}

export function oscValue(value: Value, argument: Pick<Argument, 'type'> | undefined): OscValue {
  if (typeof value === 'boolean') return { type: value ? 'T' : 'F' };
  if (typeof value === 'string') return { type: 's', value };
  return { type: argument?.type === 'f' || !Number.isInteger(value) ? 'f' : 'i', value };
}

/** The command and values that an OSC message is for a service; undefined where it knows none like it. */
export function commandOf(
  service: ServiceType,
  { address, args }: OscText,
): { command: Command; args: Value[] } | undefined {
  for (const command of service.commands) {
    const names = Array.from(command.address.matchAll(/\{(\w+)\}/g), ([, name = '']) => name);
    const pattern = command.address
      .split(/\{\w+\}/)
      .map((piece) => piece.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'))
      .join('([^/]+)');
    const found = new RegExp(`^${pattern}$`).exec(address);
    if (!found) continue;
    const inside = new Map(names.map((name, at) => [name, found[at + 1] ?? '']));
    const behind = [...args];
    const values = command.args.flatMap((argument): Value[] => {
      const text = inside.get(argument.name);
      if (text !== undefined) return [valueOf({ text, isQuoted: false }, argument.type)];
      const arg = behind.shift();
      return arg ? [plain(arg)] : [];
    });
    return { command, args: [...values, ...behind.map(plain)] };
  }
  return undefined;
}

const plain = (arg: OscValue): Value => ('value' in arg ? arg.value : arg.type === 'T');

/** A message in words: what it does to whom. */
export function messageWords(show: Show, message: CueMessage): string {
  const { target, command, args } = aimedAt(show, message);
  const name = target?.name ?? 'a unit that is gone';
  if (!command) return `${name} ${message.typed || message.command || 'nothing'}`;
  const values = args.map((value) => (typeof value === 'string' ? `“${value}”` : String(value)));
  return [`${name}: ${lower(command.label)}`, values.join(', ')].filter(Boolean).join(' ');
}

const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);

/**
 * A message of words: a line, a path, or a MIDI message as it is called; undefined where a message is none. In lines and
 * paths a value is percent-encoded (RFC 3986 section 2.1), so that a blank or a stroke in it ends nothing.
 */
export function lineOf({ service, command, args }: Aimed): string | undefined {
  if (!service || !command || service.protocol === 'osc') return undefined;
  const written = (value: Value) => (service.protocol === 'midi' ? String(value) : encodeURIComponent(String(value)));
  const values = new Map(command.args.map(({ name }, at) => [name, written(args[at] ?? '')]));
  const address = command.address.replace(/\{(\w+)\}/g, (_, name: string) => values.get(name) ?? '');
  if (service.protocol === 'http') return address;
  const behind = placesOf(command).flatMap(({ inAddress }, at) => (inAddress ? [] : [written(args[at] ?? '')]));
  return [address, ...behind].join(' ');
}

/** What travels in the body of a request: the values that are not in its path. */
export const bodyOf = ({ command, args }: Aimed): Readonly<Record<string, Value>> =>
  Object.fromEntries(
    (command ? placesOf(command) : []).flatMap(({ argument, inAddress }, at) =>
      inAddress || args[at] === undefined ? [] : [[argument.name, args[at]] as const],
    ),
  );
