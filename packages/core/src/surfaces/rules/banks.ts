import { fixWith, groups, keyed, nameList } from '../../findings/index.ts';
import { changeOf, rowsBy, updateRow, type Bank, type Show } from '../../show/index.ts';
import { crowdingOf, rulerWith, type Ruler, type Stretch } from '../banks.ts';
import { controlsOf } from '../controls.ts';
import { assignmentsOn } from '../meanings.ts';
import { surfaceRule } from '../surface-rule.ts';

const overMixers = (show: Show) => rowsBy(show, 'banks', 'targetId');
const channels = ({ first, last }: Stretch): string =>
  first === last ? `channel ${first}` : `channels ${first} to ${last}`;

/** One ruler for each command of a mixer that banks drive. */
function rulers(show: Show, banks: readonly Bank[], layer = 0): Ruler[] {
  const byKey = new Map<string, Ruler>();
  for (const bank of banks) {
    const ruler = rulerWith(show, bank, layer);
    if (ruler) byKey.set(ruler.target.id, ruler);
  }
  return [...byKey.values()];
}

/** Offsets that were typed go, so that each surface begins where the one before it ends. */
const inOrder = (show: Show, { spans }: Ruler) =>
  changeOf(
    'Begin each surface where the one before it ends',
    spans.map(({ bank }) => updateRow('banks', show.banks[bank.id] ?? bank, { offset: null })),
  );

/** Surfaces that move the same channel, channels between them that none moves, and channels that the mixer lacks (C56, C57). */
export const bankCrowding = surfaceRule<{
  banks_overlap: { mixer: string; channels: string; surfaces: string[]; odd: number };
  banks_gap: { mixer: string; channels: string };
  banks_beyond: { mixer: string; channels: string; surface: string; last: number };
}>(
  {
    banks_overlap: (f) => [
      `${f.channels} of ${f.mixer} ${f.surfaces.length > 1 ? `are on ${nameList(f.surfaces)}` : 'are twice on one surface'}.`,
      f.odd > 0
        ? 'The odd fader of one is the channel behind its last strip, which is the first strip of the next.'
        : 'Two faders move one channel, and each undoes the other.',
      f.odd > 0
        ? 'Make the odd fader a bus, or leave a channel between them.'
        : 'Begin each where the one before it ends.',
    ],
    banks_gap: (f) => [
      `No surface moves ${f.channels} of ${f.mixer}.`,
      'They lie between two surfaces: whoever counts through arrives at the wrong fader.',
      'Begin each surface where the one before it ends, if that is not meant.',
    ],
    banks_beyond: (f) => [
      `${f.surface} reaches to ${f.channels}, and ${f.mixer} ends at ${f.last}.`,
      'Those faders do nothing.',
      'Nothing to do if they may stay free.',
    ],
  },
  groups(overMixers, (found, banks, show) =>
    rulers(show, banks).flatMap((ruler) => {
      const { overlaps, gaps, beyond } = crowdingOf(ruler);
      const mixer = ruler.target.name;
      const nameOf = (id: string) => ruler.spans.find(({ bank }) => bank.id === id)?.surface.name ?? '';
      const subject = (id: string) => ({ table: 'banks' as const, id });
      const all = ruler.spans.map(({ bank }) => subject(bank.id));
      const isTyped = ruler.spans.some(({ bank }) => bank.offset !== null);
      const fixes = isTyped ? [fixWith('Begin each where the one before it ends', inOrder(show, ruler))] : [];
      return [
        ...overlaps.map(({ bankIds, ...stretch }) => {
          const odd = ruler.spans.filter(
            ({ odd: own }) => own !== null && own >= stretch.first && own <= stretch.last,
          ).length;
          const facts = { mixer, channels: channels(stretch), surfaces: bankIds.map(nameOf), odd };
          return keyed(
            found('banks_overlap', 'risky', bankIds.map(subject), facts, fixes),
            ruler.target.id,
            stretch.first,
          );
        }),
        ...gaps.map((stretch) =>
          keyed(
            found('banks_gap', 'note', all, { mixer, channels: channels(stretch) }, fixes),
            ruler.target.id,
            stretch.first,
          ),
        ),
        ...beyond.map(({ bankId, ...stretch }) => {
          const facts = {
            mixer,
            channels: channels(stretch),
            surface: nameOf(bankId),
            last: ruler.spans.find(({ bank }) => bank.id === bankId)?.channels ?? 0,
          };
          return keyed(found('banks_beyond', 'note', [subject(bankId)], facts), bankId, stretch.first);
        }),
      ];
    }),
  ),
);

/** The odd fader does nothing until it is assigned, on each surface anew (need 8.14). */
export const oddFader = surfaceRule<{ odd_unassigned: { surface: string; control: string } }>(
  {
    odd_unassigned: (f) => [
      `${f.control} of ${f.surface} does nothing yet.`,
      'It is assigned on each surface anew.',
      'Give it a bus, or make it one more channel.',
    ],
  },
  groups(overMixers, (found, banks, show) =>
    banks.flatMap((bank) => {
      const surface = show.devices[bank.deviceId];
      const odd = surface && controlsOf(show, surface).find((control) => control.odd);
      if (!surface || !odd || bank.odd === 'channel' || bank.odd === 'channel_of_layer') return [];
      if (assignmentsOn(show, surface.id, odd.key).length > 0) return [];
      const facts = { surface: surface.name, control: odd.label };
      return [found('odd_unassigned', 'note', [{ table: 'banks', id: bank.id }], facts)];
    }),
  ),
);
