import { fixWith, groups, keyed, nameList, type Finding } from '../../findings/index.ts';
import { rowsBy, type Assignment, type Device, type Show } from '../../show/index.ts';
import { messageFault, planBareLink } from '../../links/index.ts';
import { controlsOf, layersOf, type SurfaceControl } from '../controls.ts';
import { freeLinkId } from '../free-link-id.ts';
import { fitOf, lossOf } from '../fits.ts';
import { shownAlike } from '../lamps.ts';
import { clashing, meaningOf, meaningsOf, type Meaning } from '../meanings.ts';
import { beyondClient } from '../offers.ts';
import { planClear, planScale } from '../plan-assign.ts';
import { controlWords, meaningWords } from '../surface-words.ts';
import { surfaceRule } from '../surface-rule.ts';
import { reached } from '../transfer.ts';

const onSurfaces = (show: Show) => rowsBy(show, 'assignments', 'deviceId');
const subject = ({ id }: Pick<Assignment, 'id'>) => ({ table: 'assignments' as const, id });

/** What a rule looks at of one row: it is left out where its surface or control is gone. */
function placed(
  show: Show,
  row: Assignment,
): { surface: Device; control: SurfaceControl; meaning: Meaning } | undefined {
  const surface = show.devices[row.deviceId];
  const control = surface && controlsOf(show, surface).find(({ key }) => key === row.control);
  return surface && control && { surface, control, meaning: meaningOf(show, row) };
}

/** A control that its surface does not have: the type is another one, or it was removed. */
export const controlGone = surfaceRule<{ control_gone: { surface: string; control: string } }>(
  {
    control_gone: (f) => [
      `${f.surface} has no control “${f.control}”.`,
      'What was put on it can be touched nowhere.',
      'Clear it, or put it on another control.',
    ],
  },
  groups(onSurfaces, (found, rows, show) =>
    rows.flatMap((row): Finding[] => {
      const surface = show.devices[row.deviceId];
      if (!surface || placed(show, row)) return [];
      const facts = { surface: surface.name, control: row.control };
      return [found('control_gone', 'risky', [subject(row)], facts, [fixWith('Clear it', planClear(show, [row]))])];
    }),
  ),
);

/** Two meanings of one movement for one unit (need 8.1). */
export const twoMeanings = surfaceRule<{ two_meanings: { surface: string; control: string; does: string[] } }>(
  {
    two_meanings: (f) => [
      `${f.control} of ${f.surface} does two things at once: ${nameList(f.does)}.`,
      'Both happen at every touch, and the one that is sent last wins.',
      'Keep one, or put one of them on another layer or another movement.',
    ],
  },
  groups(onSurfaces, (found, rows, show) => {
    const surface = show.devices[rows[0]?.deviceId ?? ''];
    if (!surface) return [];
    const touched = new Set(rows.map(({ control }) => control));
    return controlsOf(show, surface)
      .filter(({ key }) => touched.has(key))
      .flatMap((control) => {
        const layers = Array.from({ length: layersOf(show, surface) }, (_, layer) => layer);
        const [first] = layers.flatMap((layer) => clashing(meaningsOf(show, surface, control, layer)));
        if (!first) return [];
        const own = first.flatMap(({ assignment }) => assignment ?? []);
        const facts = {
          surface: surface.name,
          control: control.label,
          does: first.map((meaning) => meaningWords(show, meaning)),
        };
        return [keyed(found('two_meanings', 'risky', own.map(subject), facts), surface.id, control.key)];
      });
  }),
);

/** Nothing leads from the surface to what it is to drive. */
export const noWay = surfaceRule<{
  surface_no_way: { surface: string; target: string; service: string; count: number };
}>(
  {
    surface_no_way: (f) => [
      `${f.surface} is to drive ${f.target}, and no link leads there.`,
      `${f.count === 1 ? 'One control does' : `${f.count} controls do`} nothing: ${f.surface} has no ${f.service} entry for it.`,
      'Add the link: its port and entry come from what the target has.',
    ],
  },
  groups(onSurfaces, (found, rows, show) => {
    const surface = show.devices[rows[0]?.deviceId ?? ''];
    if (!surface) return [];
    const linked = new Set(
      (rowsBy(show, 'links', 'controllerId').get(surface.id) ?? []).map(
        (link) => `${link.targetId} ${link.serviceKey}`,
      ),
    );
    const without = new Map<string, Assignment[]>();
    for (const row of rows) {
      const key = `${row.targetId} ${row.serviceKey}`;
      if (row.does === 'command' && row.targetId !== null && row.serviceKey !== null && !linked.has(key))
        without.set(key, [...(without.get(key) ?? []), row]);
    }
    return [...without.values()].flatMap((own) => {
      const [first] = own;
      const { offer } = first ? meaningOf(show, first) : {};
      if (!first || !offer || first.targetId === null || first.serviceKey === null) return [];
      const id = freeLinkId(show, `${surface.id}-${first.targetId}-${first.serviceKey}`);
      const intent = {
        id,
        controllerId: surface.id,
        targetId: first.targetId,
        serviceKey: first.serviceKey,
        slot: null,
      };
      const facts = {
        surface: surface.name,
        target: offer.target.name,
        service: offer.service.label,
        count: own.length,
      };
      const fix = fixWith(`Let ${surface.name} control ${offer.target.name}`, planBareLink(show, intent));
      return [
        keyed(
          found('surface_no_way', 'stops', own.map(subject), facts, [fix]),
          surface.id,
          first.targetId,
          first.serviceKey,
        ),
      ];
    });
  }),
);

