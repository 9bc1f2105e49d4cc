import { readWake, type Frame } from '@deep-patch/codecs';
import { addressing, links, show as core, type Show } from '@deep-patch/core';
import { clientPort, DhcpClient } from './ether/dhcp-client.ts';
import { DhcpServer } from './ether/dhcp-server.ts';
import { Host, type Inbound } from './ether/host.ts';
import type { Scheduler } from './ether/scheduler.ts';
import { portMac } from './ether/spanning-tree.ts';
import { Switch } from './ether/switch.ts';
import type { BenchPlan } from './plan.ts';
import { ownAddress, poolsOf } from './addresses.ts';
import { plannedSettings } from './setup.ts';
import { endpointsOf } from './standins/behaviours/endpoints.ts';
import { startBehaviours } from './standins/behaviours/start-behaviours.ts';
import { lampsOf } from './standins/lamps.ts';
import { openServices } from './standins/open-services.ts';
import { sound } from './standins/sound.ts';
import { soundBack } from './standins/touch.ts';
import { stateOf } from './standins/state-of.ts';
import { freshFace, freshMemory, isUp, settingsOf, undotted, type Memory, type Standin } from './standins/standin.ts';
import { Tap } from './tap/tap.ts';
import { membershipsOf, takesTags } from './vlans.ts';
import { Wiring, type SiteCable } from './wiring.ts';

/** A network needs this long after power came before switches pass everything (simulated milliseconds). */
const settlesMs = 350;
/** And so long until units have an address that they ask for: three rounds without an answer, then one of their own. */
const asksForMs = 2500;

const inOrderOfStarting = (a: Standin, b: Standin): number =>
  Number(a.computer !== undefined) - Number(b.computer !== undefined) || (a.device.id < b.device.id ? -1 : 1);

/** The simulated site of one show: stand-ins, switches and cables as planned. A new plan rebuilds it; power and faces stay. */
export class Site {
  readonly standins = new Map<string, Standin>();
  wiring: Wiring;
  readonly tap: Tap;
  readonly scheduler: Scheduler;
  startUps: 'skipped' | 'real' = 'skipped';
  plan: BenchPlan;
  /** Runs after the site was built anew, to set again what is not in the plan. */
  onBuilt: () => void = () => undefined;
  private readonly memories = new Map<string, Memory>();
  private readonly byMac = new Map<string, Standin>();
  private readonly random: () => number;
  private settledAt = 0;
  private known: links.LinkFacts | undefined;
  private sounding: Promise<void> = Promise.resolve();
  private readonly epoch: number;

  constructor(plan: BenchPlan, scheduler: Scheduler, random: () => number, epoch = Date.now()) {
    this.plan = plan;
    this.scheduler = scheduler;
    this.random = random;
    this.epoch = epoch - scheduler.now();
    this.wiring = new Wiring(scheduler, random);
    this.tap = new Tap(
      (frame) => this.namesOf(frame),
      () => this.epoch + scheduler.now(),
    );
    this.build();
  }

  get rev(): number {
    return this.plan.show.rev;
  }

  get cables(): ReadonlyMap<string, SiteCable> {
    return this.wiring.cables;
  }

  get heard(): readonly core.HeardMessage[] {
    return this.tap.last(200);
  }

  load(plan: BenchPlan): void {
    this.plan = plan;
    this.known = undefined;
    for (const standin of this.standins.values()) {
      this.halt(standin);
      standin.bridge?.end();
    }
    this.wiring.end();
    this.standins.clear();
    this.byMac.clear();
    this.build();
    this.onBuilt();
  }

  /** Switches units on or off; a unit that comes up shows its starting face, and what was not committed is lost. */
  power(deviceIds: readonly string[], on: boolean): void {
    const units = deviceIds.flatMap((id) => this.standins.get(id) ?? []);
    for (const standin of units.sort(inOrderOfStarting)) {
      const { memory, type } = standin;
      if (memory.powered === on && memory.fault === undefined) continue;
      this.halt(standin);
      memory.powered = on;
      memory.fault = undefined;
      memory.pending = undefined;
      memory.heard = 0;
      memory.lastAt = null;
      memory.seats.clear();
      memory.tried.clear();
      memory.face.clear();
      for (const [parameter, start] of freshFace(type)) memory.face.set(parameter, start);
      if (on) this.start(standin);
    }
  }

