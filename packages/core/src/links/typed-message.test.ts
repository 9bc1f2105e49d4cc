import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Command, ServiceType } from '../show/index.ts';
import { argumentsFrom, commandFrom, doesTrigger, typedValues, writtenValues } from './typed-message.ts';
import { writtenCommand } from './layers/message.ts';

const argument = (name: string, type: Command['args'][number]['type']): Command['args'][number] => ({
  name,
  type,
  example: type === 's' ? 'x' : type === 'T' ? true : 1,
});
const command = (key: string, address: string, args: Command['args'], more: Partial<Command> = {}): Command => ({
  key,
  label: key,
  address,
  args,
  sets: [],
  reply: null,
  ...more,
});
const start = command('start', '/desk/cue/{cue}/start', [argument('cue', 'i'), argument('fade', 'f')]);
const show = command('show', '/callers/show', [argument('name', 's')]);
const record = command('record', 'record {name}', [argument('name', 's')]);
type Listed = Pick<ServiceType, 'protocol' | 'commands'>;
const osc: Listed = { protocol: 'osc', commands: [start, show] };
const lines: Listed = { protocol: 'text', commands: [record] };

describe('values as they are typed', () => {
  test.each([
    ['31, 4.5', ['31', '4.5']],
    ['"Final, race 2", 3', ['Final, race 2', '3']],
    ['„Kai, Nord“', ['Kai, Nord']],
    ['“Quay, north”', ['Quay, north']],
    ['"say ""go"""', ['say "go"']],
    ['a,,b', ['a', '', 'b']],
    ['', []],
  ])('%s', (text, parts) => expect(typedValues(text).map((value) => value.text)).toEqual(parts));

  test('a number in quotation marks is a text, one without is a number, and true is true', () => {
    expect(argumentsFrom({ args: [] }, '"31", 31, true, x')).toEqual(['31', 31, true, 'x']);
    expect(argumentsFrom(show, '31')).toEqual(['31']);
  });

  test('whatever is written is read again as it was', () => {
    const value = fc.oneof(
      fc.string({ maxLength: 12 }).filter((text) => text === text.trim()),
      fc.integer(),
      fc.boolean(),
    );
    fc.assert(
      fc.property(fc.array(value, { maxLength: 6 }), (values) => {
        expect(argumentsFrom({ args: [] }, writtenValues(values))).toEqual(values);
      }),
      { numRuns: 500 },
    );
  });
});

describe('a whole message', () => {
  test.each([
    [osc, '/desk/cue/31/start 4.5', 'start', [31, 4.5]],
    [osc, '/desk/cue/31/start, 4.5', 'start', [31, 4.5]],
    [osc, '/callers/show "Harbour master"', 'show', ['Harbour master']],
    [osc, '/desk/cue/31/start', 'start', [31]],
    [osc, '/desk/cue/31/start 4 5', 'start', [31, 4, 5]],
    [lines, 'record final run', 'record', ['final run']],
  ])('%#: %s', (service, text, key, args) => {
    const found = commandFrom(service, text);
    expect([found?.command.key, found?.args]).toEqual([key, args]);
  });

  test('what no command reads is none, and what is written is found again', () => {
    expect(commandFrom(osc, '/desk/queue/31/start')).toBeUndefined();
    fc.assert(
      fc.property(fc.nat(9999), fc.float({ min: 0, max: 600, noNaN: true }), (cue, fade) => {
        expect(commandFrom(osc, writtenCommand(start, [cue, fade]))?.args).toEqual([cue, fade]);
      }),
    );
  });
});

test('a command that acts on a true value does nothing for a false one', () => {
  const go = command('go', '/go', [argument('on', 'T')], { trigger: 'true' });
  expect([doesTrigger(go, [true]), doesTrigger(go, [false]), doesTrigger(start, [0])]).toEqual([true, false, true]);
});
