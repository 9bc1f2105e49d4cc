import type { show } from '@deep-patch/core';
import type { LeaseMemory } from '../ether/dhcp-client.ts';
import type { KeyedChange } from './keyed-change.ts';
import type { UnitSettings } from './settings.ts';

/** Something that was keyed in on one page and has not come to its end yet: it needs these acts, in this order. */
export interface KeyedEntry {
  readonly of: show.SettingKind;
  readonly changes: readonly KeyedChange[];
  readonly acts: readonly show.CommitAct[];
  /** One of all its acts is a restart: nothing of it is in force before that. */
  readonly waitsForRestart: boolean;
  /** It outlives the power. */
  readonly isKept: boolean;
  readonly isInForce: boolean;
}

/** What outlives a new plan: power, what the unit's own screen shows, and what was keyed in at the unit itself. */
export interface Memory {
  /** Which box it is: one more for each spare that took its place. */
  readonly swaps: number;
  powered: boolean;
  /** Simulated time at which it is ready; 0 where start-up times are skipped, and units start at once. */
  readyAt: number;
  readonly face: Map<string, string>;
  heard: number;
  lastAt: number | null;
  /** What each of its services took in and did. */
  readonly served: Map<string, Served>;
  /** Set when a stand-in threw: it stays off until somebody powers it again. */
  fault: string | undefined;
  /** What is in force, once somebody keyed something in at the unit: until then it has what the plan says. */
  own: UnitSettings | undefined;
  /** What it starts with when power comes. */
  kept: UnitSettings | undefined;
  /** What was keyed in and still needs acts, oldest first. */
  pending: readonly KeyedEntry[];
  /** Of a program, or of what a computer runs: closed, open without a show, or ready. */
  application: 'ready' | 'no_show' | 'closed';
  /** A background program that its controls need; it may be quit. */
  helper: boolean;
  /** Lets nothing in from outside that was not allowed. */
  firewall: boolean;
  /** Services of this computer or program that its firewall lets through. */
  readonly allowed: Set<string>;
  /** Addresses that a server lent it, by adapter: after a restart it asks for the same again. */
  readonly leases: LeaseMemory;
  /** Targets whose address a controller looked up once, by the link. */
  readonly lookedUp: Map<string, LookedUp>;
  /** Lists of names that it keeps, by their keys. */
  readonly lists: Map<string, readonly string[]>;
  /** Files of a watched folder. */
  folder: readonly string[];
  /** Bundles of functions that it got a licence for. */
  readonly seats: Set<string>;
  /** What it holds beside its settings, by name; what is not here is as it came. */
  contents: Map<string, string>;
  /** What it starts with again, while what it was given is not stored. */
  storedContents: Map<string, string> | undefined;
  /** Sets of settings that it keeps, by position; `activeSet` is the one that was stored or picked last. */
  readonly sets: Map<number, { readonly label: string; readonly settings: UnitSettings }>;
  activeSet: number | null;
  /** The addresses of a computer before somebody set it to reach something, to be put back. */
  earlier: UnitSettings['addresses'] | undefined;
  /** Out of its case it does nothing before somebody made an administrator. */
  firstSignIn: boolean;
  /** How far each of its links came when it was last tried, as its own lamps remember it. */
  readonly tried: Map<string, Tried>;
  /** What somebody calls the endpoints that its system lists. */
  readonly endpointNames: Map<string, string>;
}

/** What an entry was aimed at when it was looked up, and the address: null where nobody was there, or not any more. */
export interface LookedUp {
  readonly aim: string;
  readonly ip: number | null;
}

/** Counted by the unit itself: messages and connections that a service took in, and commands that it did. */
export interface Served {
  heard: number;
  done: number;
}

/** A try of a link: simulated time, and the first layer that failed, null for none. */
export interface Tried {
  readonly at: number;
  readonly stoppedAt: show.LayerName | null;
}

export const freshMemory = (
  type: show.DeviceType,
  { swaps, names }: Pick<show.Device, 'swaps' | 'names'> = { swaps: 0, names: [] },
): Memory => ({
  swaps,
  powered: false,
  readyAt: 0,
  face: freshFace(type),
  heard: 0,
  lastAt: null,
  served: new Map(),
  fault: undefined,
  own: undefined,
  kept: undefined,
  pending: [],
  application: 'ready',
  helper: true,
  firewall: false,
  allowed: new Set(),
  leases: new Map(),
  lookedUp: new Map(),
  lists: new Map(
    type.lists.map(({ key, names: shipped }) => [key, names.find(({ list }) => list === key)?.names ?? shipped]),
  ),
  folder: [],
  seats: new Set(),
  contents: new Map(),
  storedContents: undefined,
  sets: new Map(),
  activeSet: null,
  earlier: undefined,
  firstSignIn: false,
  tried: new Map(),
  endpointNames: new Map(),
});

export const freshFace = (type: show.DeviceType): Map<string, string> =>
  new Map(type.face.map(({ parameter, start }) => [parameter, start]));
