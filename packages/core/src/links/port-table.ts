import {
  byName,
  groupBy,
  hostOf,
  isComputer,
  isConnection,
  roleOf,
  rowsOf,
  serviceTypeOf,
  typeOf,
  type Device,
  type Link,
  type ServiceType,
  type Show,
} from '../show/index.ts';

/** One port of one machine: who has it and for what (need 2.17). */
export interface PortLine {
  readonly machine: Device;
  readonly owner: Device;
  readonly service: string;
  readonly transport: 'udp' | 'tcp';
  readonly port: number;
  readonly use: 'hears' | 'sends_from' | 'hears_replies';
  /** Somebody else of the machine hears on the same transport and port, replies included. */
  readonly clash: boolean;
}

/** Every port that the plan uses, by machine, transport and number. */
export function portTable(show: Show): PortLine[] {
  const lines = [
    ...rowsOf(show, 'services').flatMap((row) => ofService(show, row)),
    ...rowsOf(show, 'links').flatMap((row) => ofLink(show, row)),
  ];
  const keyOf = ({ machine, transport, port }: PortLine) => `${machine.id} ${transport} ${port}`;
  const hearing = groupBy(
    lines.filter(({ use }) => use !== 'sends_from'),
    keyOf,
  );
  return lines
    .map((line) => ({ ...line, clash: line.use !== 'sends_from' && listenersIn(hearing.get(keyOf(line)) ?? []) > 1 }))
    .sort(
      (a, b) =>
        byName(a.machine, b.machine) ||
        (a.transport < b.transport ? -1 : a.transport > b.transport ? 1 : a.port - b.port),
    );
}

/** A program opens a port for replies once, however many targets reply there. */
const listenersIn = (lines: readonly PortLine[]): number =>
  new Set(lines.map(({ owner, service, use }) => `${owner.id} ${use === 'hears' ? service : 'replies'}`)).size;

function ofService(show: Show, row: ReturnType<typeof rowsOf<'services'>>[number]): PortLine[] {
  const owner = show.devices[row.deviceId];
  const type = serviceTypeOf(show, owner, row.key);
  if (!owner || !type || !row.enabled) return [];
  const line = { machine: hostOf(show, owner), owner, service: type.label, transport: type.transport, clash: false };
  const opens = roleOf(row, type) === 'opens';
  // whoever opens a stream hears nobody, and leaves from any port
  if (opens && type.protocol !== 'midi') return [];
  const hears = portsOf(type, row.receivePort).map((port): PortLine => ({ ...line, port, use: 'hears' }));
  const sends: PortLine[] = row.sendPort === null || opens ? [] : [{ ...line, port: row.sendPort, use: 'sends_from' }];
  return [...hears, ...sends];
}

function ofLink(show: Show, row: ReturnType<typeof rowsOf<'links'>>[number]): PortLine[] {
  const owner = show.devices[row.controllerId];
  const type = serviceTypeOf(show, show.devices[row.targetId], row.serviceKey);
  if (!owner || !type) return [];
  if (waitsHere(row, type)) {
    const waits = { machine: hostOf(show, owner), owner, service: `connection of ${type.label}`, clash: false };
    return portsOf(type, row.port).map((port) => ({ ...waits, transport: type.transport, port, use: 'hears' }));
  }
  if (type.transport !== 'udp' || row.replyPort === null) return [];
  const service = `replies of ${show.devices[row.targetId]?.name ?? ''}`;
  return [
    {
      machine: hostOf(show, owner),
      owner,
      service,
      transport: 'udp',
      port: row.replyPort,
      use: 'hears_replies',
      clash: false,
    },
  ];
}

/** The controller waits for the target to open the connection. */
const waitsHere = ({ role }: Link, type: ServiceType): boolean => role === 'waits' && isConnection(type);

/** A session of network MIDI has a port for control and the next one for data (RFC 6295 section 2). */
const portsOf = ({ protocol }: ServiceType, port: number): number[] =>
  protocol === 'midi' ? [port, port + 1] : [port];

/** One permission that a computer's firewall must give (C24). */
export interface FirewallRule {
  readonly machine: Device;
  readonly program: string;
  readonly direction: 'in' | 'out';
  readonly transport: 'udp' | 'tcp';
  readonly port: number;
  readonly peer: string;
}

/**
 * What the firewalls of computers must let through, from the links: in at the target and out at the controller, both
 * ports of a session, and the way back for UDP replies. Units without a system of their own have no firewall to set; links within one machine
 * need no rule.
 */
export function firewallRules(show: Show): FirewallRule[] {
  const hasFirewall = (device: Device): boolean => isComputer(typeOf(show, device));
  const seen = new Set<string>();
  const rules = rowsOf(show, 'links').flatMap((link): FirewallRule[] => {
    const [controller, target] = [show.devices[link.controllerId], show.devices[link.targetId]];
    const type = serviceTypeOf(show, target, link.serviceKey);
    if (!controller || !target || !type) return [];
    const waits = waitsHere(link, type);
    const [opener, taker] = waits ? [target, controller] : [controller, target];
    const [from, to] = [hostOf(show, opener), hostOf(show, taker)];
    if (from.id === to.id) return [];
    const { transport } = type;
    const ports = portsOf(type, link.port);
    const replies =
      !waits && transport === 'udp' && link.replyPort !== null ? { transport, port: link.replyPort } : undefined;
    return [
      ...ports.flatMap((port) => [
        { machine: from, program: opener.name, direction: 'out' as const, transport, port, peer: to.name },
        { machine: to, program: taker.name, direction: 'in' as const, transport, port, peer: from.name },
      ]),
      ...(replies
        ? [
            { machine: to, program: taker.name, direction: 'out' as const, ...replies, peer: from.name },
            { machine: from, program: opener.name, direction: 'in' as const, ...replies, peer: to.name },
          ]
        : []),
    ].filter(({ machine }) => hasFirewall(machine));
  });
  return rules
    .filter((rule) => {
      const key = [rule.machine.id, rule.program, rule.direction, rule.transport, rule.port, rule.peer].join(' ');
      return !seen.has(key) && seen.add(key);
    })
    .sort(
      (a, b) =>
        byName(a.machine, b.machine) ||
        (a.direction < b.direction ? -1 : a.direction > b.direction ? 1 : a.port - b.port),
    );
}
