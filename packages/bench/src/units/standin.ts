import type { Duplex } from 'node:stream';
import type { OscPacket, OscRead } from '@deep-patch/codecs';
import type { show } from '@deep-patch/core';
import type { DhcpClient } from '../ether/dhcp-client.ts';
import type { DhcpServer } from '../ether/dhcp-server.ts';
import type { Host } from '../ether/host.ts';
import type { Switch } from '../ether/switch.ts';
import type { ServiceSetting, UnitSettings } from '../setup.ts';
import type { MidiSession } from './midi-session.ts';

/** Something that was keyed in and does not count yet: it needs these acts, in this order. */
export interface Pending {
  readonly of: show.SettingKind;
  readonly settings: UnitSettings;
  readonly acts: readonly show.CommitAct[];
}

/** What outlives a new plan: power, what the unit's own screen shows, and what was keyed in at the unit itself. */
export interface Memory {
  powered: boolean;
  /** Simulated time at which it is ready; units start at once where start-up times are skipped. */
  readyAt: number;
  readonly face: Map<string, string>;
  heard: number;
  lastAt: number | null;
  /** What each of its services took in and did. */
  readonly served: Map<string, Served>;
  /** Set when a stand-in threw: it stays off until somebody powers it again. */
  fault: string | undefined;
  /** Set once somebody keyed something in at the unit: until then it has what the plan says. */
  own: UnitSettings | undefined;
  pending: Pending | undefined;
  /** Of a program, or of what a computer runs: closed, open without a show, or ready. */
  application: 'ready' | 'no_show' | 'closed';
  /** A background program that its controls need; it may be quit. */
  helper: boolean;
  /** Lets nothing in from outside that was not allowed. */
  firewall: boolean;
  /** Services of this computer or program that its firewall lets through. */
  readonly allowed: Set<string>;
  /** Targets whose address a controller looked up, once: found or not. */
  readonly lookedUp: Map<string, number | null>;
  /** Files of a watched folder. */
  folder: readonly string[];
  /** Bundles of functions that it got a licence for. */
  readonly seats: Set<string>;
  /** Sets of settings that it keeps, by position; `activeSet` is the one that was stored or picked last. */
  readonly sets: Map<number, { readonly label: string; readonly settings: UnitSettings }>;
  activeSet: number | null;
  /** What stood in a computer before somebody set it to reach something, to be put back. */
  earlier: UnitSettings | undefined;
  /** Out of its case it does nothing before somebody made an administrator. */
  firstSignIn: boolean;
  /** How far each of its links came when it was last tried, as its own lamps remember it. */
  readonly tried: Map<string, Tried>;
  /** What somebody calls the endpoints that its system lists. */
  readonly endpointNames: Map<string, string>;
}

/** Counted by the unit itself: messages and connections that a service took in, and commands that it did. */
export interface Served {
  heard: number;
  done: number;
}

/** Notes that a service took something in, or did something. */
export function count({ memory }: Standin, serviceKey: string, what: keyof Served): void {
  let served = memory.served.get(serviceKey);
  if (!served) memory.served.set(serviceKey, (served = { heard: 0, done: 0 }));
  served[what] += 1;
  if (what === 'heard') memory.heard += 1;
}

/**
 * Notes whether a service got its ports, and what gives them back; one that was told to use an adapter hears nothing
 * else.
 */
export function noteOpening(
  { closers, crowdedOut, device, host }: Pick<Standin, 'closers' | 'crowdedOut' | 'device' | 'host'>,
  serviceKey: string,
  close: (() => void) | undefined,
  ...ports: readonly (readonly ['udp' | 'tcp', number])[]
): void {
  if (!close) crowdedOut.add(serviceKey);
  else {
    closers.push(close);
    if (device.adapter !== null) for (const [transport, port] of ports) host.bind(transport, port, device.adapter);
  }
}

/** A try of a link: simulated time, and the first layer that failed, null for none. */
export interface Tried {
  readonly at: number;
  readonly stoppedAt: show.LayerName | null;
}

export const freshMemory = (type: show.DeviceType): Memory => ({
  powered: false,
  readyAt: 0,
  face: freshFace(type),
  heard: 0,
  lastAt: null,
  served: new Map(),
  fault: undefined,
  own: undefined,
  pending: undefined,
  application: 'ready',
  helper: true,
  firewall: false,
  allowed: new Set(),
  lookedUp: new Map(),
  folder: [],
  seats: new Set(),
  sets: new Map(),
  activeSet: null,
  earlier: undefined,
  firstSignIn: false,
  tried: new Map(),
  endpointNames: new Map(),
});

export const freshFace = (type: show.DeviceType): Map<string, string> =>
  new Map(type.face.map(({ parameter, start }) => [parameter, start]));

