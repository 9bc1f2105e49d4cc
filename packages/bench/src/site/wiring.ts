import { show as core } from '@deep-patch/core';
import { Cable, noLink, radio, copper, type Port, type RunQuality } from '../ether/cable.ts';
import type { Scheduler } from '../ether/scheduler.ts';
import { Switch } from '../ether/switch.ts';
import { settingsOf, type Standin } from '../units/standin.ts';

export interface SiteCable {
  readonly row: core.Cable;
  readonly cable: Cable;
}

/** Up to which rate in Mbit/s multi-mode fibre carries how many metres (IEEE 802.3 clauses 26, 38, 52, 112, 86, 95). */
const multiMode: Readonly<Record<'om3' | 'om4', readonly (readonly [mbps: number, metres: number])[]>> = {
  om3: [
    [100, 2000],
    [1000, 550],
    [10_000, 300],
    [25_000, 70],
    [40_000, 100],
  ],
  om4: [
    [100, 2000],
    [1000, 550],
    [10_000, 400],
    [25_000, 100],
    [40_000, 150],
  ],
};

/** What a cable carries at all: 100 m of copper (IEEE 802.3 clause 40), 10 km of single-mode fibre (clause 52). */
function longestM({ medium, grade }: core.Cable, mbps: number): number {
  if (medium === 'wireless') return Infinity;
  if (medium === 'copper') return 100;
  if (grade !== 'om3' && grade !== 'om4') return 10_000;
  const rates = multiMode[grade];
  return rates.find(([rate]) => mbps <= rate)?.[1] ?? (grade === 'om3' ? 70 : 100);
}

/** The sockets of every unit, and the cables that are plugged into them. */
export class Wiring {
  readonly cables = new Map<string, SiteCable>();
  /** Sockets that lead to the same place whatever mode a unit is in, by `device socket`. */
  private readonly sockets = new Map<string, Port>();
  /** The bridge inside a unit for an adapter with several sockets, by `device adapter`. */
  private readonly inside = new Map<string, Switch>();
  /** The mode that a unit was in when its cables were plugged in. */
  private readonly modes = new Map<string, string | null>();
  private readonly scheduler: Scheduler;
  private readonly random: () => number;

  constructor(scheduler: Scheduler, random: () => number) {
    this.scheduler = scheduler;
    this.random = random;
  }

  /** Sockets of a switch are its bridge; its own adapter sits on it as well, and has a link when a socket has one. */
  addBridge({ device, type, bridge, host }: Standin, isPowered: () => boolean): void {
    if (!bridge) return;
    const outer = type.sockets.map(({ key }) => {
      const port = bridge.addPort(key);
      this.sockets.set(`${device.id} ${key}`, port);
      return port;
    });
    const hasLink = () => isPowered() && outer.some(({ cable }) => cable?.hasCarrier());
    for (const { key, port } of host.adapters)
      this.join(port, Object.assign(bridge.addPort(`own ${key}`, false), { isPowered: hasLink }));
  }

  /** What passes frames on in a unit: its own bridge, or those inside between the sockets of one adapter. */
  bridgesOf({ device, host, bridge }: Standin): Switch[] {
    if (bridge) return [bridge];
    return host.adapters.flatMap(({ key }) => this.inside.get(`${device.id} ${key}`) ?? []);
  }

  /** Ends what bridges do by themselves, before a new plan replaces them. */
  end(): void {
    for (const bridge of this.inside.values()) bridge.end();
  }

  /** Ends every storm at once, as when the loop is pulled out. */
  calm(): void {
    for (const bridge of this.inside.values()) bridge.calm();
  }

  /**
   * An adapter with several sockets passes frames on between them like a small switch, so that such units can be
   * chained; each adds its delay. It has a link as soon as one of its sockets has.
   */
  addAdapter({ device, type, host }: Standin, key: string, isPowered: () => boolean): void {
    const port = host.adapters.find((adapter) => adapter.key === key)?.port;
    if (!port || socketsAt(type, key).length < 2) return;
    const bridge = new Switch(this.scheduler, isPowered);
    const inner = bridge.addPort(`own ${key}`);
    const hasLink = () =>
      isPowered() && [...bridge.ports.values()].some((outer) => outer !== inner && outer.cable?.hasCarrier());
    this.join(port, Object.assign(inner, { isPowered: hasLink }), type.chain?.delayMs);
    this.inside.set(`${device.id} ${key}`, bridge);
  }

