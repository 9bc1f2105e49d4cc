import { show } from '@deep-patch/core';
import { soundMidi } from './sound-midi.ts';
import { exchangeOsc, exchangeStream } from './sound-osc.ts';
import {
  bad,
  good,
  later,
  mark,
  pair,
  rounded,
  type MeasuredLayers,
  type SeenLayers,
  type SoundRequest,
  type Step,
} from './sound-steps.ts';
import { exchangeWeb } from './sound-web.ts';
import { dotted, isInSetUp, isUp, serviceOf, undotted, type Standin } from './standin.ts';

/**
 * Sounds one link from its controller's stand-in with real bytes through the simulated network, layer by layer, and
 * says what was seen. It looks at the units as a person would: at lamps, at answers, at their own screens. It shares
 * no code with the rules that forecast.
 */
export async function sound(request: SoundRequest): Promise<MeasuredLayers> {
  const seen = new Map<show.LayerName, Step>();
  let rttMs: number | null = null;
  const go = async (): Promise<void> => {
    const { controller, target } = request;
    const reach = controller && target && facingAdapters(request, controller, target);
    if (!controller || !target || !reach) return void seen.set('cable', bad('down', { who: 'one end' }));
    const wanted = aim(request.link, controller, target);
    if (wanted !== undefined) controller.host.pin(wanted, controller.device.adapter);
    for (const [layer, look] of [
      ['cable', () => lookAtLamps(controller, target, reach)],
      ['segment', () => lookAtSegment(request, controller, target, reach)],
      ['address', () => lookAtAddress(request, controller, target)],
    ] as const) {
      const step = await look();
      seen.set(layer, step);
      if (step.state !== 'pass') return;
    }
    rttMs = await exchange(request, controller, target, seen);
  };
  await go();
  const layers = show.layerNames.map((layer) => ({ layer, ...(seen.get(layer) ?? later('not_reached')) }));
  return { layers, rttMs };
}

interface Reach {
  readonly from: string;
  readonly to: string;
}

/** The adapters that a person would look at: those that share a subnet, else the first of each. */
function facingAdapters({ link }: SoundRequest, controller: Standin, target: Standin): Reach | undefined {
  const wanted = aim(link, controller, target);
  const facing = wanted === undefined ? undefined : controller.host.adapterFor(wanted)?.adapter.key;
  const from = facing ?? controller.device.adapter ?? controller.host.adapters[0]?.key;
  const owner = target.host.adapters.find(({ addresses }) => addresses.some(({ ip }) => ip === wanted));
  const to = owner?.key ?? target.device.adapter ?? target.host.adapters[0]?.key;
  return from !== undefined && to !== undefined ? { from, to } : undefined;
}

/**
 * The address that is keyed into the controller: typed there, or what the plan gives the target, in the controller's
 * subnet where there is one. What the target really has may be another.
 */
function aim(link: show.Link, controller: Standin, target: Standin): number | undefined {
  if (link.host !== null) return undotted(link.host);
  if (sameMachine(controller, target)) return 0x7f000001;
  const planned = (target.computer ?? target).planned.addresses;
  const own = Object.entries(planned)
    .filter(([key]) => target.device.adapter === null || key === target.device.adapter)
    .flatMap(([, list]) => list.flatMap(({ ip }) => ip ?? []));
  const { adapter } = controller.device;
  const reaches = (ip: number) => {
    const way = controller.host.adapterFor(ip);
    return way !== undefined && (adapter === null || way.adapter.key === adapter);
  };
  return own.find(reaches) ?? own[0];
}

const sameMachine = (a: Standin, b: Standin): boolean => a.host === b.host;

function lookAtLamps(controller: Standin, target: Standin, { from, to }: Reach): Step {
  if (sameMachine(controller, target)) {
    const down = [controller, target].find((standin) => !isUp(standin));
    return down ? bad('off', { who: down.device.name }) : good('up');
  }
  for (const [standin, key] of [
    [controller, from],
    [target, to],
  ] as const) {
    if (!isUp(standin)) return bad('off', { who: standin.device.name });
    const lit = standin.host.adapters.find((adapter) => adapter.key === key)?.port.cable?.hasCarrier();
    if (!lit) return bad('down', { who: standin.device.name });
  }
  return good('up');
}

