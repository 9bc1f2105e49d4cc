import type { MidiMessage } from '@deep-patch/codecs';
import type { contract, show, timecode } from '@deep-patch/core';
import type { DhcpClient } from '../ether/dhcp-client.ts';
import type { DhcpServer } from '../ether/dhcp-server.ts';
import type { Host } from '../ether/host.ts';
import type { Switch } from '../ether/switch.ts';
import type { ServiceSetting, UnitSettings } from './settings.ts';
import type { Memory } from './memory.ts';

/** What an outside program moved: an OSC address, or a MIDI message in words without its value. */
export interface Moved {
  readonly address: string;
  /** NaN where it sent something else than a number. */
  readonly value: number;
}

/** Time code that came in: the moment that it says is now, who sent it by the name that it goes by, and as what. */
export interface HeardTime {
  readonly time: timecode.CodeTime;
  readonly rate: timecode.Rate;
  readonly from: string;
  readonly format: show.TimeFormat;
}

/** A session of network MIDI that others may be in. */
export interface OpenSession {
  /** By which others list it. */
  name: string;
  readonly participants: { readonly size: number };
  /** To all who are in it; so many milliseconds lie between two of the messages. */
  readonly send: (messages: readonly MidiMessage[], to: undefined, apartMs: number) => void;
}

/** One simulated device: a host on the network, what is keyed into it, and its own screen. */
export interface Standin {
  readonly device: show.Device;
  readonly type: show.DeviceType;
  /** What runs on it. */
  readonly programs: Standin[];
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
  /** Names under which a computer's system lists what is connected: bare numbers, another for each direction. */
  readonly endpoints: () => readonly string[];
  /** What its own clock shows, in milliseconds since 1970. */
  readonly clock: () => number;
  readonly report: (message: Omit<contract.HeardMessage, 'at' | 'to'>) => void;
  /** Asked before a command is done: false leaves it undone. */
  readonly guards: ((command: show.Command, values: ReadonlyMap<string, string>) => boolean)[];
  /** Told after a command was done. */
  readonly followers: ((command: show.Command, values: ReadonlyMap<string, string>) => void)[];
  /** Asked first what a message is for: true where it was taken. `answer` tells whoever sent it where that stands now. */
  readonly ears: ((moved: Moved, answer: (value: number) => void) => boolean)[];
  /** Told what time code comes in; true where it was taken. */
  readonly timeEars: ((heard: HeardTime) => boolean)[];
  /** Its running sessions of network MIDI that others open: what it says as time code goes to them as well. */
  readonly midiSessions: OpenSession[];
  /** How its running services tell by themselves what is done at it, by their keys: where they tell anybody at all. */
  readonly tellers: Map<string, (command: show.Command, values: ReadonlyMap<string, string>) => void>;
  /** How its running services that are to open a connection try to, by their keys. */
  readonly openers: Map<string, () => Promise<'open' | 'refused' | 'silent'>>;
  /** Told that the plan says something else, of which neither units nor cables depend. */
  readonly renewers: (() => void)[];
  /** Undoes what its running services hold open. */
  readonly closers: (() => void)[];
}

/** What is in force. */
export const settingsOf = ({ memory, planned }: Pick<Standin, 'memory' | 'planned'>): UnitSettings =>
  memory.own ?? planned;
export const serviceOf = (standin: Standin, key: string): ServiceSetting | undefined =>
  settingsOf(standin).services.find((service) => service.key === key);

/** Somebody left its set-up open: it controls nothing until that is left. */
export const isInSetUp = ({ memory }: Standin): boolean =>
  memory.pending.some(({ acts }) => acts.includes('leave_setup'));

/** What has to run beside it on the system that its machine has; what is for another system never does. */
export function helpersOf({
  type,
  device,
  computer,
}: Pick<Standin, 'type' | 'device' | 'computer'>): readonly string[] {
  const { system: own } = computer?.device ?? device;
  return type.helpers
    .filter(({ system }) => system === null || own === null || system === own)
    .map(({ label }) => label);
}

/** Started and without a fault; a program also needs its computer. */
export const isUp = (standin: Standin): boolean => {
  const { memory, computer, host } = standin;
  if (!memory.powered || memory.fault !== undefined || (computer !== undefined && !isUp(computer))) return false;
  return memory.readyAt === 0 || host.scheduler.now() >= memory.readyAt;
};
