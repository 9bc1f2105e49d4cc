import { addressing, cabling, links, show as core, type Show } from '@deep-patch/core';
import { startScheduler } from '../ether/scheduler.ts';
import { Site } from '../site/site.ts';

/** One link of a rig: where the plan says that it stops, and where it really did. */
export interface Comparison {
  readonly linkId: string;
  readonly forecast: core.LayerName | 'bottom';
  readonly code: string;
  readonly happened: readonly (core.LayerName | 'bottom')[];
  /** The sounding, by what went over the wire, says something that cannot be. */
  readonly contradicts: boolean;
  /** The plan says that it depends on what a server hands out. */
  readonly chance: boolean;
  readonly codes: readonly string[];
  readonly measured: core.MeasuredSounding;
}

/** Puts a rig on a bench that no clock paces, some runs of it pulled out, and sounds every link, or those named. */
export async function compare(
  show: Show,
  passwords: Readonly<Record<string, string>>,
  only: readonly string[] = Object.keys(show.links),
  pulled: ReadonlySet<string> = new Set(),
): Promise<Comparison[]> {
  const scheduler = startScheduler(Infinity);
  try {
    const site = new Site({ show, passwords }, scheduler, () => 0.5, 0);
    for (const [id, { cable }] of site.cables) cable.cut = pulled.has(id);
    site.power(Object.keys(show.devices), true);
    const left = cabling.cablingFacts(show, pulled);
    const [addressed, unplaced] = [addressing.addressingFacts(show), () => ({ change: undefined })];
    const { planned } = links.linkFacts(show, addressed, unplaced);
    const facts = links.linkFacts(show, addressed, unplaced, left, planned);
    const comparisons: Comparison[] = [];
    for (const link of core.rowsOf(show, 'links').filter(({ id }) => only.includes(id))) {
      const forecast = links.forecast(show, facts, link);
      const target = site.standins.get(link.targetId);
      const served = () => ({ heard: 0, done: 0, ...target?.memory.served.get(link.serviceKey) });
      const before = served();
      const measured = await site.sound(link.id);
      if (!measured) throw new Error('not sounded');
      const after = served();
      const happened = whatHappened(show, link, measured, {
        heard: after.heard > before.heard,
        done: after.done > before.done,
      });
      const stop = forecast.stopsAt?.layer ?? 'bottom';
      comparisons.push({
        linkId: link.id,
        forecast: stop,
        code: forecast.stopsAt?.code ?? '',
        happened,
        contradicts: contradicts(measured, happened, stop),
        chance: forecast.chance,
        codes: forecast.layers.map(({ layer, code }) => `${layer} ${code}`),
        measured,
      });
    }
    site.load({ show: core.emptyShow({ id: show.id, name: '' }), passwords: {} });
    return comparisons;
  } finally {
    scheduler.stop();
  }
}

const nothingSent: ReadonlySet<string> = new Set(['unknown', 'closed', 'no_show', 'helper', 'in_set_up', 'looked_up']);

/** Where a link really stopped: by lamps and packets down to the address, by what the unit itself counted below. */
function whatHappened(
  show: Show,
  link: core.Link,
  { layers }: core.MeasuredSounding,
  unit: { heard: boolean; done: boolean },
): (core.LayerName | 'bottom')[] {
  const at = (layer: core.LayerName) => layers.find((one) => one.layer === layer);
  for (const layer of ['cable', 'segment', 'address'] as const)
    // without a firewall an echo that arrived is answered, unless nothing leads back
    if (at(layer)?.state !== 'pass') return [layer];
  if (nothingSent.has(at('service')?.code ?? '')) return ['port', 'service'];
  const type = core.serviceTypeOf(show, show.devices[link.targetId], link.serviceKey);
  // on one machine it may hear what another service answers: that is not what was sent to it
  const own = core
    .rowsOf(show, 'services')
    .find((row) => row.deviceId === link.targetId && row.key === link.serviceKey);
  const isWaiting = link.role === 'waits' && type !== undefined && core.isConnection(type);
  const meetsAt = isWaiting ? own?.sendPort : own?.receivePort;
  if (!unit.heard || meetsAt !== link.port) return ['port'];
  if (at('access')?.state === 'fail') return ['access'];
  // with nothing to send, nothing comes back
  if (link.command === null) return ['reply', 'bottom'];
  if (!unit.done) return ['message'];
  const answers = type?.protocol === 'http' || type?.protocol === 'text';
  const expects = answers || type?.commands.find(({ key }) => key === link.command)?.reply != null;
  return [!expects || at('reply')?.state === 'pass' ? 'bottom' : 'reply'];
}

/** A sounding names the layer, or leaves open which of several it is; who on a machine answers it cannot tell. */
function contradicts(
  { layers }: core.MeasuredSounding,
  happened: readonly string[],
  forecast: core.LayerName | 'bottom',
): boolean {
  const fail = layers.find(({ state }) => state === 'fail' || state === 'waits');
  const open = layers.filter(({ state }) => state === 'unseen').map(({ layer }) => layer);
  const last = fail?.code === 'none' ? ['reply', 'bottom'] : [fail?.layer ?? 'bottom'];
  const possible: string[] = [...open, ...last];
  return !happened.some((layer) => possible.includes(layer)) && !(forecast === 'port' && happened.includes('port'));
}

export const agrees = ({ forecast, happened, contradicts, chance }: Comparison): boolean =>
  chance || (happened.includes(forecast) && !contradicts);
