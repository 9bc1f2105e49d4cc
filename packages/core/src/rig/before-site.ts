import {
  changeOf,
  groupBy,
  isComputer,
  rowsBy,
  rowsOf,
  updateRow,
  type Change,
  type Device,
  type DeviceType,
  type Show,
} from '../show/index.ts';
import { accessoryNeeds, converterNeeds } from './accessories.ts';
import { compareVersions } from './compare-versions.ts';
import { isCopyGood } from './copy-age.ts';
import { rigFacts, type RigFacts, type Typed } from './facts.ts';
import { powerOrder } from './power-order.ts';
import { seatCounts } from './seats.ts';
import { accountTexts, feedTexts } from './type-words.ts';

export type SiteSection = 'update' | 'pack' | 'licence' | 'install' | 'online' | 'access' | 'save' | 'papers' | 'power';

/**
 * One thing to do before the site. `device` carries the tick; things that are settled elsewhere (licences, packed
 * accessories) have none and say themselves whether they are done.
 */
export interface SiteItem {
  readonly key: string;
  readonly section: SiteSection;
  readonly text: string;
  readonly count: number;
  readonly device: Device | undefined;
  readonly done: boolean;
  /** The place in a section whose things are done one after the other. */
  readonly order?: number;
}

/**
 * The list before the site (needs 1.3, 1.4, 1.6, 1.7, 1.8, 1.11, 1.12, 1.13, 1.14, 1.16; C37, C40): what to update, pack, buy,
 * install, finish while there is internet, sign in to, save and have at hand. Sorted by section, then unit.
 */
export function beforeSite(show: Show, now = 0): SiteItem[] {
  const facts = rigFacts(show, now);
  return [
    ...updates(show, facts),
    ...packing(show, facts),
    ...licences(show, facts),
    ...facts.all.flatMap((item) => perUnit(show, facts, item)),
    ...papers(show, facts),
  ].sort(bySection);
}

const sections: readonly SiteSection[] = [
  'update',
  'pack',
  'licence',
  'install',
  'online',
  'access',
  'save',
  'papers',
  'power',
];
const bySection = (a: SiteItem, b: SiteItem): number =>
  sections.indexOf(a.section) - sections.indexOf(b.section) ||
  (a.order ?? 0) - (b.order ?? 0) ||
  (a.device?.name ?? '').localeCompare(b.device?.name ?? '', 'en-GB', { numeric: true }) ||
  (a.key < b.key ? -1 : 1);

const ticked = (device: Device, section: SiteSection, key: string, text: string): SiteItem => {
  const full = `${section}:${key}`.slice(0, 120);
  return { key: full, section, text, count: 1, device, done: device.done.includes(full) };
};

/**
 * Below the lowest version of a service or a function in use, or other than a partner that must have the same. The key
 * names the version, so that a new demand is open again. In the order of switching on: network gear first, while
 * nobody needs it, then what is controlled, then what controls, programs last, since they follow their processors.
 */
function updates(show: Show, facts: RigFacts): SiteItem[] {
  const stage = new Map(powerOrder(show).flatMap(({ devices }, at) => devices.map(({ id }) => [id, at] as const)));
  return facts.all
    .flatMap((item) => {
      const { device, type } = item;
      const wanted = [...lowestWanted(show, item), ...partnerWanted(facts, item)].reduce<string | undefined>(
        (best, next) => (best && compareVersions(best, next) !== -1 ? best : next),
        undefined,
      );
      if (!wanted) return [];
      if (!device.firmware)
        return [ticked(device, 'update', `read ${wanted}`, `read its version: ${wanted} or later is needed`)];
      if (compareVersions(device.firmware, wanted) !== -1) return [];
      const how = overNetwork(type) ? 'over the network, which must be up' : 'without the network';
      const text = `${device.firmware} to ${wanted} or later, ${how}, by the maker’s enclosed steps; it is gone for a while`;
      return [ticked(device, 'update', wanted, text)];
    })
    .sort((a, b) => (stage.get(a.device?.id ?? '') ?? 0) - (stage.get(b.device?.id ?? '') ?? 0))
    .map((item, at) => ({ ...item, order: at }));
}

