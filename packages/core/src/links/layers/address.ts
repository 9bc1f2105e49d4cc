import {
  apartFix,
  contains,
  fixAddresses,
  formatIp,
  likelySlip,
  moveFix,
  mustIp,
  subnetOf,
  type Planned,
} from '../../addressing/index.ts';
import { fixWith } from '../../findings/index.ts';
import { changeOf, updateRow } from '../../show/index.ts';
import type { Ends } from '../ends.ts';
import { isLoopback } from '../entry.ts';
import { isHost, type Held } from '../paths/held.ts';
import type { Walk } from '../paths/walk.ts';
import { addressSays, type Passes, type Stops } from './address-words.ts';
import { layerOf, type Verdicts } from '../layer.ts';

type Say = Verdicts<Passes, Stops>;
type Verdict = ReturnType<Say['fail']>;

/** Would a packet to the entered address reach the target, and its answer come back (C5, C6, C14)? */
export const address = layerOf<Passes, Stops>(addressSays, (ends, say) => {
  const { link, aim, there, back, from, to, sameMachine } = ends;
  if (sameMachine) return onOneMachine(ends, say);
  if (link.host !== null && isLoopback(mustIp(link.host))) return loopbackElsewhere(ends, say);
  const [controller, target] = [ends.controller.name, ends.target.name];
  const facts = { controller, target, left: shown(from.planned), right: shown(to.planned) };
  if (aim === undefined) return noEntry(ends, say, facts);
  if (!there || (there.lost?.why === 'no_address' && there.lost.machineId === from.machine?.id))
    return nothingHeld(ends, say, facts);
  if (there.arrivedAt !== undefined && there.arrivedAt !== to.machine?.id) return elsewhere(ends, say, facts);
  const twin = twinOf(ends, there.source);
  const lost = there.lost ?? back?.lost;
  if (lost?.why === 'two_owners') return twice(ends, say, facts, lost.owners);
  if (twin.length > 0) return twice(ends, say, facts, twin);
  if (lost) return lostOnTheWay(ends, say, facts, lost, there.lost !== undefined);
  if (back?.arrivedAt !== from.machine?.id) return say.fail('answer_elsewhere', facts);
  if (there.chance || back?.chance) return say.risky('depends_on_lease', facts);
  const router = there.routers[0] ?? (there.byGateway ? there.arrivedAt : undefined);
  if (router !== undefined)
    return say.pass('by_router', { ...facts, router: ends.show.devices[router]?.name ?? router });
  return say.pass('on_link', facts);
});

type Facts = Stops['not_placed'];
const namesOf = ({ controller, target }: Ends) => ({ controller: controller.name, target: target.name });
const shown = (item: Planned | undefined): string => (item?.ip == null ? '' : `${formatIp(item.ip)} /${item.prefix}`);

/** Loopback or the machine's own address reach it; any other leads away (C14). */
function onOneMachine(ends: Ends, say: Say): Verdict {
  const { link, aim, there, to, controller } = ends;
  const host = link.host ?? formatIp(aim ?? 0);
  const facts = { ...namesOf(ends), left: '127.0.0.1', right: host, entered: host };
  // a program that no computer runs has nothing but loopback
  const stays =
    aim !== undefined && (isLoopback(aim) || (to.machine !== undefined && there?.arrivedAt === to.machine.id));
  if (stays && isLoopback(aim)) return say.pass('same_machine', facts);
  if (stays && there?.source === undefined) return say.pass('own_address', facts);
  const change = changeOf(`Aim ${controller.name} at its own machine`, [updateRow('links', link, { host: null })]);
  return say.fail('aims_away', facts, [
    link.host === null ? undefined : fixWith('Use the machine’s own address', change),
  ]);
}

function loopbackElsewhere(ends: Ends, say: Say): Verdict {
  const { link, to, target, controller } = ends;
  const ip = to.planned?.ip == null ? '' : formatIp(to.planned.ip);
  const change = changeOf(`Aim ${controller.name} at ${target.name}`, [updateRow('links', link, { host: null })]);
  const facts = { ...namesOf(ends), left: link.host ?? '', right: ip, ip, entered: link.host ?? '' };
  return say.fail('loopback_elsewhere', facts, [fixWith(ip ? `Aim it at ${ip}` : 'Aim it at the target', change)]);
}

/** The plan has nothing to key in: the target waits to be placed, or something else picks its address. */
function noEntry(ends: Ends, say: Say, facts: Facts): Verdict {
  const { planned } = ends.to;
  if (!planned) return say.fail('on_no_network', { ...facts, name: ends.target.name });
  if (planned.address.method === 'static') return say.fail('not_placed', facts, [placeFix(ends)]);
  return notKnown(ends, say, facts, planned);
}

function notKnown(ends: Ends, say: Say, facts: Facts, item: Planned): Verdict {
  return say.fail('not_known', { ...facts, name: item.device.name, method: item.address.method }, [
    fixAddresses(ends.addressing, [item], `Give ${item.device.name} a fixed address`),
  ]);
}

/** The controller has no address: none was placed, or what was planned is none that a host can have. */
function nothingHeld(ends: Ends, say: Say, facts: Facts): Verdict {
  const { planned } = ends.from;
  if (!planned) return say.fail('on_no_network', { ...facts, name: ends.controller.name });
  if (planned.ip !== null && !isHost(planned.ip, planned.prefix)) return notAHost(ends, say, facts, planned);
  return say.fail('not_placed', facts, [placeFix(ends)]);
}

