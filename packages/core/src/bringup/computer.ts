import { adapterBeside, mustIp, type AddressingFacts } from '../addressing/index.ts';
import type { CablingFacts } from '../cabling/index.ts';
import { byName, isComputer, rowsBy, rowsOf, socketsOf, typeOf, type Device, type Show } from '../show/index.ts';
import type { Landing } from './landings.ts';
import type { AdapterAt } from './moves.ts';
import { isHostAddress, subnetText, type Place } from './unit-now.ts';

/** The computer that the technician sets everything from: the one that was chosen, else the likeliest of the rig. */
export function techniciansComputer(show: Show): Device | undefined {
  const chosen = rowsOf(show, 'progress').find(({ holds }) => holds !== null);
  const device = chosen && show.devices[chosen.deviceId];
  if (device && isComputer(typeOf(show, device))) return device;
  return computersFor(show)[0];
}

/** Computers that may be it: those first that have nothing else to do in the show. */
export function computersFor(show: Show): Device[] {
  const controls = rowsBy(show, 'links', 'controllerId');
  const running = rowsBy(show, 'devices', 'runsOn');
  const rank = (device: Device): number =>
    Number(typeOf(show, device)?.kind !== 'computer') * 1_000_000 +
    (controls.get(device.id)?.length ?? 0) * 100 +
    (running.get(device.id)?.length ?? 0);
  return rowsOf(show, 'devices')
    .filter((device) => isComputer(typeOf(show, device)))
    .sort((a, b) => rank(a) - rank(b) || byName(a, b));
}

/** One adapter of the computer: what is true of it now, and where it belongs. */
export interface ComputerAdapter extends AdapterAt {
  readonly key: string;
  readonly label: string;
  readonly places: readonly Place[];
  /** The socket of the computer that leads to it. */
  readonly socket: string;
  /** As it is planned, to be put back at the end. */
  readonly home: { readonly segment: string | null; readonly places: readonly Place[] };
}

/** Its adapters with a socket for a network cable, the first four. */
export function computerAdapters(
  show: Show,
  addressing: AddressingFacts,
  cabling: CablingFacts,
  device: Device,
  segmentAt: (landing: Landing) => string | undefined,
): ComputerAdapter[] {
  const type = typeOf(show, device);
  if (!type) return [];
  const progress = show.progress[device.id];
  const domains = cabling.domains();
  const own = addressing.byDevice.get(device.id) ?? [];
  const sockets = socketsOf(type, device.variant);
  return type.adapters.slice(0, 4).flatMap(({ key, label }): ComputerAdapter[] => {
    const socket = sockets.find(({ adapter, connector }) => adapter === key && connector === 'rj45');
    if (!socket) return [];
    const planned = own.flatMap(({ interface: its, ip, prefix }) =>
      its.adapter === key && ip !== null && isHostAddress({ ip, prefix }) ? [{ ip, prefix }] : [],
    );
    const home = { segment: domains.domainOf(device.id, key, null) ?? null, places: planned };
    const known = progress?.adapters.find(({ adapter }) => adapter === key);
    const places = known?.places.map(({ ip, prefix }) => ({ ip: mustIp(ip), prefix })) ?? [];
    const segment = known?.at ? (segmentAt(known.at) ?? null) : home.segment;
    const holds = Math.max(progress?.holds ?? 1, places.length);
    const subnets = [...new Set(places.map(subnetText))].sort();
    return [{ key, label, socket: socket.key, places, home, segment, subnets, holds }];
  });
}

/** What the computer is set to in a subnet: its own planned address there, else one that is in nobody's way. */
export function placeIn(
  addressing: AddressingFacts,
  adapters: readonly ComputerAdapter[],
  subnet: string,
): Place | undefined {
  const home = adapters.flatMap(({ home: { places } }) => places).find((place) => subnetText(place) === subnet);
  // where a unit is delivered at that address, the computer keeps away from it
  if (home && !addressing.factory.has(home.ip)) return home;
  const [network = '', prefix = ''] = subnet.split('/');
  const setting = adapterBeside(addressing, mustIp(network), Number(prefix));
  return setting && { ip: mustIp(setting.ip), prefix: setting.prefix };
}
