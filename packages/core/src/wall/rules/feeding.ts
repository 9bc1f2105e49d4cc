import { fixWith, type Finding } from '../../findings/index.ts';
import { rowsOf, typeOf, type Show, type Wall } from '../../show/index.ts';
import { cardsToReceivers, processorsOf } from '../feeding.ts';
import { knownWalls } from '../known-wall.ts';
import { wallLoad } from '../load.ts';
import { planWall } from '../plan-wall.ts';
import { subject, wallRule } from '../wall-rule.ts';

const labelOf = (show: Show, deviceId: string, adapter: string): string =>
  typeOf(show, show.devices[deviceId])?.adapters.find(({ key }) => key === adapter)?.label ?? adapter;

/** What sends into the wall: its kind, its network card, its units, and how it is managed (needs 10.4, 10.11, 10.18 and 10.20). */
export const sending = wallRule<{
  wall_sender_is_card: { wall: string; unit: string };
  wall_card_other: { wall: string; unit: string; card: string; own: string };
  wall_units_short: { wall: string; wanted: number; there: number; outputs: number };
  wall_managed_afar: { wall: string; unit: string; by: string };
}>(
  {
    wall_sender_is_card: (f) => [
      `${f.wall} is set for a sending device, and ${f.unit} sends by its network card.`,
      'The set-up program looks for a device that is not there, and finds no receivers.',
      'Choose the network card as the sender, look for cards, and apply it.',
    ],
    wall_card_other: (f) => [
      f.card === ''
        ? `Nobody has said which network card of ${f.unit} sends to ${f.wall}.`
        : `${f.card} of ${f.unit} is to send to ${f.wall}, and leads to no receiver.`,
      'No receiver is found.',
      f.own === '' ? 'Cable one of its adapters to the first receiver.' : `Choose ${f.own}: its cable goes there.`,
    ],
    wall_units_short: (f) => [
      `${f.wall} needs ${f.wanted} distribution ${f.wanted === 1 ? 'unit' : 'units'} with ${f.outputs} outputs each, and ${f.there === 0 ? 'none is' : `${f.there} are`} there.`,
      'Its panels have nothing to hang on.',
      'Add what is missing to the rig, close to the wall.',
    ],
    wall_managed_afar: (f) => [
      `${f.unit}, which drives ${f.wall}, is to be managed from afar and has no network.`,
      'Nobody reaches it from there.',
      f.by === 'usb'
        ? 'Put a computer beside it, with a USB cable.'
        : 'Put a monitor and a keyboard beside it, or set it at its own screen.',
    ],
  },
  (found, show) =>
    knownWalls(show).flatMap(({ wall, panel, capacity }): Finding[] => {
      const unit = wall.processorId === null ? undefined : show.devices[wall.processorId];
      if (!unit) return [];
      const of = [subject(wall.id), { table: 'devices' as const, id: unit.id }];
      const named = { wall: wall.name, unit: unit.name };
      const cards = cardsToReceivers(show, unit.id);
      const [own] = cards;
      const load = capacity && wallLoad(wall, panel, capacity);
      const outputs = capacity?.unitOutputs ?? null;
      const wanted =
        outputs === null || !load ? 0 : Math.ceil((wall.loop ? load.wantedWithLoop : load.wanted) / outputs);
      const there = unitsBehind(show, unit.id);
      const processor = processorsOf(show).find(({ device }) => device.id === unit.id);
      const hasNoNetwork = processor?.why === 'no_network';
      return [
        ...(wall.sender === 'device' && !capacity && cards.length > 0
          ? [
              found('wall_sender_is_card', 'stops', of, named, [
                fixWith('It sends by its card', planWall(wall, 'sender', { sender: 'card', card: own ?? null })),
              ]),
            ]
          : []),
        ...(wall.sender === 'card' && (wall.card === null || !cards.includes(wall.card))
          ? [
              found(
                'wall_card_other',
                'stops',
                of,
                {
                  ...named,
                  card: wall.card === null ? '' : labelOf(show, unit.id, wall.card),
                  own: own === undefined ? '' : labelOf(show, unit.id, own),
                },
                own === undefined
                  ? []
                  : [fixWith(`Send by ${labelOf(show, unit.id, own)}`, planWall(wall, 'network card', { card: own }))],
              ),
            ]
          : []),
        ...(outputs !== null && there < wanted
          ? [found('wall_units_short', 'risky', of, { wall: wall.name, wanted, there, outputs })]
          : []),
        ...(wall.managed === 'remote' && hasNoNetwork
          ? [
              found('wall_managed_afar', 'stops', of, { ...named, by: processor?.by ?? '' }, [
                fixWith('Manage it there', planWall(wall, 'managed there', { managed: 'local' })),
              ]),
            ]
          : []),
      ];
    }),
);