  restart(deviceIds: readonly string[]): void {
    this.power(deviceIds, false);
    this.power(deviceIds, true);
  }

  /** Takes a unit's settings in again, as after something was keyed in at it. */
  refresh(standin: Standin): void {
    this.wiring.replug(standin);
    if (!isUp(standin)) return;
    this.halt(standin);
    this.run(standin);
  }

  /** Links came up or went down: whoever has an address says so again, and switches learn where it is now. */
  linksChanged(): void {
    for (const { host, computer } of this.standins.values())
      if (!computer) for (const adapter of host.adapters) host.neighbours.announce(adapter, false);
  }

  states(): core.StandinState[] {
    return [...this.standins.values()].map((standin) => stateOf(standin, lampsOf(this, standin)));
  }

  /** Sounds one link after the other: two at once would hear each other's replies. */
  sound(linkId: string): Promise<core.MeasuredSounding | undefined> {
    const mine = this.sounding.then(() => this.soundNow(linkId));
    this.sounding = mine.then(
      () => undefined,
      () => undefined,
    );
    return mine;
  }

  private async soundNow(linkId: string): Promise<core.MeasuredSounding | undefined> {
    const { show, passwords } = this.plan;
    const link = show.links[linkId];
    if (!link) return undefined;
    await this.settled();
    const basis = links.basisOf(show, this.linkFacts(), link);
    const [controller, target] = [this.standins.get(link.controllerId), this.standins.get(link.targetId)];
    const request = { show, link, passwords, controller, target, entry: links.entryOf(this.linkFacts(), link) };
    const result = await sound(request);
    const stoppedAt = result.layers.find(({ state }) => state === 'fail')?.layer ?? null;
    controller?.memory.tried.set(linkId, { at: this.scheduler.now(), stoppedAt });
    const back = stoppedAt === null ? await soundBack(request).catch(() => null) : null;
    return { linkId, source: 'bench', at: Date.now(), rev: show.rev, basis, ...result, back };
  }

  /** Until switches know their ways, and units that ask for an address have one. */
  async settled(): Promise<void> {
    const wait = this.settledAt - this.scheduler.now();
    if (wait > 0) await new Promise<void>((done) => void this.scheduler.after(wait, done));
  }

  standinAt(ip: number): Standin | undefined {
    for (const standin of this.standins.values())
      if (!standin.computer && standin.host.adapters.some(({ addresses }) => addresses.some((own) => own.ip === ip)))
        return standin;
    return undefined;
  }

  /** What the plan has keyed into controllers follows from the whole of it: worked out once. */
  private linkFacts(): links.LinkFacts {
    const { show } = this.plan;
    return (this.known ??= links.linkFacts(show, addressing.addressingFacts(show), () => ({ change: undefined })));
  }

  private build(): void {
    const { show } = this.plan;
    this.wiring = new Wiring(this.scheduler, this.random);
    const isProgram = (device: core.Device) => core.typeOf(show, device)?.form === 'program';
    // computers before the programs that run on them
    const devices = core
      .rowsOf(show, 'devices')
      .sort((a, b) => Number(isProgram(a)) - Number(isProgram(b)) || (a.id < b.id ? -1 : 1));
    for (const device of devices) this.addStandin(show, device);
    this.wiring.plugIn(core.rowsOf(show, 'cables'), (id) => this.standins.get(id));
    this.setVlans();
    // a computer starts its programs itself
    for (const standin of this.standins.values())
      if (standin.memory.powered && !(standin.computer && isUp(standin.computer))) this.start(standin);
  }

