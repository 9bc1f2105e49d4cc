import type { Duplex } from 'node:stream';
import {
  readOsc,
  timeOfTag,
  writeOsc,
  type OscArg,
  type OscBundle,
  type OscMessage,
  type OscPacket,
  type OscRead,
} from '@deep-patch/codecs';
import type { show } from '@deep-patch/core';
import { dotted, undotted } from '../../ether/dotted.ts';
import { act, count, guarded, noteOpening, trip } from '../../units/doing.ts';
import { fitsArgument, type Match } from '../../units/match-command.ts';
import type { ServiceSetting } from '../../units/settings.ts';
import { isUp, type Standin } from '../../units/standin.ts';
import { keepsUp, takeStreams } from '../take-streams.ts';
import { framingOf } from './framing.ts';
import { commandsFor } from './patterns.ts';
import { readOnce } from './read-once.ts';
import { commandReply } from './reply.ts';

/** Where something came in, whom it came from, and how that is answered. */
interface Input {
  readonly standin: Standin;
  readonly type: show.ServiceType;
  /** Words for people, made when something is told. */
  readonly from: () => string;
  readonly answer: (reply: OscPacket) => void;
}

/** A unit keeps so many bundles for later, and none for longer. */
const mostWaiting = 1000;
const longestWaitMs = 3_600_000;
/** What is late by less is on time: clocks of a show are no closer. */
const punctualMs = 5;

/**
 * Opens the OSC input of a stand-in. Over UDP it answers where its own menu says, or to the sender if it has no such
 * field; over TCP on the same connection, packets framed as its type says.
 */
export function openOsc(standin: Standin, service: ServiceSetting, type: show.ServiceType): void {
  if (type.transport === 'tcp') overStreams(standin, service, type);
  else noteOpening(standin, service.key, overDatagrams(standin, service, type), ['udp', service.receivePort]);
}

type Close = (() => void) | undefined;

function overDatagrams(standin: Standin, service: ServiceSetting, type: show.ServiceType): Close {
  const { host } = standin;
  const send = ({ ip, port }: Address, reply: OscPacket) =>
    void host.sendUdp(ip, { from: service.receivePort, to: port }, writeOsc(reply));
  const crowd = askers(host.scheduler);
  standin.tellers.set(type.key, (command, values) => {
    const reply = commandReply(command, values);
    if (reply) for (const back of toldOf(service, type, crowd.lately())) send(back, reply);
  });
  return host.listen(service.receivePort, ({ source, sourcePort, bytes }) => {
    const asker = { ip: source, port: sourcePort };
    if (!host.outside.has(source)) crowd.asked({ ip: source, port: service.sendPort ?? sourcePort });
    const answer = (reply: OscPacket) => {
      for (const back of waysBack(host, service, type, asker, crowd.lately())) send(back, reply);
    };
    takeIn({ standin, type, from: () => dotted(source), answer }, readOnce(bytes));
  });
}

interface Address {
  readonly ip: number;
  readonly port: number;
}

/** Who asked lately, the last of them last. */
function askers(clock: { readonly now: () => number }) {
  const times = new Map<string, Address & { readonly at: number }>();
  return {
    asked: (asker: Address) => {
      const key = `${asker.ip}:${asker.port}`;
      times.delete(key);
      times.set(key, { ...asker, at: clock.now() });
      if (times.size > mostAskers) times.delete(times.keys().next().value ?? '');
    },
    lately: (): Address[] => Array.from(times.values()).filter(({ at }) => clock.now() - at < subscribedMs),
  };
}
const mostAskers = 64;
/** Whoever has not asked for so long hears no more. */
const subscribedMs = 60_000;

/** Whom it tells what changed at itself: those entered, whoever asked last, or all who asked lately. */
function toldOf(service: ServiceSetting, type: show.ServiceType, lately: readonly Address[]): readonly Address[] {
  if (type.replies === 'subscribers') return lately;
  return type.replies === 'sender' ? lately.slice(-1) : entered(service, type, service.receivePort);
}

/** Where answers go: as its own menu says; whoever comes through a jack stands where its controller would. */
function waysBack(
  { outside }: Standin['host'],
  service: ServiceSetting,
  type: show.ServiceType,
  asker: Address,
  lately: readonly Address[],
): readonly Address[] {
  if (outside.has(asker.ip)) return [asker];
  if (type.replies === 'subscribers') return lately;
  const back = { ip: asker.ip, port: service.sendPort ?? asker.port };
  if (type.replies === 'sender') return [back];
  const list = entered(service, type, asker.port);
  return list.length === 0 && service.sendPort === null ? [asker] : list;
}

function entered({ sendTo, alsoTo, sendPort }: ServiceSetting, { replies }: show.ServiceType, port: number): Address[] {
  const ips = [...(sendTo === null ? [] : [sendTo]), ...(replies === 'list' ? alsoTo : [])];
  return Array.from(new Set(ips), (ip) => ({ ip: undotted(ip), port: sendPort ?? port }));
}

