import { show as core, wordsOf, type Analysis, type Show } from '@deep-patch/core';
import { whereOf } from '../findings/where-of.ts';
import { screens } from './screens.ts';

const entryKinds = ['Screens', 'Actions', 'Devices', 'Addresses', 'Ports', 'Links', 'Findings'] as const;

export interface Entry {
  readonly kind: (typeof entryKinds)[number];
  readonly label: string;
  /** Shown beside the label, and found by. */
  readonly more: string;
  /** Found by as well: other words for it, and what is written elsewhere. */
  readonly also: string;
  /** Where it is: the rest of the address of the show. */
  readonly path: string;
}

const mostShown = 60;

/** Everything of a show that can be gone to. */
export const entriesOf = (show: Show | undefined, analysis: Analysis | undefined): Entry[] => [
  ...screens.map(({ path, label, also }): Entry => ({ kind: 'Screens', label, more: '', also, path })),
  ...(show ? [...deviceEntries(show), ...portEntries(show), ...linkEntries(show)] : []),
  ...(analysis?.addressing.planned ?? [])
    .filter(({ address }) => address.ip !== null)
    .map(({ address, device, network }): Entry => ({
      kind: 'Addresses',
      label: address.ip ?? '',
      more: `${device.name}, ${network.name}`,
      also: '',
      path: `addresses/${network.id}/${address.id}`,
    })),
  ...(analysis?.findings ?? []).map((finding): Entry => ({
    kind: 'Findings',
    label: wordsOf(finding).what,
    more: '',
    also: wordsOf(finding).why,
    path: whereOf(show, finding),
  })),
];

function deviceEntries(show: Show): Entry[] {
  const macs = core.groupBy(core.rowsOf(show, 'interfaces'), ({ deviceId }) => deviceId);
  return core.devicesByName(show).map((device) => {
    const { id, name, place, serial, hostName, unit, note } = device;
    const own = (macs.get(id) ?? []).flatMap(({ mac }) => (mac ? [mac, bare(mac)] : []));
    const type = core.typeOf(show, device)?.name ?? '';
    return {
      kind: 'Devices',
      label: name,
      more: place,
      also: [type, serial, hostName, unit ?? '', note, ...own].join(' '),
      path: `rig/${id}`,
    };
  });
}

const portEntries = (show: Show): Entry[] =>
  core.rowsOf(show, 'services').flatMap(({ deviceId, key, receivePort, sendPort }) => {
    const device = show.devices[deviceId];
    const type = core.serviceTypeOf(show, device, key);
    if (!device || !type) return [];
    return [
      {
        kind: 'Ports' as const,
        label: `${type.protocol.toUpperCase()} ${receivePort}`,
        more: `${device.name}, ${type.label}`,
        also: `port service ${sendPort ?? ''}`,
        path: `rig/${deviceId}`,
      },
    ];
  });

const linkEntries = (show: Show): Entry[] =>
  core.rowsOf(show, 'links').map(({ id, controllerId, targetId, port, slot }) => ({
    kind: 'Links',
    label: `${show.devices[controllerId]?.name ?? ''} to ${show.devices[targetId]?.name ?? ''}`,
    more: slot === null ? String(port) : `slot ${slot}`,
    also: 'link control connection',
    path: `links/${id}`,
  }));

/** Letters and figures alone: a MAC is written with colons, strokes, points or nothing between. */
const bare = (text: string): string => text.toLowerCase().replace(/[:.\-\s]/g, '');
const looksLikeMac = (word: string): boolean =>
  /^([0-9a-f]{2}[:-]){2,5}[0-9a-f]{0,2}$|^[0-9a-f]{4}\.[0-9a-f.]+$/.test(word);

/** What has every word that was typed; what has them in its name comes first. */
export function matching<E extends Pick<Entry, 'label' | 'more' | 'also'>>(all: readonly E[], typed: string): E[] {
  const words = typed
    .toLowerCase()
    .split(/\s+/)
    .filter(Boolean)
    .map((word) => (looksLikeMac(word) ? bare(word) : word));
  const has = (text: string) => words.every((word) => text.toLowerCase().includes(word));
  const named = all.filter(({ label }) => has(label));
  const others = all.filter((entry) => !has(entry.label) && has(`${entry.label} ${entry.more} ${entry.also}`));
  return [...named, ...others].slice(0, mostShown);
}
