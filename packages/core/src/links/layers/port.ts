import { likelySlip } from '../../addressing/index.ts';
import { fixWith } from '../../findings/index.ts';
import { changeOf, hostOf, roleOf, updateRow, type Service } from '../../show/index.ts';
import type { Ends } from '../ends.ts';
import { isLoopback } from '../entry.ts';
import { layerOf, type SideBySide } from '../layer.ts';
import { listenerName } from '../listeners.ts';
import { judgeRoles, openedBack, roleStops, type RolePorts, type RoleStops } from './roles.ts';

type Ports = {
  readonly transport: string;
  readonly asks: number;
  readonly listens: number;
  readonly controller: string;
  readonly target: string;
};
type Wrong = Ports & { readonly slip: string; readonly there: string };
type Passes = { agreed: Ports; opened_back: RolePorts };
type Stops = {
  interchanged: Wrong;
  still_default: Wrong;
  slip: Wrong;
  other_port: Wrong;
  two_listeners: Ports & { other: string };
  starts_first: Ports & { other: string };
  switched_off: Ports & { label: string };
  other_adapter: Ports & { adapter: string };
} & RoleStops;

const sides = (f: Ports, between: string): SideBySide => ({
  left: `asks ${f.transport} ${f.asks}`,
  right: `listens ${f.transport} ${f.listens}`,
  between,
});
const heardBy = (f: Wrong): string =>
  f.there ? `${f.there} listens on ${f.asks} and takes what is not for it.` : 'Messages leave and nothing happens.';

/**
 * The target's receiving port is the controller's sending port, never the other way about (C20, C21), and the service
 * really has it: switched on, and started before anything else that wants the same port.
 */
export const port = layerOf<Passes, Stops>(
  {
    passes: { agreed: (f) => sides(f, 'same port'), opened_back: openedBack },
    stops: {
      ...roleStops,
      interchanged: {
        sides: (f) => sides(f, 'that is its sending port'),
        said: (f) => [
          `${f.controller} sends to ${f.asks}, the port that ${f.target} sends from.`,
          `${f.target} listens on ${f.listens}. Its sending port is only for what leaves it.`,
          `Send to ${f.listens}.`,
        ],
      },
      still_default: {
        sides: (f) => sides(f, 'the type’s default, changed on this unit'),
        said: (f) => [
          `${f.controller} still sends to the type’s default ${f.asks}.`,
          `On this unit the port was changed to ${f.listens}.`,
          `Send to ${f.listens}.`,
        ],
      },
      slip: {
        sides: (f) => sides(f, `one figure ${f.slip}`),
        said: (f) => [
          `${f.controller} sends to ${f.asks}; ${f.target} listens on ${f.listens}.`,
          `One figure is ${f.slip}.`,
          `Send to ${f.listens}.`,
        ],
      },
      other_port: {
        sides: (f) => sides(f, f.there ? `that is ${f.there}` : 'different ports'),
        said: (f) => [
          `${f.controller} sends to ${f.asks}; ${f.target} listens on ${f.listens}.`,
          heardBy(f),
          `Send to ${f.listens}.`,
        ],
      },
      two_listeners: {
        sides: (f) => sides(f, `${f.other} has it`),
        said: (f) => [
          `${f.other} starts before this service of ${f.target} and takes ${f.transport} ${f.listens}.`,
          'A port belongs to whoever opens it first; the other one hears nothing.',
          'Give one of them another port.',
        ],
      },
      starts_first: {
        sides: (f) => sides(f, `${f.other} wants it too`),
        said: (f) => [
          `${f.other} wants ${f.transport} ${f.listens} as well.`,
          `It works as long as this service of ${f.target} starts first.`,
          'Give one of them another port.',
        ],
      },
      switched_off: {
        sides: (f) => ({ ...sides(f, 'nothing listens'), right: 'switched off' }),
        said: (f) => [
          `${f.label} is switched off at ${f.target}.`,
          'It listens to nothing until somebody turns it on.',
          'Turn it on in its own menu.',
        ],
      },
      other_adapter: {
        sides: (f) => sides(f, `on ${f.adapter} only`),
        said: (f) => [
          `${f.target} was told to use ${f.adapter} and listens there only.`,
          `${f.controller} sends to an address of another adapter.`,
          `Aim it at the address of ${f.adapter}, or tell ${f.target} to use the other one.`,
        ],
      },
    },
  },
  (ends, { pass, risky, fail }) => {
    const { show, facts: known, link, service, serviceType, target } = ends;
    const facts = portsOf(ends);
    const roles = judgeRoles(ends);
    if (roles?.code === 'opened_back') return pass(roles.code, roles.facts);
    if (roles) return fail(roles.code, roles.facts, roles.fixes);
    const machine = hostOf(show, target).id;
    const listener = known.listeners.at(machine, serviceType.transport, link.port);
    if (roleOf(service, serviceType) === 'opens' && !service.enabled) return fail(...switchedOff(ends, facts));
    if (link.port !== service.receivePort) {
      const slip = likelySlip(String(link.port), String(service.receivePort)) ?? '';
      const there = listener && listener.service?.id !== service.id ? listenerName(target, listener) : '';
      return fail(codeFor(ends, slip), { ...facts, slip, there }, [
        fixWith(`Send to ${service.receivePort}`, aimAtPort(ends)),
      ]);
    }
    if (!service.enabled) return fail(...switchedOff(ends, facts));
    if (listener?.service?.id !== service.id)
      return fail('two_listeners', { ...facts, other: listener ? listenerName(target, listener) : crowdOf(ends) });
    const bound = target.adapter !== null && !hears(ends, target.adapter);
    if (bound) return fail('other_adapter', { ...facts, adapter: adapterLabel(ends) });
    const rival = known.listeners
      .wanting(machine, serviceType.transport, link.port)
      .find((other) => other.service?.id !== service.id);
    if (rival) return risky('starts_first', { ...facts, other: listenerName(target, rival) });
    return pass('agreed', facts);
  },
);

