import { onair, type show as core } from '@deep-patch/core';
import type { Surroundings } from '../../units/surroundings.ts';
import { isUp, type Standin } from '../../units/standin.ts';

const nobody = 'nobody';

/** A gateway shows who is on each of its channels; calls end with its power. */
export function takesCalls(gateway: Standin): void {
  for (const channel of channelsOf(gateway)) gateway.memory.face.set(channel, nobody);
}

/** Somebody calls in on a channel, or hangs up where `caller` is empty. Throws an Error that says why it does not go. */
export function call(site: Surroundings, gateway: Standin, channel: string, caller: string): void {
  const { device, type, memory } = gateway;
  if (type.kind !== 'caller') throw new Error(`${device.name} takes no calls`);
  if (!isUp(gateway)) throw new Error(`${device.name} is not switched on`);
  if (!channelsOf(gateway).includes(channel)) throw new Error(`${device.name} has no channel “${channel}”`);
  memory.face.set(channel, caller || nobody);
  site.air.note({ at: site.scheduler.now(), deviceId: device.id, what: 'call', input: null, item: caller });
}

/** Who is seen on an input that a channel of a gateway is on; undefined where none is. */
export function callerSeen(site: Surroundings, input: onair.AirInput): string | undefined {
  const gateway = onair.callerOn(site.plan.show, input);
  const standin = gateway && site.standins.get(gateway.id);
  if (!standin) return undefined;
  return isUp(standin) ? (standin.memory.face.get(input.rule.channel) ?? nobody) : nobody;
}

/** As it reports them now: a name that was changed there counts. */
function channelsOf({ device, type, memory }: Standin): readonly string[] {
  const key = 'channels';
  const planned = device.names.find(({ list }) => list === key) ?? type.lists.find((list) => list.key === key);
  return memory.lists.get(key) ?? planned?.names ?? [];
}

export const callersIn = (site: Surroundings, switcherId: string): readonly onair.AirInput[] => {
  const switcher: core.Device | undefined = site.plan.show.devices[switcherId];
  return switcher ? onair.airInputsOf(site.plan.show, switcher).filter(({ rule }) => rule.channel !== '') : [];
};
