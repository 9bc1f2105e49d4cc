import { wireBytes, type Frame } from '@deep-patch/codecs';
import type { Scheduler } from './scheduler.ts';

/** Anything that a cable can be plugged into. */
export interface Port {
  readonly receive: (frame: Frame) => void;
  /** Whether the device behind it has power; without it the far lamp is dark too. */
  readonly isPowered: () => boolean;
  cable: Cable | undefined;
  /** It only passes frames on, as the socket of a switch does. */
  readonly passesOn?: true;
}

export interface RunQuality {
  readonly delayMs: number;
  readonly jitterMs: number;
  /** Share of frames lost, 0 to 1. */
  readonly loss: number;
  /** Bits a second. */
  readonly rate: number;
}

/** About 5 ns a metre, and what a switch needs to store and forward. */
export const copper = (lengthM: number): RunQuality => ({
  delayMs: 0.02 + lengthM * 5e-6,
  jitterMs: 0.01,
  loss: 0,
  rate: 1e9,
});
export const radio: RunQuality = { delayMs: 9, jitterMs: 12, loss: 0.004, rate: 4e7 };

/** A run that is too long: the lamps stay dark. */
export const noLink: RunQuality = { delayMs: 0, jitterMs: 0, loss: 1, rate: 0 };

/** A sender's buffer holds this much; what comes on top of it is lost. */
const longestQueueMs = 250;

/** A cable or a wireless hop between two ports: it delays, queues at its rate, loses frames, and may be pulled out. */
export class Cable {
  private ends: [Port, Port];
  private readonly scheduler: Scheduler;
  private readonly random: () => number;
  /** When the last frame of each direction is out of its sender. */
  private readonly freeAt: [number, number] = [0, 0];
  /** When the last frame of each direction arrives: none overtakes it (IEEE 802.1Q section 6.5.3). */
  private readonly arrivesAt: [number, number] = [0, 0];
  quality: RunQuality;
  /** How often its link came up or went down by a plug: whoever learnt something of it has to learn anew. */
  links = 0;
  private isCut = false;

  constructor(ends: readonly [Port, Port], quality: RunQuality, scheduler: Scheduler, random: () => number) {
    this.ends = [...ends];
    this.quality = quality;
    this.scheduler = scheduler;
    this.random = random;
    for (const end of ends) end.cable = this;
  }

  /** Pulled out at one end. */
  get cut(): boolean {
    return this.isCut;
  }

  set cut(cut: boolean) {
    this.isCut = cut;
    this.links += 1;
  }

  /** Takes one plug out, and leaves its port without a cable. */
  unplug(at: 0 | 1): Port {
    const port = this.ends[at];
    this.links += 1;
    if (port.cable === this) port.cable = undefined;
    return port;
  }

  plug(at: 0 | 1, port: Port): void {
    this.ends[at] = port;
    port.cable = this;
  }

  /** The port at the other end. */
  farOf(port: Port): Port {
    return this.ends[0] === port ? this.ends[1] : this.ends[0];
  }

  hasCarrier(): boolean {
    return !this.cut && this.quality.rate > 0 && this.ends.every((end) => end.isPowered());
  }

  send(from: Port, frame: Frame): void {
    const direction = this.ends[0] === from ? 0 : 1;
    const far = this.ends[1 - direction] ?? this.ends[0];
    if (!this.hasCarrier()) return;
    const now = this.scheduler.now();
    const start = Math.max(now, this.freeAt[direction] ?? 0);
    if (start - now > longestQueueMs) return;
    const out = start + (wireBytes(frame) * 8000) / this.quality.rate;
    this.freeAt[direction] = out;
    if (this.random() < this.quality.loss) return;
    const due = out + this.quality.delayMs + this.random() * this.quality.jitterMs;
    const arrives = (this.arrivesAt[direction] = Math.max(due, this.arrivesAt[direction]));
    const arrive = () => {
      if (this.hasCarrier()) far.receive(frame);
    };
    // streams go on a turn later, datagrams and questions at once
    const isStream = frame.body.kind === 'ip' && frame.body.payload.kind === 'tcp';
    if (far.passesOn) this.scheduler.light(arrives - now, arrive, 0);
    else if (isStream) this.scheduler.after(arrives - now, arrive);
    else this.scheduler.light(arrives - now, arrive, 1);
  }
}
