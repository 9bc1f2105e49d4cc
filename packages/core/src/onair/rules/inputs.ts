import { each, fixWith, keyed, nameList } from '../../findings/index.ts';
import { groupBy, typeOf } from '../../show/index.ts';
import { switchersById } from '../../cabling/index.ts';
import { airRule } from '../air-rule.ts';
import { airInputsOf, callersOf, planDeclare } from '../inputs.ts';

const of = (id: string) => ({ table: 'devices' as const, id });

/** An input that is declared as another kind than what feeds it (need 4.13): callers have to be declared beforehand. */
export const declaredWrong = airRule<{
  input_kind_differs: { switcher: string; input: number; source: string; declared: string; kind: string };
}>(
  {
    input_kind_differs: (f) => [
      `Input ${f.input} of ${f.switcher} is declared as ${f.declared}, and ${f.source} feeds it.`,
      'The switcher offers there only what it does for that kind.',
      `Declare it as ${f.kind}.`,
    ],
  },
  each(switchersById, (found, switcher, show) =>
    airInputsOf(show, switcher).flatMap(({ number, line: { declared, source }, player }) => {
      const kind = kindOf(typeOf(show, source)?.kind, player !== undefined);
      if (!declared || !source || !kind || declared.kind === kind) return [];
      const facts = {
        ...{ switcher: switcher.name, input: number, source: source.name },
        ...{ declared: kindWords[declared.kind], kind: kindWords[kind] },
      };
      const fix = fixWith(`Declare input ${number} as ${kindWords[kind]}`, planDeclare(switcher, number, { kind }));
      return [
        keyed(
          found('input_kind_differs', 'risky', [of(switcher.id), of(source.id)], facts, [fix]),
          switcher.id,
          String(number),
        ),
      ];
    }),
  ),
);

export const kindWords = {
  picture: 'a picture',
  player: 'a player',
  caller: 'a caller',
  graphics: 'graphics',
} as const;

/** What an input has to be declared as by what feeds it; undefined where several would do. */
function kindOf(kind: string | undefined, isTied: boolean): keyof typeof kindWords | undefined {
  if (kind === 'caller') return 'caller';
  return isTied ? 'player' : kind === 'camera' ? 'picture' : undefined;
}

/** Two inputs that read the same, or one without a label beside others that have one. */
export const labelDoubled = airRule<{ input_label_doubled: { switcher: string; label: string; inputs: string[] } }>(
  {
    input_label_doubled: (f) => [
      `Inputs ${nameList(f.inputs)} of ${f.switcher} are both “${f.label}”.`,
      'Whoever looks at the source row cannot tell which is which.',
      'Give each a label of its own.',
    ],
  },
  each(switchersById, (found, { id, name, inputs }) =>
    [
      ...groupBy(
        inputs.filter(({ label }) => label !== ''),
        ({ label }) => label.trim().toLowerCase(),
      ),
    ].flatMap(([key, alike]) => {
      if (alike.length < 2) return [];
      const facts = { switcher: name, label: alike[0]?.label ?? '', inputs: alike.map(({ number }) => String(number)) };
      return [keyed(found('input_label_doubled', 'note', [of(id)], facts), id, key)];
    }),
  ),
);

/** A caller channel that nobody reports, or that two inputs want (needs 6.12 and 9.13). */
export const channels = airRule<{
  channel_unknown: { input: number; channel: string; callers: string[] };
  channel_doubled: { channel: string; inputs: string[] };
}>(
  {
    channel_unknown: (f) => [
      `Input ${f.input} waits for channel “${f.channel}”, and ${f.callers.length > 0 ? `${nameList(f.callers)} ${f.callers.length > 1 ? 'report' : 'reports'} none of that name` : 'nobody takes calls'}.`,
      'No call lands there.',
      'Choose one of the channels that are reported.',
    ],
    channel_doubled: (f) => [
      `Channel “${f.channel}” is on inputs ${nameList(f.inputs)}.`,
      'One call cannot be on two inputs with two meanings.',
      'Give each input a channel of its own.',
    ],
  },
  each(switchersById, (found, switcher, show) => {
    const asked = airInputsOf(show, switcher).filter(({ rule }) => rule.channel !== '');
    const callers = callersOf(show);
    const known = new Set(callers.flatMap((caller) => caller.channels));
    const unknown = asked
      .filter(({ rule }) => !known.has(rule.channel))
      .map(({ number, rule }) =>
        keyed(
          found('channel_unknown', 'stops', [of(switcher.id)], {
            ...{ input: number, channel: rule.channel, callers: callers.map(({ device }) => device.name) },
          }),
          switcher.id,
          String(number),
        ),
      );
    const doubled = [...groupBy(asked, ({ rule }) => rule.channel)].flatMap(([channel, inputs]) =>
      inputs.length < 2
        ? []
        : [
            keyed(
              found('channel_doubled', 'risky', [of(switcher.id)], {
                ...{ channel, inputs: inputs.map(({ number }) => String(number)) },
              }),
              switcher.id,
              channel,
            ),
          ],
    );
    return [...unknown, ...doubled];
  }),
);
