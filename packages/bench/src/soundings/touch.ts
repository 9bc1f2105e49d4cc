import { readOsc, writeOsc } from '@deep-patch/codecs';
import type { show as core } from '@deep-patch/core';
import { commandReply } from '../protocols/osc/reply.ts';
import { addressOf, replyWaitMs, rounded, until, type SoundRequest } from '../protocols/steps.ts';
import { act, deed } from '../units/doing.ts';
import { isUp, serviceOf, type Standin } from '../units/standin.ts';
import { undotted } from '../ether/dotted.ts';

/**
 * Somebody does a command at the unit itself, on its own screen or faders. A unit that was told where to send tells it
 * there, so that remotes follow. Answers what it did. Throws a plain Error where that cannot be done.
 */
export function touch(
  standin: Standin,
  serviceKey: string,
  commandKey: string,
  args: readonly core.Link['args'][number][],
): string {
  const type = standin.type.services.find(({ key }) => key === serviceKey);
  const command = type?.commands.find(({ key }) => key === commandKey);
  if (!type || !command) throw new Error('it has nothing like that');
  if (!isUp(standin)) throw new Error('it has to be switched on');
  if (standin.memory.application === 'closed') throw new Error('its application is closed');
  const values = new Map(command.args.map(({ name, example }, at) => [name, String(args[at] ?? example)]));
  if (!act(standin, serviceKey, command, values)) throw new Error('no show is open in it');
  const service = serviceOf(standin, serviceKey);
  const reply = commandReply(command, values);
  if (reply && type.protocol === 'osc' && type.transport === 'udp' && service?.enabled && service.sendTo !== null)
    void standin.host.sendUdp(
      undotted(service.sendTo),
      { from: service.receivePort, to: service.sendPort ?? service.receivePort },
      writeOsc(reply),
    );
  return deed(command, values);
}

/**
 * The other direction of a link: the same command done at the target, and what that tells arriving at the controller.
 * Null where the link has no such way: nothing is told, or nobody listens.
 */
export async function soundBack({ link, controller, target }: SoundRequest): Promise<core.BackSounding | null> {
  const type = target?.type.services.find(({ key }) => key === link.serviceKey);
  const service = target && serviceOf(target, link.serviceKey);
  const command = type?.commands.find(({ key }) => key === link.command);
  if (!controller || !target || !command?.reply || !service?.sendTo || link.replyPort === null) return null;
  const { host } = controller;
  let heard: { readonly at: number; readonly address: string } | undefined;
  const stop = host.tapInto(link.replyPort, ({ bytes }) => {
    const read = readOsc(bytes);
    if (read.ok && 'address' in read.packet) heard ??= { at: host.scheduler.now(), address: read.packet.address };
  });
  const start = host.scheduler.now();
  const did = touch(target, link.serviceKey, command.key, link.args);
  await until(host.scheduler, replyWaitMs, () => heard !== undefined);
  stop();
  if (!heard) return { came: false, ms: null, did, told: addressOf(command, link, type?.protocol ?? 'osc') };
  follow(controller, did);
  return { came: true, ms: rounded(heard.at - start), did, told: heard.address };
}

/** A surface with the same faders moves with what it is told. */
function follow({ type, memory }: Standin, did: string): void {
  for (const { parameter } of type.face)
    if (did.startsWith(`${parameter} `)) memory.face.set(parameter, did.slice(parameter.length + 1));
}
