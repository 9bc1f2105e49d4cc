import { readWake } from '@deep-patch/codecs';
import { openServices } from '../protocols/open-services.ts';
import { loseUnstored } from '../units/contents.ts';
import { freshFace } from '../units/memory.ts';
import { losePower } from '../units/pending.ts';
import { isUp, type Standin } from '../units/standin.ts';
import { serveAddresses, settlesMs, takeAddresses } from './addresses.ts';
import { loseTarget } from './behaviours/look-up-once.ts';
import { startBehaviours } from './behaviours/start-behaviours.ts';
import { admits } from './firewall.ts';
import type { Ground } from './ground.ts';

const inOrderOfStarting = (a: Standin, b: Standin): number =>
  Number(a.computer !== undefined) - Number(b.computer !== undefined) || (a.device.id < b.device.id ? -1 : 1);

/** Switches units on and off, and what that starts and ends in them. */
export class Power {
  private readonly ground: Ground;

  constructor(ground: Ground) {
    this.ground = ground;
  }

  /** A unit that comes up shows its starting face, and what was not committed is lost. */
  set(deviceIds: readonly string[], on: boolean): void {
    const units = deviceIds.flatMap((id) => this.ground.standins.get(id) ?? []);
    for (const standin of units.sort(inOrderOfStarting)) {
      const { memory, type } = standin;
      if (memory.powered === on && memory.fault === undefined) continue;
      // what loses its power says goodbye to nobody
      memory.powered &&= on;
      this.halt(standin);
      memory.powered = on;
      memory.fault = undefined;
      losePower(standin);
      loseUnstored(standin);
      memory.lookedUp.clear();
      memory.heard = 0;
      memory.lastAt = null;
      memory.seats.clear();
      memory.tried.clear();
      memory.face.clear();
      for (const [parameter, start] of freshFace(type)) memory.face.set(parameter, start);
      if (on) this.start(standin);
      else for (const lost of [standin, ...standin.programs]) loseTarget(this.ground, lost);
    }
    this.heedLinks();
  }

  /** Lamps at the far ends of its cables came on or went off: switches see that at once, not with the next frame. */
  heedLinks(): void {
    for (const { bridge } of this.ground.standins.values()) bridge?.tree?.heedLinks();
  }

  /** Power comes: the link lamps light at once, the unit itself is ready after its time. */
  start(standin: Standin): void {
    const { memory, type, bridge } = standin;
    const { wiring, scheduler, startUps } = this.ground;
    wiring.replug(standin);
    const seconds = startUps === 'real' ? (type.startsInSeconds ?? 0) : 0;
    memory.readyAt = seconds === 0 ? 0 : scheduler.now() + seconds * 1000;
    bridge?.tree?.start();
    this.ground.settleBy(scheduler.now() + settlesMs);
    if (seconds === 0) this.run(standin);
    else
      scheduler.after(seconds * 1000, () => {
        if (isUp(standin)) this.run(standin);
      });
  }

  /** Takes a unit's settings in again, as after something was keyed in at it. */
  refresh(standin: Standin): void {
    this.ground.wiring.replug(standin);
    this.heedLinks();
    if (!isUp(standin)) return;
    this.halt(standin);
    this.run(standin);
  }

  /** Ends what it offers; a computer ends its programs with it. */
  halt(standin: Standin): void {
    for (const close of standin.closers.splice(0)) close();
    for (const told of [standin.guards, standin.followers, standin.timeEars, standin.midiSessions, standin.renewers])
      told.length = 0;
    standin.tellers.clear();
    standin.openers.clear();
    standin.crowdedOut.clear();
    if (standin.computer) return;
    for (const program of standin.programs) this.halt(program);
    for (const client of standin.clients.splice(0)) client.stop();
    standin.host.shutDown();
    for (const adapter of standin.host.adapters) adapter.addresses = [];
    this.endClashesWith(standin);
    this.fallAsleep(standin);
    if (!standin.memory.powered || standin.memory.fault) standin.bridge?.tree?.stop();
  }

  /** Whoever shared an address with it has it alone now; if it takes the same again, that is told anew. */
  private endClashesWith({ host }: Standin): void {
    const macs = new Set(host.adapters.map(({ mac }) => mac));
    for (const other of this.ground.standins.values())
      for (const [ip, mac] of other.host.neighbours.conflicts)
        if (macs.has(mac)) other.host.neighbours.conflicts.delete(ip);
  }

  /** What is off hears only a message that wakes it (C32). */
  fallAsleep({ host, device, memory }: Standin): void {
    host.asleep = ({ body }) => {
      const mac = body.kind === 'ip' && body.payload.kind === 'udp' ? readWake(body.payload.bytes) : undefined;
      if (mac === undefined || memory.powered || !host.adapters.some((adapter) => adapter.mac === mac)) return;
      this.ground.scheduler.after(1, () => this.set([device.id], true));
    };
  }

  /** Takes its addresses, then opens what it offers; a computer does the same for its programs. */
  private run(standin: Standin): void {
    const { computer, host } = standin;
    if (!computer) {
      host.asleep = undefined;
      host.admits = (inbound) => admits(this.ground, standin, inbound);
      takeAddresses(this.ground, standin);
      serveAddresses(this.ground, standin);
    }
    openServices(standin);
    startBehaviours(this.ground, standin);
    if (!computer) for (const program of standin.programs) if (isUp(program)) this.run(program);
  }
}
