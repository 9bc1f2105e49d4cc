import type { Frame, Ip } from '@deep-patch/codecs';
import type { Host } from '../ether/host.ts';
import { outsideAddress } from '../ether/outside.ts';
import type { Scheduler } from '../ether/scheduler.ts';
import { TcpStack } from '../ether/tcp.ts';

/** A way through the stand-in's host takes no time, but never happens while something else does. */
const passesMs = 0.01;
const hops = 64;
let peers = 0;

/** The stand-in in front of which a jack stands; it may be off, and a new plan replaces it. */
export interface Unit {
  readonly host: Host;
  /** Of the adapter that frames are told to have reached. */
  readonly mac: string;
}

interface Surface {
  readonly unit: () => Unit | undefined;
  readonly scheduler: Scheduler;
  /** Told of every frame between the peer and the unit. */
  readonly tell: (frame: Frame) => void;
  readonly hear: (datagram: { readonly fromPort: number; readonly toPort: number; readonly bytes: Uint8Array }) => void;
}

/**
 * Somebody beyond the simulated network, as its units see it: a machine with an address of its own. What it sends is
 * handed to the unit's host and told to the tap as frames, and so is what the host sends back.
 */
export class OutsidePeer {
  readonly ip: number;
  private readonly mac: string;
  private readonly surface: Surface;
  private readonly tcp: TcpStack;

  constructor(surface: Surface) {
    ({ ip: this.ip, mac: this.mac } = outsideAddress(peers));
    peers += 1;
    this.surface = surface;
    this.tcp = new TcpStack(
      surface.scheduler,
      (_to, segment) => void surface.scheduler.after(passesMs, () => this.give(segment)),
      { sourceFor: () => this.ip, refuses: () => false },
    );
  }

  send(ports: { readonly from: number; readonly to: number }, bytes: Uint8Array, unit = this.surface.unit()): void {
    this.give({ kind: 'udp', sourcePort: ports.from, destinationPort: ports.to, bytes }, unit);
  }

  /** A stream to a port of the unit. */
  connect(port: number): ReturnType<TcpStack['connect']> {
    return this.tcp.connect(this.surface.unit()?.host.firstIp() ?? 0, port);
  }

  /** Nobody sends to it any more. */
  leave(): void {
    this.surface.unit()?.host.outside.delete(this.ip);
  }

  private give(payload: Ip['payload'], unit = this.surface.unit()): void {
    if (!unit) return;
    const { host, mac } = unit;
    if (!host.outside.has(this.ip)) host.outside.set(this.ip, (packet) => this.take(packet, mac));
    const body: Ip = { kind: 'ip', source: this.ip, destination: host.firstIp(), ttl: hops, payload };
    this.surface.tell({ to: mac, from: this.mac, vlan: null, body });
    host.takeFromOutside(body);
  }

  private take(body: Ip, mac: string): void {
    this.surface.tell({ to: this.mac, from: mac, vlan: null, body });
    const { payload, source } = body;
    if (payload.kind === 'tcp')
      this.surface.scheduler.after(passesMs, () => this.tcp.receive(source, payload, this.ip));
    else if (payload.kind === 'udp')
      this.surface.hear({ fromPort: payload.sourcePort, toPort: payload.destinationPort, bytes: payload.bytes });
  }
}
