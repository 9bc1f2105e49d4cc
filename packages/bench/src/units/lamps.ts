import { type contract, show as core, type Show } from '@deep-patch/core';
import type { Surroundings } from './surroundings.ts';
import { isUp, type Standin } from './standin.ts';
import type { Tried } from './memory.ts';

/** A lamp for data goes dark when nothing came back for so long (simulated milliseconds). */
const quietAfterMs = 10_000;

/**
 * What a controller's own lamp says of each of its targets. It measures what its type says and nothing more, and it
 * remembers the last try: that is why such lamps mislead.
 */
export function lampsOf(site: Surroundings, controller: Standin): contract.LinkLamp[] {
  const means = controller.type.lampMeans;
  if (means === null || !isUp(controller)) return [];
  return linksOf(site.plan.show, controller.device.id).map(({ id }) => ({
    linkId: id,
    means,
    lit: isLit(site, controller, id, means),
    ...(means === 'show' ? { shows: stateOf(controller, id) } : {}),
  }));
}

/** By controller, once for each plan: lamps are looked at several times a second. */
function linksOf(show: Show, controllerId: string): readonly core.Link[] {
  let byController = entries.get(show);
  if (!byController)
    entries.set(show, (byController = core.groupBy(core.rowsOf(show, 'links'), (link) => link.controllerId)));
  return byController.get(controllerId) ?? [];
}
const entries = new WeakMap<Show, ReadonlyMap<string, readonly core.Link[]>>();

function isLit(site: Surroundings, { host, memory }: Standin, linkId: string, means: core.LampMeaning): boolean {
  if (means === 'carrier') return host.adapters.some(({ port }) => port.cable?.hasCarrier());
  const looked = memory.lookedUp.get(linkId);
  if (looked?.ip === null) return false;
  if (means === 'application' && looked) return true;
  const tried = memory.tried.get(linkId);
  if (!tried || !passed(tried, layerOf[means])) return false;
  return means !== 'data' || site.scheduler.now() - tried.at < quietAfterMs;
}

const layerOf: Readonly<Record<Exclude<core.LampMeaning, 'carrier'>, core.LayerName>> = {
  address: 'address',
  application: 'service',
  login: 'access',
  data: 'reply',
  show: 'reply',
};

/** Three states of a target: a program without an open show lets whoever asks in and does nothing. */
function stateOf({ memory }: Standin, linkId: string): NonNullable<contract.LinkLamp['shows']> {
  const tried = memory.tried.get(linkId);
  if (!tried || !passed(tried, 'access')) return 'away';
  return passed(tried, 'reply') ? 'ready' : 'there';
}

const passed = ({ stoppedAt }: Tried, layer: core.LayerName): boolean =>
  stoppedAt === null || core.layerNames.indexOf(stoppedAt) > core.layerNames.indexOf(layer);