/** The target has no such command, or takes no such value. */
export const notUnderstood = surfaceRule<{
  command_gone: { surface: string; control: string; target: string; command: string };
  value_unfit: { surface: string; control: string; target: string; command: string; value: string };
}>(
  {
    command_gone: (f) => [
      `${f.control} of ${f.surface} sends “${f.command}”, which ${f.target} does not have.`,
      'It arrives and means nothing there.',
      'Choose another function of it.',
    ],
    value_unfit: (f) => [
      `${f.control} of ${f.surface} sends ${f.value} with “${f.command}” of ${f.target}.`,
      'The value does not fit what the command takes: nothing happens.',
      'Correct the value.',
    ],
  },
  groups(onSurfaces, (found, rows, show) =>
    rows.flatMap((row): Finding[] => {
      const at = placed(show, row);
      const target = show.devices[row.targetId ?? ''];
      if (!at || row.does !== 'command' || !target) return [];
      const { surface, control, meaning } = at;
      const common = { surface: surface.name, control: controlWords(control, row.part), target: target.name };
      const { offer, drives } = meaning;
      if (!offer) return [found('command_gone', 'stops', [subject(row)], { ...common, command: row.command ?? '' })];
      // what the control drives changes with it: its own example stands for it
      const args = offer.command.args.map(({ name, example }, n) =>
        name === drives?.name ? example : (row.args[n] ?? ''),
      );
      const fault = messageFault(offer.service, offer.command, args);
      if (!fault) return [];
      const value = 'value' in fault ? fault.value : args.join(', ') || 'nothing';
      return [found('value_unfit', 'stops', [subject(row)], { ...common, command: offer.command.label, value })];
    }),
  ),
);

/** So much of its range a parameter has to be moved over, or it looks like a fault. */
const littleShare = 0.1;

/** A control that moves a parameter by a sliver (C51), or that does not fit it (C60). */
export const movesLittle = surfaceRule<{
  moves_little: { surface: string; control: string; percent: number; from: string; to: string; range: string };
  sends_beyond: { surface: string; control: string; from: string; to: string; range: string };
}>(
  {
    moves_little: (f) => [
      `${f.control} of ${f.surface} moves only ${f.percent} % of what it could.`,
      `End to end it gives ${f.from} to ${f.to}, and the parameter takes ${f.range}: it looks like a fault.`,
      'Scale it end to end.',
    ],
    sends_beyond: (f) => [
      `${f.control} of ${f.surface} sends more than the parameter takes: ${f.from} to ${f.to}.`,
      `It takes ${f.range}. What is beyond is refused, and that part of the way is dead.`,
      'Scale it end to end.',
    ],
  },
  groups(onSurfaces, (found, rows, show) =>
    rows.flatMap((row): Finding[] => {
      const at = placed(show, row);
      const argument = at?.meaning.drives;
      if (!at || !argument || fitOf({ kind: at.control.kind, part: row.part }, argument) !== 'whole') return [];
      if (argument.type === 'T') return [];
      const { share, beyond, least, greatest } = reached(row.transfer, at.control, argument);
      const unit = argument.unit ? ` ${argument.unit}` : '';
      const common = {
        surface: at.surface.name,
        control: controlWords(at.control, row.part),
        from: `${shown(least)}${unit}`,
        to: `${shown(greatest)}${unit}`,
        range: `${argument.min} to ${argument.max}${unit}`,
      };
      const fix = fixWith('Scale it end to end', planScale(show, row, argument));
      if (share !== null && share < littleShare)
        return [found('moves_little', 'risky', [subject(row)], { ...common, percent: Math.round(share * 100) }, [fix])];
      return beyond ? [found('sends_beyond', 'risky', [subject(row)], common, [fix])] : [];
    }),
  ),
);

const shown = (value: number): string => String(Math.round(value * 100) / 100);

