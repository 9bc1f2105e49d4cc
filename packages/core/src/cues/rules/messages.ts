import { fixWith, groups, keyed, type Finding } from '../../findings/index.ts';
import { planBareLink } from '../../links/index.ts';
import { rowsBy, updateRow, changeOf, type Cue, type Show } from '../../show/index.ts';
import { cueRule } from '../cue-rule.ts';
import { aimedAt, faultOf, triggering } from '../messages.ts';
import { namesIn, knownNames } from '../names.ts';

const each = (show: Show) => rowsBy(show, 'cues', 'id');
const subjectsOf = ({ id }: Cue) => [{ table: 'cues' as const, id }];

/** A cue that sends to nobody: the unit is gone, does not have it, or no link leads there. */
export const noTarget = cueRule<{
  cue_target_gone: { cue: string; what: string };
  cue_no_way: { cue: string; controller: string; target: string };
}>(
  {
    cue_target_gone: (f) => [
      `Cue ${f.cue} sends to ${f.what}, which is gone.`,
      'Nothing happens at that point of the show.',
      'Choose another target, or take the message out.',
    ],
    cue_no_way: (f) => [
      `Cue ${f.cue}: no link leads from ${f.controller} to ${f.target}.`,
      'Its message cannot be sent.',
      'Add the link: its port and entry come from what the target has.',
    ],
  },
  groups(each, (found, cues, show) =>
    cues.flatMap((cue): Finding[] =>
      cue.messages.flatMap((message, at): Finding[] => {
        const { target, service } = aimedAt(show, message);
        const name = String(cue.number);
        if (!target || !service) {
          const what = target ? `a function of ${target.name}` : 'a unit';
          return [keyed(found('cue_target_gone', 'stops', subjectsOf(cue), { cue: name, what }), cue.id, at)];
        }
        const ways = rowsBy(show, 'links', 'controllerId').get(cue.controllerId) ?? [];
        if (ways.some((link) => link.targetId === target.id && link.serviceKey === service.key)) return [];
        const controller = show.devices[cue.controllerId]?.name ?? '';
        const id = `${cue.controllerId}-${target.id}-${service.key}`.slice(0, 40);
        const change = show.links[id]
          ? undefined
          : planBareLink(show, {
              id,
              controllerId: cue.controllerId,
              targetId: target.id,
              serviceKey: service.key,
              slot: null,
            });
        const fix = fixWith(`Let ${controller} control ${target.name}`, change);
        const facts = { cue: name, controller, target: target.name };
        return [keyed(found('cue_no_way', 'stops', subjectsOf(cue), facts, [fix]), cue.id, at)];
      }),
    ),
  ),
);

/** A message that arrives and does nothing (needs 8.6 to 8.9). */
export const notDone = cueRule<{
  cue_command_unknown: { cue: string; target: string; typed: string };
  cue_value_unfit: { cue: string; target: string; value: string };
  cue_does_not_trigger: { cue: string; target: string; command: string };
  cue_name_unknown: { cue: string; target: string; name: string; nearest: string };
  cue_name_doubled: { cue: string; target: string; name: string };
}>(
  {
    cue_command_unknown: (f) => [
      `Cue ${f.cue}: ${f.target} knows no “${f.typed}”.`,
      'It arrives and is dropped without a word.',
      'Look it up in the target’s list of commands.',
    ],
    cue_value_unfit: (f) => [
      `Cue ${f.cue}: ${f.target} does not take ${f.value}.`,
      'The value does not fit what the command asks for.',
      'Correct it.',
    ],
    cue_does_not_trigger: (f) => [
      `Cue ${f.cue}: “${f.command}” of ${f.target} starts nothing with this value.`,
      'To this target it means “off”, though others start with it.',
      'Send the value that starts.',
    ],
    cue_name_unknown: (f) => [
      `Cue ${f.cue}: nobody at ${f.target} is called “${f.name}”.`,
      f.nearest === '' ? 'A name has to be exactly as it is shown there.' : `${f.target} shows “${f.nearest}”.`,
      f.nearest === '' ? 'Pick the name from its list.' : 'Use that name.',
    ],
    cue_name_doubled: (f) => [
      `Cue ${f.cue}: two at ${f.target} are called “${f.name}”.`,
      'Which of them it reaches, nobody can tell.',
      'Rename one of them there.',
    ],
  },
  groups(each, (found, cues, show) =>
    cues.flatMap((cue): Finding[] =>
      cue.messages.flatMap((message, at): Finding[] => {
        const aimed = aimedAt(show, message);
        const { target, service, command, args } = aimed;
        if (!target || !service) return [];
        const common = { cue: String(cue.number), target: target.name };
        if (!command) {
          const typed = message.typed || message.command || '';
          return [keyed(found('cue_command_unknown', 'risky', subjectsOf(cue), { ...common, typed }), cue.id, at)];
        }
        const fault = faultOf(aimed);
        if (fault) {
          const value = 'value' in fault ? fault.value : args.map(String).join(', ') || 'an empty message';
          return [keyed(found('cue_value_unfit', 'stops', subjectsOf(cue), { ...common, value }), cue.id, at)];
        }
        if (triggering(aimed) === 'does_not')
          return [
            keyed(
              found('cue_does_not_trigger', 'risky', subjectsOf(cue), { ...common, command: command.label }),
              cue.id,
              at,
            ),
          ];
        return namesIn(target, command, args, knownNames(show)).flatMap((name): Finding[] => {
          const given = { ...common, name: name.given };
          const { check } = name;
          if (check.state === 'exact') return [];
          if (check.state === 'doubled')
            return [keyed(found('cue_name_doubled', 'risky', subjectsOf(cue), given), cue.id, at)];
          const nearest = 'nearest' in check ? (check.nearest ?? '') : '';
          const messages = cue.messages.map((own, n) =>
            n === at ? { ...own, args: own.args.map((value, m) => (m === name.at ? nearest : value)) } : own,
          );
          const change = changeOf(`Cue ${cue.number}: ${nearest}`, [updateRow('cues', cue, { messages })]);
          const fix = nearest === '' || message.command === null ? undefined : fixWith('Use that name', change);
          return [keyed(found('cue_name_unknown', 'risky', subjectsOf(cue), { ...given, nearest }, [fix]), cue.id, at)];
        });
      }),
    ),
  ),
);
