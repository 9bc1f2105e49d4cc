import { formatIp } from '../addressing/index.ts';
import type { StandinState } from '../contract/index.ts';
import { rowsBy, type Show } from '../show/index.ts';
import type { BringUp, BringUpStep } from './bring-up.ts';

/**
 * Whether a step is done as far as the bench shows it, so that what somebody does at a stand-in's own menu advances the
 * sheet. What only a person can say (a confirmation, a list of targets) is never done by itself.
 */
export function isDoneOnBench(
  show: Show,
  plan: Pick<BringUp, 'units'>,
  step: BringUpStep,
  standin: StandinState,
): boolean {
  const { kind, deviceId, computer } = step;
  const isTyping = standin.pending.some(({ stage }) => stage === 'typed');
  switch (kind) {
    case 'join':
      return standin.powered;
    case 'part':
      return !standin.powered;
    case 'sign_in':
      return standin.powered && !standin.menu.some(([name]) => name === 'sign-in');
    case 'key_in':
      return standin.powered && !isTyping && (standin.pending.length > 0 || isAsPlanned(show, plan, deviceId, standin));
    case 'restart':
      return standin.powered && standin.pending.length === 0 && isAsPlanned(show, plan, deviceId, standin);
    case 'computer':
      return (
        computer !== undefined &&
        computer.cable === undefined &&
        computer.held.every(({ adapter, places }) =>
          places.every((place) => holds(standin, adapter, formatIp(place.ip))),
        )
      );
    default:
      return false;
  }
}

const holds = ({ settings }: StandinState, adapter: string, ip: string): boolean =>
  settings.addresses.some((own) => own.adapter === adapter && own.ip === ip);

/** Every fixed address of the plan is in force, and every service is on, or off, at its planned port. */
function isAsPlanned(
  show: Show,
  { units }: Pick<BringUp, 'units'>,
  deviceId: string,
  { settings }: StandinState,
): boolean {
  const unit = units.get(deviceId);
  const fixed = unit?.planned.filter(({ ip, address }) => ip !== null && address.method === 'static') ?? [];
  const services = rowsBy(show, 'services', 'deviceId').get(deviceId) ?? [];
  return (
    fixed.every(({ ip, interface: its }) =>
      settings.addresses.some((own) => own.adapter === its.adapter && own.ip === formatIp(ip ?? 0)),
    ) &&
    services.every(({ key, enabled, receivePort }) => {
      const own = settings.services.find((service) => service.key === key);
      return own === undefined || (own.enabled === enabled && (!enabled || own.receivePort === receivePort));
    })
  );
}
