import type { AddressingFacts, Planned } from '../addressing/index.ts';
import type { CablingFacts, Route } from '../cabling/index.ts';
import {
  byAdapter,
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
  /** The adapters that face each other; addresses that face each other where there are any. */
  readonly from: { readonly interface: Interface | undefined; readonly planned: Planned | undefined };
  readonly to: { readonly interface: Interface | undefined; readonly planned: Planned | undefined };
}

export interface LinkFacts {
  readonly addressing: AddressingFacts;
  readonly cabling: CablingFacts;
  /** Rows by their device; services also by the machine on which their program runs. */
  readonly services: ReadonlyMap<string, readonly Service[]>;
  readonly servicesOn: ReadonlyMap<string, readonly Service[]>;
  readonly interfaces: ReadonlyMap<string, readonly Interface[]>;
  /** Addresses of routers. */
  readonly routers: () => readonly Planned[];
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
  const [from, to] = facing(show, facts, controller, target);
  const side = (device: Device, planned: Planned | undefined) => ({
    interface: planned?.interface ?? ownInterfaces(show, facts, device)[0],
    planned,
  });
  const [near, far] = [side(controller, from), side(target, to)];
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
    route: near.interface && far.interface && facts.cabling.route(near.interface.id, far.interface.id),
    from: near,
    to: far,
  };
}

const ownInterfaces = (show: Show, facts: LinkFacts, device: Device): Interface[] =>
  (facts.interfaces.get(hostOf(show, device).id) ?? []).filter(
    ({ adapter }) => device.adapter === null || adapter === device.adapter,
  );

type Facing = readonly [Planned | undefined, Planned | undefined];

/**
 * The pair of addresses on one network; without such a pair, the first address of each (C12). An adapter with a cable
 * goes before one without, since a computer does not send through a dead one, then the first of its type. A program
 * that was told which adapter to use has no other.
 */
export function facing(
  show: Show,
  facts: Pick<LinkFacts, 'addressing' | 'cabling'>,
  controller: Device,
  target: Device,
): Facing {
  const isDead = ({ interface: { id } }: Planned) => Number(facts.cabling.plugOf(id) === undefined);
  const ranked = (device: Device): readonly Planned[] => {
    const all = facts.addressing.byDevice.get(hostOf(show, device).id) ?? [];
    const own = device.adapter === null ? all : all.filter((item) => item.interface.adapter === device.adapter);
    if (own.length < 2) return own;
    return [...own].sort((a, b) => isDead(a) - isDead(b) || byAdapter(show)(a.interface, b.interface));
  };
  const [own, its] = [ranked(controller), ranked(target)];
  for (const a of own) for (const b of its) if (a.network.id === b.network.id) return [a, b];
  return [own[0], its[0]];
}
