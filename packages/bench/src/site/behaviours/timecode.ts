import { fullFrame, quarterFrame, type MtcTime } from '@deep-patch/codecs';
import { show as core } from '@deep-patch/core';
import type { Surroundings } from '../../units/surroundings.ts';
import { MidiSession } from '../../protocols/midi/midi-session.ts';
import { ssrcOf } from '../../protocols/midi/midi-service.ts';
import { isUp, type Standin } from '../../units/standin.ts';

const ownPort = 5004;
const framesASecond = 25;
const quarterMs = 1000 / framesASecond / 4;
const invitesAgainMs = 5000;

/**
 * Sends running time code to whoever is entered as its target: a full frame when a session opens, quarter frames after
 * that, two a packet with the time between them (RFC 6295 section 3); eight of them tell a time and take two frames.
 */
export function sendTimecode(site: Surroundings, source: Standin): void {
  const { host, device, memory, closers } = source;
  const targets = core.rowsOf(site.plan.show, 'links').filter(({ controllerId }) => controllerId === device.id);
  if (targets.length === 0) return;
  const session = new MidiSession(
    host,
    { name: device.name, port: ownPort, ssrc: ssrcOf(device.id, 'out') },
    () => undefined,
  );
  if (!session.open()) return;
  let running = true;
  const startedAt = site.scheduler.now();
  const now = () => timeAt(Math.floor(((site.scheduler.now() - startedAt) / 1000) * framesASecond));
  const invite = async (): Promise<void> => {
    await site.settled();
    for (const { targetId, port } of targets) {
      const ip = Object.values(site.standins.get(targetId)?.planned.addresses ?? {})
        .flat()
        .flatMap((setting) => setting.ip ?? [])[0];
      const isIn = [...session.participants.values()].some((participant) => participant.ip === ip);
      if (!running || ip === undefined || isIn) continue;
      const joined = await session.invite(ip, port);
      if (typeof joined !== 'string') session.send([fullFrame(now())], joined);
    }
    if (running) site.scheduler.after(invitesAgainMs, () => void invite());
  };
  let piece = 0;
  let told = now();
  const tick = () => {
    if (!running) return;
    if (piece === 0) told = now();
    const pair = [quarterFrame(piece, told), quarterFrame(piece + 1, told)];
    if (session.participants.size > 0) session.send(pair, undefined, quarterMs);
    if (piece === 0) memory.face.set('time code', words(told));
    piece = (piece + pair.length) % 8;
    site.scheduler.light(quarterMs * pair.length, tick, 1);
  };
  void invite();
  tick();
  closers.push(() => {
    running = false;
    session.close(isUp(source) ? 'leaving' : 'cut');
  });
}

function timeAt(frames: number): MtcTime {
  const seconds = Math.floor(frames / framesASecond);
  return {
    hours: Math.floor(seconds / 3600) % 24,
    minutes: Math.floor(seconds / 60) % 60,
    seconds: seconds % 60,
    frames: frames % framesASecond,
    rate: 1,
  };
}

const words = ({ hours, minutes, seconds, frames }: MtcTime): string =>
  [hours, minutes, seconds, frames].map((part) => String(part).padStart(2, '0')).join(':');
