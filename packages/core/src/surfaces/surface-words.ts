import type { Assignment, Show } from '../show/index.ts';
import type { SurfaceControl } from './controls.ts';
import type { Meaning } from './meanings.ts';

const machines: Readonly<Record<NonNullable<Assignment['machine']>, string>> = {
  wake: 'Wake',
  save: 'Save the show of',
  close: 'Close the show of',
  restart: 'Restart',
  shut_down: 'Shut down',
};

/** What a control does, as it stands beside it: short, with the unit where one is meant. */
export function meaningWords(show: Show, { assignment, bank, does, offer, args, drives }: Meaning): string {
  const target = offer?.target.name ?? show.devices[assignment?.targetId ?? '']?.name ?? 'nobody';
  if (assignment?.label) return assignment.label;
  if (bank && offer) return `channel ${args[offer.command.args.findIndex(({ name }) => name === bank.channel)] ?? ''}`;
  switch (does) {
    case 'choose_target':
      return `Choose ${chosen(show, assignment)}`;
    case 'show_layer':
      return assignment?.number == null ? 'Next layer' : `Layer ${assignment.number + 1}`;
    case 'machine':
      return `${machines[assignment?.machine ?? 'wake']} ${target}`;
    case 'stop_all':
      return 'Stop everything';
    case 'command':
  }
  if (!offer) return `${assignment?.command ?? 'something'} of ${target}, which it does not have`;
  const values = offer.command.args.flatMap(({ name }, at) =>
    name === drives?.name || args[at] === undefined ? [] : [String(args[at])],
  );
  return [offer.command.label, ...values].join(' ');
}

function chosen(show: Show, assignment: Assignment | undefined): string {
  const targets = assignment ? [assignment.targetId ?? '', ...assignment.among] : [];
  return show.devices[targets[assignment?.number ?? 0] ?? '']?.name ?? 'a unit';
}

const parts: Readonly<Record<Assignment['part'], string>> = {
  whole: '',
  up: ', turned up',
  down: ', turned down',
  x: ', across',
  y: ', up and down',
};

export const controlWords = ({ label }: Pick<SurfaceControl, 'label'>, part: Assignment['part'] = 'whole'): string =>
  `${label}${parts[part]}`;

/** What makes a machine's function worth a second question. */
export const machineQuestion = (machine: NonNullable<Assignment['machine']>, name: string): string =>
  `${machines[machine]} ${name}?`;