/** A service that is switched off asks for nothing. */
const lowestWanted = (show: Show, { device, type }: Typed): string[] => [
  ...(rowsBy(show, 'services', 'deviceId').get(device.id) ?? []).flatMap(({ key, enabled }) =>
    enabled ? (type.services.find((service) => service.key === key)?.lowestFirmware ?? []) : [],
  ),
  ...type.features.flatMap(({ key, lowest }) => (lowest && device.features.includes(key) ? [lowest] : [])),
];

/**
 * The versions of partners, whichever of the two names the other: whoever is below the highest follows. Where the first
 * figure counts, that is all that is asked for.
 */
function partnerWanted({ byModel, all }: RigFacts, { type }: Typed): string[] {
  const named = type.matches.flatMap(({ model, rule }) =>
    (byModel.get(model) ?? []).map(({ device }) => ({ device, rule })),
  );
  const naming = all.flatMap(({ device, type: other }) =>
    other.matches.flatMap(({ model, rule }) => (model === type.model ? [{ device, rule }] : [])),
  );
  return [...named, ...naming].flatMap(({ device: { firmware }, rule }) => {
    if (firmware === null) return [];
    const [, first] = /^\s*v?(\d+)/i.exec(firmware) ?? [];
    return rule === 'equal' ? [firmware] : first === undefined ? [] : [first];
  });
}

function packing(show: Show, facts: RigFacts): SiteItem[] {
  const accessories = accessoryNeeds(show, facts).map(({ item: { device }, accessory, packed }): SiteItem => ({
    key: `pack:${device.id}:${accessory.key}`,
    section: 'pack',
    text: accessory.label,
    count: accessory.count,
    device,
    done: packed,
  }));
  const converters = converterNeeds(show).flatMap(({ cable, from, to, count }) => {
    const device = show.devices[cable.fromDevice];
    const far = show.devices[cable.toDevice]?.name ?? '';
    const text = `converter ${from} to ${to}, towards ${far}${count > 1 ? ', one at each end' : ''}`;
    return device ? [{ ...ticked(device, 'pack', `converter ${cable.id}`, text), count }] : [];
  });
  const supplies = facts.all.flatMap(({ device, type }) => {
    const chosen = type.power.find(({ feed }) => feed === device.feed) ?? type.power[0];
    if (!chosen || chosen.feed === 'mains' || chosen.feed === 'poe') return [];
    const note = chosen.note ? `, ${chosen.note}` : '';
    return [ticked(device, 'pack', `power ${chosen.feed}`, `${feedTexts[chosen.feed]}${note}`)];
  });
  return [...accessories, ...converters, ...supplies];
}

const licences = (show: Show, facts: RigFacts): SiteItem[] =>
  seatCounts(show, facts)
    .filter(({ needed }) => needed > 0)
    .map(({ type, bundle, needed, owned }) => ({
      key: `licence:${type.model}:${bundle.key}`,
      section: 'licence',
      text: `${bundle.label} for ${type.name}: ${owned} of ${needed} owned${freeOf(type)}`,
      count: needed,
      device: undefined,
      done: owned >= needed,
    }));

/** What a type does without any licence. */
function freeOf({ features }: DeviceType): string {
  const free = features.filter(({ bundle }) => bundle === null).map(({ label }) => label);
  return free.length > 0 ? `; without one: ${free.join(', ')}` : '';
}

/** Its settings are reached over the network, so its update is too. */
const overNetwork = ({ ways }: DeviceType): boolean => ways.some(({ way }) => way === 'web' || way === 'program');

/** Which links need what is installed beside a unit (need 1.6). */
function linksOf(show: Show, { linksFrom, linksTo }: RigFacts, { id }: Device): string {
  const names = [
    ...(linksFrom.get(id) ?? []).map(({ targetId }) => `to ${show.devices[targetId]?.name ?? ''}`),
    ...(linksTo.get(id) ?? []).map(({ controllerId }) => `from ${show.devices[controllerId]?.name ?? ''}`),
  ];
  const few = [...new Set(names)].slice(0, 3);
  const more = new Set(names).size - few.length;
  return few.length === 0 ? '' : ` (link ${few.join(', ')}${more > 0 ? ` and ${more} more` : ''})`;
}

