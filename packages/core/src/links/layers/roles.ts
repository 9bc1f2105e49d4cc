import { formatIp, mustIp } from '../../addressing/index.ts';
import { fixWith, type Fix, type Said } from '../../findings/index.ts';
import { changeOf, hostOf, isConnection, roleOf, updateRow, type ConnectionRole } from '../../show/index.ts';
import type { Ends } from '../ends.ts';
import type { SideBySide } from '../layer.ts';
import { listenerName } from '../listeners.ts';
import { some } from '../some.ts';

export type RolePorts = {
  readonly label: string;
  /** Where the controller waits. */
  readonly waits: number;
  /** Where the target opens to. */
  readonly to: string;
  readonly port: number | '';
  readonly controller: string;
  readonly target: string;
};
export type RoleStops = {
  both_wait: RolePorts;
  both_open: RolePorts;
  opens_nowhere: RolePorts;
  opens_elsewhere: RolePorts & { ip: string };
  opens_other_port: RolePorts;
  waiting_port_taken: RolePorts & { other: string };
  session_port_taken: RolePorts & { own: number; other: string };
};

type Words<Facts> = { readonly sides: (facts: Facts) => SideBySide; readonly said: (facts: Facts) => Said };

const sides = (f: RolePorts, between: string): SideBySide => ({
  left: `waits on ${f.waits}`,
  right: f.to ? `opens to ${f.to}:${some(f.port, 'no port')}` : 'opens to nobody',
  between,
});

export const openedBack = (f: RolePorts): SideBySide => sides(f, 'the target opens, the controller waits');

/** What stops a link because of who waits and who opens (need 4.3, C26). */
export const roleStops: { readonly [Code in keyof RoleStops]: Words<RoleStops[Code]> } = {
  both_wait: {
    sides: () => ({ left: 'waits', right: 'waits', between: 'nobody opens' }),
    said: (f) => [
      `${f.controller} and ${f.target} both wait for a connection.`,
      `Nobody opens one, so ${f.label} never begins.`,
      'Tell one of them to open it.',
    ],
  },
  both_open: {
    sides: () => ({ left: 'opens', right: 'opens', between: 'nobody waits' }),
    said: (f) => [
      `${f.controller} and ${f.target} both open a connection.`,
      'Each finds the other’s door closed.',
      'Tell one of them to wait.',
    ],
  },
  opens_nowhere: {
    sides: (f) => sides(f, 'nobody entered'),
    said: (f) => [
      `${f.target} is to open the connection and was not told where.`,
      `${f.controller} waits on ${f.waits}.`,
      'Enter the controller’s address and port in it.',
    ],
  },
  opens_elsewhere: {
    sides: (f) => sides(f, 'goes elsewhere'),
    said: (f) => [
      `${f.target} opens to ${f.to}; that does not lead to ${f.controller} and back.`,
      `${f.controller} is at ${some(f.ip, 'no fixed address')} and waits.`,
      'Enter the controller’s address in it.',
    ],
  },
  opens_other_port: {
    sides: (f) => sides(f, 'different ports'),
    said: (f) => [
      `${f.target} opens to port ${some(f.port, 'none')}; ${f.controller} waits on ${f.waits}.`,
      'It finds a closed door.',
      `Open to ${f.waits}.`,
    ],
  },
  waiting_port_taken: {
    sides: (f) => sides(f, `${f.other} has it`),
    said: (f) => [
      `${f.controller} wants to wait on ${f.waits}, but ${f.other} has that port there.`,
      'A port belongs to whoever opens it first.',
      'Wait on a port that is free, and open to that one.',
    ],
  },
  session_port_taken: {
    sides: (f) => sides(f, `${f.other} has ${f.own}`),
    said: (f) => [
      `${f.label} of ${f.target} wants ${f.own} for its own end, but ${f.other} has that port there.`,
      'Without its two ports a session opens to nobody.',
      'Give one of them another port.',
    ],
  },
};

type Judged = {
  readonly [Code in keyof RoleStops]: {
    readonly code: Code;
    readonly facts: RoleStops[Code];
    readonly fixes: readonly (Fix | undefined)[];
  };
}[keyof RoleStops];

