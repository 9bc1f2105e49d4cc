import { cabling, type links, type show as core } from '@deep-patch/core';

/** What goes, as it is called: a run by both its ends, a unit by its name, a circuit by what is written on it. */
export function lossName(show: core.Show, { kind, id }: links.Lost): string {
  if (kind === 'unit') return show.devices[id]?.name ?? '';
  if (kind === 'circuit') return `circuit ${id}`;
  const cable = show.cables[id];
  return cable ? cabling.runWords(show, cable) : '';
}

export const lossKey = ({ kind, id }: links.Lost): string => `${kind} ${id}`;

/** A loss by its key, as it stands in the address of the page. */
export function lossOfKey(text: string | null): links.Lost | undefined {
  const [, kind, id] = /^(run|unit|circuit) (.+)$/.exec(text ?? '') ?? [];
  return kind === 'run' || kind === 'unit' || kind === 'circuit' ? { kind, id: id ?? '' } : undefined;
}

export function linkName(show: core.Show, linkId: string): string {
  const link = show.links[linkId];
  return link ? `${show.devices[link.controllerId]?.name} → ${show.devices[link.targetId]?.name}` : '';
}

export const mustHoldOf = (show: core.Show, stops: readonly string[]): number =>
  stops.filter((id) => show.links[id]?.mustHold).length;
