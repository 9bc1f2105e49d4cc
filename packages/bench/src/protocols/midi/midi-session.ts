import { readRtpMidi, writeSession, type Invitation, type MidiMessage, type SessionPacket } from '@deep-patch/codecs';
import type { Datagram, Host } from '../../ether/host.ts';
import { isLoopback } from '../../ether/ways.ts';
import { Peer, type Participant } from './midi-peer.ts';

export type JoinOutcome = Participant | 'refused' | 'silent';
/** What came back to an invitation, and from which address. */
type Answer = Invitation & { readonly from: number };
type OnMessage = (message: MidiMessage, from: Participant) => void;

const answersWithinMs = 500;
const attempts = 3;
const ticksPerMs = 10;
const mostParticipants = 64;
/** Whoever invited compares the clocks this often, and whoever is not heard for so long is gone. */
const comparesEveryMs = 10_000;
const goneAfterMs = 60_000;
/** A stream that came is confirmed so much later, so that its sender's journal stays short. */
const confirmsAfterMs = 1000;

/** Whatever comes from 127/8 comes from this machine, under whichever of its own addresses. */
const isOneEnd = (a: number, b: number): boolean => a === b || (isLoopback(a) && isLoopback(b));

/**
 * One session of network MIDI on a host: control on `port`, data on the one above (RFC 6295 with the usual session
 * commands). It accepts whoever invites it while it is enabled, can invite others, compares clocks, and passes
 * messages both ways. Who falls silent is dropped; only what comes from where a participant is counts as its own.
 */
export class MidiSession {
  readonly participants = new Map<number, Peer>();
  readonly ssrc: number;
  private readonly host: Host;
  /** By which others list it. */
  name: string;
  private readonly port: number;
  private readonly onMessage: OnMessage;
  /** Who was let in at the control port: the token of the invitation and where it came from. */
  private readonly invited = new Map<number, { readonly token: number; readonly ip: number }>();
  private token = 1;
  private readonly waiting = new Map<number, { readonly port: number; readonly take: (answer: Answer) => void }>();
  private stopKeepingUp: (() => void) | undefined;
  /** Who is to be told what came, and when. */
  private readonly confirming = new Map<Peer, () => void>();
  /** Milliseconds that the last clock exchange took. */
  latencyMs: number | undefined;
  onMalformed: (from: number, fault: string) => void = () => undefined;
  /** One that is to invite others lets nobody in. */
  letsIn = true;
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

  /** Ends it: with a word to everybody who takes part, or, at a power cut, without. */
  close(how: 'leaving' | 'cut' = 'leaving'): void {
    if (how === 'leaving')
      for (const { ip, port, token } of this.participants.values())
        this.say(ip, port, { kind: 'leave', token, ssrc: this.ssrc, name: '' }, this.port);
    for (const peer of [...this.participants.values()]) this.drop(peer);
    for (const close of this.doors.splice(0)) close();
  }

  /** Invites the session at an address: first its control port, then its data port, then the clocks are compared. */
  async invite(ip: number, port: number): Promise<JoinOutcome> {
    this.token = (this.token + 1) >>> 0;
    const { token } = this;
    const control = await this.ask(ip, port, this.port, token);
    if (typeof control === 'string') return control;
    const data = await this.ask(ip, port + 1, this.port + 1, token);
    if (typeof data === 'string') return data;
    // both doors have to be of one and the same session
    if (data.ssrc !== control.ssrc) return 'refused';
    const peer = this.admit(new Peer({ name: control.name, ip, port, ssrc: control.ssrc }, token, true));
    peer.sendsFrom = data.from;
    this.sendClock(peer, 0, []);
    return peer;
  }

  /** Sends to one or all; `apartMs`: so much lies between two of the messages, of which the last one is of now. */
  send(messages: readonly MidiMessage[], to?: Participant, apartMs = 0): void {
    const apart = Math.round(apartMs * ticksPerMs);
    const times = { apart, timestamp: (this.ticks() - apart * (messages.length - 1)) >>> 0 };
    const known = to && this.participants.get(to.ssrc);
    for (const peer of known ? [known] : to ? [] : this.participants.values())
      for (const bytes of peer.packets(this.ssrc, times, messages))
        void this.host.sendUdp(peer.ip, { from: this.port + 1, to: peer.port + 1 }, bytes);
  }

  private admit(peer: Peer): Peer {
    const before = this.participants.get(peer.ssrc);
    if (before) this.drop(before);
    peer.heardAt = this.host.scheduler.now();
    this.participants.set(peer.ssrc, peer);
    this.stopKeepingUp ??= this.host.scheduler.after(comparesEveryMs, () => this.keepUp());
    return peer;
  }

