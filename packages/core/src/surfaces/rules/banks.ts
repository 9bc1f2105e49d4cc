import { fixWith, groups, keyed, nameList } from '../../findings/index.ts';
import { planBareLink } from '../../links/index.ts';
import { changeOf, rowsBy, updateRow, type Bank, type Show } from '../../show/index.ts';
import { crowdingOf, rulerOf, rulerWith, type BankSpan, type Ruler, type Stretch } from '../banks.ts';
import { controlsOf } from '../controls.ts';
import { freeLinkId } from '../free-link-id.ts';
import { assignmentsOn, offerOf } from '../meanings.ts';
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

/** What banks are changed to, as a way out where the stretch that it is offered for is right afterwards. */
function wayOut(
  show: Show,
  { spans }: Ruler,
  label: string,
  stretch: Stretch,
  patchOf: (span: BankSpan) => Partial<Bank>,
) {
  const changed = spans.map((span) => ({ row: show.banks[span.bank.id] ?? span.bank, patch: patchOf(span) }));
  const after = rulerOf(
    show,
    changed.map(({ row, patch }) => ({ ...row, ...patch })),
    0,
  );
  const { overlaps, gaps } = after ? crowdingOf(after) : { overlaps: [], gaps: [] };
  if ([...overlaps, ...gaps].some(({ first }) => first === stretch.first)) return undefined;
  return fixWith(
    label,
    changeOf(
      label,
      changed.map(({ row, patch }) => updateRow('banks', row, patch)),
    ),
  );
}

const isOddIn = ({ odd }: BankSpan, { first, last }: Stretch): boolean => odd !== null && odd >= first && odd <= last;

/** Offsets that were typed go, so that each surface begins where the one before it ends; or an odd fader becomes a bus. */
const waysOut = (show: Show, ruler: Ruler, stretch: Stretch) => [
  wayOut(show, ruler, 'Make the odd fader a bus', stretch, (span) => (isOddIn(span, stretch) ? { odd: 'bus' } : {})),
  wayOut(show, ruler, 'Begin each where the one before it ends', stretch, () => ({ offset: null })),
];

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
      return [
        ...overlaps.map(({ bankIds, ...stretch }) => {
          const odd = ruler.spans.filter(
            ({ odd: own }) => own !== null && own >= stretch.first && own <= stretch.last,
          ).length;
          const facts = { mixer, channels: channels(stretch), surfaces: bankIds.map(nameOf), odd };
          return keyed(
            found('banks_overlap', 'risky', bankIds.map(subject), facts, waysOut(show, ruler, stretch)),
            ruler.target.id,
            stretch.first,
          );
        }),
        ...gaps.map((stretch) =>
          keyed(
            found('banks_gap', 'note', all, { mixer, channels: channels(stretch) }, waysOut(show, ruler, stretch)),
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

/** A surface over a mixer's channels without a link to it in the protocol that its faders speak. */
export const bankNoWay = surfaceRule<{ bank_no_way: { surface: string; mixer: string; service: string } }>(
  {
    bank_no_way: (f) => [
      `${f.surface} is to move channels of ${f.mixer}, and no link leads there by ${f.service}.`,
      'None of its faders does anything.',
      'Add the link: its port and entry come from what the mixer has.',
    ],
  },
  groups(overMixers, (found, banks, show) =>
    banks.flatMap((bank) => {
      const [surface, offer] = [show.devices[bank.deviceId], offerOf(show, bank)];
      const ways = rowsBy(show, 'links', 'controllerId').get(bank.deviceId) ?? [];
      const isThere = ways.some((link) => link.targetId === bank.targetId && link.serviceKey === bank.serviceKey);
      if (!surface || !offer || isThere) return [];
      const id = freeLinkId(show, `${surface.id}-${bank.targetId}-${bank.serviceKey}`);
      const { targetId, serviceKey } = bank;
      const change = planBareLink(show, { id, controllerId: surface.id, targetId, serviceKey, slot: null });
      const facts = { surface: surface.name, mixer: offer.target.name, service: offer.service.label };
      const fix = fixWith(`Let ${surface.name} control ${offer.target.name}`, change);
      return [found('bank_no_way', 'stops', [{ table: 'banks', id: bank.id }], facts, [fix])];
    }),
  ),
);