export type OscDoor = (read: OscRead, from: string, answer: (reply: OscPacket) => void) => void;

/** One simulated device: a host on the network, what is keyed into it, and its own screen. */
export interface Standin {
  readonly device: show.Device;
  readonly type: show.DeviceType;
  readonly host: Host;
  readonly memory: Memory;
  readonly planned: UnitSettings;
  /** The computer that a program runs on, whose network it uses. */
  readonly computer: Standin | undefined;
  readonly bridge: Switch | undefined;
  readonly clients: DhcpClient[];
  dhcp: DhcpServer | undefined;
  /** Services that could not start because their port was taken. */
  readonly crowdedOut: Set<string>;
  /** Sessions of network MIDI, by service. */
  readonly sessions: Map<string, MidiSession>;
  /** Names under which a computer's system lists what is connected: bare numbers, another for each direction. */
  readonly endpoints: () => readonly string[];
  readonly report: (message: Omit<show.HeardMessage, 'at' | 'to'>) => void;
  /** Takes an OSC packet from anywhere, the simulated network or a jack. */
  readonly oscDoors: Map<string, OscDoor>;
  /** Takes one connection of a service over TCP from anywhere. */
  readonly streamDoors: Map<string, (stream: Duplex) => void>;
  /** Asked before a command is done: false leaves it undone. */
  readonly guards: ((command: show.Command, values: ReadonlyMap<string, string>) => boolean)[];
  /** Told after a command was done. */
  readonly followers: ((command: show.Command, values: ReadonlyMap<string, string>) => void)[];
  /** Undoes what its running services hold open. */
  readonly closers: (() => void)[];
}

export const settingsOf = ({ memory, planned }: Standin): UnitSettings => memory.own ?? planned;
export const serviceOf = (standin: Standin, key: string): ServiceSetting | undefined =>
  settingsOf(standin).services.find((service) => service.key === key);

/** Somebody left its set-up open: it controls nothing until that is left. */
export const isInSetUp = ({ memory }: Standin): boolean => memory.pending?.acts.includes('leave_setup') ?? false;

/** Started and without a fault; a program also needs its computer. */
export const isUp = (standin: Standin): boolean => {
  const { memory, computer, host } = standin;
  const isReady = host.scheduler.now() >= memory.readyAt;
  return memory.powered && isReady && memory.fault === undefined && (computer === undefined || isUp(computer));
};

/** Runs what a stand-in does; if it throws, that unit alone is switched off and says why. */
export function guarded(standin: Standin, run: () => void): void {
  try {
    run();
  } catch (error) {
    trip(standin, error);
  }
}

export function trip({ memory }: Standin, error: unknown): void {
  memory.powered = false;
  memory.fault = error instanceof Error ? error.message : 'unknown fault';
}

/**
 * Does what a command of the type's dictionary says; the values are by argument name. False when it is left undone, as
 * when its application has no show open: then there is nothing to do it with.
 */
export function act(
  standin: Standin,
  serviceKey: string,
  command: show.Command,
  values: ReadonlyMap<string, string>,
): boolean {
  if (standin.memory.application === 'no_show') return false;
  for (const allows of standin.guards) if (!allows(command, values)) return false;
  for (const { parameter, value } of command.sets)
    standin.memory.face.set(filled(parameter, values), filled(value, values));
  standin.memory.lastAt = Date.now();
  count(standin, serviceKey, 'done');
  for (const follow of standin.followers) follow(command, values);
  return true;
}

/** What a command did, in words. */
export const deed = (command: show.Command, values: ReadonlyMap<string, string>): string =>
  command.sets.map(({ parameter, value }) => `${filled(parameter, values)} ${filled(value, values)}`).join(', ') ||
  command.label;

/** A text with its braces filled in; what has no value stays as it is. */
export function filled(text: string, values: ReadonlyMap<string, string>): string {
  if (!text.includes('{')) return text;
  const parts = templates.get(text) ?? takenApart(text);
  let whole = parts[0] ?? '';
  for (let at = 1; at < parts.length; at += 2) {
    const name = parts[at] ?? '';
    whole += (values.get(name) ?? `{${name}}`) + (parts[at + 1] ?? '');
  }
  return whole;
}

function takenApart(text: string): readonly string[] {
  const parts = text.split(/\{(\w+)\}/);
  if (templates.size < mostTemplates) templates.set(text, parts);
  return parts;
}

/** Texts of dictionaries, taken apart: there are as many as commands, whatever comes over the network. */
const templates = new Map<string, readonly string[]>();
const mostTemplates = 5000;

export const dotted = (ip: number): string => [24, 16, 8, 0].map((shift) => (ip >>> shift) & 255).join('.');
export const undotted = (ip: string): number => ip.split('.').reduce((sum, part) => sum * 256 + Number(part), 0);
