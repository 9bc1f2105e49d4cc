import type { DeviceType } from './entities.ts';
import { asksForLogin, isComputer } from './lookups.ts';

interface Fault {
  /** What is done to set it, as a button says it. */
  readonly does: string;
  /** What it is called afterwards. */
  readonly is: string;
  /** Whether it makes sense at units of a type; the bench refuses the rest with a reason. */
  readonly fits: (type: DeviceType) => boolean;
}

const any = () => true;
const hasSockets = ({ sockets }: DeviceType) => sockets.length > 0;
const hasAdapters = ({ adapters }: DeviceType) => adapters.length > 0;
const runsPrograms = (type: DeviceType) => (isComputer(type) || type.form === 'program') && type.services.length > 0;

/** Things that go wrong on a site and can be set on the bench. */
export const faults = {
  power_off: { does: 'Cut its power', is: 'no power', fits: any },
  cable_out: { does: 'Pull its cable', is: 'cable out', fits: hasSockets },
  cable_swapped: {
    does: 'Swap its cables',
    is: 'cables swapped',
    fits: ({ forwards, adapters }) => !forwards && adapters.length > 1,
  },
  wrong_vlan: {
    does: 'Put it in a wrong VLAN',
    is: 'wrong VLAN',
    fits: (type) => !type.managed && hasSockets(type),
  },
  second_unit: {
    does: 'Put another unit on its address',
    is: 'second unit on its address',
    fits: (type) => hasAdapters(type) && !type.forwards,
  },
  wrong_mask: { does: 'Key in a wrong mask', is: 'wrong mask', fits: hasAdapters },
  dhcp_gone: { does: 'Stop its DHCP', is: 'DHCP gone', fits: ({ kind }) => kind === 'router' },
  firewall_on: { does: 'Turn its firewall on', is: 'firewall on', fits: isComputer },
  application_closed: { does: 'Close its application', is: 'application closed', fits: runsPrograms },
  no_show_open: { does: 'Close the show in it', is: 'no show open', fits: runsPrograms },
  helper_quit: { does: 'Quit its helper', is: 'helper quit', fits: ({ helpers }) => helpers.length > 0 },
  old_firmware: {
    does: 'Put an old version on',
    is: 'old version',
    fits: ({ services }) => services.some(({ lowestFirmware }) => lowestFirmware !== null),
  },
  password_changed: {
    does: 'Change its password',
    is: 'password changed',
    fits: ({ services }) => services.some(asksForLogin),
  },
  wireless_loss: {
    does: 'Lose wireless packets',
    is: 'wireless loss',
    fits: ({ sockets, kind }) => sockets.some(({ connector }) => connector === 'radio') || kind === 'access-point',
  },
  loop: { does: 'Make a loop', is: 'loop without spanning tree', fits: ({ forwards }) => forwards },
  factory_reset: {
    does: 'Reset it to factory state',
    is: 'factory state',
    fits: (type) => type.form === 'unit' && hasAdapters(type),
  },
} as const satisfies Readonly<Record<string, Fault>>;

export type FaultKind = keyof typeof faults;
export const faultKinds = Object.keys(faults) as [FaultKind, ...FaultKind[]];

export const faultsFor = (type: DeviceType): FaultKind[] => faultKinds.filter((kind) => faults[kind].fits(type));
