import type { Duplex } from 'node:stream';
import {
  readOsc,
  SlipReader,
  writeOsc,
  writeSlip,
  type OscArg,
  type OscMessage,
  type OscPacket,
  type OscRead,
} from '@deep-patch/codecs';
import type { show } from '@deep-patch/core';
import type { ServiceSetting } from '../../units/settings.ts';
import { readOnce } from './read-once.ts';
import { fitInAddress, fitsArgument, matchCommand } from '../../units/match-command.ts';
import { act, count, filled, guarded, noteOpening } from '../../units/doing.ts';
import { dotted, undotted } from '../../ether/dotted.ts';
import { isUp, type Standin } from '../../units/standin.ts';

/**
 * Opens the OSC input of a stand-in. Over UDP it answers where its own menu says, or to the sender if it has no such
 * field; over TCP on the same connection, packets framed by SLIP (OSC 1.1).
 */
export function openOsc(standin: Standin, service: ServiceSetting, type: show.ServiceType): void {
  const door: Door = (read, from, answer) => guarded(standin, () => takeIn(standin, type, read, from, answer));
  const opened = type.transport === 'tcp' ? overStreams(standin, service, door) : overDatagrams(standin, service, door);
  noteOpening(standin, service.key, opened, [type.transport, service.receivePort]);
}

type Close = (() => void) | undefined;
type Door = (read: OscRead, from: string, answer: (reply: OscPacket) => void) => void;

function overDatagrams({ host }: Standin, service: ServiceSetting, door: Door): Close {
  return host.listen(service.receivePort, ({ source, sourcePort, bytes }) =>
    door(readOnce(bytes), dotted(source), (reply) => {
      const back = wayBack(host, service, { ip: source, port: sourcePort });
      if (back) void host.sendUdp(back.ip, { from: service.receivePort, to: back.port }, writeOsc(reply));
    }),
  );
}

interface Address {
  readonly ip: number;
  readonly port: number;
}

/** Where answers go: as its own menu says; whoever comes through a jack stands where its controller would. */
function wayBack({ outside }: Standin['host'], { sendTo, sendPort }: ServiceSetting, asker: Address) {
  if (outside.has(asker.ip)) return asker;
  if (sendTo === null && sendPort !== null) return undefined;
  return { ip: sendTo === null ? asker.ip : undotted(sendTo), port: sendPort ?? asker.port };
}

function overStreams(standin: Standin, service: ServiceSetting, door: Door): Close {
  const streamDoor = (stream: Duplex) => {
    const reader = new SlipReader();
    stream.on('end', () => stream.end());
    stream.on('data', (chunk: Uint8Array) => {
      if (!isUp(standin)) return;
      for (const packet of reader.push(chunk))
        door(readOsc(packet), 'stream', (reply) => void stream.write(writeSlip(writeOsc(reply))));
    });
  };
  return standin.host.tcp.listen(service.receivePort, streamDoor);
}

function takeIn(
  standin: Standin,
  type: show.ServiceType,
  read: OscRead,
  from: string,
  answer: (reply: OscPacket) => void,
): void {
  count(standin, type.key, 'heard');
  if (!read.ok) {
    standin.report({ from, protocol: 'OSC', text: `malformed at byte ${read.at}: ${read.fault}`, ok: false });
    return;
  }
  for (const message of messagesOf(read.packet)) {
    const reply = obey(standin, type, message);
    if (reply === 'unknown')
      standin.report({ from, protocol: 'OSC', text: `${message.address} means nothing here`, ok: false });
    if (typeof reply === 'object') answer(reply);
  }
}

const messagesOf = (packet: OscPacket): OscMessage[] =>
  'elements' in packet ? packet.elements.flatMap(messagesOf) : [packet];

/** Does the command, or drops a message that is not in the dictionary, as real units do: without a word. */
function obey(standin: Standin, type: show.ServiceType, message: OscMessage): OscMessage | 'unknown' | 'silent' {
  const match = matchCommand(type.commands, message.address);
  if (!match || isNoAddress.test(message.address) || match.rest.length !== message.args.length) return 'unknown';
  const values = match.values;
  for (const [at, argument] of match.rest.entries()) {
    const value = plainValue(message.args[at]);
    if (!fitsArgument(argument, value, Math.fround) || !tagFits(argument.type, message.args[at])) return 'unknown';
    values.set(argument.name, String(value));
  }
  if (!fitInAddress(match)) return 'unknown';
  if (!act(standin, type.key, match.command, values)) return 'unknown';
  return commandReply(match.command, values) ?? 'silent';
}

/** Characters of patterns, and others that no address of a method holds (OSC 1.0). */
const isNoAddress = /[#*,?[\]{}]|[^!-~]/;

/** What a unit says once it did a command; undefined where it says nothing. */
export function commandReply({ reply }: show.Command, values: ReadonlyMap<string, string>): OscMessage | undefined {
  if (!reply) return undefined;
  return { address: filled(reply.address, values), args: reply.args.map((text) => replyArg(text, values)) };
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

function replyArg(text: string, values: ReadonlyMap<string, string>): OscArg {
  if (text === 'T' || text === 'F') return { type: text };
  const value = filled(text, values);
  if (/^-?\d+$/.test(value)) return { type: 'i', value: Number(value) };
  return /^-?\d+(\.\d+)?$/.test(value) ? { type: 'f', value: Number(value) } : { type: 's', value };
}
