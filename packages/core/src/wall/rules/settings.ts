import { fixWith, keyed, type Finding } from '../../findings/index.ts';
import { knownWalls, type KnownWall } from '../known-wall.ts';
import { mirrored } from '../parts.ts';
import { planWall } from '../plan-wall.ts';
import { captureFit, channelsMeet, compared, truthOf, type ComparedField } from '../settings.ts';
import { wallSize } from '../size.ts';
import { subject, wallRule } from '../wall-rule.ts';

export const fieldWords: Readonly<Record<ComparedField, string>> = {
  ...{
    width: 'width',
    height: 'height',
    scan: 'scan',
    colours: 'colour order',
    dataFrom: 'side of the data',
    chip: 'chip',
  },
};

/** What the set-up program and the player have, against the wall and the print on its panels (needs 10.6, 10.7 and 10.15). */
export const settings = wallRule<{
  wall_program_differs: { wall: string; field: string; there: string; own: string; profile: string };
  wall_player_differs: { wall: string; field: string; there: string; own: string };
  wall_capture_differs: { wall: string; there: string; own: string; how: string };
  wall_order_behind: { wall: string; order: string[] };
}>(
  {
    wall_program_differs: (f) => [
      `The set-up program of ${f.wall} has ${f.there} as its ${f.field}, and it is ${f.own}.`,
      f.profile === ''
        ? 'What is seen is wrong from there on.'
        : 'The profile overwrote it: it was made for another wall.',
      `Set it back to ${f.own}.`,
    ],
    wall_player_differs: (f) => [
      `The player of ${f.wall} has ${f.there} as its ${f.field}, and it is ${f.own}.`,
      'What it sends does not fit the wall.',
      `Set it to ${f.own} there too.`,
    ],
    wall_order_behind: (f) => [
      `The parts of ${f.wall} are numbered as somebody behind it sees them.`,
      `The audience sees them in the order ${f.order.join(', ')}: the picture is cut and put together wrongly.`,
      'Number them as the audience sees them.',
    ],
    wall_capture_differs: (f) => [
      `${f.there} of the desktop is sent to ${f.wall}, which is ${f.own}.`,
      f.how === 'scaled' ? 'Every pixel is smeared over its neighbours.' : 'A part is cut off, or stays dark.',
      'Capture exactly as much as the wall has.',
    ],
  },
  (found, show) =>
    knownWalls(show).flatMap(({ wall, panel }): Finding[] => {
      const of = [subject(wall.id)];
      const truth = truthOf(wall, panel);
      const { width, height } = wallSize(wall, panel);
      const fit = wall.captured && captureFit(wall.captured, { width, height });
      const size = { width, height };
      return [
        ...compared(wall, panel).flatMap(({ field, wall: own, program, profile, player, differs }) =>
          (['program', 'player'] as const).flatMap((who) => {
            if (!differs.includes(who)) return [];
            const there = (who === 'program' ? program : player) ?? '';
            const fix = fixWith(
              `Set it to ${own}`,
              planWall(wall, fieldWords[field], { [who]: { ...wall[who], [field]: truth[field] } }),
            );
            const facts = { wall: wall.name, field: fieldWords[field], there, own };
            const one =
              who === 'program'
                ? found('wall_program_differs', 'stops', of, { ...facts, profile: profile === there ? 'yes' : '' }, [
                    fix,
                  ])
                : found('wall_player_differs', 'stops', of, facts, [fix]);
            return [keyed(one, wall.id, field)];
          }),
        ),
        ...(wall.numberedFrom === 'back' && wall.parts.length > 1
          ? [
              found(
                'wall_order_behind',
                'stops',
                of,
                { wall: wall.name, order: mirrored(wall.parts).map(({ output }) => String(output)) },
                [fixWith('Number them from the front', planWall(wall, 'numbering', { numberedFrom: 'front' }))],
              ),
            ]
          : []),
        ...(wall.captured && fit && fit !== 'equal'
          ? [
              found(
                'wall_capture_differs',
                fit === 'scaled' ? 'risky' : 'stops',
                of,
                {
                  ...{
                    wall: wall.name,
                    there: `${wall.captured.width} x ${wall.captured.height}`,
                    own: `${width} x ${height}`,
                  },
                  how: fit,
                },
                [
                  fixWith(
                    'Capture the size of the wall',
                    planWall(wall, 'captured part', { captured: { ...wall.captured, ...size } }),
                  ),
                ],
              ),
            ]
          : []),
      ];
    }),
);

/** A loop that is cabled and not switched on (need 10.12), what is not stored (10.10), and channels of two walls that meet (C79). */
export const kept = wallRule<{
  wall_loop_off: { wall: string };
  wall_not_stored: { wall: string };
  wall_channels_meet: { names: string[] };
}>(
  {
    wall_loop_off: (f) => [
      `${f.wall} is to have a loop, which is not switched on in the show file.`,
      'One cut leaves a part dark, whatever is plugged in.',
      'Switch it on there as well.',
    ],
    wall_not_stored: (f) => [
      `What is set for ${f.wall} is not stored in its receivers.`,
      'After the next power cut it is gone.',
      'Store it once the picture is right.',
    ],
    wall_channels_meet: (f) => [
      `${f.names.join(' and ')} are sent on the same data channels.`,
      'Each shows a part of what is meant for the other.',
      'Begin one of them behind the last channel of the other.',
    ],
  },
  (found, show) => {
    const walls = knownWalls(show);
    return [
      ...walls.flatMap(({ wall }): Finding[] => [
        ...(wall.loop && !wall.loopInFile
          ? [
              found('wall_loop_off', 'risky', [subject(wall.id)], { wall: wall.name }, [
                fixWith('It is switched on there', planWall(wall, 'loop in the show file', { loopInFile: true })),
              ]),
            ]
          : []),
        ...(wall.parts.length > 0 && !wall.stored
          ? [found('wall_not_stored', 'note', [subject(wall.id)], { wall: wall.name })]
          : []),
      ]),
      ...meeting(walls).map(([a, b]) =>
        found('wall_channels_meet', 'stops', [subject(a.wall.id), subject(b.wall.id)], {
          names: [a.wall.name, b.wall.name],
        }),
      ),
    ];
  },
);

function meeting(walls: readonly KnownWall[]): (readonly [KnownWall, KnownWall])[] {
  const stretch = ({ wall, panel }: KnownWall) =>
    wall.firstChannel && { from: wall.firstChannel, pixels: wallSize(wall, panel).litPixels };
  return walls.flatMap((a, at) =>
    walls.slice(at + 1).flatMap((b) => {
      const [own, other] = [stretch(a), stretch(b)];
      return own && other && channelsMeet(own, other) ? [[a, b] as const] : [];
    }),
  );
}