/** Distribution units that hang on a processor: receivers that forward to panels of their own. */
const unitsBehind = (show: Show, processorId: string): number =>
  new Set(
    rowsOf(show, 'cables').flatMap(({ fromDevice, toDevice }) => {
      const other = fromDevice === processorId ? toDevice : toDevice === processorId ? fromDevice : '';
      return typeOf(show, show.devices[other])?.kind === 'led-receiver' ? [other] : [];
    }),
  ).size;

const dueWords = (due: Wall['playerOutput']): string[] => [
  ...(due.saved ? [] : ['save it']),
  ...(due.restarted ? [] : ['start again what runs behind it']),
];

/** What the player sends: over which interface, from which corner, and what is still to be done (need 10.15). */
export const playing = wallRule<{
  wall_output_other: { wall: string; unit: string; card: string; own: string };
  wall_output_off: { wall: string; unit: string };
  wall_output_corner: { wall: string; corner: string };
  wall_output_due: { wall: string; unit: string; due: string[] };
}>(
  {
    wall_output_other: (f) => [
      f.card === ''
        ? `Nobody has said by which interface ${f.unit} sends to ${f.wall}.`
        : `${f.unit} sends to ${f.wall} by ${f.card}, which does not lead to its receivers.`,
      'Nothing at all is seen.',
      f.own === ''
        ? 'Cable one of its interfaces to the first receiver; the house network goes into another one.'
        : `Choose ${f.own}: its cable goes to the first receiver.`,
    ],
    wall_output_off: (f) => [
      `The output of ${f.unit} to ${f.wall} is not switched on.`,
      'Nothing is sent, however right the rest of it is.',
      'Switch it on, and leave every other kind of output alone.',
    ],
    wall_output_corner: (f) => [
      `The player of ${f.wall} begins at the ${f.corner}, and the wall at the top left.`,
      'The picture is mirrored or upside down.',
      'Let it begin at the top left.',
    ],
    wall_output_due: (f) => [
      `Of the output of ${f.unit} to ${f.wall} something is still to be done: ${f.due.join(', ')}.`,
      'What was set before is in force until then.',
      'Do it, and keep a picture of the settings.',
    ],
  },
  (found, show) =>
    knownWalls(show).flatMap(({ wall }): Finding[] => {
      const { playerOutput } = wall;
      const { deviceId, kind, adapter, enabled, start } = playerOutput;
      const unit = deviceId === null ? undefined : show.devices[deviceId];
      if (!unit || kind === null) return [];
      const of = [subject(wall.id), { table: 'devices' as const, id: unit.id }];
      const named = { wall: wall.name, unit: unit.name };
      const cards = cardsToReceivers(show, unit.id);
      const [own] = cards;
      const put = (label: string, what: string, patch: Partial<Wall['playerOutput']>) =>
        fixWith(label, planWall(wall, what, { playerOutput: { ...playerOutput, ...patch } }));
      const anew = { saved: false, restarted: false };
      const due = dueWords(playerOutput);
      return [
        ...(kind === 'receivers' && (adapter === null || !cards.includes(adapter))
          ? [
              found(
                'wall_output_other',
                'stops',
                of,
                {
                  ...named,
                  card: adapter === null ? '' : labelOf(show, unit.id, adapter),
                  own: own === undefined ? '' : labelOf(show, unit.id, own),
                },
                own === undefined
                  ? []
                  : [
                      put(`Send by ${labelOf(show, unit.id, own)}`, 'interface of the player', {
                        adapter: own,
                        ...anew,
                      }),
                    ],
              ),
            ]
          : []),
        ...(enabled
          ? []
          : [
              found('wall_output_off', 'stops', of, named, [
                put('It is switched on', 'output of the player', { enabled: true, ...anew }),
              ]),
            ]),
        ...(start === 'top_left'
          ? []
          : [
              found('wall_output_corner', 'stops', of, { wall: wall.name, corner: start.replace('_', ' ') }, [
                put('Begin at the top left', 'corner of the player', { start: 'top_left', ...anew }),
              ]),
            ]),
        ...(enabled && due.length > 0
          ? [
              found('wall_output_due', 'risky', of, { ...named, due }, [
                put('Both are done', 'output of the player', { saved: true, restarted: true }),
              ]),
            ]
          : []),
      ];
    }),
);
