import { show as core } from '@deep-patch/core';
import { Host } from '../ether/host.ts';
import { portMac } from '../ether/spanning-tree.ts';
import { Switch } from '../ether/switch.ts';
import { endpointsOf, type Run } from '../units/endpoints.ts';
import { resetToFactory } from '../units/keying.ts';
import { freshMemory } from '../units/memory.ts';
import { plannedSettings } from '../units/settings.ts';
import type { Standin } from '../units/standin.ts';
import type { Ground } from './ground.ts';
import { membershipsOf } from './vlans.ts';

type Report = (standin: Standin, message: Parameters<Standin['report']>[0]) => void;

interface Joined {
  readonly report: Report;
  /** The cables that are plugged in. */
  readonly runs: () => readonly Run[];
}

/** Makes the stand-ins of a plan, and plugs its cables in. Nothing is started. */
export function build(ground: Ground, report: Report): void {
  const { show } = ground.plan;
  const isProgram = (device: core.Device) => core.typeOf(show, device)?.form === 'program';
  // computers before the programs that run on them
  const devices = core
    .rowsOf(show, 'devices')
    .sort((a, b) => Number(isProgram(a)) - Number(isProgram(b)) || (a.id < b.id ? -1 : 1));
  const isUsb = core.memoFor((row: core.Cable) => hasUsbEnd(ground, row));
  const runs = (): Run[] =>
    [...ground.wiring.cables.values()]
      .filter(({ cable }) => !cable.cut)
      .map(({ row }) => ({ ends: [row.fromDevice, row.toDevice], isUsb: isUsb(row) }));
  for (const device of devices) addStandin(ground, device, { report, runs });
  ground.wiring.plugIn(show, (id) => ground.standins.get(id));
  setVlans(ground);
}

function addStandin(ground: Ground, device: core.Device, { report, runs }: Joined): void {
  const { show } = ground.plan;
  const { scheduler, standins, memories, byMac, tap } = ground;
  const type = core.typeOf(show, device);
  if (!type) return;
  const known = memories.get(device.id);
  // a spare comes out of its case: it remembers nothing, and has what the factory left in it
  const isSpare = known !== undefined && known.swaps !== device.swaps;
  const memory = known && !isSpare ? known : freshMemory(type, device);
  memories.set(device.id, memory);
  const computer = type.form === 'program' ? standins.get(device.runsOn ?? '') : undefined;
  // a computer that is off keeps its adapters awake, to be woken over the network
  const sleeps = core.isComputer(type);
  const isPowered = () => (memory.powered || sleeps) && memory.fault === undefined;
  const mac = core.macOf(show, device.id, type.adapters[0]?.key ?? 'bridge', 0);
  const bridge = type.forwards ? new Switch(scheduler, isPowered, type.managed ? mac : undefined) : undefined;
  const standin: Standin = {
    device,
    computer,
    type,
    programs: [],
    memory,
    bridge,
    planned: plannedSettings(show, device, ground.plan.passwords),
    host: computer?.host ?? new Host(scheduler),
    clients: [],
    dhcp: undefined,
    crowdedOut: new Set(),
    guards: [],
    followers: [],
    ears: [],
    timeEars: [],
    midiSessions: [],
    tellers: new Map(),
    openers: new Map(),
    renewers: [],
    closers: [],
    endpoints: () => (sleeps ? endpointsOf(standin, standins.values(), runs()) : []),
    clock: ground.clock,
    report: (message) => report(standin, message),
  };
  standins.set(device.id, standin);
  if (isSpare) resetToFactory(standin);
  computer?.programs.push(standin);
  if (bridge?.tree) {
    bridge.tree.onSend = (frame) => tap.take(frame);
    for (let port = 1; port <= type.sockets.length; port += 1) byMac.set(portMac(mac, port), standin);
  }
  if (computer) return;
  standin.host.watchSent((frame) => tap.take(frame));
  standin.host.routes = type.kind === 'router';
  addAdapters(ground, standin, isPowered);
}

function hasUsbEnd({ standins }: Ground, { fromDevice, fromSocket, toDevice, toSocket }: core.Cable): boolean {
  const isUsb = (id: string, key: string) =>
    standins.get(id)?.type.sockets.some((socket) => socket.key === key && socket.connector === 'usb') ?? false;
  return isUsb(fromDevice, fromSocket) || isUsb(toDevice, toSocket);
}

function addAdapters({ plan, byMac, wiring }: Ground, standin: Standin, isPowered: () => boolean): void {
  const { host, type, device, bridge } = standin;
  for (const [at, { key }] of type.adapters.entries()) {
    const mac = core.macOf(plan.show, device.id, key, at);
    byMac.set(mac, standin);
    host.addAdapter(key, mac, [], isPowered);
    if (!bridge) wiring.addAdapter(standin, key, isPowered);
  }
  wiring.addBridge(standin, isPowered);
}

function setVlans({ plan, standins }: Ground): void {
  for (const [key, member] of membershipsOf(plan.show)) {
    const [deviceId = '', socket = ''] = key.split(' ');
    standins.get(deviceId)?.bridge?.membership.set(socket, member);
  }
  for (const standin of standins.values()) {
    const vlan = Object.values(standin.planned.addresses).flat()[0]?.vlan;
    if (vlan == null) continue;
    for (const { key } of standin.type.adapters) standin.bridge?.membership.set(`own ${key}`, { mode: 'access', vlan });
  }
}