async function lookAtSegment(
  { link }: SoundRequest,
  controller: Standin,
  target: Standin,
  { from, to }: Reach,
): Promise<Step> {
  if (sameMachine(controller, target)) return good('seen', { ip: '127.0.0.1', mac: 'this machine' });
  const adapter = target.host.adapters.find(({ key }) => key === to);
  const name = target.device.name;
  if (!adapter) return bad('unseen', { ip: name });
  for (let attempt = 0; attempt < 3; attempt += 1)
    if (await controller.host.probe(from, adapter.mac)) return good('seen', { ip: name, mac: adapter.mac });
  const ip = aim(link, controller, target);
  if (ip !== undefined && controller.host.leavesByGateway(ip) && (await controller.host.ping(ip)) !== undefined)
    return good('routed', { ip: dotted(ip) });
  return bad('unseen', { ip: name });
}

async function lookAtAddress({ link }: SoundRequest, controller: Standin, target: Standin): Promise<Step> {
  const ip = aim(link, controller, target);
  if (ip !== undefined && dotted(ip).startsWith('127.') && !sameMachine(controller, target))
    return bad('other_unit', { ip: dotted(ip), who: 'this machine itself' });
  if (sameMachine(controller, target) && ip !== undefined && controller.host.owns(ip))
    return good('answers', { ip: dotted(ip), ms: 0 });
  if (ip === undefined) return bad('no_address', { who: target.device.name });
  const found = await controller.host.resolve(ip);
  if (found === 'no_address') return bad('no_address', { who: controller.device.name });
  if (found === 'no_route') return bad('no_route', { ip: dotted(ip) });
  if (found === 'silent') return bad('silent', { ip: dotted(ip) });
  if (found.macs.length > 1) return bad('two_owners', { ip: dotted(ip) });
  const routed = controller.host.leavesByGateway(ip);
  // behind a router nobody here hears who else claims the target's address: it is asked there
  const twin = (await ownAddressTwin(controller)) ?? (routed ? await ownAddressTwin(target) : undefined);
  if (twin) return bad('two_owners', { ip: twin });
  if (!routed && !target.host.adapters.some(({ mac }) => mac === found.macs[0]))
    return bad('other_unit', { ip: dotted(ip), who: found.macs[0] ?? '' });
  for (let attempt = 0; attempt < 3; attempt += 1) {
    const ms = await controller.host.ping(ip);
    if (ms !== undefined) return good('answers', { ip: dotted(ip), ms: rounded(ms) });
  }
  return bad('silent', { ip: dotted(ip) });
}

/** Does anybody else claim one of the controller's own addresses (RFC 5227, the conflict that a host itself notices)? */
async function ownAddressTwin(controller: Standin): Promise<string | undefined> {
  const ownMacs = controller.host.adapters.map(({ mac }) => mac);
  for (const { addresses } of controller.host.adapters)
    for (const { ip } of addresses) {
      const found = await controller.host.resolve(ip);
      if (typeof found === 'object' && found.macs.some((mac) => !ownMacs.includes(mac))) return dotted(ip);
    }
  return undefined;
}

/** From the port down: sends the link's command and watches the unit, the port and what comes back. */
async function exchange(
  request: SoundRequest,
  controller: Standin,
  target: Standin,
  seen: SeenLayers,
): Promise<number | null> {
  const { link } = request;
  const service = serviceOf(target, link.serviceKey);
  const type = target.type.services.find(({ key }) => key === link.serviceKey);
  const port = `${type?.transport.toUpperCase()} ${link.port}`;
  if (!service || !type) return mark(seen, 'port', bad('refused', { port }));
  if (target.crowdedOut.has(service.key)) return mark(seen, 'port', bad('refused', { port }));
  if (target.memory.application === 'closed') return mark(seen, 'port', bad('closed', { port }));
  if (!controller.memory.helper)
    return pair(seen, 'port', good('open', { port }), 'service', bad('helper', { who: controller.device.name }));
  if (isInSetUp(controller))
    return pair(seen, 'port', good('open', { port }), 'service', bad('in_set_up', { who: controller.device.name }));
  if (service.receivePort === link.port) {
    // its own screen shows the number that was asked, so what follows is the function, not the port
    if (!controller.type.drives.includes(type.protocol))
      return pair(
        seen,
        'port',
        good('open', { port }),
        'service',
        bad('unknown', { protocol: type.protocol.toUpperCase() }),
      );
    if (!service.enabled) return pair(seen, 'port', good('open', { port }), 'service', bad('off'));
  }
  const command = type.commands.find(({ key }) => key === link.command);
  const talk = { controller, target, service, port, command, ip: aim(link, controller, target) ?? 0 };
  if (type.protocol === 'http') return exchangeWeb(request, talk, seen);
  if (type.protocol === 'midi') return soundMidi(request, talk, seen);
  return type.transport === 'tcp'
    ? exchangeStream(request, talk, seen, type.protocol)
    : exchangeOsc(request, talk, seen);
}
