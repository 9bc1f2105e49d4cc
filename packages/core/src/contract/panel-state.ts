import type { Assignment, Feedback } from '../show/index.ts';

type LampColour = NonNullable<Feedback['colours']>[number]['colour'];

/**
 * What became of one message: never sent, sent and not arrived, arrived and nothing done, done. Times in milliseconds since
 * it was sent; `why` in words where it is known.
 */
export interface Delivery {
  readonly outcome: 'not_sent' | 'not_arrived' | 'refused' | 'done';
  /** In milliseconds since 1970. */
  readonly at: number;
  readonly arrivedMs: number | null;
  readonly doneMs: number | null;
  readonly targetId: string;
  /** As it goes over the wire, in words. */
  readonly sent: string;
  readonly why: string;
}

/** One movement of a control on the bench: where it stands, what became of what it sent last, and its lamp. */
export interface ControlState {
  readonly control: string;
  readonly part: Assignment['part'];
  readonly value: number | null;
  readonly delivery: Delivery | null;
  /** It stands elsewhere than its parameter, and waits until it comes past. */
  readonly waits: boolean;
  /** What its target was heard to say last; null where it shows nothing. */
  readonly lamp: {
    readonly lit: boolean;
    readonly says: string;
    /** Null where its lamp has one colour only, or what it says none of its own. */
    readonly colour: LampColour | null;
  } | null;
}

/** A surface on the bench. */
export interface PanelState {
  readonly deviceId: string;
  readonly layer: number;
  /** Of each group of targets that one of its controls chooses from, by the id of the first: the one that is chosen. */
  readonly chosen: Readonly<Record<string, string>>;
  readonly controls: readonly ControlState[];
}

/** The next control that moves is taken: `took` once it has ended. */
export interface TeachingState {
  readonly deviceId: string;
  readonly running: boolean;
  readonly endsInMs: number;
  readonly took:
    | {
        readonly kind: 'control';
        readonly deviceId: string;
        readonly control: string;
        readonly part: Assignment['part'];
      }
    | { readonly kind: 'address'; readonly address: string; readonly least: number; readonly greatest: number }
    | null;
}

/** Two controllers moved the same thing within a short time. */
export interface SteppedState {
  readonly targetId: string;
  readonly firstId: string;
  readonly secondId: string;
  readonly apartMs: number;
  readonly at: number;
}

/** A list of cues that is run. */
export interface CueRunState {
  /** What comes next by hand; null at the end. */
  readonly nextId: string | null;
  readonly running: boolean;
  /** Every cue is done one after the other, without its waits. */
  readonly rehearsing: boolean;
  /** It was a rehearsal, and went through to its end. */
  readonly rehearsed: boolean;
  readonly startedAt: number;
  /** Cues that start by themselves in so many milliseconds. */
  readonly waiting: readonly { readonly cueId: string; readonly inMs: number }[];
  /** What was done, oldest first. */
  readonly done: readonly CueDone[];
}
export interface CueDone {
  readonly cueId: string;
  readonly at: number;
  readonly tookMs: number;
  readonly basis: string;
  readonly deliveries: readonly Delivery[];
}
