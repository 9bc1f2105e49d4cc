import {
  ExclusiveJoiner,
  isBefore,
  JournalWriter,
  Restorer,
  segments,
  writeMidiPacket,
  type MidiMessage,
  type MidiPacket,
} from '@deep-patch/codecs';

/** Somebody at the other end of a session: where it listens, and the number that it goes by. */
export interface Participant {
  readonly name: string;
  readonly ip: number;
  readonly port: number;
  readonly ssrc: number;
}

/** When the first of several messages is of, and how much later each of the others; in ticks of 100 µs. */
export interface Times {
  readonly timestamp: number;
  readonly apart: number;
}

/** The most that goes into one packet, so that it fits into a frame with its journal. */
const mostListBytes = 1000;

/** The far end of a session with both streams: what goes there and what comes from there (RFC 6295). */
export class Peer implements Participant {
  readonly name: string;
  readonly ip: number;
  readonly port: number;
  readonly ssrc: number;
  /** The token of the invitation, which a leave repeats. */
  readonly token: number;
  /** Whoever invited compares the clocks. */
  readonly invitedHere: boolean;
  /** The address that its own packets come from, where that is another than it was invited at. */
  sendsFrom: number;
  /** When it was heard last, in simulated milliseconds. */
  heardAt = 0;
  /** The last packet that came; undefined before the first. */
  lastSeq: number | undefined;
  private seq = 0;
  private readonly sent = new JournalWriter();
  private readonly taken = new Restorer();
  private readonly exclusive = new ExclusiveJoiner();

  constructor({ name, ip, port, ssrc }: Participant, token: number, invitedHere: boolean) {
    this.name = name;
    this.ip = this.sendsFrom = ip;
    this.port = port;
    this.ssrc = ssrc;
    this.token = token;
    this.invitedHere = invitedHere;
  }

  /** The next packets of the stream to it: one, or several where a message is too long for one. */
  packets(ssrc: number, { timestamp, apart }: Times, messages: readonly MidiMessage[]): Uint8Array[] {
    const lists = listsOf(messages.flatMap((message) => segments(message, mostListBytes)));
    return lists.map((list) => {
      this.seq = (this.seq + 1) & 0xffff;
      const { seq } = this;
      const journal = this.sent.bytes(seq);
      this.sent.push(seq, list);
      return writeMidiPacket({
        seq,
        timestamp,
        ssrc,
        messages: list.map((bytes) => ({ delta: apart, bytes })),
        journal,
      });
    });
  }

  /** It has everything up to a packet: the journal need not tell of it any more. */
  confirm(seq: number): void {
    this.sent.confirm(seq);
  }

  /** What a packet from it brings: first what was lost on the way, as its journal tells; nothing where it is old. */
  take({ seq, messages, journal }: MidiPacket): MidiMessage[] {
    const { lastSeq } = this;
    if (lastSeq !== undefined && !isBefore(lastSeq, seq)) return [];
    this.lastSeq = seq;
    const isLater = lastSeq !== undefined && seq !== ((lastSeq + 1) & 0xffff);
    // what the first packet's journal tells came before this end listened, and is news to it as well
    const lost = journal && (isLater || lastSeq === undefined) ? this.taken.missing(journal.messages) : [];
    const whole = messages.map(({ bytes }) => {
      this.taken.push(bytes);
      return this.exclusive.push(bytes);
    });
    return [...lost, ...whole.filter((message) => message !== undefined)];
  }
}

/** Messages in lists that each fit into a packet. */
function listsOf(messages: readonly MidiMessage[]): MidiMessage[][] {
  const lists: MidiMessage[][] = [[]];
  let bytes = 0;
  for (const message of messages) {
    // a time of one octet stands before each but the first
    const more = message.length + 1;
    if (bytes + more > mostListBytes + 1 && lists.at(-1)?.length) {
      lists.push([]);
      bytes = 0;
    }
    lists.at(-1)?.push(message);
    bytes += more;
  }
  return lists;
}
