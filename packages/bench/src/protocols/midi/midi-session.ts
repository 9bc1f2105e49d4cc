import {
  readRtpMidi,
  writeMidiPacket,
  writeSession,
  type Invitation,
  type MidiMessage,
  type SessionPacket,
} from '@deep-patch/codecs';
import type { Datagram, Host } from '../../ether/host.ts';

/** Somebody at the other end of a session: where it listens, and the number that it goes by. */
export interface Participant {
  readonly name: string;
  readonly ip: number;
  readonly port: number;
  readonly ssrc: number;
}

export type JoinOutcome = Participant | 'refused' | 'silent';
type OnMessage = (message: MidiMessage, from: Participant) => void;

const answersWithinMs = 500;
const attempts = 3;
const ticksPerMs = 10;
const mostParticipants = 64;

/**
 * One session of network MIDI on a host: control on `port`, data on the one above (RFC 6295 with the usual session
 * commands). It accepts whoever invites it while it is enabled, can invite others, compares clocks, and passes
 * messages both ways.
 */
export class MidiSession {
  readonly participants = new Map<number, Participant>();
  readonly ssrc: number;
  private readonly host: Host;
  private readonly name: string;
  private readonly port: number;
  private readonly onMessage: OnMessage;
  /** Who was let in at the control port, with the token of the invitation. */
  private readonly invited = new Map<number, number>();
  private seq = 0;
  private token = 1;
  private readonly waiting = new Map<number, (packet: Invitation) => void>();
  /** Milliseconds that the last clock exchange took. */
  latencyMs: number | undefined;
  onMalformed: (from: number, fault: string) => void = () => undefined;
  /** Told when somebody came in by an invitation. */
  onJoin: () => void = () => undefined;

  /** What closes its two ports. */
  private doors: (() => void)[] = [];

  constructor(host: Host, { name, port, ssrc }: { name: string; port: number; ssrc: number }, onMessage: OnMessage) {
    this.host = host;
    this.name = name;
    this.port = port;
    this.ssrc = ssrc;
    this.onMessage = onMessage;
  }

  /** False when one of its two ports is taken. */
  open(): boolean {
    const doors = [this.port, this.port + 1].flatMap(
      (port) => this.host.listen(port, (datagram) => this.receive(datagram, port)) ?? [],
    );
    if (doors.length === 2) this.doors = doors;
    else for (const close of doors) close();
    return doors.length === 2;
  }

  close(): void {
    for (const { ip, port } of this.participants.values())
      this.say(ip, port, { kind: 'leave', token: this.token, ssrc: this.ssrc, name: '' }, this.port);
    this.participants.clear();
    for (const close of this.doors.splice(0)) close();
  }

  /** Invites the session at an address: first its control port, then its data port, then the clocks are compared. */
  async invite(ip: number, port: number): Promise<JoinOutcome> {
    this.token = (this.token + 1) >>> 0;
    const control = await this.ask(ip, port, this.port);
    if (typeof control === 'string') return control;
    const data = await this.ask(ip, port + 1, this.port + 1);
    if (typeof data === 'string') return data;
    const participant = { name: control.name, ip, port, ssrc: control.ssrc };
    this.participants.set(participant.ssrc, participant);
    this.sendClock(participant, 0, []);
    return participant;
  }

  send(messages: readonly MidiMessage[], to?: Participant): void {
    this.seq = (this.seq + 1) & 0xffff;
    const bytes = writeMidiPacket({
      seq: this.seq,
      timestamp: this.ticks() >>> 0,
      ssrc: this.ssrc,
      messages: messages.map((message) => ({ delta: 0, bytes: message })),
    });
    for (const { ip, port } of to ? [to] : this.participants.values())
      void this.host.sendUdp(ip, { from: this.port + 1, to: port + 1 }, bytes);
  }

