import { hostOf, isComputer, typeOf, type Device, type Show } from '../show/index.ts';
import type { AddressingFacts } from './facts.ts';
import { formatIp } from './ipv4.ts';

/** How a computer is woken over the network: the usual port for it is the discard port, 9 (RFC 863). */
export interface WakePlan {
  /** The hardware address that the message repeats; null where nobody wrote it down. */
  readonly mac: string | null;
  /** The broadcast address of its network, and the port. */
  readonly to: { readonly ip: string; readonly port: number } | null;
  /** Computers that may send it, in its own network: it cannot wake itself. */
  readonly senders: readonly Device[];
}

const wakePort = 9;

/** What it takes to wake a computer (C32); undefined for a unit that is none. */
export function wakePlan(show: Show, facts: AddressingFacts, deviceId: string): WakePlan | undefined {
  const device = show.devices[deviceId];
  const unit = device && hostOf(show, device);
  if (!unit || !isComputer(typeOf(show, unit))) return undefined;
  const own = (facts.byDevice.get(unit.id) ?? [])[0];
  const on = own && facts.byNetwork.get(own.network.id);
  const senders = (on?.planned ?? [])
    .map((item) => item.device)
    .filter((other) => other.id !== unit.id && isComputer(typeOf(show, other)));
  return {
    mac: own?.interface.mac ?? null,
    to: on ? { ip: formatIp(on.broadcast), port: wakePort } : null,
    senders: [...new Map(senders.map((other) => [other.id, other])).values()],
  };
}