function overStreams(standin: Standin, service: ServiceSetting, type: show.ServiceType): void {
  const { reader: makeReader, write } = framingOf(type);
  const open = new Set<Duplex>();
  standin.tellers.set(type.key, (command, values) => {
    const reply = commandReply(command, values);
    if (reply) for (const stream of open) stream.write(write(writeOsc(reply)));
  });
  takeStreams(standin, service, type, (stream) => {
    const reader = makeReader();
    // whoever has a connection open hears what somebody else did
    const answer = (reply: OscPacket) => {
      const bytes = write(writeOsc(reply));
      for (const each of open) if (each === stream || keepsUp(each)) each.write(bytes);
    };
    const input = { standin, type, from: () => 'stream', answer };
    open.add(stream);
    stream.on('close', () => open.delete(stream));
    stream.on('end', () => stream.end());
    stream.on('data', (chunk: Uint8Array) => {
      if (!isUp(standin)) return;
      for (const packet of reader.push(chunk)) takeIn(input, readOsc(packet));
    });
  });
}

/** If that throws, the unit alone is switched off and says why. */
function takeIn(input: Input, read: OscRead): void {
  const { standin, type, from } = input;
  try {
    count(standin, type.key, 'heard');
    if (read.ok) takePacket(input, read.packet);
    else
      standin.report({
        from: from(),
        protocol: 'OSC',
        text: `malformed at byte ${read.at}: ${read.fault}`,
        ok: false,
      });
  } catch (error) {
    trip(standin, error);
  }
}

function takePacket(input: Input, packet: OscPacket): void {
  if ('elements' in packet) takeBundle(input, packet);
  else takeMessage(input, packet);
}

/** Now, or when its time tag says; what is late is done at once (OSC 1.0, "Temporal Semantics and OSC Time Tags"). */
function takeBundle(input: Input, { time, elements }: OscBundle): void {
  const { standin, from } = input;
  const run = () => {
    for (const element of elements) takePacket(input, element);
  };
  const due = timeOfTag(time);
  const wait = due === undefined ? 0 : due - standin.clock();
  const say = (text: string, ok: boolean) => standin.report({ from: from(), protocol: 'OSC', text, ok });
  if (wait <= 0) {
    if (wait < -punctualMs) say(`a bundle for ${lateness(-wait)} ago: done at once`, true);
    run();
  } else if (wait > longestWaitMs || standin.closers.length > mostWaiting)
    say(`a bundle for in ${lateness(wait)}: not kept for so long, and not done`, false);
  else later(input, wait, run);
}

/** When the unit is switched off, what waits is gone. */
function later({ standin }: Input, waitMs: number, run: () => void): void {
  const { closers, host } = standin;
  const forget = () => void closers.splice(closers.indexOf(cancel), 1);
  const cancel = host.scheduler.after(waitMs, () => {
    forget();
    guarded(standin, run);
  });
  closers.push(cancel);
}

const lateness = (ms: number): string => (ms < 10_000 ? `${Math.round(ms)} ms` : `${Math.round(ms / 1000)} s`);

function takeMessage({ standin, type, from, answer }: Input, message: OscMessage): void {
  const { address } = message;
  const tell = (value: number) => answer({ address, args: [{ type: 'f', value }] });
  if (standin.ears.some((hears) => hears({ address, value: numberIn(message) }, tell))) return;
  const matches = commandsFor(type.commands, message.address);
  let isKnown = false;
  for (const match of matches) {
    const reply = obey(standin, type, match, message.args);
    if (reply !== 'unknown') isKnown = true;
    if (typeof reply === 'object') answer(reply);
  }
  if (!isKnown)
    standin.report({ from: from(), protocol: 'OSC', text: `${message.address} means nothing here`, ok: false });
}

/** The first value as a number; a message without one is a press. */
function numberIn({ args: [first] }: OscMessage): number {
  if (first === undefined || first.type === 'T') return 1;
  return first.type === 'F' ? 0 : 'value' in first && typeof first.value !== 'object' ? Number(first.value) : NaN;
}

/** Does the command, or drops a message that is not in the dictionary, as real units do: without a word. */
function obey(
  standin: Standin,
  type: show.ServiceType,
  { command, rest, values }: Match,
  args: readonly OscArg[],
): OscMessage | 'unknown' | 'silent' {
  if (rest.length !== args.length) return 'unknown';
  for (const [at, argument] of rest.entries()) {
    const value = plainValue(args[at]);
    if (!fitsArgument(argument, value, Math.fround) || !tagFits(argument.type, args[at])) return 'unknown';
    values.set(argument.name, String(value));
  }
  if (!act(standin, type.key, command, values)) return 'unknown';
  return commandReply(command, values) ?? 'silent';
}

/** A number sent as text, or a float where a whole number is asked, does not trigger. */
function tagFits(type: show.Command['args'][number]['type'], arg: OscArg | undefined): boolean {
  if (type === 'T') return arg?.type === 'T' || arg?.type === 'F';
  if (type === 'f') return arg?.type === 'f' || arg?.type === 'd';
  return arg?.type === type;
}

function plainValue(arg: OscArg | undefined): unknown {
  if (arg?.type === 'T' || arg?.type === 'F') return arg.type === 'T';
  return arg && 'value' in arg ? arg.value : undefined;
}