export const unfitControl = surfaceRule<{
  control_unfit: { surface: string; control: string; loss: string };
  control_lossy: { surface: string; control: string; loss: string };
}>(
  {
    control_unfit: (f) => [
      `${f.control} of ${f.surface} cannot drive this: it ${f.loss}.`,
      'Nothing useful arrives.',
      'Drive another value with it, or send a fixed one.',
    ],
    control_lossy: (f) => [
      `${f.control} of ${f.surface} ${f.loss}.`,
      'It works, with less than both could.',
      'Use another control where that matters.',
    ],
  },
  groups(onSurfaces, (found, rows, show) =>
    rows.flatMap((row): Finding[] => {
      const at = placed(show, row);
      const argument = at?.meaning.drives;
      if (!at || !argument) return [];
      const moved = { kind: at.control.kind, part: row.part };
      const fit = fitOf(moved, argument);
      if (fit === 'whole') return [];
      const facts = {
        surface: at.surface.name,
        control: controlWords(at.control, row.part),
        loss: lossOf(moved, argument),
      };
      return [
        fit === 'lossy'
          ? found('control_lossy', 'note', [subject(row)], facts)
          : found('control_unfit', 'stops', [subject(row)], facts),
      ];
    }),
  ),
);

/** A client of limited scope that is to send what it cannot (C61). */
export const clientScope = surfaceRule<{ client_scope: { surface: string; commands: string[] } }>(
  {
    client_scope: (f) => [
      `${f.surface} cannot send ${nameList(f.commands)}.`,
      'A client of its kind has only some of the functions of what it drives.',
      'Put that on another surface.',
    ],
  },
  groups(onSurfaces, (found, rows, show) => {
    const surface = show.devices[rows[0]?.deviceId ?? ''];
    const keys = rows.flatMap(({ does, command }) => (does === 'command' && command !== null ? [command] : []));
    const beyond = surface ? new Set(beyondClient(show, surface, keys)) : new Set<string>();
    if (!surface || beyond.size === 0) return [];
    const own = rows.filter(({ command }) => command !== null && beyond.has(command));
    const commands = [...new Set(own.map((row) => meaningOf(show, row).offer?.command.label ?? row.command ?? ''))];
    return [keyed(found('client_scope', 'stops', own.map(subject), { surface: surface.name, commands }), surface.id)];
  }),
);

/** A state that the lamp of its control cannot show, or not as what it is (need 8.4). */
export const lampTooPlain = surfaceRule<{
  lamp_none: { surface: string; control: string; state: string };
  lamp_one_colour: { surface: string; control: string; state: string; alike: string[] };
}>(
  {
    lamp_none: (f) => [
      `${f.control} of ${f.surface} has no lamp: ${f.state} shows nowhere on it.`,
      'Whoever operates it sees on the operator page only what became of it.',
      'Put it on a control with a lamp.',
    ],
    lamp_one_colour: (f) => [
      `${f.control} of ${f.surface} shows ${nameList(f.alike)} alike: its lamp has one colour.`,
      `It says of ${f.state} that it is lit or dark, no more.`,
      'Put it on a control with a lamp of several colours, or read the words.',
    ],
  },
  groups(onSurfaces, (found, rows, show) =>
    rows.flatMap((row): Finding[] => {
      const at = placed(show, row);
      const feedback = at?.meaning.offer?.service.feedback?.find(({ key }) => key === row.feedback);
      // what is listed at the unit itself is drawn on a screen
      if (!at || !feedback || at.control.listedBy || at.control.screen) return [];
      const facts = { surface: at.surface.name, control: at.control.label, state: feedback.label };
      if (at.control.lamp === 'none') return [found('lamp_none', 'note', [subject(row)], facts)];
      const alike = shownAlike(feedback);
      return at.control.lamp === 'lamp' && alike.length > 1
        ? [found('lamp_one_colour', 'note', [subject(row)], { ...facts, alike })]
        : [];
    }),
  ),
);

/** A lamp that means something, on a control that does not say what (need 8.4). */
export const lampWithoutName = surfaceRule<{ lamp_unlabelled: { surface: string; controls: string[] } }>(
  {
    lamp_unlabelled: (f) => [
      `${f.surface}: ${nameList(f.controls)} ${f.controls.length === 1 ? 'has a lamp' : 'have lamps'} and no name of ${f.controls.length === 1 ? 'its' : 'their'} own.`,
      'In the dark nobody knows what a lit one means: good for trials only.',
      'Write on each what it does.',
    ],
  },
  groups(onSurfaces, (found, rows, show) => {
    const surface = show.devices[rows[0]?.deviceId ?? ''];
    const bare = rows.flatMap((row) => {
      const at = placed(show, row);
      return at && row.feedback !== null && row.label === '' && !at.control.screen && at.control.lamp !== 'none'
        ? [{ row, control: at.control }]
        : [];
    });
    if (!surface || bare.length === 0) return [];
    const facts = { surface: surface.name, controls: bare.map(({ control }) => control.label) };
    return [
      keyed(
        found(
          'lamp_unlabelled',
          'note',
          bare.map(({ row }) => subject(row)),
          facts,
        ),
        surface.id,
      ),
    ];
  }),
);
