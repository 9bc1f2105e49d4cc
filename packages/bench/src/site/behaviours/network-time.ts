import { fullFrame, MtcReader, quarterFrame, type MidiMessage, type MtcTime } from '@deep-patch/codecs';
import { show as core, timecode } from '@deep-patch/core';
import { tellTime, ssrcOf } from '../../protocols/midi/midi-service.ts';
import { MidiSession } from '../../protocols/midi/midi-session.ts';
import type { Surroundings } from '../../units/surroundings.ts';
import { isUp, type OpenSession, type Standin } from '../../units/standin.ts';

const firstPort = 5004;
const mostSessions = 16;
const invitesAgainMs = 5000;

/** Numbers of rates in MIDI time code (MIDI 1.0 detailed specification); what it has no number for goes as the nearest. */
const codeOf = (rate: timecode.Rate): MtcTime['rate'] =>
  rate.drops > 0 ? 2 : rate.counts === 24 ? 0 : rate.counts === 25 ? 1 : 3;

/** What it needs of the clock whose time it tells. */
interface Clock {
  readonly rate: timecode.Rate;
  /** Frames since midnight; undefined while it stands. */
  now(): number | undefined;
  show(): void;
  every(tick: () => number): void;
}

function mtcTime(frames: number, rate: timecode.Rate): MtcTime {
  return { ...timecode.timeAfter(frames, rate), rate: codeOf(rate) };
}

/** On the first two ports of the unit that are free. */
function openSession(unit: Standin, name: string, hear: (message: MidiMessage) => void): MidiSession | undefined {
  for (let at = 0; at < mostSessions; at += 1) {
    const port = firstPort + 2 * at;
    const session = new MidiSession(unit.host, { name, port, ssrc: ssrcOf(unit.device.id, `time ${name}`) }, hear);
    if (session.open()) return session;
  }
  return undefined;
}

/** Keeps inviting whoever was entered and is not in it, as long as the unit runs. */
function keepInviting(
  site: Surroundings,
  unit: Standin,
  session: MidiSession,
  { entries, joined }: { readonly entries: readonly core.Link[]; readonly joined: (peer: Joined) => void },
): void {
  let isOpen = true;
  const invite = async (): Promise<void> => {
    await site.settled();
    for (const { targetId, port } of entries) {
      const ip = Object.values(site.standins.get(targetId)?.planned.addresses ?? {})
        .flat()
        .flatMap((setting) => setting.ip ?? [])[0];
      const isIn = [...session.participants.values()].some((participant) => participant.ip === ip);
      if (!isOpen || ip === undefined || isIn) continue;
      const peer = await session.invite(ip, port);
      if (typeof peer !== 'string') joined(peer);
    }
    if (isOpen) site.scheduler.after(invitesAgainMs, () => void invite());
  };
  void invite();
  unit.closers.push(() => {
    isOpen = false;
    session.close(isUp(unit) ? 'leaving' : 'cut');
  });
}

type Joined = Exclude<Awaited<ReturnType<MidiSession['invite']>>, string>;

/** Entries by which one unit opens a session at another. */
const entriesOf = ({ plan: { show } }: Surroundings, controllerId: string, targetId: string): core.Link[] =>
  core
    .rowsOf(show, 'links')
    .filter(
      (link) =>
        link.controllerId === controllerId &&
        link.targetId === targetId &&
        core.serviceTypeOf(show, show.devices[targetId], link.serviceKey)?.protocol === 'midi',
    );

/**
 * A full frame when a session opens, quarter frames after that: to those that are entered here, and in the unit's own
 * sessions to those that opened them from their end.
 */
export function sendOverNetwork(
  site: Surroundings,
  unit: Standin,
  clock: Clock,
  { name, toIds }: { readonly name: string; readonly toIds: readonly string[] },
): void {
  const entries = toIds.flatMap((id) => entriesOf(site, unit.device.id, id).slice(0, 1));
  const session = entries.length > 0 ? openSession(unit, name, () => undefined) : undefined;
  const isFetched = toIds.some((id) => isFetching(site, unit.device.id, id));
  if (!session && !isFetched) return;
  const sessions = (): readonly OpenSession[] => [
    ...(session ? [session] : []),
    ...(isFetched ? unit.midiSessions : []),
  ];
  if (isFetched) for (const own of unit.midiSessions) own.name = name;
  if (session)
    keepInviting(site, unit, session, {
      entries,
      joined: (peer) => {
        const now = clock.now();
        if (now !== undefined) session.send([fullFrame(mtcTime(now, clock.rate))], peer);
      },
    });
  let piece = 0;
  let told = clock.now();
  clock.every(() => {
    const { rate } = clock;
    const quarterMs = 1000 / timecode.framesPerSecond(rate) / 4;
    if (piece === 0) {
      told = clock.now();
      clock.show();
    }
    // a time is told whole or not at all
    if (told !== undefined) {
      const time = mtcTime(told, rate);
      const pair = [quarterFrame(piece, time), quarterFrame(piece + 1, time)];
      for (const each of sessions()) if (each.participants.size > 0) each.send(pair, undefined, quarterMs);
    }
    piece = (piece + 2) % 8;
    return quarterMs * 2;
  });
}

/** Nobody entered the receiver at the source: the receiver opens the session from its end. */
const isFetching = (site: Surroundings, fromId: string, toId: string): boolean =>
  entriesOf(site, fromId, toId).length === 0 && entriesOf(site, toId, fromId).length > 0;

/** Opens sessions at the sources that are entered at this unit, and hears their time code. */
export function fetchOverNetwork(site: Surroundings, unit: Standin): void {
  const { show } = site.plan;
  const sources = core
    .rowsOf(show, 'timeHops')
    .filter(({ toId, fromId, format }) => {
      return toId === unit.device.id && format === 'network_midi' && isFetching(site, fromId, toId);
    })
    .map(({ fromId }) => fromId);
  for (const fromId of new Set(sources)) {
    const reader = new MtcReader();
    let from = '';
    const session = openSession(unit, `${unit.device.name} ${fromId}`, (message) => {
      const time = reader.push(message);
      if (time && isUp(unit)) tellTime(unit, time, message[0] === 0xf1, from);
    });
    if (!session) continue;
    const entries = entriesOf(site, unit.device.id, fromId).slice(0, 1);
    keepInviting(site, unit, session, { entries, joined: (peer) => (from = peer.name) });
  }
}
