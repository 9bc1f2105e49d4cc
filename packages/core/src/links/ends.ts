import { mustIp, type AddressingFacts, type Planned } from '../addressing/index.ts';
import type { CablingFacts, Route } from '../cabling/index.ts';
import {
  roleOf,
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
import type { Side, Sides } from './sides.ts';
import { replyAddresses } from './replies.ts';
import { at, firstRoute, towards, walk, type Walk } from './paths/walk.ts';

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
  /** Where the target opens the connection: what comes back to it; undefined elsewhere. */
  readonly accepted: Walk | undefined;
  /** The entered address by which it gets the replies, else the first that is entered; null where none is. */
  readonly replyTo: string | null;
  /** Where packets go depends on an address that a server picks. */
  readonly chance: boolean;
}

export interface LinkFacts {
  readonly addressing: AddressingFacts;
  readonly cabling: CablingFacts;
  readonly machines: Machines;
  readonly listeners: Listeners;
  readonly services: ReadonlyMap<string, readonly Service[]>;
  readonly sides: Sides;
  /** The same with every run in its socket: by that, targets were keyed in. */
  readonly planned: Sides;
  /** What was worked out of links so far, where somebody asks about each of them more than once. */
  readonly ends?: Map<Link, Ends>;
  /** What the placement of networks would do; many waiting links ask for it. */
  readonly placement: (networkIds: readonly string[]) => Change | undefined;
}

/** The same facts, which keep what is worked out of each link: its ways are walked once for all that ask. */
export const remembering = (facts: LinkFacts): LinkFacts => ({ ...facts, ends: new Map() });

/** Undefined for a link whose target has no such service: half-known plans are allowed, but cannot be sounded. */
export function endsOf(show: Show, facts: LinkFacts, link: Link): Ends | undefined {
  const known = facts.ends?.get(link);
  if (known) return known;
  const ends = workOutEnds(show, facts, link);
  if (ends) facts.ends?.set(link, ends);
  return ends;
}

function workOutEnds(show: Show, facts: LinkFacts, link: Link): Ends | undefined {
  const [near, far] = [facts.sides(link.controllerId), facts.sides(link.targetId)];
  const serviceType = far?.type?.services.find(({ key }) => key === link.serviceKey);
  const service = facts.services.get(link.targetId)?.find(({ key }) => key === link.serviceKey);
  if (!near?.type || !far || !serviceType || !service) return undefined;
  const paths = pathsOf(facts, { link, near, far, service, type: serviceType });
  const { from, to } = paths;
  return {
    show,
    facts,
    addressing: facts.addressing,
    cabling: facts.cabling,
    link,
    controller: near.device,
    target: far.device,
    controllerType: near.type,
    sameMachine: near.host.id === far.host.id,
    serviceType,
    service,
    command: serviceType.commands.find(({ key }) => key === link.command),
    route: from.interface && to.interface && facts.cabling.route(from.interface.id, to.interface.id),
    ...paths,
    chance: isByChance(facts, paths),
  };
}

type Paths = Pick<Ends, 'aim' | 'from' | 'to' | 'there' | 'back' | 'answer' | 'accepted' | 'replyTo'>;

function pathsOf(
  facts: LinkFacts,
  { link, near, far, service, type }: { link: Link; near: Side; far: Side; service: Service; type: ServiceType },
): Paths {
  const { machines, cabling } = facts;
  const entry = entryOf({ sides: facts.planned }, link);
  const [sender, owner] = [machines.of(near.host.id), machines.of(far.host.id)];
  const context = { machines, domains: cabling.domains() };
  const told = near.device.adapter;
  const aim = entry.ip;
  const destination = aim === undefined ? undefined : at(aim);
  const there = sender && destination && walk(context, sender, destination, told);
  const own = there?.source ?? (sender && destination && firstRoute(sender, destination, told)?.own);
  const taker = there?.arrivedAt === undefined ? undefined : machines.of(there.arrivedAt);
  const back = taker && there?.source && walk(context, taker, towards(there.source), null);
  const aimed = owner?.held.find(({ from, to }) => from === aim && to === aim);
  const opens = roleOf(service, type) === 'opens';
  const entered = opens ? [service.sendTo].filter((ip) => ip !== null) : replyAddresses(type, service);
  const answered = answerOf(entered, near.host.id, (ip) => owner && walk(context, owner, at(mustIp(ip)), null));
  const { answer } = answered;
  const accepts = opens && answer?.arrivedAt !== undefined ? machines.of(answer.arrivedAt) : undefined;
  return {
    aim,
    there,
    back,
    ...answered,
    accepted: accepts && answer?.source && walk(context, accepts, towards(answer.source), null),
    from: endAt(near, sender, own?.adapter ?? entry.from, own ?? entry.near),
    to: endAt(far, owner, aimed?.adapter ?? entry.to, aimed ?? entry.far),
  };
}

/** Of several entered addresses the one by which the controller hears is what counts. */
function answerOf(
  entered: readonly string[],
  hostId: string,
  walkTo: (ip: string) => Walk | undefined,
): Pick<Ends, 'answer' | 'replyTo'> {
  const walks = entered.map((replyTo) => ({ replyTo, answer: walkTo(replyTo) }));
  return walks.find(({ answer }) => answer?.arrivedAt === hostId) ?? walks[0] ?? { answer: undefined, replyTo: null };
}

function isByChance(
  { machines }: LinkFacts,
  { aim, there, back, answer, accepted, replyTo, from, to }: Paths,
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
    replyTo !== null &&
    source &&
    source.from !== source.to &&
    mustIp(replyTo) >= source.from &&
    mustIp(replyTo) <= source.to;
  // of two owners of the address for replies, the one that answers first gets them
  const shared = answer?.lost?.why === 'two_owners';
  const paths = [there, back, answer, accepted].some((path) => path?.chance);
  // an answer from beyond a gateway, though not from the target, goes to whichever owner spoke last
  const strange = there?.byGateway && there.arrivedAt !== to.machine?.id && back?.lost?.why === 'two_owners';
  return unsure || paths || shared || strange || (mayBeIt ?? false);
}

/** An end with the row of the plan that its address follows from, or the first one that is planned at its adapter. */
function endAt(
  side: Side,
  machine: Machine | undefined,
  adapter: string | undefined,
  known: Held | Planned | undefined,
): End {
  const row = known?.address.id;
  const planned =
    machine &&
    (side.planned.find(({ address }) => address.id === row) ??
      side.planned.find((item) => item.interface.adapter === adapter));
  return { machine, adapter, planned, interface: machine && side.interfaces.get(adapter ?? '') };
}
