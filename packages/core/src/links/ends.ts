import { mustIp, type AddressingFacts, type Planned } from '../addressing/index.ts';
import type { CablingFacts, Route } from '../cabling/index.ts';
import {
  hostOf,
  serviceTypeOf,
  typeOf,
  type Change,
  type Command,
  type Device,
  type DeviceType,
  type Interface,
  type Link,
  type Service,
  type ServiceType,
  type Show,
} from '../show/index.ts';
import { entryOf } from './entry.ts';
import type { Listeners } from './listeners.ts';
import type { Held, Machine, Machines } from './paths/held.ts';
import { at, firstWay, towards, walk, type Walk } from './paths/walk.ts';

/** One end of a link: the adapter that it uses, and what is planned there. */
export interface End {
  readonly machine: Machine | undefined;
  readonly adapter: string | undefined;
  readonly interface: Interface | undefined;
  readonly planned: Planned | undefined;
}

/** Both ends of one link with all that the layers look at. */
export interface Ends {
  readonly show: Show;
  readonly facts: LinkFacts;
  readonly addressing: AddressingFacts;
  readonly cabling: CablingFacts;
  readonly link: Link;
  readonly controller: Device;
  readonly target: Device;
  readonly controllerType: DeviceType;
  /** Both run on one machine: two programs, or a program and its computer (C14). */
  readonly sameMachine: boolean;
  readonly serviceType: ServiceType;
  readonly service: Service;
  readonly command: Command | undefined;
  /** The cables between them, when some lead from one to the other. */
  readonly route: Route | undefined;
  /** The address that the controller sends to; undefined while the plan has none. */
  readonly aim: number | undefined;
  readonly from: End;
  readonly to: End;
  /** A packet to that address, and the answer to it; undefined where nothing is sent. */
  readonly there: Walk | undefined;
  readonly back: Walk | undefined;
  /** What the target sends to the address that was entered in it; undefined where none was. */
  readonly answer: Walk | undefined;
  /** Where packets go depends on an address that a server picks. */
  readonly chance: boolean;
}

export interface LinkFacts {
  readonly addressing: AddressingFacts;
  readonly cabling: CablingFacts;
  readonly machines: Machines;
  readonly listeners: Listeners;
  readonly services: ReadonlyMap<string, readonly Service[]>;
  readonly interfaces: ReadonlyMap<string, Interface>;
  /** What the placement of a network would do; many waiting links ask for it. */
  readonly placement: (networkId: string) => Change | undefined;
}

/** Undefined for a link whose target has no such service: half-known plans are allowed, but cannot be sounded. */
export function endsOf(show: Show, facts: LinkFacts, link: Link): Ends | undefined {
  const [controller, target] = [show.devices[link.controllerId], show.devices[link.targetId]];
  const serviceType = serviceTypeOf(show, target, link.serviceKey);
  const service = facts.services.get(link.targetId)?.find(({ key }) => key === link.serviceKey);
  const controllerType = typeOf(show, controller);
  if (!controller || !target || !serviceType || !service || !controllerType) return undefined;
  const paths = pathsOf(show, facts, { link, controller, target, service });
  const { from, to } = paths;
  return {
    show,
    facts,
    addressing: facts.addressing,
    cabling: facts.cabling,
    link,
    controller,
    target,
    controllerType,
    sameMachine: hostOf(show, controller).id === hostOf(show, target).id,
    serviceType,
    service,
    command: serviceType.commands.find(({ key }) => key === link.command),
    route: from.interface && to.interface && facts.cabling.route(from.interface.id, to.interface.id),
    ...paths,
    chance: isByChance(facts, paths, service),
  };
}

type Paths = Pick<Ends, 'aim' | 'from' | 'to' | 'there' | 'back' | 'answer'>;

function pathsOf(
  show: Show,
  facts: LinkFacts,
  { link, controller, target, service }: Pick<Ends, 'link' | 'controller' | 'target' | 'service'>,
): Paths {
  const entry = entryOf(show, facts, link);
  const [near, far] = [controller, target].map((device) => facts.machines.of(hostOf(show, device).id));
  const context = { machines: facts.machines, domains: facts.cabling.domains() };
  const aim = entry.ip;
  const destination = aim === undefined ? undefined : at(aim);
  const way = near && destination && firstWay(context, near, destination, controller.adapter);
  const there = near && destination && walk(context, near, destination, controller.adapter);
  const taker = there?.arrivedAt === undefined ? undefined : facts.machines.of(there.arrivedAt);
  const back = taker && there?.source && walk(context, taker, towards(there.source), null);
  const owner = far?.held.find(({ from, to }) => from === aim && to === aim);
  return {
    aim,
    there,
    back,
    answer: far && service.sendTo !== null ? walk(context, far, at(mustIp(service.sendTo)), null) : undefined,
    from: endAt(facts, near, way?.own.adapter ?? entry.from, way?.own ?? entry.near),
    to: endAt(facts, far, owner?.adapter ?? entry.to, owner ?? entry.far),
  };
}

function isByChance(
  { machines }: LinkFacts,
  { aim, there, back, answer, from, to }: Paths,
  { sendTo }: Service,
): boolean {
  const source = there?.source;
  const mayClash = [from, to].some(({ machine }) =>
    machine?.held.some(
      ({ domain, from: ip }) =>
        domain !== undefined && (ip === aim || ip === source?.from) && machines.mayBeTaken(domain, ip),
    ),
  );
  const unsure = mayClash || [from, to].some(({ machine }) => machine?.held.some((own) => own.unsure));
  const mayBeIt =
    sendTo !== null &&
    source &&
    source.from !== source.to &&
    mustIp(sendTo) >= source.from &&
    mustIp(sendTo) <= source.to;
  return (
    unsure || (there?.chance ?? false) || (back?.chance ?? false) || (answer?.chance ?? false) || (mayBeIt ?? false)
  );
}

/** An end with the row of the plan that its address follows from, or the first one that is planned at its adapter. */
function endAt(
  { addressing, interfaces }: LinkFacts,
  machine: Machine | undefined,
  adapter: string | undefined,
  known: Held | Planned | undefined,
): End {
  const own = addressing.byDevice.get(machine?.id ?? '') ?? [];
  const row = known?.address.id;
  const planned =
    own.find(({ address }) => address.id === row) ?? own.find((item) => item.interface.adapter === adapter);
  return { machine, adapter, planned, interface: interfaces.get(`${machine?.id} ${adapter}`) };
}
