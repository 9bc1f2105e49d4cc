import { Duplex } from 'node:stream';
import type { Tcp, TcpFlag } from '@deep-patch/codecs';
import type { Scheduler } from './scheduler.ts';

const segmentBytes = 1400;
const repeatAfterMs = 120;
const mostRepeats = 6;
const lingersMs = 2000;
const none = new Uint8Array();

type Send = (to: number, segment: Tcp, from: number | undefined) => void;

/** What the stack asks its machine. */
interface Machine {
  /** The address that a connection to somebody leaves from: it keeps it whatever way its packets take later. */
  readonly sourceFor: (to: number) => number | undefined;
  /** Does a listener not hear what is sent to this address? */
  readonly refuses: (port: number, destination: number) => boolean;
}

/**
 * Byte streams over the simulated network (RFC 9293 without congestion control and with one fixed window): connect,
 * refuse, deliver in order, repeat what was lost, close. Node's own HTTP runs on the streams.
 */
export class TcpStack {
  private readonly listeners = new Map<number, (stream: Stream) => void>();
  private readonly streams = new Map<string, Stream>();
  private nextPort = 49_152;
  private readonly scheduler: Scheduler;
  private readonly send: Send;
  private readonly machine: Machine;

  constructor(scheduler: Scheduler, send: Send, machine: Machine) {
    this.scheduler = scheduler;
    this.send = send;
    this.machine = machine;
  }

  /** Opens a port and answers what closes it; undefined when another service has it. */
  listen(port: number, accept: (stream: Stream) => void): (() => void) | undefined {
    if (this.listeners.has(port)) return undefined;
    this.listeners.set(port, accept);
    return () => {
      if (this.listeners.get(port) === accept) this.listeners.delete(port);
    };
  }

  /** Resolves with an open stream, or says why there is none. */
  connect(to: number, port: number): Promise<Stream | 'refused' | 'silent'> {
    const own = (this.nextPort = this.nextPort >= 65_535 ? 49_152 : this.nextPort + 1);
    return new Promise((done) => {
      const stream = this.makeStream({ to, from: this.machine.sourceFor(to) }, own, port);
      stream.onOutcome = (outcome) => done(outcome === 'open' ? stream : outcome);
      stream.open();
    });
  }

  receive(source: number, segment: Tcp, destination: number): void {
    const known = this.streams.get(keyOf(source, segment.destinationPort, segment.sourcePort));
    if (known) {
      known.receive(segment);
      return;
    }
    const accept = this.listeners.get(segment.destinationPort);
    if (isOnly(segment, 'syn') && accept && !this.machine.refuses(segment.destinationPort, destination)) {
      const stream = this.makeStream({ to: source, from: destination }, segment.destinationPort, segment.sourcePort);
      stream.accept(segment.seq);
      accept(stream);
    } else if (!segment.flags.includes('rst')) this.refuse({ to: source, from: destination }, segment);
  }

  /** Ends every stream at once, as a power cut does. */
  reset(): void {
    for (const stream of this.streams.values()) stream.cut();
    this.streams.clear();
    this.listeners.clear();
  }

  /** RFC 9293 section 3.10.7.1: a reset that the far end accepts. */
  private refuse({ to, from }: Ends, { sourcePort, destinationPort, seq, ack, flags, bytes }: Tcp): void {
    const answers = flags.includes('ack')
      ? { flags: ['rst'] as const, seq: ack, ack: 0 }
      : { flags: ['rst', 'ack'] as const, seq: 0, ack: (seq + bytes.length + (flags.includes('syn') ? 1 : 0)) >>> 0 };
    const segment = {
      kind: 'tcp',
      sourcePort: destinationPort,
      destinationPort: sourcePort,
      ...answers,
      bytes: none,
    } as const;
    this.send(to, segment, from);
  }

  private makeStream({ to, from }: Ends, own: number, far: number): Stream {
    const key = keyOf(to, own, far);
    const stream = new Stream(this.scheduler, own * 65_536 + far, (part) =>
      this.send(to, { kind: 'tcp', sourcePort: own, destinationPort: far, ...part }, from),
    );
    // what comes late is still answered, so that the far end stops repeating itself
    stream.once('close', () => this.scheduler.after(lingersMs, () => this.streams.delete(key)));
    this.streams.set(key, stream);
    return stream;
  }
}

/** The far address of a connection and the own one. */
interface Ends {
  readonly to: number;
  readonly from: number | undefined;
}

const keyOf = (far: number, ownPort: number, farPort: number): string => `${far} ${ownPort} ${farPort}`;
const isOnly = ({ flags }: Tcp, flag: TcpFlag): boolean => flags.length === 1 && flags[0] === flag;

type Part = Pick<Tcp, 'flags' | 'seq' | 'ack' | 'bytes'>;
interface Open {
  readonly end: number;
  readonly cancel: () => void;
}