  plugIn(show: core.Show, unit: (id: string) => Standin | undefined): void {
    for (const row of core.rowsOf(show, 'cables')) {
      const [from, to] = [unit(row.fromDevice), unit(row.toDevice)];
      for (const end of [from, to]) if (end) this.modes.set(end.device.id, settingsOf(end).variant);
      const [a, b] = [from && this.portAt(from, row.fromSocket), to && this.portAt(to, row.toSocket)];
      if (a && b)
        this.cables.set(row.id, { row, cable: new Cable([a, b], qualityOf(show, row), this.scheduler, this.random) });
    }
  }

  /** After a unit went into another mode: what its sockets lead to may have changed. */
  replug(standin: Standin): void {
    const { id } = standin.device;
    const { variant } = settingsOf(standin);
    if (!this.modes.has(id) || this.modes.get(id) === variant) return;
    this.modes.set(id, variant);
    const moves = [...this.cables.values()].flatMap(({ row, cable }) => {
      const socket = row.fromDevice === id ? row.fromSocket : row.toDevice === id ? row.toSocket : undefined;
      const to = socket === undefined ? undefined : this.portAt(standin, socket);
      return to ? [{ cable, to, at: row.fromDevice === id ? 0 : 1 } as const] : [];
    });
    for (const { cable, at } of moves) cable.unplug(at);
    for (const { cable, at, to } of moves) cable.plug(at, to);
  }

  /** Cables at a unit's own network sockets, with the adapter that each leads to now. */
  networkCablesOf(standin: Standin): { readonly cable: Cable; readonly at: 0 | 1; readonly adapter: string }[] {
    const { device, type } = standin;
    return [...this.cables.values()].flatMap(({ row, cable }) => {
      const at = row.fromDevice === device.id ? 0 : row.toDevice === device.id ? 1 : undefined;
      const key = at === 0 ? row.fromSocket : row.toSocket;
      const socket = core.socketOf(type, settingsOf(standin).variant, key);
      return at !== undefined && socket?.adapter != null ? [{ cable, at, adapter: socket.adapter }] : [];
    });
  }

  private portAt(standin: Standin, socketKey: string): Port | undefined {
    const { device, type, host, bridge } = standin;
    const key = `${device.id} ${socketKey}`;
    if (bridge) return this.sockets.get(key);
    const socket = core.socketOf(type, settingsOf(standin).variant, socketKey);
    if (!socket) return undefined;
    const adapter = host.adapters.find((own) => own.key === socket.adapter);
    const inside = this.inside.get(`${device.id} ${socket.adapter}`);
    if (inside) return inside.ports.get(socketKey) ?? inside.addPort(socketKey);
    return adapter?.port ?? this.blind(key, standin);
  }

  /** A socket that leads to no network of the unit: its lamp may light, and nothing behind it hears anything. */
  private blind(key: string, { memory }: Standin): Port {
    const known = this.sockets.get(key);
    const port = known ?? { receive: () => undefined, isPowered: () => memory.powered, cable: undefined };
    this.sockets.set(key, port);
    return port;
  }

  private join(a: Port, b: Port, delayMs = 0): void {
    const quality = copper(0);
    new Cable([a, b], { ...quality, delayMs: quality.delayMs + delayMs }, this.scheduler, this.random);
  }
}

/** Sockets that lead to an adapter in some mode of the type. */
const socketsAt = (type: core.DeviceType, adapter: string): string[] => [
  ...new Set(
    [null, ...type.variants.map(({ key }) => key)].flatMap((variant) =>
      core.socketsOf(type, variant).flatMap((socket) => (socket.adapter === adapter ? [socket.key] : [])),
    ),
  ),
];

/** Whether a link comes up on a cable of this length at all. */
export const hasLink = (show: core.Show, row: core.Cable): boolean =>
  (row.lengthM ?? 0) <= longestM(row, Math.min(...endsOf(row).map(([unit, key]) => rateAt(show, unit, key))));

const endsOf = ({ fromDevice, fromSocket, toDevice, toSocket }: core.Cable) =>
  [
    [fromDevice, fromSocket],
    [toDevice, toSocket],
  ] as const;

/** Ports whose rate nobody has said run at 1 Gbit/s. */
function rateAt(show: core.Show, deviceId: string, key: string): number {
  const type = core.typeOf(show, show.devices[deviceId]);
  return type?.sockets.find((socket) => socket.key === key)?.rateMbps ?? 1000;
}

/** A delay that somebody measured replaces the usual one of the medium. */
function qualityOf(show: core.Show, row: core.Cable): RunQuality {
  const { medium, lengthM, delayMs } = row;
  if (!hasLink(show, row)) return noLink;
  const usual = medium === 'wireless' ? radio : copper(lengthM ?? 1);
  return delayMs === null ? usual : { ...usual, delayMs };
}
