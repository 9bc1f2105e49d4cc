import { each } from '../../findings/index.ts';
import { typeOf, type Device, type DeviceType, indexBy, type Show } from '../../show/index.ts';
import { rigRule } from '../rig-rule.ts';
import { feedTexts } from '../type-words.ts';

type Feed = NonNullable<Device['feed']>;
type Fed = { name: string; feed: Feed; offers: Feed[] };

/** Feeds that a unit does not have, power over a cable that leads to no switch, and units that live on a battery (need 1.12). */
export const powerFeeds = rigRule<{ feed_unfit: Fed; feed_no_switch: Fed; on_battery: Fed }>(
  {
    feed_unfit: (f) => [
      `${f.name} is to be fed by ${feedTexts[f.feed]}, which it does not take.`,
      `It takes ${f.offers.map((feed) => feedTexts[feed]).join(' or ')}.`,
      'Choose another feed.',
    ],
    feed_no_switch: (f) => [
      `${f.name} is to be fed over its network cable, which leads to no switch that can.`,
      'It stays dark.',
      'Plug it into a switch that feeds, or pack its supply.',
    ],
    on_battery: (f) => [
      `${f.name} lives on a battery.`,
      'It may go off during the show.',
      'Plan a change, or feed it otherwise.',
    ],
  },
  each(
    (_show, { units }) => units,
    (found, { device, type }, show) => {
      const { feed } = device;
      const code = feed && faultOf(feed, type.power, isFed(show, device.id));
      if (!code) return [];
      const subject = { table: 'devices' as const, id: device.id };
      const details = { name: device.name, feed, offers: type.power.map((offer) => offer.feed) };
      return [found(code, code === 'on_battery' ? 'note' : 'risky', [subject], details)];
    },
  ),
);

/** What each unit is joined to by copper. */
const copperEnds = indexBy('cables', ({ fromDevice, toDevice, medium }) =>
  medium === 'copper'
    ? [
        [fromDevice, toDevice],
        [toDevice, fromDevice],
      ]
    : [],
);

const isFed = (show: Show, id: string): boolean =>
  (copperEnds(show).get(id) ?? []).some((far) => typeOf(show, show.devices[far])?.feedsCables);

function faultOf(feed: Feed, offers: DeviceType['power'], fedByCable: boolean) {
  if (offers.length > 0 && !offers.some((offer) => offer.feed === feed)) return 'feed_unfit' as const;
  if (feed === 'poe' && !fedByCable) return 'feed_no_switch' as const;
  return feed === 'battery' ? ('on_battery' as const) : undefined;
}
