import type { AddressingFacts } from '../addressing/index.ts';
import {
  indexBy,
  hostOf,
  memo,
  roleOf,
  rowsBy,
  typeOf,
  type Device,
  type Service,
  type ServiceType,
  type Show,
} from '../show/index.ts';

/** Whoever has a port of a machine. */
export interface Listener {
  readonly device: Device;
  /** Undefined for what the system itself keeps open. */
  readonly service: Service | undefined;
  readonly label: string;
}

export interface Listeners {
  /** Who has the port: whoever started first. */
  readonly at: (machineId: string, transport: ServiceType['transport'], port: number) => Listener | undefined;
  /** Everybody who wants the port, in the order of starting. */
  readonly wanting: (machineId: string, transport: ServiceType['transport'], port: number) => readonly Listener[];
}

interface Wish extends Listener {
  readonly ports: readonly string[];
}

const [dhcpServer, dhcpClient, names] = [67, 68, 5353];

/** A machine and the programs on it. */
const onMachine = indexBy('devices', (device, show) => [[hostOf(show, device).id, device]]);

/**
 * Open ports by machine, once everything runs. A computer's own services start before its programs, those in the order
 * of their ids, services in the order of their type; a port belongs to the first that asks for it. A session of
 * network MIDI takes two ports (RFC 6295 with a control and a data port) or none.
 */
export function listenersOf(show: Show, addressing: AddressingFacts): Listeners {
  const services = rowsBy(show, 'services', 'deviceId');
  const wishesOf = memo((machineId) => {
    const here = [...(onMachine(show).get(machineId) ?? [])].sort(
      (a, b) => Number(a.id !== machineId) - Number(b.id !== machineId) || (a.id < b.id ? -1 : 1),
    );
    const machine = show.devices[machineId];
    return [
      ...(machine ? systemWishes(show, addressing, machine) : []),
      ...here.flatMap((device) => wishesOfDevice(show, device, services.get(device.id) ?? [])),
    ];
  });
  const takenBy = memo((machineId) => {
    const taken = new Map<string, Listener>();
    for (const wish of wishesOf(machineId))
      if (wish.ports.every((port) => !taken.has(port))) for (const port of wish.ports) taken.set(port, wish);
    return taken;
  });
  return {
    at: (machineId, transport, port) => takenBy(machineId).get(`${transport} ${port}`),
    wanting: (machineId, transport, port) =>
      wishesOf(machineId).filter(({ ports }) => ports.includes(`${transport} ${port}`)),
  };
}

/** What the system has open before any program starts: handing out and asking for addresses. */
function systemWishes(show: Show, addressing: AddressingFacts, machine: Device): Wish[] {
  const wish = (label: string, port: number): Wish => ({
    device: machine,
    service: undefined,
    label,
    ports: [`udp ${port}`],
  });
  const asks = (addressing.byDevice.get(machine.id) ?? []).some(({ address }) => address.method === 'dhcp');
  return [
    ...(typeOf(show, machine)?.kind === 'router' ? [wish('DHCP server', dhcpServer)] : []),
    ...(asks ? [wish('DHCP client', dhcpClient)] : []),
  ];
}

function wishesOfDevice(show: Show, device: Device, services: readonly Service[]): Wish[] {
  const own = (typeOf(show, device)?.services ?? []).flatMap((type): Wish[] => {
    const service = services.find(({ key }) => key === type.key);
    // whoever opens its connection listens to nobody; a session of MIDI takes its ports all the same
    if (!service?.enabled || (type.protocol !== 'midi' && roleOf(service, type) === 'opens')) return [];
    const { receivePort } = service;
    const ports = type.protocol === 'midi' ? [receivePort, receivePort + 1] : [receivePort];
    return [{ device, service, label: type.label, ports: ports.map((port) => `${type.transport} ${port}`) }];
  });
  return [...own, { device, service: undefined, label: 'DNS-SD', ports: [`udp ${names}`] }];
}

/** The name of a listener as somebody at the target would say it. */
export const listenerName = (target: Device, { device, label }: Listener): string =>
  device.id === target.id ? label : `${label} of ${device.name}`;
