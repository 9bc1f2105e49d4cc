import { show } from '@deep-patch/core';
import { protocols } from '../protocols/all.ts';
import {
  bad,
  good,
  later,
  mark,
  markUnseen,
  rounded,
  unseen,
  type MeasuredLayers,
  type SeenLayers,
  type SoundRequest,
  type Step,
} from '../protocols/steps.ts';
import { dotted } from '../ether/dotted.ts';
import { helpersOf, isInSetUp, isUp, serviceOf, type Standin } from '../units/standin.ts';

/**
 * Sounds one link from its controller's stand-in with real bytes through the simulated network, layer by layer. It
 * sees lamps, and what a tap at the two sockets sees: packets. What no packet tells it leaves open. It shares no code
 * with the rules that forecast.
 */
export async function sound(request: SoundRequest): Promise<MeasuredLayers> {
  const seen: SeenLayers = new Map();
  let rttMs: number | null = null;
  const go = async (): Promise<void> => {
    const { controller, target } = request;
    const isOffered = target && serviceOf(target, request.link.serviceKey) !== undefined;
    if (controller && target && !isOffered)
      return void seen.set('cable', bad('no_service', { who: target.device.name }));
    const reach = controller && target && facingAdapters(request, controller, target);
    const isLocal = controller !== undefined && target !== undefined && sameMachine(controller, target);
    if (!controller || !target || (!reach && !isLocal)) return void seen.set('cable', bad('down', { who: 'one end' }));
    for (const [layer, look] of [
      ['cable', () => lookAtLamps(controller, target, reach)],
      ['segment', () => lookAtSegment(request, controller, target, reach)],
      ['address', () => lookAtAddress(request, controller, target)],
    ] as const) {
      const step = await look();
      seen.set(layer, step);
      if (step.state === 'fail') return;
    }
    rttMs = await exchange(request, controller, target, seen);
    settleSilence(seen);
  };
  try {
    await go();
  } finally {
    // a program's choice of adapter is its own: what others on its machine send goes their way
    if (request.entry.ip !== undefined) request.controller?.host.pin(request.entry.ip, null);
  }
  const layers = show.layerNames.map((layer) => ({ layer, ...(seen.get(layer) ?? later('not_reached')) }));
  return { layers, rttMs };
}

/**
 * An echo that arrived unanswered may be a firewall's doing, as long as something else comes back. Where an answer was
 * due and nothing ever came, the address is as far as anybody got.
 */
function settleSilence(seen: SeenLayers): void {
  const address = seen.get('address');
  if (address?.state !== 'unseen') return;
  const below = show.layerNames.slice(show.layerNames.indexOf('port')).map((layer) => seen.get(layer));
  const cameBack = below.some((step) => step?.state === 'pass' && step.code !== 'not_expected');
  const wasTold = below.some((step) => step?.code === 'refused' || (step && sentNothing.has(step.code)));
  const wasDue = below.some((step) => step?.state === 'fail');
  if (cameBack || wasTold || !wasDue) return;
  seen.set('address', { ...bad('silent'), facts: address.facts });
  for (const layer of show.layerNames.slice(show.layerNames.indexOf('port'))) seen.set(layer, later('not_reached'));
}

/** Codes of a controller that sends nothing. */
const sentNothing: ReadonlySet<string> = new Set(['unknown', 'closed', 'no_show', 'helper', 'in_set_up', 'looked_up']);

interface Reach {
  readonly from: string;
  readonly to: string;
}

/** The adapters that a person would look at: the one that packets leave by, and the one that has the address. */
function facingAdapters({ entry }: SoundRequest, controller: Standin, target: Standin): Reach | undefined {
  const { ip } = entry;
  if (ip !== undefined) controller.host.pin(ip, controller.device.adapter);
  const from = (ip === undefined ? undefined : controller.host.adapterFor(ip)?.adapter.key) ?? entry.from;
  const owner = target.host.adapters.find(({ addresses }) => addresses.some((own) => own.ip === ip));
  const to = owner?.key ?? entry.to;
  return from !== undefined && to !== undefined ? { from, to } : undefined;
}

const sameMachine = (a: Standin, b: Standin): boolean => a.host === b.host;

