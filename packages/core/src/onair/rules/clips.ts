import { groups, keyed } from '../../findings/index.ts';
import { rowsBy } from '../../show/index.ts';
import { airRule } from '../air-rule.ts';
import { actionFaults, unplayable } from '../lists.ts';

/** Actions in a clip that come too late or too close (C66), and items that their player cannot play (need 9.9). */
export const clips = airRule<{
  action_beyond: { clip: string; at: string; seconds: string };
  action_runs_over: { clip: string; at: string; seconds: string };
  actions_close: { clip: string; at: string };
  clip_unplayable: { clip: string; player: string; reason: string };
}>(
  {
    action_beyond: (f) => [
      `Something is to come at ${f.at} in “${f.clip}”, which is ${f.seconds} long.`,
      'It never comes.',
      'Move it into the clip.',
    ],
    action_runs_over: (f) => [
      `What comes at ${f.at} in “${f.clip}” goes on beyond its end at ${f.seconds}.`,
      'It is cut off with the clip.',
      'Let it come earlier, or last shorter.',
    ],
    actions_close: (f) => [
      `What comes at ${f.at} in “${f.clip}” is followed before anybody has read it.`,
      'The later one replaces it.',
      'Leave a second between them at least.',
    ],
    clip_unplayable: (f) => [
      `${f.player} cannot play “${f.clip}”: ${f.reason}`,
      'The list stops there, or goes over it.',
      'Convert it, or give it to another player.',
    ],
  },
  groups(
    (show) => rowsBy(show, 'clips', 'deviceId'),
    (found, items, show) =>
      items.flatMap((clip) => {
        const player = show.devices[clip.deviceId];
        if (!player) return [];
        const subjects = [
          { table: 'clips' as const, id: clip.id },
          { table: 'devices' as const, id: player.id },
        ];
        const reason = unplayable(show, player, clip);
        const unplayed =
          reason === undefined
            ? []
            : [
                keyed(
                  found('clip_unplayable', 'risky', subjects, { clip: clip.name, player: player.name, reason }),
                  clip.id,
                ),
              ];
        const timed = actionFaults(clip).map(({ at, index, fault }) => {
          const facts = { clip: clip.name, at: secondsWords(at), seconds: secondsWords(clip.seconds ?? 0) };
          if (fault === 'too_close')
            return keyed(
              found('actions_close', 'note', subjects, { clip: clip.name, at: facts.at }),
              clip.id,
              `${at} ${index}`,
            );
          const code = fault === 'beyond_the_end' ? 'action_beyond' : 'action_runs_over';
          return keyed(
            found(code, fault === 'beyond_the_end' ? 'risky' : 'note', subjects, facts),
            clip.id,
            `${at} ${index}`,
          );
        });
        return [...unplayed, ...timed];
      }),
  ),
);

/** A time within a clip, such as 1:04.5. */
export function secondsWords(seconds: number): string {
  const tenths = Math.round(seconds * 10);
  const minutes = Math.floor(tenths / 600);
  const rest = (tenths - minutes * 600) / 10;
  const whole = Number.isInteger(rest) ? String(rest) : rest.toFixed(1);
  return `${minutes}:${whole.padStart(Number.isInteger(rest) ? 2 : 4, '0')}`;
}
