import { writeOsc, type OscArg } from '@deep-patch/codecs';
import { show as core, type contract } from '@deep-patch/core';
import { protocols } from '../protocols/all.ts';
import { addressOf, bodyOf, oscArgs, ownPort, type SoundRequest, type Talk } from '../protocols/steps.ts';
import type { Site } from '../site/site.ts';
import { isUp, serviceOf, type Standin } from '../units/standin.ts';
import { sendsNothing } from '../soundings/sound.ts';

/** A message of a controller for one service of a unit. */
export interface Message {
  readonly controllerId: string;
  readonly targetId: string;
  readonly serviceKey: string;
  readonly command: string | null;
  readonly args: core.Link['args'];
  readonly typed: string;
}

/** A target does what came at once: what is not done by then is not done (simulated milliseconds). */
const waitMs = 350;

const silentWords: Readonly<Record<string, string>> = {
  unknown: 'it does not speak that',
  closed: 'its application is closed',
  no_show: 'it has no show open',
  helper: 'what has to run beside it was quit',
  in_set_up: 'its set-up is open',
};

/** What became of a message that never left, and why. */
export const notSent = ({ targetId }: { readonly targetId: string }, at: number, why: string): contract.Delivery => ({
  ...{ outcome: 'not_sent', at, arrivedMs: null, doneMs: null, targetId, sent: '', why },
});

/**
 * Sends one message over the link that a controller has to a unit, with its real bytes, and watches what becomes of it:
 * whether it left, whether it arrived at the unit's socket, and whether the unit did what it says. It never throws.
 */
export async function deliver(site: Site, message: Message): Promise<contract.Delivery> {
  const at = Date.now();
  const nothing = (why: string) => notSent(message, at, why);
  const [controller, target] = [site.standins.get(message.controllerId), site.standins.get(message.targetId)];
  if (!controller || !target) return nothing('one end is not there');
  const way = core
    .rowsBy(site.plan.show, 'links', 'controllerId')
    .get(message.controllerId)
    ?.find((link) => link.targetId === message.targetId && link.serviceKey === message.serviceKey);
  if (!way) return nothing(`no link leads from ${controller.device.name} to ${target.device.name}`);
  if (!isUp(controller)) return nothing(`${controller.device.name} is off`);
  const type = target.type.services.find(({ key }) => key === message.serviceKey);
  if (!type || !serviceOf(target, message.serviceKey)) return nothing(`${target.device.name} has no such service`);
  const silent = sendsNothing(controller, type.protocol);
  if (silent) return nothing(`${controller.device.name}: ${silentWords[silent] ?? silent}`);
  // whoever has just started has no address yet
  await site.settled();
  const { command: key, args, typed } = message;
  const request = site.requestFor({ ...way, command: key, args: [...args], typed });
  if (request.entry.ip === undefined) return nothing(`${target.device.name} has no address yet`);
  const command = type.commands.find((own) => own.key === key);
  const talk: Talk = { controller, target, type, command, port: String(way.port), ip: request.entry.ip };
  return watched(request, talk, at);
}

async function watched(request: SoundRequest, talk: Talk, at: number): Promise<contract.Delivery> {
  const { controller, target, type, ip } = talk;
  const { link } = request;
  const { scheduler } = controller.host;
  const start = scheduler.now();
  const since = () => Math.round((scheduler.now() - start) * 100) / 100;
  let arrivedMs: number | null = null;
  let doneMs: number | null = null;
  let settle: () => void = () => undefined;
  const settled = new Promise<void>((done) => (settle = done));
  const stopWatching = target.host.watchTaken(({ payload }) => {
    if (arrivedMs === null && 'destinationPort' in payload && payload.destinationPort === link.port)
      arrivedMs = since();
  });
  const follow: Standin['followers'][number] = (done) => {
    // of a message that the target has no name for, only what happens after it came can be its effect
    if (link.command === null ? arrivedMs === null : done.key !== link.command) return;
    doneMs ??= since();
    settle();
  };
  target.followers.push(follow);
  controller.host.pin(ip, controller.device.adapter);
  let refusal = '';
  try {
    if (type.protocol === 'osc' && type.transport === 'udp') {
      const from = link.replyPort ?? ownPort;
      const bytes = writeOsc({ address: addressOf(talk.command, link, 'osc'), args: oscArgs(talk.command, link) });
      await controller.host.sendUdp(ip, { from, to: link.port }, bytes, () => {
        refusal = 'nobody hears on that port';
        settle();
      });
      const cancel = scheduler.after(waitMs, settle);
      await settled;
      cancel();
    } else {
      const seen = new Map<core.LayerName, { readonly state: string; readonly code: string }>();
      await protocols[type.protocol].sound(request, talk, seen as never);
      const failed = [...seen].find(([, step]) => step.state === 'fail');
      if (failed) refusal = `stops at ${failed[0]}`;
    }
  } finally {
    stopWatching();
    target.followers.splice(target.followers.indexOf(follow), 1);
    controller.host.pin(ip, null);
  }
  const sameMachine = controller.host === target.host;
  const arrived = arrivedMs ?? (doneMs !== null || sameMachine ? doneMs : null);
  const outcome = doneMs !== null ? 'done' : arrived === null ? 'not_arrived' : 'refused';
  return {
    ...{ outcome, at, arrivedMs: arrived, doneMs, targetId: target.device.id, sent: sentWords(talk, link) },
    why: outcome === 'done' ? '' : refusal || whyNot(outcome, target),
  };
}

function whyNot(outcome: 'refused' | 'not_arrived', { device, memory }: Standin): string {
  if (outcome === 'not_arrived') return `nothing of it came to ${device.name}`;
  return memory.application === 'ready'
    ? `it arrived, and means nothing to ${device.name}`
    : `${device.name} has no show open`;
}

function sentWords({ type, command }: Talk, link: core.Link): string {
  const address = addressOf(command, link, type.protocol);
  if (type.protocol === 'osc') {
    const values = oscArgs(command, link).map(argWords);
    return [address, ...values].join(' ').slice(0, 200);
  }
  if (type.protocol !== 'http') return address.slice(0, 200);
  const body = Object.values(bodyOf(command, link)).map(String);
  return [command?.method ?? 'GET', address, ...body].join(' ').slice(0, 200);
}

/** A value as it is read; what has none goes by its tag. */
const argWords = (arg: OscArg): string =>
  'value' in arg && (typeof arg.value === 'number' || typeof arg.value === 'string') ? String(arg.value) : arg.type;