function lookAtLamps(controller: Standin, target: Standin, reach: Reach | undefined): Step {
  if (sameMachine(controller, target)) {
    const down = [controller, target].find((standin) => !isUp(standin));
    return down ? bad('off', { who: down.device.name }) : good('up');
  }
  for (const [standin, key] of [
    [controller, reach?.from],
    [target, reach?.to],
  ] as const) {
    if (!isUp(standin)) return bad('off', { who: standin.device.name });
    const lit = standin.host.adapters.find((adapter) => adapter.key === key)?.port.cable?.hasCarrier();
    if (!lit) return bad('down', { who: standin.device.name });
  }
  return good('up');
}

/** Long enough for a broadcast to run round, where there is a loop. */
const roundMs = 250;

async function lookAtSegment(
  { entry: { ip } }: SoundRequest,
  controller: Standin,
  target: Standin,
  reach: Reach | undefined,
): Promise<Step> {
  if (sameMachine(controller, target)) return good('seen', { ip: '127.0.0.1', mac: 'this machine' });
  const { host } = controller;
  const adapter = target.host.adapters.find(({ key }) => key === reach?.to);
  const own = host.adapters.find(({ key }) => key === reach?.from);
  const name = target.device.name;
  if (!adapter || !own) return bad('unseen', { ip: name });
  await host.neighbours.isTaken(own, ip ?? 0, roundMs);
  for (let attempt = 0; attempt < 3; attempt += 1)
    if (await host.probe(own.key, adapter.mac)) return good('seen', { ip: name, mac: adapter.mac });
  if (ip === undefined || host.owns(ip) || !host.leavesByGateway(ip)) return bad('unseen', { ip: name });
  // the first question waits at every router until that has found the next hop
  for (let attempt = 0; attempt < 3; attempt += 1) {
    const { ms, arrived } = await echo(host, target, ip);
    if (ms !== undefined || arrived) return good('routed', { ip: dotted(ip) });
  }
  return bad('unseen', { ip: name });
}

async function lookAtAddress({ entry: { ip } }: SoundRequest, controller: Standin, target: Standin): Promise<Step> {
  const { host } = controller;
  if (ip === undefined) return bad('no_address', { who: target.device.name });
  if (sameMachine(controller, target) && host.owns(ip)) return good('answers', { ip: dotted(ip), ms: 0 });
  if (host.owns(ip)) return bad('other_unit', { ip: dotted(ip), who: 'this machine itself' });
  const source = host.adapterFor(ip)?.own.ip ?? 0;
  // all questions at once: each waits for everybody who may answer
  const [found, ownTwin, twinBack] = await Promise.all([
    host.resolve(ip),
    twinOf(controller, source),
    twinOnTheWayBack(controller, target, source),
  ]);
  if (found === 'no_address') return bad('no_address', { who: controller.device.name });
  if (found === 'no_route') return bad('no_route', { ip: dotted(ip) });
  if (found === 'silent') return bad('nobody', { ip: dotted(ip) });
  if (!isOneUnit(found.macs, [target])) return bad('two_owners', { ip: dotted(ip) });
  // behind a router nobody here hears who else claims the target's address: it is asked there
  const isNext = target.host.adapters.some(({ mac }) => found.macs.includes(mac));
  const twin = ownTwin ?? twinBack ?? (isNext ? undefined : await twinOf(target, ip));
  if (twin) return bad('two_owners', { ip: twin });
  let cameThere = false;
  for (let attempt = 0; attempt < 3; attempt += 1) {
    const { ms, arrived } = await echo(host, target, ip);
    // behind a router an answer does not say whose it is: the target's own socket has to see the question
    if (ms !== undefined && !arrived) return bad('other_unit', { ip: dotted(ip), who: found.macs[0] ?? '' });
    if (ms !== undefined) return good('answers', { ip: dotted(ip), ...(await variation(host, ip, ms)) });
    cameThere ||= arrived;
  }
  // a firewall may keep the question from being answered: what follows tells whether anything comes back
  return cameThere ? { ...unseen('quiet'), facts: { ip: dotted(ip) } } : bad('silent', { ip: dotted(ip) });
}

/** How many echoes tell how much the round trip varies, the first one included. */
const echoes = 5;

