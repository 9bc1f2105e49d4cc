import {
  contains,
  formatIp,
  likelySlip,
  moveFix,
  mustIp,
  planMethod,
  subnetOf,
  type Planned,
} from '../../addressing/index.ts';
import { fixWith } from '../../findings/index.ts';
import { changeOf, updateRow } from '../../show/index.ts';
import { fail, pass, type Layer } from '../layer.ts';
import type { Ends } from '../ends.ts';
import { inReach, routerBetween } from '../router-between.ts';

/** Would a packet to the entered address reach the target, and its answer come back (C5, C6, C14)? */
export const address: Layer = (ends) => {
  const { controller, target, from, to, link } = ends;
  if (ends.sameMachine) return onOneMachine(ends);
  if (link.host !== null && isLoopback(link.host)) return loopbackElsewhere(ends);
  const facts = {
    left: shown(from.planned),
    right: shown(to.planned),
    controller: controller.name,
    target: target.name,
  };
  const [near, far] = [from.planned, to.planned];
  const byServer = [near, far].find((item) => item?.ip === null && item.address.method !== 'static');
  if (byServer)
    return fail('not_known', { ...facts, name: byServer.device.name, method: byServer.address.method }, [
      fixWith(`Give ${byServer.device.name} a fixed address`, planMethod(ends.show, byServer.address, 'static')),
    ]);
  if (near?.ip == null || far?.ip == null) return fail('not_placed', facts, [placeFix(ends)]);
  if (link.host !== null && mustIp(link.host) !== far.ip) return staleHost(ends, far.ip);
  for (const item of [near, far]) {
    const twin = twinInReach(ends, item);
    if (twin) return twice(ends, item, twin, facts);
  }
  const unusable = [near, far].find((item) => notAHost(ends, item));
  if (unusable)
    return fail('not_a_host', { ...facts, name: unusable.device.name, ip: formatIp(unusable.ip ?? 0) }, [
      moveFix(ends.show, ends.addressing, unusable),
    ]);
  const sees = contains(subnetOf(near.ip, near.prefix), far.ip);
  const seen = contains(subnetOf(far.ip, far.prefix), near.ip);
  if (sees && seen) return pass('on_link', facts);
  const router = sees || seen ? undefined : routerBetween(ends);
  if (router) return pass('by_router', { ...facts, router: router.name });
  const slip = likelySlip(formatIp(far.ip), formatIp(near.ip)) ?? '';
  if (sees !== seen) return fail('one_way', facts, maskFixes(ends));
  const stray = [far, near].find(
    (item) => !contains(subnetOf(mustIp(item.network.network), item.network.prefix), item.ip ?? 0),
  );
  return fail('other_subnet', { ...facts, slip }, [stray && moveFix(ends.show, ends.addressing, stray)]);
};

const isLoopback = (ip: string): boolean => ip.startsWith('127.');

/** Loopback or the machine's own address reach it; any other leads away (C14). */
function onOneMachine({ link, to, target, controller }: Ends) {
  const host = link.host ?? '127.0.0.1';
  const own = to.planned?.ip == null ? '' : formatIp(to.planned.ip);
  const facts = { left: '127.0.0.1', right: host, controller: controller.name, target: target.name, entered: host };
  if (isLoopback(host)) return pass('same_machine', facts);
  if (host === own) return pass('own_address', facts);
  const change = changeOf(`Aim ${controller.name} at its own machine`, [updateRow('links', link, { host: null })]);
  return fail('aims_away', facts, [fixWith('Use 127.0.0.1', change)]);
}

function loopbackElsewhere({ link, to, target, controller }: Ends) {
  const ip = to.planned?.ip == null ? '' : formatIp(to.planned.ip);
  const change = changeOf(`Aim ${controller.name} at ${target.name}`, [updateRow('links', link, { host: null })]);
  const facts = { left: link.host ?? '', right: ip, ip, entered: link.host ?? '' };
  return fail('loopback_elsewhere', { ...facts, controller: controller.name, target: target.name }, [
    fixWith(ip ? `Aim it at ${ip}` : 'Aim it at the target', change),
  ]);
}

const shown = (item: Planned | undefined): string => (item?.ip == null ? '' : `${formatIp(item.ip)} /${item.prefix}`);

/** The name of a network or its broadcast address, by the unit's own mask or by that of the network it is planned on. */
function notAHost({ addressing }: Ends, { ip, prefix, network }: Planned): boolean {
  if (ip === null) return false;
  const on = addressing.byNetwork.get(network.id);
  const isEdge = on !== undefined && contains(on.subnet, ip) && (ip < on.first || ip > on.last);
  const host = ip % 2 ** (32 - prefix);
  return isEdge || (prefix < 31 && (host === 0 || host === 2 ** (32 - prefix) - 1));
}

function placeFix({ facts, from, to }: Ends) {
  const open = [from, to].flatMap(({ planned }) => (planned?.ip === null ? [planned.network.id] : []));
  const change = open[0] && facts.placement(open[0]);
  return change ? fixWith(change.label, change) : undefined;
}

function staleHost({ link, to, target, from, controller }: Ends, ip: number) {
  const entered = link.host ?? '';
  const slip = likelySlip(entered, formatIp(ip)) ?? '';
  const facts = {
    left: shown(from.planned),
    right: shown(to.planned),
    entered,
    ip: formatIp(ip),
    slip,
    controller: controller.name,
    target: target.name,
  };
  const change = changeOf(`Aim ${controller.name} at ${formatIp(ip)}`, [updateRow('links', link, { host: null })]);
  return fail('aims_elsewhere', facts, [fixWith(`Aim it at ${formatIp(ip)}`, change)]);
}

/** Another owner of an address where both hear the same questions; one that is not plugged in answers nobody. */
const twinInReach = (ends: Ends, own: Planned): Planned | undefined =>
  (ends.addressing.byIp.get(own.ip ?? 0) ?? []).find(
    (other) => other.address.id !== own.address.id && inReach(ends, own, other),
  );

function twice({ show, addressing }: Ends, shared: Planned, other: Planned, facts: Record<string, string>) {
  const mover = shared.address.held ? other : shared;
  return fail(
    'two_owners',
    { ...facts, ip: formatIp(shared.ip ?? 0), name: shared.device.name, other: other.device.name },
    [moveFix(show, addressing, mover)],
  );
}

const maskFixes = ({ from, to }: Ends) =>
  [from.planned, to.planned].map((item) => {
    if (!item || item.prefix === item.network.prefix) return undefined;
    const change = changeOf(`Mask of ${item.device.name} as on ${item.network.name}`, [
      updateRow('addresses', item.address, { prefix: null }),
    ]);
    return fixWith(`Give ${item.device.name} the mask of ${item.network.name}`, change);
  });
