import { each, fixWith, keyed, type Finding } from '../../findings/index.ts';
import { changeOf, updateRow } from '../../show/index.ts';
import { switchersById } from '../../cabling/index.ts';
import { airRule } from '../air-rule.ts';
import { airInputsOf, listsOf, planRule, type AirInput } from '../inputs.ts';
import { measuredTakes } from '../measured.ts';
import { settingOf, takeDelay } from '../take-delay.ts';
import { pictureRate } from '../what-happens.ts';

const subjects = ({ switcher, player }: AirInput) =>
  [switcher, ...(player ? [player] : [])].map(({ id }) => ({ table: 'devices' as const, id }));

/** A take delay that is shorter than what takes needed when they were tried (need 9.5). */
export const delayShort = airRule<{
  take_delay_short: { input: number; player: string; set: number; needed: number; frozen: number; takes: number };
}>(
  {
    take_delay_short: (f) => [
      `${f.frozen} of ${f.takes} takes of input ${f.input} showed a frozen first frame: the take delay is ${frames(f.set)}.`,
      `${f.player} moves after ${frames(f.needed)} at the latest.`,
      `Set it to ${frames(f.needed)}, or bring the order there faster.`,
    ],
  },
  each(switchersById, (found, switcher, show) =>
    airInputsOf(show, switcher).flatMap((input) => {
      const { player, rule, number } = input;
      if (!player || rule.goes !== 'with_cut') return [];
      const takes = measuredTakes(show, input);
      const rate = pictureRate(switcher.rate);
      const delay = takeDelay(takes, rate);
      const set = switcher.takeDelay ?? 0;
      const frozen = settingOf(takes, set, rate).frozen;
      if (!delay || frozen === 0) return [];
      const facts = { input: number, player: player.name, set, needed: delay.frames, frozen, takes: delay.takes };
      const change = changeOf(`Take delay of ${frames(delay.frames)}`, [
        updateRow('devices', switcher, { takeDelay: delay.frames }),
      ]);
      const fix = fixWith(`Set the take delay to ${frames(delay.frames)}`, change);
      return [keyed(found('take_delay_short', 'risky', subjects(input), facts, [fix]), switcher.id, String(number))];
    }),
  ),
);

const frames = (count: number): string => (count === 1 ? '1 frame' : count === 0 ? 'none' : `${count} frames`);

/** Which list a switcher is offered (need 9.4): a fixed one that is not there, or whichever somebody clicks. */
export const offers = airRule<{
  list_unknown: { input: number; player: string; list: string };
  list_follows_selection: { input: number; player: string; lists: number };
}>(
  {
    list_unknown: (f) => [
      `Input ${f.input} is to offer the list “${f.list}”, and ${f.player} has none of that name.`,
      'The switcher is offered nothing, and taking the input starts nothing.',
      'Choose one of its lists.',
    ],
    list_follows_selection: (f) => [
      `${f.player} offers the list that is selected.`,
      `Whoever clicks another of its ${f.lists} lists there changes what input ${f.input} plays.`,
      'Fix the list, or keep hands off it.',
    ],
  },
  each(switchersById, (found, switcher, show) =>
    airInputsOf(show, switcher).flatMap((input): Finding[] => {
      const { player, rule, number } = input;
      if (!player || rule.goes === 'nothing') return [];
      const lists = [...listsOf(show, player.id).keys()];
      const place = { switcherId: switcher.id, input: number, id: `rule-${switcher.id}-${number}`.slice(0, 40) };
      const first = lists[0] ?? '';
      if (rule.offers === 'fixed' && !lists.includes(rule.list)) {
        const fix = first === '' ? undefined : fixWith(`Offer “${first}”`, planRule(show, place, { list: first }));
        const facts = { input: number, player: player.name, list: rule.list };
        return [keyed(found('list_unknown', 'stops', subjects(input), facts, [fix]), switcher.id, String(number))];
      }
      if (rule.offers !== 'selected' || lists.length < 2) return [];
      const facts = { input: number, player: player.name, lists: lists.length };
      const fix = fixWith(`Always offer “${first}”`, planRule(show, place, { offers: 'fixed', list: first }));
      return [
        keyed(found('list_follows_selection', 'risky', subjects(input), facts, [fix]), switcher.id, String(number)),
      ];
    }),
  ),
);
