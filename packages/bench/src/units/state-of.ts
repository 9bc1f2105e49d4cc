import { type contract, show as core } from '@deep-patch/core';
import { changeWords } from './keyed-change.ts';
import { stageOf } from './pending.ts';
import type { UnitSettings } from './settings.ts';
import { dotted } from '../ether/dotted.ts';
import type { Switch } from '../ether/switch.ts';
import { helpersOf, isInSetUp, isUp, settingsOf, type Standin } from './standin.ts';

/** A stand-in as the screen draws it: lamp, face and its own menu. */
export function stateOf(
  standin: Standin,
  bridges: readonly Switch[],
  lamps: readonly contract.LinkLamp[],
): contract.StandinState {
  const { device, memory, host, bridge } = standin;
  const wait = memory.readyAt - host.scheduler.now();
  return {
    deviceId: device.id,
    powered: memory.powered,
    status: statusOf(standin, bridges),
    circling: bridges.flatMap((each) => each.circling()),
    readyInMs: memory.powered && wait > 0 ? Math.ceil(wait) : null,
    face: [...memory.face, ...(bridge?.tree?.shut().map((key) => ['shut by spanning tree', key] as const) ?? [])],
    menu: menuOf(standin),
    settings: { ...toldSettings(settingsOf(standin)), followsPlan: memory.own === undefined },
    pending: memory.pending.map((pending) => ({
      of: pending.of,
      acts: [...pending.acts],
      stage: stageOf(pending),
      what: pending.changes.map((change) => changeWords(standin.type, change)).join('; '),
    })),
    unstored: memory.storedContents !== undefined,
    application: memory.application,
    firewall: memory.firewall,
    helper: helperOf(standin),
    has: isUp(standin)
      ? host.adapters.flatMap(({ key, addresses }) => addresses.map(({ ip }) => ({ adapter: key, ip: dotted(ip) })))
      : [],
    allowed: [...memory.allowed],
    sets: [...memory.sets].map(([position, { label, settings }]) => ({
      position,
      label,
      active: position === memory.activeSet,
      isAsStored: core.isEqual(settings, settingsOf(standin)),
    })),
    lamps,
    lists: Object.fromEntries(memory.lists),
    endpoints: isUp(standin)
      ? standin.endpoints().map((name) => ({ name, called: memory.endpointNames.get(name) ?? null }))
      : [],
    earlier: memory.earlier ? shortly(memory.earlier) : null,
    heard: memory.heard,
    lastAt: memory.lastAt,
  };
}

/** Settings never change, they are replaced: what is told of them is made once. */
function toldSettings(settings: UnitSettings): Omit<contract.StandinSettings, 'followsPlan'> {
  const known = toldOf.get(settings);
  if (known) return known;
  const { addresses, services, firmware, variant } = settings;
  const made = {
    addresses: Object.entries(addresses).flatMap(([adapter, list]) =>
      list.map(({ method, ip, prefix, gateway }) => ({
        adapter,
        method,
        ip: ip === null ? null : dotted(ip),
        prefix,
        gateway: gateway === null ? null : dotted(gateway),
      })),
    ),
    services: services.map(({ password, ...service }) => ({ ...service, hasPassword: password !== undefined })),
    firmware,
    variant,
  };
  toldOf.set(settings, made);
  return made;
}
const toldOf = new WeakMap<UnitSettings, Omit<contract.StandinSettings, 'followsPlan'>>();

function helperOf(standin: Standin): contract.StandinState['helper'] {
  const name = helpersOf(standin).join(', ');
  return name === '' ? null : { name, runs: standin.memory.helper };
}

/** The addresses of settings in one line. */
const shortly = (addresses: UnitSettings['addresses']): string =>
  Object.values(addresses)
    .flat()
    .map(({ method, ip, prefix }) => (ip === null ? method : `${dotted(ip)} /${prefix}`))
    .join(', ') || 'no address';

function statusOf(standin: Standin, bridges: readonly Switch[]): contract.StandinState['status'] {
  const { memory, host } = standin;
  if (memory.fault) return 'fault';
  if (!memory.powered) return 'no power';
  if (!isUp(standin)) return host.scheduler.now() < memory.readyAt ? 'starting' : 'no power';
  if (bridges.some((bridge) => bridge.isStorming())) return 'storm';
  if (host.neighbours.conflicts.size > 0) return 'clash';
  if (isInSetUp(standin)) return 'set-up';
  return memory.application === 'closed' ? 'closed' : memory.application === 'no_show' ? 'no show' : 'up';
}

type Line = readonly [string, string];

function menuOf(standin: Standin): Line[] {
  const { host, type, crowdedOut } = standin;
  const addresses = host.adapters.flatMap((adapter) =>
    adapter.addresses.map(({ ip, prefix, gateway }): Line => [
      labelOf(type.adapters, adapter.key),
      `${dotted(ip)} /${prefix}${gateway === null ? '' : ` via ${dotted(gateway)}`}`,
    ]),
  );
  const clashes = [...host.neighbours.conflicts].map(([ip, mac]): Line => ['clash', `${dotted(ip)} is also at ${mac}`]);
  const ports = settingsOf(standin).services.map(({ key, enabled, receivePort }): Line => {
    const state = !enabled ? 'off' : crowdedOut.has(key) ? `${receivePort} is in use` : `on, hears ${receivePort}`;
    return [labelOf(type.services, key), state];
  });
  const { firmware, variant: mode } = settingsOf(standin);
  const variant =
    type.variants.length === 0 ? undefined : (type.variants.find(({ key }) => key === mode)?.label ?? 'usual');
  return [
    ...(addresses.length > 0 ? addresses : [['address', 'none'] as const]),
    ...clashes,
    ...ports,
    ...(firmware === null ? [] : [['version', firmware] as const]),
    ...(variant === undefined ? [] : [['mode', variant] as const]),
    ...(standin.memory.firstSignIn ? [['sign-in', 'asks for an administrator first'] as const] : []),
    ...standin.memory.folder.map((clip) => ['clip', clip] as const),
  ];
}

const labelOf = (list: readonly { key: string; label: string }[], key: string): string =>
  list.find((entry) => entry.key === key)?.label ?? key;
