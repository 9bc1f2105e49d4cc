import type { contract } from '@deep-patch/core';
import type { Site } from '../site/site.ts';
import { sharesSegment } from './ways-in.ts';
import { dotted } from '../ether/dotted.ts';
import type { Adapter } from '../ether/host.ts';
import { isUp, settingsOf, type Standin } from '../units/standin.ts';
import { isOlder } from '../units/versions.ts';

type Check = contract.LookingCheck;
type Verdict = Omit<Check, 'key'>;
interface Looker {
  readonly site: Site;
  readonly computer: Standin;
  /** The machine, and what is looked for on it: a program of it, or itself. */
  readonly unit: Standin;
  readonly wanted: Standin;
}

const good = (facts: Check['facts'] = {}): Verdict => ({ state: 'pass', facts });
const bad = (facts: Check['facts'] = {}): Verdict => ({ state: 'fail', facts });

/** In the order in which a person would look: what costs least to look at comes first. */
const checks: readonly (readonly [contract.LookingKey, (look: Looker) => Verdict | Promise<Verdict>])[] = [
  ['power', ({ unit }) => (isUp(unit) ? good() : bad({ state: unit.memory.powered ? 'starting' : 'off' }))],
  ['cable', ({ unit }) => (hasLink(unit, adapterOf(unit)) ? good() : bad())],
  ['own_cable', ({ computer, unit }) => (hasLink(computer, wayBetween(computer, unit)?.adapter) ? good() : bad())],
  ['segment', isInSegment],
  ['unit_address', ({ unit }) => (addressOf(unit) ? good({ ip: shown(unit) }) : bad())],
  ['as_planned', isAsPlanned],
  ['own_subnet', isInOwnSubnet],
  ['mask_back', seesBack],
  ['one_owner', hasOneOwner],
  ['version', isNewEnough],
  ['firewall', isLetIn],
];

/**
 * Works through the causes why a computer does not find a unit, one after the other, and stops at the first that
 * fails: what comes after it cannot be told yet.
 */
export async function lookFor(site: Site, computer: Standin, wanted: Standin): Promise<Check[]> {
  const unit = wanted.computer ?? wanted;
  await site.settled();
  const done: Check[] = [];
  for (const [key, check] of checks) {
    const isOver = done.some(({ state }) => state === 'fail');
    const verdict: Verdict = isOver ? { state: 'waits', facts: {} } : await check({ site, computer, unit, wanted });
    done.push({ key, ...verdict });
  }
  return done;
}

/** The lamp at the adapter that matters, or at any where none does more than the others. */
const hasLink = ({ host }: Standin, adapter: Adapter | undefined): boolean =>
  (adapter ? [adapter] : host.adapters).some(({ port }) => port.cable?.hasCarrier());

/** The adapter of a unit that its address is for: the one that has it, or that is planned to have one. */
function adapterOf({ host, planned }: Standin): Adapter | undefined {
  const has = host.adapters.find(({ addresses }) => addresses.length > 0);
  return has ?? host.adapters.find(({ key }) => (planned.addresses[key] ?? []).length > 0);
}

/** How a computer would send to a unit where that has its address, planned or real. */
function wayBetween(computer: Standin, unit: Standin) {
  const ip = addressOf(unit)?.ip ?? Object.values(unit.planned.addresses).flat()[0]?.ip;
  return ip == null ? undefined : computer.host.adapterFor(ip);
}

const addressOf = ({ host }: Standin) => host.adapters.flatMap(({ addresses }) => addresses)[0];
const shown = (standin: Standin): string => {
  const own = addressOf(standin);
  return own ? `${dotted(own.ip)} /${own.prefix}` : 'no address';
};

async function isInSegment({ computer, unit }: Looker): Promise<Verdict> {
  const [way, facing, own] = [wayBetween(computer, unit), adapterOf(unit), addressOf(unit)];
  if (await sharesSegment(computer, unit, way?.adapter.key, facing?.mac)) return good();
  // their other sockets hear each other: the cables are in the wrong ones
  if (await sharesSegment(computer, unit)) return bad({ swapped: 1 });
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

/** An echo that comes back tells at once; a firewall that keeps only echoes out is not what is in the way. */
async function isLetIn({ computer, unit, wanted }: Looker): Promise<Verdict> {
  const own = addressOf(unit);
  const ms = own && (await computer.host.ping(own.ip));
  if (ms !== undefined) return good({ ms: Math.round(ms * 10) / 10 });
  const offered = settingsOf(wanted).services.filter(({ enabled }) => enabled);
  const keptOut = offered.filter(({ key, receivePort }) => {
    const transport = wanted.type.services.find((type) => type.key === key)?.transport ?? 'tcp';
    return !unit.host.admits({ transport, port: receivePort });
  });
  if (offered.length > 0 && keptOut.length === 0) return good({ by: 'services' });
  return bad({ ip: shown(unit) });
}