function perUnit(show: Show, facts: RigFacts, { device, type }: Typed): SiteItem[] {
  const computer = device.runsOn === null ? device : (show.devices[device.runsOn] ?? device);
  const helpers = type.helpers.filter(
    ({ system }) => system === null || computer.system === null || system === computer.system,
  );
  const restarts = type.commits.some(({ of }) => of === 'install');
  const before = type.erases.length > 0 ? [`a copy of ${type.erases.join(' and ')}`] : [];
  return [
    ...helpers.map(({ label, purpose }) =>
      ticked(device, 'install', label, `${label}: ${purpose}${linksOf(show, facts, device)}`),
    ),
    ...(type.form === 'program'
      ? [ticked(device, 'install', 'allow', `start it once on ${computer.name} and allow what the system asks`)]
      : []),
    ...(restarts ? [ticked(device, 'install', 'restart', `restart ${computer.name} after installing it`)] : []),
    ...type.online.map((text) => ticked(device, 'online', text, text)),
    ...accountsWanted(device, type),
    ...before.map((text): SiteItem => ({
      key: `save:${device.id}`,
      section: 'save',
      text,
      count: 1,
      device,
      done: isCopyGood(device.savedOn, facts.now),
    })),
  ];
}

/** Accounts that somebody must have at hand; each counts as done when it is written down with who keeps its password. */
const accountsWanted = (device: Device, type: DeviceType): SiteItem[] =>
  (
    [
      ['administrator', type.factory.login === 'create'],
      ['system', isComputer(type)],
    ] as const
  ).flatMap(([use, isWanted]): SiteItem[] => {
    const known = device.accounts.find((account) => account.use === use);
    if (!isWanted && !known) return [];
    const who = known ? `${known.account}${known.keeper ? `, ${known.keeper} knows the password` : ''}` : 'who has it?';
    return [
      {
        key: `access:${device.id}:${use}`,
        section: 'access',
        text: `${accountTexts[use]}: ${who}`,
        count: 1,
        device,
        done: known !== undefined && known.keeper !== '',
      },
    ];
  });

/** One copy serves all units of a type: the tick stands on the first. */
const papers = (show: Show, { byModel }: RigFacts): SiteItem[] => {
  const kept = groupBy(rowsOf(show, 'documents'), ({ model }) => model ?? '');
  return [...byModel.values()].flatMap(([first]) => {
    if (!first) return [];
    const { device, type } = first;
    const titles = (kept.get(type.model) ?? []).map(({ title }) => title);
    const note = titles.length > 0 ? `; kept with the show: ${titles.join(', ')}` : '';
    return type.papers.map((text) => ({
      ...ticked(device, 'papers', text, `${text} (${type.name}${note})`),
      ...(titles.includes(text) ? { done: true } : {}),
    }));
  });
};

/** A unit in the order of switching on, to be ticked when it is up (need 1.12). */
export const powerItem = (device: Device): SiteItem => ticked(device, 'power', 'up', `${device.name} is up`);

/** Ticks an item or takes the tick back. An accessory is packed by it, a copy is dated `today` (2026-11-25). */
export function planTick(item: SiteItem, today: string): Change | undefined {
  const { device, key, section, done } = item;
  if (!device || section === 'access') return undefined;
  const [, , accessory] = key.split(':');
  const label = `${done ? 'Open again' : 'Done'}: ${item.text}`.slice(0, 120);
  if (section === 'save') return changeOf(label, [updateRow('devices', device, { savedOn: done ? null : today })]);
  if (key.startsWith('pack:') && accessory !== undefined) {
    const packed = done ? device.packed.filter((own) => own !== accessory) : [...device.packed, accessory];
    return changeOf(label, [updateRow('devices', device, { packed })]);
  }
  const list = done ? device.done.filter((own) => own !== key) : [...device.done, key];
  return changeOf(label, [updateRow('devices', device, { done: list })]);
}