  private setVlans(): void {
    for (const [key, member] of membershipsOf(this.plan.show)) {
      const [deviceId = '', socket = ''] = key.split(' ');
      this.standins.get(deviceId)?.bridge?.membership.set(socket, member);
    }
    for (const standin of this.standins.values()) {
      const vlan = Object.values(standin.planned.addresses).flat()[0]?.vlan;
      if (vlan == null) continue;
      for (const { key } of standin.type.adapters)
        standin.bridge?.membership.set(`own ${key}`, { mode: 'access', vlan });
    }
  }

  private addStandin(show: Show, device: core.Device): void {
    const type = core.typeOf(show, device);
    if (!type) return;
    const memory = this.memories.get(device.id) ?? freshMemory(type);
    this.memories.set(device.id, memory);
    const computer = type.form === 'program' ? this.standins.get(device.runsOn ?? '') : undefined;
    // a computer that is off keeps its adapters awake, to be woken over the network
    const sleeps = core.isComputer(type);
    const isPowered = () => (memory.powered || sleeps) && memory.fault === undefined;
    const mac = core.macOf(show, device.id, type.adapters[0]?.key ?? 'bridge', 0);
    const bridge = type.forwards ? new Switch(this.scheduler, isPowered, type.managed ? mac : undefined) : undefined;
    const standin: Standin = {
      device,
      computer,
      type,
      memory,
      bridge,
      planned: plannedSettings(show, device, this.plan.passwords),
      host: computer?.host ?? new Host(this.scheduler),
      clients: [],
      dhcp: undefined,
      crowdedOut: new Set(),
      sessions: new Map(),
      oscDoors: new Map(),
      streamDoors: new Map(),
      guards: [],
      followers: [],
      closers: [],
      endpoints: () => (sleeps ? endpointsOf(this.standins.values()) : []),
      report: (message) => this.report(standin, message),
    };
    this.standins.set(device.id, standin);
    if (bridge?.tree) {
      bridge.tree.onSend = (frame) => this.tap.take(frame);
      for (let port = 1; port <= type.sockets.length; port += 1) this.byMac.set(portMac(mac, port), standin);
    }
    if (computer) return;
    standin.host.onSend = (frame) => this.tap.take(frame);
    standin.host.routes = type.kind === 'router';
    this.addAdapters(standin, isPowered);
    this.fallAsleep(standin);
  }

  /** What is off hears only a message that wakes it (C32). */
  private fallAsleep({ host, device, memory }: Standin): void {
    host.asleep = ({ body }) => {
      const mac = body.kind === 'ip' && body.payload.kind === 'udp' ? readWake(body.payload.bytes) : undefined;
      if (mac === undefined || memory.powered || !host.adapters.some((adapter) => adapter.mac === mac)) return;
      this.scheduler.after(1, () => this.power([device.id], true));
    };
  }

  private addAdapters(standin: Standin, isPowered: () => boolean): void {
    const { host, type, device, bridge } = standin;
    for (const [at, { key }] of type.adapters.entries()) {
      const mac = core.macOf(this.plan.show, device.id, key, at);
      this.byMac.set(mac, standin);
      host.addAdapter(key, mac, [], isPowered);
      if (!bridge) this.wiring.addAdapter(standin, key, isPowered);
    }
    this.wiring.addBridge(standin, isPowered);
  }

  /** Power comes: the link lamps light at once, the unit itself is ready after its time. */
  private start(standin: Standin): void {
    const { memory, type, bridge } = standin;
    this.wiring.replug(standin);
    const seconds = this.startUps === 'real' ? (type.startsInSeconds ?? 0) : 0;
    memory.readyAt = this.scheduler.now() + seconds * 1000;
    bridge?.tree?.start();
    this.settledAt = Math.max(this.settledAt, this.scheduler.now() + settlesMs);
    if (seconds === 0) this.run(standin);
    else
      this.scheduler.after(seconds * 1000, () => {
        if (isUp(standin)) this.run(standin);
      });
  }

  /** Takes its addresses, then opens what it offers; a computer does the same for its programs. */
  private run(standin: Standin): void {
    const { computer } = standin;
    if (!computer) {
      standin.host.asleep = undefined;
      standin.host.admits = (inbound) => !standin.memory.firewall || this.isAllowed(standin, inbound);
      this.takeAddresses(standin);
      this.serveAddresses(standin);
    }
    openServices(standin);
    startBehaviours(this, standin);
    if (!computer)
      for (const program of this.standins.values())
        if (program.computer === standin && isUp(program)) this.run(program);
  }

