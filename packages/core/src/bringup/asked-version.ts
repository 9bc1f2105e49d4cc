import { compareVersions, versionsMatch } from '../rig/index.ts';
import { rowsBy, serviceTypeOf, type Device, type Show } from '../show/index.ts';
import { matchRule, partnersIn } from './first-sync.ts';

export interface AskedVersion {
  readonly version: string;
  /** Who asks for one that the unit does not have yet: controllers of its functions, and newer partners. */
  readonly by: readonly string[];
}

/** The lowest version with which everything works that is asked of a unit; undefined where it has that. */
export function askedVersion(show: Show, device: Device): AskedVersion | undefined {
  const { firmware } = device;
  if (firmware === null) return undefined;
  const asked = [...byControllers(show, device), ...byPartners(show, device, firmware)].filter(
    ({ version }) => compareVersions(firmware, version) === -1,
  );
  const [first, ...others] = asked.map(({ version }) => version);
  if (first === undefined) return undefined;
  const version = others.reduce((most, one) => (compareVersions(most, one) === -1 ? one : most), first);
  return { version, by: [...new Set(asked.map(({ by }) => by))] };
}

interface Asked {
  readonly version: string;
  readonly by: string;
}

const byControllers = (show: Show, device: Device): Asked[] =>
  (rowsBy(show, 'links', 'targetId').get(device.id) ?? []).flatMap(({ serviceKey, controllerId }) => {
    const version = serviceTypeOf(show, device, serviceKey)?.lowestFirmware;
    return version == null ? [] : [{ version, by: controllerId }];
  });

const byPartners = (show: Show, device: Device, firmware: string): Asked[] =>
  partnersIn(show).flatMap(({ one, other }) => {
    const partner = one.id === device.id ? other : other.id === device.id ? one : undefined;
    const rule = partner && matchRule(show, device, partner);
    if (!partner?.firmware || !rule || versionsMatch(firmware, partner.firmware, rule)) return [];
    return [{ version: partner.firmware, by: partner.id }];
  });
