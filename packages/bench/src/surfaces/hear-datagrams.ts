import type { show as core } from '@deep-patch/core';
import { newsInOsc, type News } from '../protocols/news.ts';
import { ownPort } from '../protocols/steps.ts';
import { readOnce } from '../protocols/osc/read-once.ts';
import type { Site } from '../site/site.ts';
import type { Standin } from '../units/standin.ts';

/** A link, and the service of its target. */
export interface Way {
  readonly link: core.Link;
  readonly service: core.ServiceType;
}

export const isDatagrams = ({ protocol, transport }: core.ServiceType): boolean =>
  protocol === 'osc' && transport === 'udp';

/** Hears what targets send to a controller over OSC by themselves, without its port being opened for that. */
export function hearDatagrams(
  site: Site,
  standin: Standin,
  ways: readonly Way[],
  heard: (way: Way, news: readonly News[]) => void,
): () => void {
  const own = ways.filter(({ service }) => isDatagrams(service));
  if (own.length === 0) return () => undefined;
  return standin.host.watchTaken(({ payload, source }) => {
    if (payload.kind !== 'udp') return;
    for (const way of own) {
      const { link, service } = way;
      if ((link.replyPort ?? ownPort) !== payload.destinationPort) continue;
      // several targets may answer at one port
      if (site.standins.get(link.targetId)?.host.owns(source) !== true) continue;
      const read = readOnce(payload.bytes);
      if (read.ok) heard(way, newsInOsc(service.commands, read.packet));
    }
  });
}