  private async ask(ip: number, port: number, from: number): Promise<Invitation | 'refused' | 'silent'> {
    const { token } = this;
    for (let attempt = 0; attempt < attempts; attempt += 1) {
      const outcome = await new Promise<Invitation | 'refused' | 'silent'>((done) => {
        const cancel = this.host.scheduler.after(answersWithinMs, () => done('silent'));
        const settle = (answer: Invitation | 'refused') => {
          cancel();
          done(answer);
        };
        this.waiting.set(token, (packet) => settle(packet));
        const invitation = writeSession({ kind: 'invite', token, ssrc: this.ssrc, name: this.name });
        void this.host.sendUdp(ip, { from, to: port }, invitation, () => settle('refused'));
      });
      this.waiting.delete(token);
      if (outcome === 'refused') return 'refused';
      if (outcome !== 'silent') return outcome.kind === 'accept' ? outcome : 'refused';
    }
    return 'silent';
  }

  private receive(datagram: Datagram, own: number): void {
    const read = readRtpMidi(datagram.bytes);
    if (!read.ok) {
      this.onMalformed(datagram.source, read.fault);
      return;
    }
    if (read.packet.kind !== 'midi') {
      this.obey(read.packet, datagram, own);
      return;
    }
    const { ssrc, messages } = read.packet;
    const from = this.participants.get(ssrc);
    // whoever did not join is not listened to
    if (from) for (const { bytes } of messages) this.onMessage(bytes, from);
  }

  private obey(packet: SessionPacket, datagram: Datagram, own: number): void {
    const { source, sourcePort } = datagram;
    switch (packet.kind) {
      case 'invite':
        if (this.invited.size >= mostParticipants * 4) this.invited.clear();
        if (this.participants.size >= mostParticipants && !this.participants.has(packet.ssrc)) {
          this.say(source, sourcePort, { ...packet, kind: 'refuse', ssrc: this.ssrc, name: this.name }, own);
          return;
        }
        if (own === this.port) this.invited.set(packet.ssrc, packet.token);
        else if (this.invited.get(packet.ssrc) !== packet.token) {
          // the data port follows the control port, with the same token
          this.say(source, sourcePort, { ...packet, kind: 'refuse', ssrc: this.ssrc, name: this.name }, own);
          return;
        } else {
          this.onJoin();
          this.participants.set(packet.ssrc, {
            name: packet.name,
            ip: source,
            port: sourcePort - 1,
            ssrc: packet.ssrc,
          });
        }
        this.say(source, sourcePort, { ...packet, kind: 'accept', ssrc: this.ssrc, name: this.name }, own);
        return;
      case 'accept':
      case 'refuse':
        this.waiting.get(packet.token)?.(packet);
        return;
      case 'leave':
        this.participants.delete(packet.ssrc);
        return;
      case 'clock':
        this.compareClocks(packet);
        return;
      default:
    }
  }

  /** CK0, CK1, CK2: three times tell both ends how long a packet is under way. */
  private compareClocks({ ssrc, count, times }: Extract<SessionPacket, { kind: 'clock' }>): void {
    const participant = this.participants.get(ssrc);
    if (!participant) return;
    if (count === 0) this.sendClock(participant, 1, times.slice(0, 1));
    else if (count === 1) this.sendClock(participant, 2, times.slice(0, 2));
    if (count > 0) this.latencyMs = (this.ticks() - (times[count - 1] ?? 0)) / ticksPerMs / 2;
  }

  private sendClock({ ip, port }: Participant, count: number, earlier: readonly number[]): void {
    this.say(ip, port + 1, { kind: 'clock', ssrc: this.ssrc, count, times: [...earlier, this.ticks()] }, this.port + 1);
  }

  private say(ip: number, port: number, packet: SessionPacket, from: number): void {
    void this.host.sendUdp(ip, { from, to: port }, writeSession(packet));
  }

  private ticks(): number {
    return Math.round(this.host.scheduler.now() * ticksPerMs);
  }
}