function switchedOff({ serviceType, target, service }: Ends, facts: Ports) {
  const change = changeOf(`Turn ${serviceType.label} on at ${target.name}`, [
    updateRow('services', service, { enabled: true }),
  ]);
  const fixes = [fixWith(`Turn ${serviceType.label} on`, change)];
  return ['switched_off', { ...facts, label: serviceType.label }, fixes] as const;
}

const portsOf = ({ serviceType, link, service, controller, target }: Ends): Ports => ({
  transport: serviceType.transport.toUpperCase(),
  asks: link.port,
  listens: service.receivePort,
  controller: controller.name,
  target: target.name,
});

function codeFor({ link, service, serviceType }: Ends, slip: string) {
  if (link.port === service.sendPort) return 'interchanged' as const;
  if (link.port === serviceType.receivePort) return 'still_default' as const;
  return slip ? ('slip' as const) : ('other_port' as const);
}

/** A service that needs two ports may lose the second one to somebody. */
function crowdOf({ show, facts, service, serviceType, target }: Ends): string {
  const second = facts.listeners.at(hostOf(show, target).id, serviceType.transport, service.receivePort + 1);
  return second ? listenerName(target, second) : 'Something else';
}

/** A program that is bound to an adapter hears what is sent to an address of that adapter, and nothing else. */
const hears = ({ aim, to }: Ends, adapter: string): boolean =>
  aim !== undefined &&
  !isLoopback(aim) &&
  (to.machine?.held ?? []).some((own) => own.adapter === adapter && own.from === aim);

const adapterLabel = ({ target, to }: Ends): string =>
  to.machine?.type.adapters.find(({ key }) => key === target.adapter)?.label ?? target.adapter ?? '';

function aimAtPort({ controller, link, service }: Ends) {
  return changeOf(`Send ${controller.name} to port ${service.receivePort}`, [
    updateRow('links', link, right(link.port, link.replyPort, service)),
  ]);
}

/** When both numbers were swapped, both are put right in one go. */
const right = (asks: number, hears: number | null, { receivePort, sendPort }: Service) =>
  asks === sendPort && hears === receivePort ? { port: receivePort, replyPort: sendPort } : { port: receivePort };
