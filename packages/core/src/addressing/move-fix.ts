import { fixWith, type Fix } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import type { AddressingFacts, Planned } from './facts.ts';
import { formatIp } from './ipv4.ts';
import { planMove } from './plan-address.ts';
import { suggestHost } from './plan-placement.ts';

/** The button that moves one unit to the next place that the numbering rule finds; undefined when there is none. */
export function moveFix(show: Show, facts: AddressingFacts, item: Planned): Fix | undefined {
  const ip = suggestHost(facts, item);
  if (ip === undefined) return undefined;
  return fixWith(`Move ${item.device.name} to ${formatIp(ip)}`, planMove(show, item.address, ip, false));
}
