import { show as core, type contract } from '@deep-patch/core';
import { answers, searches } from '../site/answers.ts';
import type { Site } from '../site/site.ts';
import { dotted } from '../ether/dotted.ts';
import { factorySettings } from '../units/settings.ts';
import { isUp, settingsOf, type Standin } from '../units/standin.ts';

/** Ways that need a computer, with what has to be true of it. */
const fromAfar = {
  web: { works: reaches, needs: 'its page opens only on a computer that reaches its address' },
  search: { works: sharesSegment, needs: 'its search utility finds it only in the segment of a computer' },
  program: { works: sharesSegment, needs: 'its program finds it only in the segment of a computer' },
} as const;

/**
 * Which ways to a unit's settings are open now: its own menu, a cable for setting up or its own desktop always are; a
 * web page needs a computer that reaches its address; a search utility or a program needs one in its segment.
 */
export async function waysNow(site: Site, standin: Standin): Promise<contract.WayNow[]> {
  await site.settled();
  const ways = standin.type.ways.map(async ({ way }): Promise<contract.WayNow> => {
    if (!isFromAfar(way)) return { way, works: isUp(standin), from: null, needs: '' };
    const { works, needs } = fromAfar[way];
    for (const computer of computersOf(site, standin))
      if (await works(computer, standin)) return { way, works: true, from: computer.device.name, needs: '' };
    return { way, works: false, from: null, needs };
  });
  return Promise.all(ways);
}

const isFromAfar = (way: core.DeviceType['ways'][number]['way']): way is keyof typeof fromAfar => way in fromAfar;

/** Refuses to key something in where nobody gets at the unit's settings. Throws a plain Error that says what is missing. */
export async function findWayIn(site: Site, standin: Standin): Promise<void> {
  const { ways } = standin.type;
  // with nothing to set, or with a way at the unit itself, no computer is needed
  if (ways.length === 0 || !ways.every(({ way }) => isFromAfar(way))) return;
  const now = await waysNow(site, standin);
  if (now.some(({ works }) => works)) return;
  const own = standin.host.adapters.flatMap(({ addresses }) => addresses)[0];
  const at = own ? `it is at ${dotted(own.ip)} /${own.prefix}` : 'it has no address yet';
  throw new Error(`nobody gets at its settings: ${now.map(({ needs }) => needs).join(', and ')}; ${at}`);
}

/**
 * Refuses to set a unit where one computer gets at its settings by none of the ways named. Throws a plain Error that says
 * what is missing.
 */
export async function openFrom(computer: Standin, standin: Standin, ways: readonly Way[]): Promise<void> {
  if (!isUp(standin)) throw new Error(`${standin.device.name} is not switched on`);
  if (ways.length === 0) return;
  for (const way of ways) if (!isFromAfar(way) || (await fromAfar[way].works(computer, standin))) return;
  const needs = ways.flatMap((way) => (isFromAfar(way) ? [fromAfar[way].needs] : []));
  throw new Error(
    `${computer.device.name} does not get at the settings of ${standin.device.name}: ${needs.join(', or ')}`,
  );
}

type Way = core.DeviceType['ways'][number]['way'];

export const computersOf = (site: Site, other?: Standin): Standin[] =>
  [...site.standins.values()].filter(
    (standin) => standin !== other && !standin.computer && isUp(standin) && core.isComputer(standin.type),
  );

async function reaches(computer: Standin, target: Standin): Promise<boolean> {
  if (await answers(computer, target)) return true;
  // by the address that it formed itself (RFC 4862 section 5.3), until it is set and IPv6 switched off
  const isSet = core.isEqual(settingsOf(target).addresses, target.planned.addresses) && !isAsDelivered(target);
  const has6 = target.type.factory.linkLocal6 && !(target.device.ipv6 === 'off' && isSet);
  return has6 && sharesSegment(computer, target);
}

/** It has the addresses of its box, as somebody may have planned for it: nothing tells that it was set since. */
const isAsDelivered = ({ memory, type }: Standin): boolean =>
  memory.own !== undefined && core.isEqual(memory.own.addresses, factorySettings(type).addresses);

/** Does an adapter of a computer hear one of a unit's, whatever their addresses: any, or one that is named? */
export async function sharesSegment({ host }: Standin, target: Standin, own?: string, far?: string): Promise<boolean> {
  for (let search = 0; search < searches; search += 1)
    for (const { key } of host.adapters.filter((adapter) => own === undefined || adapter.key === own))
      for (const { mac } of target.host.adapters.filter((adapter) => far === undefined || adapter.mac === far))
        if (await host.probe(key, mac)) return true;
  return false;
}