  /** A firewall lets in what somebody allowed it to, program by program and port by port; an echo is never on the list. */
  private isAllowed(computer: Standin, { transport, port }: Inbound): boolean {
    // systems let the answers to their own client in, which come from an address that it did not ask
    if (transport === 'udp' && port === clientPort) return true;
    const here = [...this.standins.values()].filter((other) => other === computer || other.computer === computer);
    return here.some((standin) =>
      settingsOf(standin).services.some(
        ({ key, receivePort }) =>
          standin.memory.allowed.has(key) &&
          receivePort === port &&
          standin.type.services.find((service) => service.key === key)?.transport === transport,
      ),
    );
  }

  private takeAddresses(standin: Standin): void {
    const { host, device, clients } = standin;
    for (const adapter of host.adapters) {
      const settings = settingsOf(standin).addresses[adapter.key] ?? [];
      const tagged = takesTags(this.plan.show, device.id, adapter.key);
      adapter.addresses = settings.flatMap((setting) => ownAddress(setting, tagged));
      host.neighbours.announce(adapter);
      const asks = settings.find((setting) => setting.method !== 'static');
      if (!asks || asks.method === 'static') continue;
      const { method, ip: remembered } = asks;
      const client = new DhcpClient(host, adapter, device.name);
      clients.push(client);
      this.scheduler.after(settlesMs, () => {
        if (clients.includes(client)) client.start(method, remembered);
      });
      this.settledAt = Math.max(this.settledAt, this.scheduler.now() + settlesMs + asksForMs);
    }
  }

  /** A router hands out the pools of the networks that it is in. */
  private serveAddresses(standin: Standin): void {
    if (standin.type.kind !== 'router') return;
    const active = standin.dhcp?.active ?? true;
    standin.dhcp = new DhcpServer(standin.host, poolsOf(this.plan.show));
    standin.dhcp.active = active;
    standin.dhcp.start();
  }

  /** Ends what it offers; a computer ends its programs with it. */
  private halt(standin: Standin): void {
    for (const close of standin.closers.splice(0)) close();
    standin.guards.length = standin.followers.length = 0;
    for (const map of [standin.oscDoors, standin.streamDoors, standin.sessions, standin.crowdedOut]) map.clear();
    if (standin.computer) return;
    for (const program of this.standins.values()) if (program.computer === standin) this.halt(program);
    for (const client of standin.clients.splice(0)) client.stop();
    standin.host.shutDown();
    for (const adapter of standin.host.adapters) adapter.addresses = [];
    this.fallAsleep(standin);
    if (!standin.memory.powered || standin.memory.fault) standin.bridge?.tree?.stop();
  }

  private report(standin: Standin, message: Omit<core.HeardMessage, 'at' | 'to'>): void {
    const { name, id } = standin.device;
    const from = /^\d+(\.\d+){3}$/.test(message.from) ? this.standinAt(undotted(message.from)) : undefined;
    this.tap.add({
      at: this.epoch + this.scheduler.now(),
      to: name,
      toId: id,
      ...message,
      ...(from ? { from: from.device.name, fromId: from.device.id } : {}),
    });
  }

  private namesOf({ from, to, body }: Frame): Pick<core.HeardMessage, 'from' | 'to' | 'fromId' | 'toId'> {
    const sender = this.byMac.get(from) ?? (body.kind === 'ip' ? this.standinAt(body.source) : undefined);
    const taker = this.byMac.get(to) ?? (body.kind === 'ip' ? this.standinAt(body.destination) : undefined);
    const group = /^(ff|01)/.test(to) ? 'everybody' : to;
    return {
      from: sender?.device.name ?? from,
      to: taker?.device.name ?? group,
      ...(sender ? { fromId: sender.device.id } : {}),
      ...(taker ? { toId: taker.device.id } : {}),
    };
  }
}
