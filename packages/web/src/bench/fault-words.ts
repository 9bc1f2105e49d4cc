import { show as core } from '@deep-patch/core';

/** What is done to set a fault, as a button says it, and what it is called afterwards. */
export const faultWords: Readonly<Record<core.FaultKind, readonly [does: string, is: string]>> = {
  power_off: ['Cut its power', 'no power'],
  cable_out: ['Pull its cable', 'cable out'],
  cable_swapped: ['Swap its cables', 'cables swapped'],
  wrong_vlan: ['Put it in a wrong VLAN', 'wrong VLAN'],
  second_unit: ['Put another unit on its address', 'second unit on its address'],
  wrong_mask: ['Key in a wrong mask', 'wrong mask'],
  dhcp_gone: ['Stop its DHCP', 'DHCP gone'],
  firewall_on: ['Turn its firewall on', 'firewall on'],
  application_closed: ['Close its application', 'application closed'],
  no_show_open: ['Close the show in it', 'no show open'],
  helper_quit: ['Quit its helper', 'helper quit'],
  old_firmware: ['Put an old version on', 'old version'],
  password_changed: ['Change its password', 'password changed'],
  wireless_loss: ['Lose wireless packets', 'wireless loss'],
  loop: ['Make a loop', 'loop without spanning tree'],
  factory_reset: ['Reset it to factory state', 'factory state'],
};

export const faultKinds = Object.keys(faultWords) as core.FaultKind[];

/** Faults that make sense at a unit of this type; the bench refuses the rest with a reason. */
export function faultsFor(type: core.DeviceType): core.FaultKind[] {
  const isComputer = core.isComputer(type);
  const fits: Partial<Record<core.FaultKind, boolean>> = {
    cable_out: type.sockets.length > 0,
    cable_swapped: !type.forwards && type.adapters.length > 1,
    wrong_vlan: !type.managed && type.sockets.length > 0,
    second_unit: type.adapters.length > 0 && !type.forwards,
    wrong_mask: type.adapters.length > 0,
    dhcp_gone: type.kind === 'router',
    firewall_on: isComputer,
    application_closed: (isComputer || type.form === 'program') && type.services.length > 0,
    no_show_open: (isComputer || type.form === 'program') && type.services.length > 0,
    helper_quit: type.helpers.length > 0,
    old_firmware: type.services.some(({ lowestFirmware }) => lowestFirmware !== null),
    password_changed: type.services.some(({ logins }) => logins.some((login) => login !== 'none')),
    wireless_loss: type.sockets.some(({ connector }) => connector === 'radio') || type.kind === 'access-point',
    loop: type.forwards,
    factory_reset: type.form === 'unit' && type.adapters.length > 0,
  };
  return faultKinds.filter((kind) => fits[kind] ?? true);
}
