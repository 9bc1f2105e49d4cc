import { hostOf, isComputer, rowsBy, serviceTypeOf, typeOf, type Device, type Show } from '../show/index.ts';

/**
 * The computer that lists a MIDI unit under bare numbers and is to use it (need 6.8); undefined where none is. Systems
 * call them by numbers only, an input by another one than its output: joined one at a time, what appears is this unit.
 */
export function listedOn(show: Show, device: Device): Device | undefined {
  const type = typeOf(show, device);
  if (type?.form !== 'unit' || !type.drives.includes('midi') || isComputer(type)) return undefined;
  const links = [
    ...(rowsBy(show, 'links', 'controllerId').get(device.id) ?? []),
    ...(rowsBy(show, 'links', 'targetId').get(device.id) ?? []),
  ];
  for (const { controllerId, targetId, serviceKey } of links) {
    const [target, far] = [show.devices[targetId], show.devices[controllerId === device.id ? targetId : controllerId]];
    const protocol = target && serviceTypeOf(show, target, serviceKey)?.protocol;
    const computer = far && hostOf(show, far);
    if (protocol === 'midi' && computer && isComputer(typeOf(show, computer))) return computer;
  }
  return undefined;
}
