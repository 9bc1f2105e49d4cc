import {
  byName,
  rowsBy,
  rowsOf,
  serviceTypeOf,
  typeOf,
  type Bank,
  type Device,
  type Link,
  type Show,
  type TimeHop,
} from '../show/index.ts';
import { saidName } from './chain.ts';

/** Does network MIDI come with the system of a machine, or is it put on it (need 11.2)? `own`: it is a unit, not a computer. */
export type MidiDriver = 'own' | 'built_in' | 'add_on' | 'unsaid';

/** One session of network MIDI, as it is entered at the end that opens it (needs 5.8 and 11.8). */
export interface Session {
  readonly link: Link;
  readonly opens: Device;
  readonly waits: Device;
  /** What it is called at the far end. */
  readonly name: string;
  readonly port: number;
  /** Time code that goes through it. */
  readonly hops: readonly TimeHop[];
  /** Faders of a surface that go through it. */
  readonly banks: readonly Bank[];
  readonly drivers: readonly [opens: MidiDriver, waits: MidiDriver];
  /** Others that read the same at the far end, where nobody could tell them apart. */
  readonly alike: readonly Device[];
}

/** Every session of the show, by the far end and then by its name. */
export function sessionsOf(show: Show): Session[] {
  const sessions = rowsOf(show, 'links').flatMap((link) => {
    const [opens, waits] = [show.devices[link.controllerId], show.devices[link.targetId]];
    if (!opens || !waits || serviceTypeOf(show, waits, link.serviceKey)?.protocol !== 'midi') return [];
    const hops = rowsOf(show, 'timeHops').filter(
      ({ fromId, toId, format }) =>
        format === 'network_midi' &&
        ((fromId === opens.id && toId === waits.id) || (fromId === waits.id && toId === opens.id)),
    );
    const said = hops.find(({ fromId }) => fromId === opens.id);
    const banks = (rowsBy(show, 'banks', 'deviceId').get(opens.id) ?? []).filter(
      ({ targetId, serviceKey }) => targetId === waits.id && serviceKey === link.serviceKey,
    );
    const drivers = [driverOf(show, opens), driverOf(show, waits)] as const;
    return [
      { link, opens, waits, hops, banks, drivers, port: link.port, name: said ? saidName(show, said) : opens.name },
    ];
  });
  return sessions
    .map((own) => ({
      ...own,
      alike: sessions
        .filter((other) => other.link.id !== own.link.id && other.waits.id === own.waits.id && other.name === own.name)
        .map(({ opens }) => opens),
    }))
    .sort(
      (a, b) => byName(a.waits, b.waits) || (a.name < b.name ? -1 : a.name > b.name ? 1 : byName(a.opens, b.opens)),
    );
}

/** By the system of the machine, or of the computer that a program runs on. */
export function driverOf(show: Show, device: Device): MidiDriver {
  const isProgram = typeOf(show, device)?.form === 'program';
  const machine = isProgram ? show.devices[device.runsOn ?? ''] : device;
  const { system = null } = machine ?? {};
  if (system === null)
    return isProgram || typeOf(show, device)?.ways.some(({ way }) => way === 'system') ? 'unsaid' : 'own';
  return system === 'macos' || system === 'mobile' ? 'built_in' : 'add_on';
}
