import { show, type Show } from '@deep-patch/core';

type Content<T extends keyof Show & show.TableName> = show.Content<T>;
const { filledRow } = show;

/** What the cuts of the final start, and what is left when they go. */
export const inputRules: Content<'inputRules'>[] = [
  filledRow('inputRules', {
    id: 'rule-5',
    switcherId: 'switcher',
    input: 5,
    leaves: 'next',
    offers: 'fixed',
    list: 'Sailors',
  }),
  filledRow('inputRules', { id: 'rule-7', switcherId: 'switcher', input: 7, leaves: 'hold' }),
];

const clip = (deviceId: string, list: string, place: number, name: string, seconds: number, more: object = {}) =>
  filledRow('clips', {
    id: `${deviceId}-${list.toLowerCase()}-${place}`,
    ...{ deviceId, list, place, name, seconds },
    form: { container: 'MPEG-4', codec: 'H.264', width: 1920, height: 1080, fps: 25 },
    ...more,
  });
const title = (at: number, text: string) => ({ at, text, lasts: 5 });

export const clips: Content<'clips'>[] = [
  clip('deck-a', 'Sailors', 0, 'lindquist.mp4', 42, {
    title: 'Rosa Lindquist',
    actions: [title(2, 'Rosa Lindquist, helm')],
  }),
  clip('deck-a', 'Sailors', 1, 'okafor.mp4', 38, { title: 'Bram Okafor', actions: [title(2, 'Bram Okafor, trim')] }),
  clip('deck-a', 'Sailors', 2, 'duarte.mp4', 40, {
    title: 'Ines Duarte',
    actions: [title(2, 'Ines Duarte, tactics'), title(38, 'Team Northquay')],
  }),
  clip('deck-a', 'Harbour', 0, 'harbour-dawn.mov', 95, {
    form: { container: 'QuickTime', codec: 'VC-3', width: 3840, height: 2160, fps: 25 },
  }),
  clip('deck-b', 'Breaks', 0, 'break-1.mp4', 120),
  clip('deck-b', 'Breaks', 1, 'break-2.mp4', 120),
  clip('deck-b', 'Ceremony', 0, 'anthem.mp4', 74),
  clip('deck-b', 'Ceremony', 1, 'fireworks.mov', 30, {
    form: { container: 'QuickTime', codec: 'AV1', width: 3840, height: 2160, fps: 50 },
  }),
];

/** One letter of a name differs, as it happens: nobody sees a capital from two metres. */
export const timeHops: Content<'timeHops'>[] = [
  filledRow('timeHops', {
    id: 'clock-to-media',
    fromId: 'timecode',
    toId: 'media',
    format: 'network_midi',
    says: 'Quay clock',
    hears: 'Quay Clock',
  }),
  filledRow('timeHops', {
    id: 'clock-to-desk',
    fromId: 'timecode',
    toId: 'desk',
    format: 'network_midi',
    says: 'Quay clock',
    hears: 'Quay clock',
  }),
];