/** One open connection. It has the few socket methods that Node's HTTP calls on a stream. */
export class Stream extends Duplex {
  onOutcome: ((outcome: 'open' | 'refused' | 'silent') => void) | undefined;
  private readonly scheduler: Scheduler;
  private readonly transmit: (part: Part) => void;
  private next: number;
  private expected = 0;
  /** What was acknowledged last. */
  private told: number | undefined;
  private dead = false;
  private readonly early = new Map<number, Tcp>();
  private readonly unacknowledged = new Map<number, Open>();

  constructor(scheduler: Scheduler, firstSeq: number, transmit: (part: Part) => void) {
    super();
    this.scheduler = scheduler;
    this.transmit = transmit;
    this.next = firstSeq >>> 0;
    this.on('error', () => undefined);
  }

  open(): void {
    this.deliver(['syn'], none);
  }

  accept(seq: number): void {
    this.expected = (seq + 1) >>> 0;
    this.deliver(['syn', 'ack'], none);
  }

  receive(segment: Tcp): void {
    const { flags, seq, ack, bytes } = segment;
    if (flags.includes('rst') || flags.includes('syn')) {
      if (flags.includes('rst')) this.fail('refused');
      else this.meet(segment);
      return;
    }
    if (flags.includes('ack')) this.acknowledged(ack);
    if (bytes.length === 0 && !flags.includes('fin')) return;
    const before = this.expected;
    if (((seq - before) | 0) >= 0) this.early.set(seq, segment);
    this.drain();
    // an answer that left meanwhile has acknowledged it already; what came twice or too early is always answered
    if (this.expected === before || this.told !== this.expected) this.say(['ack']);
  }

  /** Gives up without a word to the far end. */
  cut(): void {
    this.fail('silent');
  }

  override _read(): void {
    // segments are pushed as they come: the simulated streams carry small messages only
  }

  override _write(chunk: Uint8Array, _encoding: string, done: (error?: Error | null) => void): void {
    for (let at = 0; at < chunk.length; at += segmentBytes)
      this.deliver(['psh', 'ack'], chunk.slice(at, at + segmentBytes));
    done();
  }

  override _final(done: (error?: Error | null) => void): void {
    this.deliver(['fin', 'ack'], none);
    done();
  }

  setTimeout = (): this => this;
  setNoDelay = (): this => this;
  setKeepAlive = (): this => this;
  ref = (): this => this;
  unref = (): this => this;

  /** A SYN that comes again was not answered audibly; one with an answer opens. */
  private meet({ flags, seq, ack }: Tcp): void {
    if (!flags.includes('ack')) {
      this.say(['syn', 'ack'], (this.next - 1) >>> 0);
      return;
    }
    this.expected = (seq + 1) >>> 0;
    this.acknowledged(ack);
    this.say(['ack']);
    this.onOutcome?.('open');
    this.onOutcome = undefined;
  }

  private say(flags: readonly TcpFlag[], seq = this.next, bytes: Uint8Array = none): void {
    this.told = this.expected;
    this.transmit({ flags, seq, ack: this.expected, bytes });
  }

  /** SYN and FIN count as one byte each (RFC 9293 section 3.4). */
  private deliver(flags: readonly TcpFlag[], bytes: Uint8Array): void {
    const seq = this.next;
    this.next = (seq + bytes.length + (bytes.length === 0 ? 1 : 0)) >>> 0;
    this.repeat({ flags, seq, bytes, end: this.next }, 0);
  }

  private repeat(
    part: { flags: readonly TcpFlag[]; seq: number; bytes: Uint8Array; end: number },
    times: number,
  ): void {
    if (this.dead) return;
    if (times > mostRepeats) {
      this.fail('silent');
      return;
    }
    this.say(part.flags, part.seq, part.bytes);
    const cancel = this.scheduler.after(repeatAfterMs * 1.5 ** times, () => this.repeat(part, times + 1));
    this.unacknowledged.set(part.seq, { end: part.end, cancel });
  }

  private acknowledged(ack: number): void {
    for (const [seq, { end, cancel }] of this.unacknowledged)
      if (((ack - end) | 0) >= 0) {
        cancel();
        this.unacknowledged.delete(seq);
      }
  }

  private drain(): void {
    for (let part = this.early.get(this.expected); part; part = this.early.get(this.expected)) {
      this.early.delete(this.expected);
      const ends = part.flags.includes('fin');
      this.expected = (this.expected + part.bytes.length + (ends ? 1 : 0)) >>> 0;
      if (part.bytes.length > 0) this.push(Buffer.from(part.bytes));
      if (ends) this.push(null);
    }
  }

  private fail(outcome: 'refused' | 'silent'): void {
    this.dead = true;
    for (const { cancel } of this.unacknowledged.values()) cancel();
    this.unacknowledged.clear();
    this.onOutcome?.(outcome);
    this.onOutcome = undefined;
    this.destroy();
  }
}
