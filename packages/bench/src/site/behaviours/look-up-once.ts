import { show as core } from '@deep-patch/core';
import { undotted } from '../../ether/dotted.ts';
import type { Surroundings } from '../../units/surroundings.ts';
import type { Standin } from '../../units/standin.ts';

/**
 * Some controllers look the address of a target up once: when they start, and when somebody keys the entry in (again).
 * A target that was not there then, or that went away since, stays away for them although it is back.
 */
export function looksUpEntries(site: Surroundings, controller: Standin): void {
  let wanted = true;
  controller.closers.push(() => (wanted = false));
  void lookUp(site, controller, () => wanted);
}

async function lookUp(site: Surroundings, controller: Standin, isWanted: () => boolean): Promise<void> {
  await site.settled();
  const { memory } = controller;
  const entries = core
    .rowsOf(site.plan.show, 'links')
    .filter(({ controllerId }) => controllerId === controller.device.id);
  for (const link of entries) {
    const target = site.standins.get(link.targetId);
    if (!isWanted() || !target) continue;
    const ip = link.host === null ? plannedIp(target) : undotted(link.host);
    const aim = `${ip} ${link.port}`;
    if (memory.lookedUp.get(link.id)?.aim !== aim)
      memory.lookedUp.set(link.id, { aim, ip: await isThere(controller, target, link, ip) });
    show(controller, target, link);
  }
}

/** The address, once somebody answers there. */
async function isThere({ host }: Standin, { type }: Standin, link: core.Link, ip?: number): Promise<number | null> {
  if (ip === undefined) return null;
  const transport = type.services.find(({ key }) => key === link.serviceKey)?.transport;
  if (transport !== 'tcp') return typeof (await host.resolve(ip)) === 'object' || host.owns(ip) ? ip : null;
  const stream = await host.tcp.connect(ip, link.port);
  if (typeof stream !== 'string') stream.end();
  return typeof stream === 'string' ? null : ip;
}

/** A target went away: whoever looked it up once has lost it until the entry is keyed in again. */
export function loseTarget(site: Surroundings, target: Standin): void {
  for (const link of core.rowsOf(site.plan.show, 'links')) {
    if (link.targetId !== target.device.id) continue;
    const controller = site.standins.get(link.controllerId);
    if (controller) loseEntry(controller, target, link);
  }
}

/** One entry of a controller has lost its target. */
export function loseEntry(controller: Standin, target: Standin, link: core.Link): void {
  const looked = controller.memory.lookedUp.get(link.id);
  if (!looked) return;
  controller.memory.lookedUp.set(link.id, { ...looked, ip: null });
  show(controller, target, link);
}

/** Its own screen says of each target whether it was found. */
function show({ memory }: Standin, { device }: Standin, { id }: core.Link): void {
  memory.face.set(device.name, memory.lookedUp.get(id)?.ip === null ? 'not found' : 'connected');
}

const plannedIp = ({ planned }: Standin): number | undefined =>
  Object.values(planned.addresses)
    .flat()
    .flatMap(({ ip }) => ip ?? [])[0];