/** The middle of several round trips, the shortest and the longest of them, and how many never came back. */
async function variation(host: Standin['host'], ip: number, first: number): Promise<Step['facts']> {
  const trips = [first];
  for (let n = 1; n < echoes; n += 1) trips.push((await host.ping(ip)) ?? Infinity);
  const came = trips.filter(Number.isFinite).sort((a, b) => a - b);
  const at = (share: number) => rounded(came[Math.round((came.length - 1) * share)] ?? first);
  return { ms: at(0.5), least: at(0), greatest: at(1), lost: echoes - came.length };
}

/** An echo, with the milliseconds until its answer, and whether a tap at the target's socket saw it arrive. */
async function echo(
  host: Standin['host'],
  target: Standin,
  ip: number,
): Promise<{ ms: number | undefined; arrived: boolean }> {
  let arrived = false;
  const stop = target.host.watchTaken(
    ({ payload }) => (arrived ||= payload.kind === 'icmp' && payload.type === 'echo'),
  );
  const ms = await host.ping(ip);
  stop();
  return { ms, arrived };
}

/** One machine may answer through several adapters. */
const isOneUnit = (macs: readonly string[], units: readonly Standin[]): boolean =>
  macs.length < 2 || units.some(({ host }) => macs.every((mac) => host.adapters.some((own) => own.mac === mac)));

/** Does anybody else claim an address of a unit, asked from where it sits (RFC 5227)? */
async function twinOf({ host }: Standin, ip: number): Promise<string | undefined> {
  const at = host.adapters.find(({ addresses }) => addresses.some((own) => own.ip === ip));
  if (!at) return undefined;
  const macs = await host.whoHas(at, ip);
  return macs.some((mac) => host.adapters.every((own) => own.mac !== mac)) ? dotted(ip) : undefined;
}

async function twinOnTheWayBack(controller: Standin, target: Standin, source: number): Promise<string | undefined> {
  const found = await target.host.resolve(source);
  return typeof found === 'object' && !isOneUnit(found.macs, [controller]) ? dotted(source) : undefined;
}

/** From the port down: sends the link's command and watches the wire and what comes back. */
async function exchange(
  request: SoundRequest,
  controller: Standin,
  target: Standin,
  seen: SeenLayers,
): Promise<number | null> {
  const { link, entry } = request;
  const type = target.type.services.find(({ key }) => key === link.serviceKey);
  const port = `${type?.transport.toUpperCase()} ${link.port}`;
  if (!type) return mark(seen, 'port', bad('refused', { port }));
  const silent = sendsNothing(controller, type.protocol);
  if (silent) {
    markUnseen(seen, ['port']);
    return mark(seen, 'service', bad(silent, { who: controller.device.name, protocol: type.protocol.toUpperCase() }));
  }
  if (await isLostToIt(request, controller, type)) {
    markUnseen(seen, ['port']);
    return mark(seen, 'service', bad('looked_up', { who: controller.device.name, what: target.device.name }));
  }
  const command = type.commands.find(({ key }) => key === link.command);
  const talk = { controller, target, type, port, command, ip: entry.ip ?? 0 };
  return protocols[type.protocol].sound(request, talk, seen);
}

/**
 * An entry that was looked up once and has lost its target sends nothing. What would stop it as well if somebody keyed
 * it in again is told first.
 */
async function isLostToIt(
  { link, entry }: SoundRequest,
  { memory, host }: Standin,
  { transport }: show.ServiceType,
): Promise<boolean> {
  if (memory.lookedUp.get(link.id)?.ip !== null || link.role === 'waits') return false;
  if (transport !== 'tcp' || entry.ip === undefined) return true;
  const again = await host.tcp.connect(entry.ip, link.port);
  if (typeof again === 'string') return false;
  again.end();
  return true;
}

/** Why nothing leaves the controller whatever is pressed on it; its own screen says so. */
export function sendsNothing(controller: Standin, protocol: show.ServiceType['protocol']): string | undefined {
  const { memory, type } = controller;
  if (!type.drives.includes(protocol)) return 'unknown';
  if (memory.application === 'closed') return 'closed';
  if (memory.application === 'no_show') return 'no_show';
  if (!memory.helper && helpersOf(controller).length > 0) return 'helper';
  return isInSetUp(controller) ? 'in_set_up' : undefined;
}