/** Undefined where the controller opens and the target waits, or where there is no connection to open. */
export function judgeRoles(ends: Ends): Judged | { code: 'opened_back'; facts: RolePorts } | undefined {
  const { link, service, serviceType, answer, accepted, replyTo } = ends;
  if (!isConnection(serviceType)) return undefined;
  const pair = `${link.role} ${roleOf(service, serviceType)}` as const;
  const facts = factsOf(ends);
  if (pair === 'waits waits')
    return { code: 'both_wait', facts, fixes: [setLink(ends, 'opens'), setTarget(ends, 'opens')] };
  if (pair === 'opens opens')
    return { code: 'both_open', facts, fixes: [setTarget(ends, 'waits'), setLink(ends, 'waits')] };
  // switched off, it opens as little as it hears: that is told before anything else is
  if (pair === 'opens waits' || !service.enabled) return undefined;
  const [host, own] = [hostOf(ends.show, ends.controller).id, hostOf(ends.show, ends.target).id];
  const [ip, fixes] = [addressOf(ends), [openHere(ends)]];
  if (replyTo === null) return { code: 'opens_nowhere', facts, fixes };
  if (answer?.arrivedAt !== host || (accepted?.arrivedAt !== own && !isAtHome(ends)) || isBoundElsewhere(ends))
    return { code: 'opens_elsewhere', facts: { ...facts, ip }, fixes };
  if (service.sendPort !== link.port) return { code: 'opens_other_port', facts, fixes };
  const other = whoHas(ends, host);
  if (other !== undefined) return { code: 'waiting_port_taken', facts: { ...facts, other }, fixes: [] };
  const rival = whoHasOwn(ends, own);
  if (rival !== undefined)
    return { code: 'session_port_taken', facts: { ...facts, own: service.receivePort, other: rival }, fixes: [] };
  return { code: 'opened_back', facts };
}

/** On one machine nothing leaves it, neither there nor back. */
const isAtHome = ({ sameMachine, answer }: Ends): boolean => sameMachine && answer?.source === undefined;

/**
 * A session of a program that was told to use an adapter hears nothing that comes to another one. On its own machine
 * what comes back goes to the address that it opened to.
 */
function isBoundElsewhere({ serviceType, target, answer, replyTo, to }: Ends): boolean {
  const { adapter } = target;
  if (serviceType.protocol !== 'midi' || adapter === null) return false;
  if (answer?.source !== undefined) return answer.source.adapter !== adapter;
  const ip = replyTo === null ? undefined : mustIp(replyTo);
  return !(to.machine?.held ?? []).some((own) => own.adapter === adapter && own.from === ip && own.to === ip);
}

const factsOf = ({ link, service, serviceType, controller, target, replyTo }: Ends): RolePorts => ({
  label: serviceType.label,
  waits: link.port,
  to: replyTo ?? '',
  port: service.sendPort ?? '',
  controller: controller.name,
  target: target.name,
});

/** Where the target finds the controller: the address that packets to it leave from. */
function addressOf({ there, sameMachine }: Ends): string {
  if (sameMachine) return '127.0.0.1';
  const source = there?.source;
  return source && source.from === source.to ? formatIp(source.from) : '';
}

/** Whoever has a port of the controller's machine where it is to wait; a session takes two. */
function whoHas({ facts, link, controller, serviceType }: Ends, host: string): string | undefined {
  const ports = serviceType.protocol === 'midi' ? [link.port, link.port + 1] : [link.port];
  const taken = ports
    .map((port) => facts.listeners.at(host, serviceType.transport, port))
    .find((listener) => listener !== undefined);
  return taken && listenerName(controller, taken);
}

/** A session that opens has two ports of its own as well; whoever started first has them. */
function whoHasOwn({ facts, service, serviceType, target }: Ends, machine: string): string | undefined {
  if (serviceType.protocol !== 'midi') return undefined;
  const taken = [service.receivePort, service.receivePort + 1]
    .map((port) => facts.listeners.at(machine, serviceType.transport, port))
    .find((listener) => listener !== undefined && listener.service?.id !== service.id);
  return taken && listenerName(target, taken);
}

function setLink({ link, controller, service, serviceType }: Ends, role: ConnectionRole): Fix | undefined {
  const port = role === 'opens' ? service.receivePort : (service.sendPort ?? link.port);
  const does = role === 'opens' ? 'opens' : 'waits for';
  // whoever waits needs somebody who opens, and the other way about
  const change = changeOf(`${controller.name} ${does} the connection of ${serviceType.label}`, [
    updateRow('links', link, { role, port }),
  ]);
  return fixWith(role === 'opens' ? `Let ${controller.name} open it` : `Let ${controller.name} wait`, change);
}

/** Only a role that its type offers; one that opens is told where to. */
function setTarget(ends: Ends, role: ConnectionRole): Fix | undefined {
  const { link, service, serviceType, target } = ends;
  if (!(serviceType.roles ?? ['waits']).includes(role)) return undefined;
  const ip = addressOf(ends);
  if (role === 'opens' && !ip) return undefined;
  const change = changeOf(`${target.name} ${role === 'opens' ? 'opens' : 'waits for'} the connection`, [
    updateRow('services', service, role === 'opens' ? { role, sendTo: ip, sendPort: link.port } : { role }),
  ]);
  return fixWith(role === 'opens' ? `Let ${target.name} open it` : `Let ${target.name} wait`, change);
}

function openHere(ends: Ends): Fix | undefined {
  const ip = addressOf(ends);
  if (!ip) return undefined;
  const { link, service, target } = ends;
  const change = changeOf(`${target.name} opens to ${ip}:${link.port}`, [
    updateRow('services', service, { sendTo: ip, sendPort: link.port }),
  ]);
  return fixWith(`Open to ${ip}:${link.port}`, change);
}
