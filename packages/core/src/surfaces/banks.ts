import {
  byName,
  groupBy,
  rowsBy,
  rowsOf,
  serviceTypeOf,
  typeOf,
  type Bank,
  type Device,
  type Show,
} from '../show/index.ts';
import { controlsOf, type SurfaceControl } from './controls.ts';

/** Channels by number, both ends included. */
export interface Stretch {
  readonly first: number;
  readonly last: number;
}

/** One surface over the channels of a mixer, on the layer that it shows (C56). */
export interface BankSpan extends Stretch {
  readonly bank: Bank;
  readonly surface: Device;
  readonly strips: number;
  /** Strips before it: those of the surfaces before it in their order, unless somebody said another number. */
  readonly offset: number;
  /** The channel of its odd fader (C57); null where that is none. */
  readonly odd: number | null;
  /** The last channel that its command takes; null where there is no end. */
  readonly channels: number | null;
}

/** All surfaces over one mixer. */
export interface Ruler {
  readonly target: Device;
  /** The last channel that any of them takes; null where there is no end. */
  readonly channels: number | null;
  /** How far one layer is from the next. */
  readonly perLayer: number;
  readonly layers: number;
  readonly spans: readonly BankSpan[];
}

/** What is wrong with the spans of one layer. */
export interface Crowding {
  readonly overlaps: readonly (Stretch & { readonly bankIds: readonly string[] })[];
  readonly gaps: readonly Stretch[];
  readonly beyond: readonly (Stretch & { readonly bankId: string })[];
}

export const stripsOf = (controls: readonly SurfaceControl[]): number =>
  Math.max(0, ...controls.map(({ strip }) => strip ?? 0));

/** Surfaces over mixers at a layer, mixers by name. */
export function rulersOf(show: Show, layer = 0): Ruler[] {
  return [...groupBy(rowsOf(show, 'banks'), ({ targetId }) => targetId)]
    .flatMap(([, banks]) => rulerOf(show, banks, layer) ?? [])
    .sort((a, b) => byName(a.target, b.target));
}

/** The ruler that a bank is part of. */
export function rulerWith(show: Show, bank: Bank, layer: number): Ruler | undefined {
  return rulerOf(show, rowsBy(show, 'banks', 'targetId').get(bank.targetId) ?? [], layer);
}

/** The ruler of banks over one mixer; of banks as they might be, too. */
export function rulerOf(show: Show, banks: readonly Bank[], layer: number): Ruler | undefined {
  const [first] = banks;
  const target = show.devices[first?.targetId ?? ''];
  if (!first || !target) return undefined;
  const inOrder = [...banks].sort((a, b) => a.place - b.place || (a.id < b.id ? -1 : 1));
  const sized = inOrder.flatMap((bank) => {
    const surface = show.devices[bank.deviceId];
    return surface ? [{ bank, surface, strips: stripsOf(controlsOf(show, surface)) }] : [];
  });
  const perLayer = sized.reduce((sum, { strips }) => sum + strips, 0);
  let before = 0;
  const spans = sized.map(({ bank, surface, strips }): BankSpan => {
    const offset = bank.offset ?? before;
    before = offset + strips;
    const start = offset + layer * perLayer;
    return {
      bank,
      surface,
      strips,
      offset,
      first: start + 1,
      last: start + strips,
      odd: oddChannel(bank, offset, strips, start),
      channels: channelsOf(show, target, bank),
    };
  });
  return {
    ...{ target, perLayer, spans },
    channels: spans.some(({ channels }) => channels === null)
      ? null
      : Math.max(...spans.map((span) => span.channels ?? 0)),
    layers: Math.max(1, ...sized.map(({ surface }) => typeOf(show, surface)?.layers ?? 1)),
  };
}

/** One more channel behind the last strip; a fixed one stays whatever the layer shows (needs 8.14 and 8.15). */
function oddChannel({ odd }: Bank, offset: number, strips: number, start: number): number | null {
  if (odd === 'channel') return offset + strips + 1;
  return odd === 'channel_of_layer' ? start + strips + 1 : null;
}

/** The last channel that the command takes. */
function channelsOf(show: Show, target: Device, { serviceKey, command, channel }: Bank): number | null {
  const type = serviceTypeOf(show, target, serviceKey)?.commands.find(({ key }) => key === command);
  return type?.args.find(({ name }) => name === channel)?.max ?? null;
}

/** Channels that two surfaces move, that none moves between two that do, and that the mixer does not have. */
export function crowdingOf({ spans }: Ruler): Crowding {
  const holders = new Map<number, string[]>();
  const hold = (channel: number, bankId: string) =>
    void holders.set(channel, [...(holders.get(channel) ?? []), bankId]);
  for (const { bank, first, last, odd } of spans) {
    for (let channel = first; channel <= last; channel += 1) hold(channel, bank.id);
    if (odd !== null) hold(odd, bank.id);
  }
  const taken = [...holders.keys()].sort((a, b) => a - b);
  const [lowest = 1, highest = 0] = [taken[0], taken.at(-1)];
  const free = numbers(lowest, highest).filter((channel) => !holders.has(channel));
  const doubled = taken.filter((channel) => (holders.get(channel)?.length ?? 0) > 1);
  const idsIn = (stretch: Stretch) => [
    ...new Set(numbers(stretch.first, stretch.last).flatMap((channel) => holders.get(channel) ?? [])),
  ];
  return {
    overlaps: stretches(doubled).map((stretch) => ({ ...stretch, bankIds: idsIn(stretch) })),
    gaps: stretches(free),
    beyond: spans.flatMap(({ bank, first, last, odd, channels }) => {
      const own = numbers(first, Math.max(last, odd ?? 0)).filter(
        (channel) => channels !== null && channel > channels && (channel <= last || channel === odd),
      );
      return stretches(own).map((stretch) => ({ ...stretch, bankId: bank.id }));
    }),
  };
}

const numbers = (first: number, last: number): number[] =>
  Array.from({ length: Math.max(0, last - first + 1) }, (_, at) => first + at);

/** Rising numbers as stretches without a gap. */
function stretches(rising: readonly number[]): Stretch[] {
  const all: { first: number; last: number }[] = [];
  for (const number of rising) {
    const own = all.at(-1);
    if (own && number === own.last + 1) own.last = number;
    else all.push({ first: number, last: number });
  }
  return all;
}
