import { addressingFacts, formatIp } from '../addressing/index.ts';
import {
  changeOf,
  contentWith,
  insertRow,
  planRemove,
  rowsBy,
  rowsOf,
  serviceTypeOf,
  typeOf,
  updateRow,
  type Change,
  type Content,
  type Device,
  type Link,
  type Service,
  type Show,
} from '../show/index.ts';
import { cablingFacts } from '../cabling/index.ts';
import { exampleArgs } from './layers/message.ts';
import { toldToReply } from './replies.ts';
import { facing, sidesOf } from './sides.ts';

export interface LinkIntent {
  readonly id: string;
  readonly controllerId: string;
  readonly targetId: string;
  readonly serviceKey: string;
  readonly slot: number | null;
}

/** Targets that a controller can drive: each enabled or known service in a protocol that it speaks. */
export function drivable(show: Show, controller: Device): { target: Device; service: Service; label: string }[] {
  const drives: readonly string[] = typeOf(show, controller)?.drives ?? [];
  return rowsOf(show, 'services').flatMap((service) => {
    const target = show.devices[service.deviceId];
    const type = serviceTypeOf(show, target, service.key);
    if (!target || !type || !drives.includes(type.protocol) || target.id === controller.id) return [];
    return [{ target, service, label: `${type.label} · ${type.transport.toUpperCase()} ${service.receivePort}` }];
  });
}

/**
 * A link with everything filled in that the target's own settings say: its receiving port to send to, its sending
 * port to hear replies on, its first command to test with. A target that was not told where to send replies is told.
 */
export function planAddLink(show: Show, intent: LinkIntent): Change | undefined {
  const { controllerId, targetId, serviceKey, slot, id } = intent;
  const target = show.devices[targetId];
  const type = serviceTypeOf(show, target, serviceKey);
  const service = rowsBy(show, 'services', 'deviceId')
    .get(targetId)
    ?.find(({ key }) => key === serviceKey);
  if (!service || !type) return undefined;
  const [command] = type.commands;
  const row = contentWith('links', {
    id,
    controllerId,
    targetId,
    serviceKey,
    slot,
    host: null,
    port: service.receivePort,
    replyPort: service.sendPort,
    account: null,
    secretId: null,
    command: command?.key ?? null,
    args: command ? exampleArgs(command) : [],
  });
  const isFree = type.replies === 'list' || service.sendTo === null;
  const told =
    type.transport === 'udp' && service.sendPort !== null && isFree
      ? [updateRow('services', service, toldToReply(type, service, controllerIp(show, controllerId, targetId)))]
      : [];
  const name = show.devices[controllerId]?.name ?? 'a controller';
  return changeOf(`Let ${name} control ${target?.name ?? 'a target'}`, [insertRow('links', row), ...told]);
}

function controllerIp(show: Show, controllerId: string, targetId: string): string | null {
  const sides = sidesOf(show, addressingFacts(show), cablingFacts(show));
  const [near, far] = [sides(controllerId), sides(targetId)];
  if (!near || !far) return null;
  if (near.host.id === far.host.id) return '127.0.0.1';
  const [own] = facing(near, far);
  return own?.ip == null ? null : formatIp(own.ip);
}

/** The lowest slot of a controller that no link uses. */
export function nextSlot(show: Show, controllerId: string): number {
  const used = new Set(
    rowsOf(show, 'links').flatMap((link) => (link.controllerId === controllerId ? [link.slot] : [])),
  );
  let slot = 1;
  while (used.has(slot)) slot += 1;
  return slot;
}

export function planEditLink(show: Show, link: Link, patch: Partial<Content<'links'>>): Change | undefined {
  const target = show.devices[link.targetId]?.name ?? 'its target';
  return changeOf(`Change the link to ${target}`, [updateRow('links', link, patch)]);
}

export function planEditService(show: Show, service: Service, patch: Partial<Content<'services'>>): Change | undefined {
  const device = show.devices[service.deviceId];
  const label = serviceTypeOf(show, device, service.key)?.label ?? service.key;
  return changeOf(`Change ${label} of ${device?.name ?? 'a unit'}`, [updateRow('services', service, patch)]);
}

export const planRemoveLink = (show: Show, link: Link): Change =>
  planRemove(show, 'links', [link.id], `Remove the link to ${show.devices[link.targetId]?.name ?? 'its target'}`);
