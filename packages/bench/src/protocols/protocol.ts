import type { MidiControl, MtcReader, OscPacket, Udp } from '@deep-patch/codecs';
import type { show } from '@deep-patch/core';
import type { ServiceSetting } from '../units/settings.ts';
import type { Standin } from '../units/standin.ts';
import type { News } from './news.ts';
import type { SeenLayers, SoundRequest, Talk } from './steps.ts';

/** What bytes on the wire say, for people: the protocol, the message, and whether it went well as far as it tells. */
export interface Words {
  readonly protocol: string;
  /** Made only when somebody reads it: most lines of a full network pass by unread. */
  readonly text: string | (() => string);
  readonly ok: boolean;
  /** For one of many a second that would drown everything else: what is said of them all, once a second. */
  readonly running?: Running | undefined;
  /** What addresses and values are measured of. */
  readonly osc?: OscPacket;
  /** The same of MIDI: controls that moved, by their messages without the value. */
  readonly moved?: readonly MidiControl[];
}

export interface Running {
  /** What they have in common: two of one name between two ends are one. */
  readonly as: string;
  /** Takes one of them in, and says how far they have come. */
  readonly follow: (from: MtcReader, before: string) => string;
}

export const say = (protocol: string, text: string, ok = true): Words => ({ protocol, text, ok });

/** What a reader remembers of two ends that talk over a stream. */
export interface Conversation {
  asked: string | undefined;
}

export type Hearing = (request: SoundRequest, talk: Talk, ear: Ear) => Promise<(() => void) | undefined>;

/** Whoever listens to a target. */
export interface Ear {
  /** Something came: as it went over the wire, and what it means. */
  readonly tell: (what: string, news: readonly News[]) => void;
  /** Nothing comes that way any more. */
  readonly ended: () => void;
}

/** A protocol on the wire, as a tap reads it: undefined where bytes are none of its own. */
export interface Reader {
  readonly datagram?: (payload: Udp) => Words | undefined;
  readonly stream?: (bytes: Uint8Array, conversation: Conversation) => Words | undefined;
}

/** Everything that the bench knows of one way to control units. Listed in `all.ts`. */
export interface Protocol {
  /** Names under which its services are found (IANA service names, RFC 6763 section 7). */
  readonly name: Readonly<Record<'udp' | 'tcp', string>>;
  /** Opens a service of a unit as it is keyed in, and notes whether it got its port. */
  readonly open: (standin: Standin, service: ServiceSetting, type: show.ServiceType) => void;
  /**
   * Does what a controller does, from the port down: sends the link's command and watches the wire and what comes back.
   * Answers the milliseconds until the answer, null without one.
   */
  readonly sound: (request: SoundRequest, talk: Talk, seen: SeenLayers) => Promise<number | null>;
  /**
   * Listens as the link's controller does for what the target tells by itself. Answers what ends it; undefined where the
   * controller has no ear for that.
   */
  readonly hear: Hearing;
  /** Does what a controller has to do to be told for as long as it wants; datagrams that come then are not heard by it. */
  readonly follow: Hearing;
  readonly decode: Reader;
  /** How a real socket stands in front of a service. */
  readonly jack: {
    /** Ports side by side, the service's own first. */
    readonly ports: 1 | 2;
    /** How many messages a datagram holds that stands in `bytes` from `start` to `end`, without reading them: what is taken in is bounded by these. */
    readonly weigh?: (bytes: Uint8Array, start: number, end: number) => number;
  };
}
