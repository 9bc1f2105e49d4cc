import { counted, fixWith } from '../../findings/index.ts';
import { changeOf, memoFor, updateRow, type Command } from '../../show/index.ts';
import type { Ends } from '../ends.ts';
import { layerOf, type SideBySide } from '../layer.ts';
import { messageFault } from '../message-faults.ts';
import { isMidiMessage } from '../midi-message.ts';
import { some } from '../some.ts';

type Message = {
  readonly command: string;
  readonly target: string;
  readonly known: number;
  readonly left: string;
  readonly right: string;
};
type Passes = { understood: Message; nothing_to_say: Message };
type Stops = {
  none_chosen: Message;
  unknown_command: Message;
  argument_count: Message & { wanted: number; given: number };
  argument_type: Message & { name: string; type: string };
  argument_range: Message & { name: string; value: string; range: string };
  argument_spelling: Message & { name: string; value: string };
  not_a_message: Message;
};

const sides = (f: Message, between: string): SideBySide => ({
  left: some(f.left, some(f.command, 'no test message')),
  right: some(f.right, `${counted(f.known, 'command')} known`),
  between,
});

/** Does the target understand what the controller sends? Checked against its command list (C52, C55). */
export const message = layerOf<Passes, Stops>(
  {
    passes: {
      understood: (f) => sides(f, 'in its command list'),
      nothing_to_say: (f) => sides(f, 'nothing to check'),
    },
    stops: {
      none_chosen: {
        sides: (f) => sides(f, 'choose one to test with'),
        said: () => ['No test message is chosen.', 'The link cannot be proven by effect.', 'Choose a harmless one.'],
      },
      unknown_command: {
        sides: (f) => sides(f, 'not in its command list'),
        said: (f) => [
          f.command ? `${f.target} does not know “${f.command}”.` : `${f.target} does not know this command.`,
          'It would drop the message without a word.',
          'Choose one from its list.',
        ],
      },
      argument_count: {
        sides: (f) => sides(f, `${counted(f.given, 'argument')}, ${f.wanted} taken`),
        said: (f) => [
          `The message has ${counted(f.given, 'argument')}; the command takes ${f.wanted}.`,
          `${f.target} would drop it without a word.`,
          'Use the example.',
        ],
      },
      argument_type: {
        sides: (f) => sides(f, `${f.name} has the wrong type`),
        said: (f) => [`${f.name} has the wrong type.`, 'A number sent as text does not trigger.', 'Use the example.'],
      },
      argument_range: {
        sides: (f) => sides(f, `${f.name} goes from ${f.range}`),
        said: (f) => [
          `${f.name} is ${f.value}; it goes from ${f.range}.`,
          `${f.target} would drop or clip it.`,
          'Use a value within the range.',
        ],
      },
      argument_spelling: {
        sides: (f) => sides(f, `${f.name} cannot be part of it`),
        said: (f) => [
          f.value === '' ? `${f.name} is empty.` : `${f.name} holds characters that cannot be part of such a message.`,
          `${f.target} would take it for another command, or for none.`,
          'Use letters and figures.',
        ],
      },
      not_a_message: {
        sides: (f) => sides(f, 'not a MIDI message'),
        said: (f) => [
          `“${f.left}” is no MIDI message.`,
          'Channels go from 1 to 16 and values from 0 to 127.',
          'Use the example.',
        ],
      },
    },
  },
  (ends, { pass, risky, fail }) => {
    const { link, serviceType, command, target } = ends;
    const facts = {
      command: command?.label ?? (link.typed || (link.command ?? '')),
      target: target.name,
      known: serviceType.commands.length,
      left: '',
      right: '',
    };
    if (link.command === null)
      return serviceType.commands.length > 0
        ? risky('none_chosen', facts, [chooseFix(ends)])
        : pass('nothing_to_say', facts);
    if (!command) return fail('unknown_command', facts, [chooseFix(ends)]);
    const shown = { ...facts, left: writtenCommand(command, link.args), right: command.address };
    const fault = messageFault(serviceType, command, link.args);
    if (!fault && (serviceType.protocol !== 'midi' || isMidiMessage(shown.left))) return pass('understood', shown);
    const fixes = [exampleFix(ends, command)];
    if (!fault) return fail('not_a_message', shown, fixes);
    switch (fault.code) {
      case 'argument_count':
        return fail(fault.code, { ...shown, wanted: fault.wanted, given: fault.given }, fixes);
      case 'argument_type':
        return fail(fault.code, { ...shown, name: fault.name, type: fault.type }, fixes);
      case 'argument_range':
        return fail(fault.code, { ...shown, name: fault.name, value: fault.value, range: fault.range }, fixes);
      case 'argument_spelling':
        return fail(fault.code, { ...shown, name: fault.name, value: fault.value }, fixes);
    }
  },
);

/** The address with its braces filled and the arguments behind it, as people write it. */
export function writtenCommand(command: Command, args: readonly (number | string | boolean)[]): string {
  const { pieces, behind } = shapeOf(command);
  const address = pieces.map((piece) => (typeof piece === 'string' ? piece : String(args[piece.at] ?? piece.text)));
  return [address.join(''), ...behind.map((at) => String(args[at] ?? '?'))].join(' ');
}

/** Where the arguments of a command go: into the braces of its address, or behind it. */
const shapeOf = memoFor((command: Command) => {
  // every second piece is what stood in braces
  const pieces = command.address.split(/(\{\w+\})/).map((text, place) => {
    const at = place % 2 === 0 ? -1 : command.args.findLastIndex(({ name }) => text === `{${name}}`);
    return at < 0 ? text : { at, text };
  });
  return { pieces, behind: [...command.args.keys()].filter((at) => !inAddress(command, command.args[at]?.name ?? '')) };
});

export const exampleArgs = (command: Command) => command.args.map(({ example }) => example);

const inAddress = (command: Command, name: string): boolean => command.address.includes(`{${name}}`);

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