const notAHost = (ends: Ends, say: Say, facts: Facts, item: Planned): Verdict =>
  say.fail('not_a_host', { ...facts, name: item.device.name, ip: formatIp(item.ip ?? 0) }, [
    moveFix(ends.show, ends.addressing, item),
  ]);

/** Places whatever waits at either end; no use where an end is on no network at all. */
function placeFix({ facts, from, to }: Ends) {
  const ends = [from.planned, to.planned];
  if (ends.some((planned) => planned === undefined)) return undefined;
  const open = ends.flatMap((planned) => (planned?.ip === null ? [planned] : []));
  const change = facts.placement([...new Set(open.map(({ network }) => network.id))].sort());
  const isPlaced = ({ address }: Planned) => change?.edits.some(({ id }) => id === address.id);
  return change && open.every(isPlaced) ? fixWith(change.label, change) : undefined;
}

/** Somebody else takes what is meant for the target, or nobody does at the address that was typed. */
function elsewhere(ends: Ends, say: Say, facts: Facts): Verdict {
  const { link, to, controller, aim } = ends;
  const ip = to.planned?.ip == null ? '' : formatIp(to.planned.ip);
  const entered = formatIp(aim ?? 0);
  const change = changeOf(`Aim ${controller.name} at ${ip}`, [updateRow('links', link, { host: null })]);
  return say.fail('aims_elsewhere', { ...facts, entered, ip, slip: likelySlip(entered, ip) ?? '' }, [
    link.host !== null && ip !== '' && ip !== entered ? fixWith(`Aim it at ${ip}`, change) : undefined,
  ]);
}

/** Other machines that claim an end's own address where it hears them. */
function twinOf({ facts }: Ends, source: Held | undefined): readonly Held[] {
  if (!source?.domain || source.from !== source.to) return [];
  const others = facts.machines
    .owners(source.domain, source.from)
    .filter(({ machineId }) => machineId !== source.machineId);
  return others.length > 0 ? [source, ...others] : [];
}

function twice({ show, addressing }: Ends, say: Say, facts: Facts, owners: readonly Held[]): Verdict {
  const items = owners.flatMap(({ address: { id } }) => addressing.byId.get(id) ?? []);
  const [one, other] = [items[0], items.find((item) => item.device.id !== items[0]?.device.id)];
  const all = addressing.byIp.get(owners[0]?.from ?? 0) ?? items;
  return say.fail(
    'two_owners',
    {
      ...facts,
      ip: formatIp(owners[0]?.from ?? 0),
      name: one?.device.name ?? '',
      other: other?.device.name ?? '',
    },
    [apartFix(show, addressing, all)],
  );
}

function lostOnTheWay(ends: Ends, say: Say, facts: Facts, lost: NonNullable<Walk['lost']>, going: boolean): Verdict {
  const { link, from, to, aim, addressing } = ends;
  const [near, far] = [from.planned, to.planned];
  const typed = link.host !== null && far?.ip != null && far.ip !== aim;
  if (typed) return elsewhere(ends, say, facts);
  const unusable = [far, near].find((item) => item?.ip != null && !isHost(item.ip, item.prefix));
  if (unusable) return notAHost(ends, say, facts, unusable);
  const picked = [far, near].find((item) => item && item.address.method !== 'static');
  if (far?.address.method !== 'static' && far && far === picked) return notKnown(ends, say, facts, far);
  const [sees, seen] = [reaches(near, far), reaches(far, near)];
  const stray = [far, near].find(
    (item) => item?.ip != null && !contains(subnetOf(mustIp(item.network.network), item.network.prefix), item.ip),
  );
  if (sees !== seen || lost.why === 'to_everybody') return say.fail('one_way', facts, maskFixes(ends));
  if (!sees) {
    const slip = (near?.ip != null && far?.ip != null && likelySlip(formatIp(far.ip), formatIp(near.ip))) || '';
    const passedOn = lost.machineId !== (going ? from.machine?.id : to.machine?.id);
    const hasGateway = lost.why !== 'no_route';
    if (!hasGateway && !passedOn)
      return say.fail('other_subnet', { ...facts, slip }, [
        stray && near?.network.id === far?.network.id ? moveFix(ends.show, addressing, stray) : undefined,
      ]);
    const asked = lost.next === undefined ? '' : formatIp(lost.next);
    return say.fail(going ? 'not_passed_on' : 'answer_not_passed_on', {
      ...facts,
      at: ends.show.devices[lost.machineId]?.name ?? lost.machineId,
      asked,
    });
  }
  return say.fail('nobody_answers', { ...facts, ip: formatIp(aim ?? 0) });
}

const reaches = (a: Planned | undefined, b: Planned | undefined): boolean =>
  a?.ip != null && b?.ip != null && contains(subnetOf(a.ip, a.prefix), b.ip);

const maskFixes = ({ from, to }: Ends) =>
  [from.planned, to.planned].map((item) => {
    if (!item || item.prefix === item.network.prefix) return undefined;
    const change = changeOf(`Mask of ${item.device.name} as on ${item.network.name}`, [
      updateRow('addresses', item.address, { prefix: null }),
    ]);
    return fixWith(`Give ${item.device.name} the mask of ${item.network.name}`, change);
  });
