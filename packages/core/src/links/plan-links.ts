import { addressingFacts, formatIp } from '../addressing/index.ts';
import {
  applyChange,
  asksForLogin,
  changeOf,
  contentWith,
  insertRow,
  planRemove,
  roleOf,
  rowsBy,
  rowsOf,
  serviceTypeOf,
  typeOf,
  updateRow,
  type Change,
  type Content,
  type Device,
  type Edit,
  type Link,
  type Service,
  type ServiceType,
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
export function drivable(
  show: Show,
  controller: Device,
): { target: Device; service: Service; type: ServiceType; label: string }[] {
  const drives: readonly string[] = typeOf(show, controller)?.drives ?? [];
  return rowsOf(show, 'services').flatMap((service) => {
    const target = show.devices[service.deviceId];
    const type = serviceTypeOf(show, target, service.key);
    if (!target || !type || !drives.includes(type.protocol) || target.id === controller.id) return [];
    return [{ target, service, type, label: `${type.label} · ${type.transport.toUpperCase()} ${service.receivePort}` }];
  });
}

/** Units that a controller can send nothing to, as their types stand, with what they do speak. */
export function notDrivable(show: Show, controller: Device): { target: Device; typeId: string; speaks: string[] }[] {
  const reached = new Set(drivable(show, controller).map(({ target }) => target.id));
  return rowsOf(show, 'devices').flatMap((target) => {
    const type = typeOf(show, target);
    if (!type || type.forwards || target.id === controller.id || reached.has(target.id)) return [];
    return [{ target, typeId: type.id, speaks: [...new Set(type.services.map(({ protocol }) => protocol))] }];
  });
}

/**
 * A link with everything filled in that the target's own settings say: its receiving port to send to, its sending
 * port to hear replies on, its first command to test with. A target that was not told where to send replies is told.
 */
export function planAddLink(show: Show, intent: LinkIntent): Change | undefined {
  const { controllerId, targetId } = intent;
  const found = linkRow(show, intent);
  if (!found) return undefined;
  const { row, service, type } = found;
  const isFree = type.replies === 'list' || service.sendTo === null;
  const answers = type.transport === 'udp' && service.sendPort !== null && isFree;
  const own = controllerIp(show, controllerId, targetId);
  const told =
    row.role === 'waits'
      ? service.sendTo === null && own !== null
        ? [updateRow('services', service, { sendTo: own, sendPort: row.port })]
        : []
      : answers
        ? [updateRow('services', service, toldToReply(type, service, own))]
        : [];
  return changeOf(linkLabel(show, intent), [insertRow('links', row), ...told]);
}

const linkLabel = (show: Show, { controllerId, targetId }: LinkIntent): string =>
  `Let ${show.devices[controllerId]?.name ?? 'a controller'} control ${show.devices[targetId]?.name ?? 'a target'}`;

/** The same without a word to the target about replies, of which its own finding tells: for rules, which ask no facts. */
export function planBareLink(show: Show, intent: LinkIntent): Change | undefined {
  const found = linkRow(show, intent);
  return found && changeOf(linkLabel(show, intent), [insertRow('links', found.row)]);
}

function linkRow(
  show: Show,
  { id, controllerId, targetId, serviceKey, slot }: LinkIntent,
): { row: Content<'links'>; service: Service; type: ServiceType } | undefined {
  const type = serviceTypeOf(show, show.devices[targetId], serviceKey);
  const service = rowsBy(show, 'services', 'deviceId')
    .get(targetId)
    ?.find(({ key }) => key === serviceKey);
  if (!service || !type) return undefined;
  const [command] = type.commands;
  const opens = roleOf(service, type) === 'opens';
  const row = contentWith('links', {
    ...{ id, controllerId, targetId, serviceKey, slot, host: null, account: null, secretId: null },
    // a target that opens the connection finds the controller waiting where it goes
    role: opens ? 'waits' : 'opens',
    port: opens ? (service.sendPort ?? service.receivePort) : service.receivePort,
    replyPort: opens ? null : service.sendPort,
    command: command?.key ?? null,
    args: command ? exampleArgs(command) : [],
  });
  return { row, service, type };
}

export interface SeveralLinks {
  readonly controllerId: string;
  readonly targets: readonly { readonly targetId: string; readonly serviceKey: string }[];
  /** The slot of the first; the others take the next free ones. Null where the controller numbers nothing. */
  readonly firstSlot: number | null;
  /** Entered in the controller for each of them, where its service asks for a login. */
  readonly account: string | null;
}

/** Several links of one controller in one change: the slots that are free from the first one on, one account for all. */
export function planAddLinks(show: Show, intent: SeveralLinks, newId: () => string): Change | undefined {
  const { controllerId, targets, firstSlot, account } = intent;
  const slots = freeSlots(show, controllerId, firstSlot);
  let at = show;
  const edits: Edit[] = [];
  for (const { targetId, serviceKey } of targets) {
    const slot = slots();
    const change = planAddLink(at, { id: newId(), controllerId, targetId, serviceKey, slot });
    const type = serviceTypeOf(at, at.devices[targetId], serviceKey);
    const own = (change?.edits ?? []).map((edit) =>
      edit.table === 'links' && edit.after && type && asksForLogin(type)
        ? { ...edit, after: { ...edit.after, account } }
        : edit,
    );
    const applied = applyChange(at, { label: '', edits: own });
    if (!applied.ok) continue;
    at = applied.show;
    edits.push(...own);
  }
  const name = show.devices[controllerId]?.name ?? 'a controller';
  const [only] = targets;
  const whom =
    targets.length === 1 ? (show.devices[only?.targetId ?? '']?.name ?? 'a target') : `${targets.length} targets`;
  return changeOf(`Let ${name} control ${whom}`, inOneStep(edits));
}

/** Two edits of one row become one that starts where the first did. */
function inOneStep(edits: readonly Edit[]): Edit[] {
  const byRow = new Map<string, Edit>();
  for (const edit of edits) {
    const key = `${edit.table} ${edit.id}`;
    const before = byRow.get(key);
    byRow.set(key, before ? { ...before, after: edit.after } : edit);
  }
  return [...byRow.values()];
}

function freeSlots(show: Show, controllerId: string, first: number | null): () => number | null {
  if (first === null) return () => null;
  const used = slotsOf(show, controllerId);
  let next = first;
  return () => {
    while (used.has(next)) next += 1;
    next += 1;
    return next - 1;
  };
}

/** The slots of a controller that links have, with the target of each. */
export function slotsOf(show: Show, controllerId: string): Map<number, string> {
  return new Map(
    rowsOf(show, 'links').flatMap((link): [number, string][] =>
      link.controllerId === controllerId && link.slot !== null
        ? [[link.slot, show.devices[link.targetId]?.name ?? '']]
        : [],
    ),
  );
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
  const used = slotsOf(show, controllerId);
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

/** Says of links that no single loss may stop them, or that one may. */
export function planMustHold(show: Show, linkIds: readonly string[], mustHold: boolean): Change | undefined {
  const edits = linkIds.flatMap((id) => {
    const link = show.links[id];
    return link && link.mustHold !== mustHold ? [updateRow('links', link, { mustHold })] : [];
  });
  const [only] = linkIds.flatMap((id) => show.links[id] ?? []);
  const name = only ? `${show.devices[only.controllerId]?.name} to ${show.devices[only.targetId]?.name}` : '';
  const what = edits.length === 1 ? name : `${edits.length} links`;
  return changeOf(`${what} ${mustHold ? 'must hold' : 'may stop'}`.slice(0, 200), edits);
}
