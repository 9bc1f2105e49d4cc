import type { show as core } from '@deep-patch/core';
import type { Site } from '../site/site.ts';
import { sharesSegment } from './ways-in.ts';
import { dotted } from '../ether/dotted.ts';
import { isUp, settingsOf, type Standin } from '../units/standin.ts';
import { isOlder } from '../units/versions.ts';

type Check = core.LookingCheck;
type Verdict = Omit<Check, 'key'>;
interface Looker {
  readonly site: Site;
  readonly computer: Standin;
  readonly unit: Standin;
}

const good = (facts: Check['facts'] = {}): Verdict => ({ state: 'pass', facts });
const bad = (facts: Check['facts'] = {}): Verdict => ({ state: 'fail', facts });

/** In the order in which a person would look: what costs least to look at comes first. */
const checks: readonly (readonly [core.LookingKey, (look: Looker) => Verdict | Promise<Verdict>])[] = [
  ['power', ({ unit }) => (isUp(unit) ? good() : bad({ state: unit.memory.powered ? 'starting' : 'off' }))],
  ['cable', ({ unit }) => (hasLink(unit) ? good() : bad())],
  ['own_cable', ({ computer }) => (hasLink(computer) ? good() : bad())],
  ['segment', isInSegment],
  ['unit_address', ({ unit }) => (addressOf(unit) ? good({ ip: shown(unit) }) : bad())],
  ['as_planned', isAsPlanned],
  ['own_subnet', isInOwnSubnet],
  ['mask_back', seesBack],
  ['one_owner', hasOneOwner],
  ['version', isNewEnough],
  ['firewall', answersEcho],
];

/**
 * Works through the causes why a computer does not find a unit, one after the other, and stops at the first that
 * fails: what comes after it cannot be told yet.
 */
export async function lookFor(site: Site, computer: Standin, unit: Standin): Promise<Check[]> {
  await site.settled();
  const done: Check[] = [];
  for (const [key, check] of checks) {
    const isOver = done.some(({ state }) => state === 'fail');
    const verdict: Verdict = isOver ? { state: 'waits', facts: {} } : await check({ site, computer, unit });
    done.push({ key, ...verdict });
  }
  return done;
}

const hasLink = ({ host }: Standin): boolean => host.adapters.some(({ port }) => port.cable?.hasCarrier());
const addressOf = ({ host }: Standin) => host.adapters.flatMap(({ addresses }) => addresses)[0];
const shown = (standin: Standin): string => {
  const own = addressOf(standin);
  return own ? `${dotted(own.ip)} /${own.prefix}` : 'no address';
};

async function isInSegment({ computer, unit }: Looker): Promise<Verdict> {
  if (await sharesSegment(computer, unit)) return good();
  const own = addressOf(unit);
  // an answer counts only where a gateway leads: otherwise it is somebody else with the same address
  const routed =
    own !== undefined && computer.host.leavesByGateway(own.ip) && (await computer.host.ping(own.ip)) !== undefined;
  return routed ? good({ by: 'router' }) : bad();
}

function isAsPlanned({ unit }: Looker): Verdict {
  const planned = Object.values(unit.planned.addresses)
    .flat()
    .flatMap(({ ip }) => ip ?? []);
  const has = unit.host.adapters.flatMap(({ addresses }) => addresses.map(({ ip }) => ip));
  if (planned.length === 0 || planned.some((ip) => has.includes(ip))) return good();
  return bad({ ip: shown(unit), planned: planned.map(dotted).join(', ') });
}

function isInOwnSubnet({ computer, unit }: Looker): Verdict {
  const own = addressOf(unit);
  const way = own && computer.host.adapterFor(own.ip);
  const facts = { ip: shown(unit), own: shown(computer) };
  return way ? good(facts) : bad(facts);
}

function seesBack({ computer, unit }: Looker): Verdict {
  const own = addressOf(unit);
  const way = own && computer.host.adapterFor(own.ip);
  const back = way && unit.host.adapterFor(way.own.ip);
  return back ? good() : bad({ ip: shown(unit), own: way ? `${dotted(way.own.ip)} /${way.own.prefix}` : '' });
}

async function hasOneOwner({ computer, unit }: Looker): Promise<Verdict> {
  const own = addressOf(unit);
  const found = own && (await computer.host.resolve(own.ip));
  return typeof found === 'object' && found.macs.length > 1 ? bad({ ip: shown(unit) }) : good();
}

function isNewEnough({ unit }: Looker): Verdict {
  const { firmware } = settingsOf(unit);
  const asked = unit.type.services.flatMap(({ lowestFirmware }) => lowestFirmware ?? []);
  const lowest = asked.find((wanted) => firmware !== null && isOlder(firmware, wanted));
  return lowest === undefined ? good() : bad({ firmware: firmware ?? '', lowest });
}

async function answersEcho({ computer, unit }: Looker): Promise<Verdict> {
  const own = addressOf(unit);
  const ms = own && (await computer.host.ping(own.ip));
  return ms === undefined ? bad({ ip: shown(unit) }) : good({ ms: Math.round(ms * 10) / 10 });
}
