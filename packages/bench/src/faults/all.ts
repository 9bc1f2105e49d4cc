import type { show as core } from '@deep-patch/core';
import { applicationClosed } from './application-closed.ts';
import { cableOut } from './cable-out.ts';
import { cableSwapped } from './cable-swapped.ts';
import { dhcpGone } from './dhcp-gone.ts';
import { factoryReset } from './factory-reset.ts';
import { firewallOn } from './firewall-on.ts';
import { helperQuit } from './helper-quit.ts';
import { loop } from './loop.ts';
import { noShowOpen } from './no-show-open.ts';
import { oldFirmware } from './old-firmware.ts';
import { passwordChanged } from './password-changed.ts';
import { powerOff } from './power-off.ts';
import { secondUnit } from './second-unit.ts';
import { wirelessLoss } from './wireless-loss.ts';
import { wrongMask } from './wrong-mask.ts';
import { wrongVlan } from './wrong-vlan.ts';
import type { FaultKind } from './fault.ts';

/** Every kind of fault that can be set on the bench. */
export const faultKinds: Readonly<Record<core.FaultKind, FaultKind>> = {
  power_off: powerOff,
  cable_out: cableOut,
  cable_swapped: cableSwapped,
  wrong_vlan: wrongVlan,
  second_unit: secondUnit,
  wrong_mask: wrongMask,
  dhcp_gone: dhcpGone,
  firewall_on: firewallOn,
  application_closed: applicationClosed,
  no_show_open: noShowOpen,
  helper_quit: helperQuit,
  old_firmware: oldFirmware,
  password_changed: passwordChanged,
  wireless_loss: wirelessLoss,
  loop,
  factory_reset: factoryReset,
};
