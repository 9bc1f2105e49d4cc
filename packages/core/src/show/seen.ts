import type { LayerName, LayerState } from './layers.ts';

/** What is known of reality, kept apart from the plan. `at` is in milliseconds since 1970. */
export interface Seen {
  readonly soundings: Readonly<Record<string, MeasuredSounding>>;
  /** Hosts that somebody found on the networks, by their ids. */
  readonly found: Readonly<Record<string, FoundHost>>;
}

export interface MeasuredLayer {
  readonly layer: LayerName;
  /** `unseen`: it was tried, and nothing on the wire tells how it went. */
  readonly state: Extract<LayerState, 'pass' | 'fail' | 'waits'> | 'unseen';
  /** What was observed, as a code with facts; `links/measured-words.ts` makes the sentence. */
  readonly code: string;
  readonly facts: Readonly<Record<string, string | number>>;
}

/** One link sounded with real bytes: `rttMs` from the command leaving to its reply arriving. */
export interface MeasuredSounding {
  readonly linkId: string;
  readonly source: 'bench' | 'field';
  readonly at: number;
  /** The plan's revision that was loaded on the bench when it was sounded. */
  readonly rev: number;
  /** What the plan forecast for the link then; as soon as that is another, the measurement is stale. */
  readonly basis: string;
  readonly layers: readonly MeasuredLayer[];
  readonly rttMs: number | null;
  /** Something has happened since to what the link depends on: it proves nothing of now. */
  readonly aged?: boolean;
  /** The other direction, where the link has one. */
  readonly back?: BackSounding | null;
}

/** Something done at the target itself, and whether the controller was told. */
export interface BackSounding {
  readonly came: boolean;
  readonly ms: number | null;
  readonly did: string;
  readonly told: string;
}

/** One host as it was found: by its MAC where that is known, else by its address. */
export interface FoundHost {
  readonly id: string;
  readonly mac: string | null;
  readonly ips: readonly { readonly ip: string; readonly prefix: number | null }[];
  readonly names: readonly string[];
  readonly version: string | null;
  readonly method: 'dhcp' | 'self' | 'static' | null;
  readonly roles: readonly ('dhcp_server' | 'gateway')[];
  readonly source: FoundSource;
  readonly at: number;
}
/** A subnet that a scan asked to the end, by one address in it. */
export interface SweptSubnet {
  readonly ip: string;
  readonly prefix: number;
}
export type FoundSource = 'bench' | 'scan' | 'capture' | 'listing' | 'table' | 'person';

export const nothingSeen: Seen = { soundings: {}, found: {} };
