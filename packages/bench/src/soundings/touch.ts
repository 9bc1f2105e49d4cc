import type { show as core } from '@deep-patch/core';
import { protocols } from '../protocols/all.ts';
import { addressOf, replyWaitMs, rounded, until, type SoundRequest } from '../protocols/steps.ts';
import { act, deed } from '../units/doing.ts';
import { isUp, type Standin } from '../units/standin.ts';

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
  standin.tellers.get(serviceKey)?.(command, values);
  return deed(command, values);
}

/**
 * The other direction of a link: the same command done at the target, and what that tells arriving at the controller.
 * Null where the link has no such way: nothing is told, or nobody listens.
 */
export async function soundBack(request: SoundRequest): Promise<core.BackSounding | null> {
  const { link, controller, target, entry } = request;
  const type = target?.type.services.find(({ key }) => key === link.serviceKey);
  const command = type?.commands.find(({ key }) => key === link.command);
  if (!controller || !target || !type || !command?.reply || entry.ip === undefined) return null;
  if (!target.tellers.has(type.key)) return null;
  const { scheduler } = controller.host;
  let heard: { readonly at: number; readonly what: string } | undefined;
  const talk = { controller, target, type, command, ip: entry.ip, port: String(link.port) };
  const stop = await protocols[type.protocol].hear(request, talk, {
    tell: (what) => (heard ??= { at: scheduler.now(), what }),
    ended: () => undefined,
  });
  if (!stop) return null;
  const start = scheduler.now();
  let did: string;
  try {
    did = touch(target, type.key, command.key, link.args);
    await until(scheduler, replyWaitMs, () => heard !== undefined);
  } finally {
    stop();
  }
  if (!heard) return { came: false, ms: null, did, told: addressOf(command, link, type.protocol) };
  follow(controller, did);
  return { came: true, ms: rounded(heard.at - start), did, told: heard.what };
}

/** A surface with the same faders moves with what it is told. */
function follow({ type, memory }: Standin, did: string): void {
  for (const { parameter } of type.face)
    if (did.startsWith(`${parameter} `)) memory.face.set(parameter, did.slice(parameter.length + 1));
}
