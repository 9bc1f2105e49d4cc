import { keyed, nameList } from '../../findings/index.ts';
import { airRule } from '../air-rule.ts';
import { linkedGroups } from '../linked.ts';

/** Linked machines that feed outputs side by side and do not play frame for frame together (need 9.12). */
export const together = airRule<{ not_frame_accurate: { names: string[]; from: string } }>(
  {
    not_frame_accurate: (f) => [
      `${nameList(f.names)} move together, and not frame for frame.`,
      'Moving pictures side by side are seen to be apart.',
      f.from === '' ? 'Play moving pictures from one of them.' : `Version ${f.from} and later do it.`,
    ],
  },
  (found, show) =>
    linkedGroups(show).flatMap(({ name, members, together: exact, togetherFrom }) => {
      const feeding = members.filter(({ feedsOutput, isLinked }) => feedsOutput && isLinked);
      if (exact !== 'no' || feeding.length < 2) return [];
      const subjects = feeding.map(({ device }) => ({ table: 'devices' as const, id: device.id }));
      const facts = { names: feeding.map(({ device }) => device.name), from: togetherFrom ?? '' };
      return [keyed(found('not_frame_accurate', 'note', subjects, facts), name)];
    }),
);
