import { midiControl, midiFromWords, midiWords, MtcReader, type MidiMessage, type MtcTime } from '@deep-patch/codecs';
import { show as core, timecode, type show } from '@deep-patch/core';
import type { ServiceSetting } from '../../units/settings.ts';
import { fitInAddress, matchCommand } from '../../units/match-command.ts';
import type { Participant } from './midi-peer.ts';
import { MidiSession } from './midi-session.ts';
import { act, count, filled, guarded, noteOpening } from '../../units/doing.ts';
import { dotted, undotted } from '../../ether/dotted.ts';
import { isUp, type Standin } from '../../units/standin.ts';

/** Opens the network MIDI session of a stand-in: it obeys messages of its dictionary and shows time code that comes in. */
export function openMidi(standin: Standin, service: ServiceSetting, type: show.ServiceType): void {
  const clock = new MtcReader();
  const session = new MidiSession(
    standin.host,
    { name: standin.device.name, port: service.receivePort, ssrc: ssrcOf(standin.device.id, service.key) },
    (message, from) =>
      guarded(standin, () => {
        if (isUp(standin)) takeIn({ standin, session, type, clock }, message, from);
      }),
  );
  standin.tellers.set(type.key, ({ reply }, values) => {
    const told = reply && midiFromWords(filled(reply.address, values));
    if (told) session.send([told]);
  });
  session.onJoin = () => count(standin, type.key, 'heard');
  session.onMalformed = (from, fault) =>
    standin.report({ from: dotted(from), protocol: 'MIDI', text: `malformed: ${fault}`, ok: false });
  if (core.roleOf(service, type) === 'opens') {
    session.letsIn = false;
    standin.openers.set(type.key, () => inviteOut(standin, service, session));
  }
  const { receivePort } = service;
  const close = session.open() ? () => session.close(isUp(standin) ? 'leaving' : 'cut') : undefined;
  if (close && session.letsIn) standin.midiSessions.push(session);
  noteOpening(standin, service.key, close, ['udp', receivePort], ['udp', receivePort + 1]);
}

/** A session that is to open invites whoever was entered in it; one far end, not everybody. */
async function inviteOut(
  standin: Standin,
  { key, sendTo, sendPort }: ServiceSetting,
  session: MidiSession,
): Promise<'open' | 'refused' | 'silent'> {
  if (!isUp(standin) || sendTo === null || sendPort === null || standin.crowdedOut.has(key)) return 'silent';
  const ip = undotted(sendTo);
  if (standin.host.isForAll(ip)) return 'silent';
  const joined = await session.invite(ip, sendPort);
  if (typeof joined === 'string') return joined;
  count(standin, key, 'heard');
  return 'open';
}

interface Ear {
  readonly standin: Standin;
  readonly session: MidiSession;
  readonly type: show.ServiceType;
  readonly clock: MtcReader;
}

function takeIn({ standin, session, type, clock }: Ear, message: MidiMessage, from: Participant): void {
  count(standin, type.key, 'heard');
  if (message[0] === 0xf1 || message[0] === 0xf0) {
    const time = clock.push(message);
    // what knows nothing of chains shows whatever comes
    if (time && standin.timeEars.length === 0) standin.memory.face.set('time code', timeWords(time));
    else if (time) tellTime(standin, time, message[0] === 0xf1, from.name);
    return;
  }
  const moved = midiControl(message);
  const tell = (value: number) => {
    const back = midiFromWords(`${moved?.address} ${Math.round(value)}`);
    if (back) session.send([back], from);
  };
  if (moved && standin.ears.some((hears) => hears(moved, tell))) return;
  const match = matchCommand(type.commands, midiWords(message), { between: ' ' });
  if (!match || match.rest.length > 0 || !fitInAddress(match)) {
    standin.report({ from: from.name, protocol: 'MIDI', text: `${midiWords(message)} means nothing here`, ok: false });
    return;
  }
  if (!act(standin, type.key, match.command, match.values)) return;
  const { reply } = match.command;
  const answer = reply && midiFromWords(filled(reply.address, match.values));
  // a session is one place: everybody in it hears the answer
  if (answer) session.send([answer]);
}

const codeRates = ['24', '25', '29.97df', '30'] as const;

/** Eight quarter frames took two frames to tell their time (MIDI 1.0 detailed specification, MIDI time code). */
export function tellTime(standin: Standin, told: MtcTime, isInPieces: boolean, from: string): void {
  const rate = timecode.rates[codeRates[told.rate]];
  const time = timecode.timeAfter(timecode.framesOf(told, rate) + (isInPieces ? 2 : 0), rate);
  for (const hear of standin.timeEars) hear({ time, rate, from, format: 'network_midi' });
}

const timeWords = ({ hours, minutes, seconds, frames }: Record<'hours' | 'minutes' | 'seconds' | 'frames', number>) =>
  [hours, minutes, seconds, frames].map((part) => String(part).padStart(2, '0')).join(':');

/** The number of a source: it only has to differ from others, and stay the same between runs. */
export function ssrcOf(deviceId: string, key: string): number {
  let hash = 2_166_136_261;
  for (const letter of `${deviceId} ${key}`) hash = Math.imul(hash ^ letter.charCodeAt(0), 16_777_619) >>> 0;
  return hash;
}
