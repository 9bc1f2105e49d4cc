import { protocols } from './all.ts';
import { offerNames } from './names/name-service.ts';
import { settingsOf, type Standin } from '../units/standin.ts';
import { isOlder } from '../units/versions.ts';

/** Opens what a stand-in offers, as keyed into it; with its application closed it offers nothing. */
export function openServices(standin: Standin): void {
  if (standin.memory.application === 'closed') return;
  const { services } = settingsOf(standin);
  for (const type of standin.type.services) {
    const service = services.find(({ key }) => key === type.key);
    if (service?.enabled && hasIt(standin, type.lowestFirmware)) protocols[type.protocol].open(standin, service, type);
  }
  offerNames(standin);
}

/**
 * An older version that was put on at the unit lacks what came later. What the plan says of versions is only what
 * somebody wrote down: the unit then has the function.
 */
function hasIt(standin: Standin, lowest: string | null): boolean {
  const { firmware } = settingsOf(standin);
  return lowest === null || firmware === null || firmware === standin.planned.firmware || !isOlder(firmware, lowest);
}
