import { finding } from '../../findings/index.ts';
import { groupBy, rowsOf, typeOf, type Show } from '../../show/index.ts';
import type { RigFacts } from '../facts.ts';

/** Feeds that a unit does not have, power over a cable that leads to no switch, and units that live on a battery (need 1.12). */
export function powerFeeds(show: Show, facts: RigFacts) {
  const ends = rowsOf(show, 'cables').flatMap((cable) => [
    { own: cable.fromDevice, far: cable.toDevice, medium: cable.medium },
    { own: cable.toDevice, far: cable.fromDevice, medium: cable.medium },
  ]);
  const plugs = groupBy(ends, ({ own }) => own);
  const hasFeed = (id: string) =>
    plugs.get(id)?.some(({ far, medium }) => medium === 'copper' && typeOf(show, show.devices[far])?.forwards) ?? false;
  return facts.all.flatMap(({ device, type }) => {
    const code = faultOf(device.feed, type.power, hasFeed(device.id));
    if (!code) return [];
    const subject = { table: 'devices' as const, id: device.id };
    const details = { name: device.name, feed: device.feed ?? '', offers: type.power.map(({ feed }) => feed) };
    return [finding('rig', code, code === 'on_battery' ? 'note' : 'risky', [subject], details)];
  });
}

function faultOf(feed: string | null, offers: readonly { feed: string }[], fedByCable: boolean) {
  if (feed === null) return undefined;
  if (offers.length > 0 && !offers.some((offer) => offer.feed === feed)) return 'feed_unfit' as const;
  if (feed === 'poe' && !fedByCable) return 'feed_no_switch' as const;
  return feed === 'battery' ? ('on_battery' as const) : undefined;
}