  private drop(peer: Peer): void {
    if (this.participants.get(peer.ssrc) === peer) this.participants.delete(peer.ssrc);
    this.confirming.get(peer)?.();
    this.confirming.delete(peer);
    if (this.participants.size > 0) return;
    this.stopKeepingUp?.();
    this.stopKeepingUp = undefined;
  }

  private keepUp(): void {
    const now = this.host.scheduler.now();
    this.stopKeepingUp = this.host.scheduler.after(comparesEveryMs, () => this.keepUp());
    for (const peer of [...this.participants.values()])
      if (now - peer.heardAt >= goneAfterMs) this.drop(peer);
      else if (peer.invitedHere) this.sendClock(peer, 0, []);
  }

  private async ask(ip: number, port: number, from: number, token: number): Promise<Answer | 'refused' | 'silent'> {
    for (let attempt = 0; attempt < attempts; attempt += 1) {
      const outcome = await new Promise<Answer | 'refused' | 'silent'>((done) => {
        const cancel = this.host.scheduler.after(answersWithinMs, () => done('silent'));
        const settle = (answer: Answer | 'refused') => {
          cancel();
          done(answer);
        };
        this.waiting.set(token, { port, take: settle });
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
    const from = this.peerOf(read.packet.ssrc, datagram, own);
    // whoever did not join is not listened to
    if (!from || own === this.port) return;
    for (const message of from.take(read.packet)) this.onMessage(message, from);
    if (!this.confirming.has(from) && this.participants.has(from.ssrc)) this.confirmSoon(from);
  }

  private confirmSoon(peer: Peer): void {
    const cancel = this.host.scheduler.after(confirmsAfterMs, () => {
      this.confirming.delete(peer);
      const { ip, port, lastSeq: seq = 0 } = peer;
      this.say(ip, port, { kind: 'feedback', ssrc: this.ssrc, seq }, this.port);
    });
    this.confirming.set(peer, cancel);
  }

  /** The participant of a number, where what it sent came from its own address and port. */
  private peerOf(ssrc: number, { source, sourcePort }: Datagram, own: number): Peer | undefined {
    const peer = this.participants.get(ssrc);
    const isIts = peer && [peer.ip, peer.sendsFrom].some((ip) => isOneEnd(ip, source));
    if (!peer || !isIts || sourcePort !== peer.port + (own - this.port)) return undefined;
    peer.heardAt = this.host.scheduler.now();
    return peer;
  }

  private obey(packet: SessionPacket, datagram: Datagram, own: number): void {
    switch (packet.kind) {
      case 'invite':
        this.say(datagram.source, datagram.sourcePort, this.answerTo(packet, datagram, own), own);
        return;
      case 'accept':
      case 'refuse': {
        const asked = this.waiting.get(packet.token);
        // a machine with several addresses may answer from another one than was asked: the token tells
        if (asked?.port === datagram.sourcePort) asked.take({ ...packet, from: datagram.source });
        return;
      }
      case 'leave': {
        const peer = this.peerOf(packet.ssrc, datagram, own);
        if (peer?.token === packet.token) this.drop(peer);
        return;
      }
      case 'feedback':
        this.peerOf(packet.ssrc, datagram, own)?.confirm(packet.seq);
        return;
      case 'clock': {
        const peer = this.peerOf(packet.ssrc, datagram, own);
        if (peer) this.compareClocks(peer, packet);
        return;
      }
      default:
    }
  }

  /** Lets somebody in who asks at the control port and then, with the same token, at the data port. */
  private answerTo(packet: Invitation, { source, sourcePort }: Datagram, own: number): Invitation {
    const { ssrc, token, name } = packet;
    const refusal = { kind: 'refuse', token, ssrc: this.ssrc, name: this.name } as const;
    if (!this.letsIn) return refusal;
    if (this.invited.size >= mostParticipants * 4) this.invited.clear();
    const known = this.participants.get(ssrc);
    if (this.participants.size >= mostParticipants && !known) return refusal;
    // a number that somebody else goes by is taken for as long as that one is here
    if (known && !isOneEnd(known.ip, source)) return refusal;
    if (own === this.port) this.invited.set(ssrc, { token, ip: source });
    else {
      const invited = this.invited.get(ssrc);
      if (invited?.token !== token || !isOneEnd(invited.ip, source)) return refusal;
      // the same invitation once more, because the answer was lost, changes nothing
      if (known?.token !== token) {
        this.admit(new Peer({ name, ip: source, port: sourcePort - 1, ssrc }, token, false));
        this.onJoin();
      }
    }
    return { ...refusal, kind: 'accept' };
  }

  /** CK0, CK1, CK2: three times tell both ends how long a packet is under way. */
  private compareClocks(peer: Peer, { count, times }: Extract<SessionPacket, { kind: 'clock' }>): void {
    if (count === 0) this.sendClock(peer, 1, times.slice(0, 1));
    else if (count === 1) this.sendClock(peer, 2, times.slice(0, 2));
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
