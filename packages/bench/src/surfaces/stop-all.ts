import { show as core } from '@deep-patch/core';
import type { Site } from '../site/site.ts';
import { deliver, type Message } from './deliver.ts';

/**
 * Sends every unit that a surface, or anybody, drives what stops it: the counterpart of each essential command of the
 * services that links lead to. Where it asks for a number, it gets the one that the unit shows it is at.
 */
export async function stopAll(site: Site, deviceId: string | null): Promise<void> {
  const { show } = site.plan;
  const links = core.rowsOf(show, 'links').filter(({ controllerId }) => deviceId === null || controllerId === deviceId);
  const messages = links.flatMap((link): Message[] => {
    const target = show.devices[link.targetId];
    const service = core.serviceTypeOf(show, target, link.serviceKey);
    return (service?.commands ?? []).flatMap((command): Message[] => {
      const stop = command.essential ? service?.commands.find(({ key }) => key === command.counterpart) : undefined;
      if (!stop) return [];
      const face = site.standins.get(link.targetId)?.memory.face;
      const args = stop.args.map(({ name, example }) => {
        const shown = Number(face?.get(name));
        return typeof example === 'number' && Number.isFinite(shown) && face?.has(name) ? shown : example;
      });
      const { controllerId, targetId, serviceKey } = link;
      return [{ controllerId, targetId, serviceKey, command: stop.key, args, typed: '' }];
    });
  });
  const once = new Map(
    messages.map((message) => [`${message.targetId} ${message.serviceKey} ${message.command}`, message]),
  );
  await Promise.all([...once.values()].map((message) => deliver(site, message)));
}
