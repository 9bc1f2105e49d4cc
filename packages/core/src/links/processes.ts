import { hostOf, isComputer, typeOf, type Device, type Link, type Show } from '../show/index.ts';

/** Something that has to keep running for a link, and the unit or computer on which it runs. */
export interface Process {
  readonly what: string;
  readonly on: Device;
}

/**
 * What a link depends on beside cables and addresses (C28): programs at both ends, that of a computer which controls,
 * the application of a computer that is a target, and what the types say has to run in the background. Each once.
 */
export function processesOf(show: Show, { controllerId, targetId }: Link): Process[] {
  const [controller, target] = [show.devices[controllerId], show.devices[targetId]];
  const all = [
    ...(controller
      ? [...programOf(show, controller), ...controllingOf(show, controller), ...helpersOf(show, controller)]
      : []),
    ...(target ? [...programOf(show, target), ...applicationOf(show, target), ...helpersOf(show, target)] : []),
  ];
  return [...new Map(all.map((process) => [`${process.on.id} ${process.what}`, process])).values()];
}

const programOf = (show: Show, device: Device): Process[] =>
  typeOf(show, device)?.form === 'program' ? [{ what: device.name, on: hostOf(show, device) }] : [];

function applicationOf(show: Show, device: Device): Process[] {
  const type = typeOf(show, device);
  const runsOne = isComputer(type) && (type?.services.length ?? 0) > 0;
  return runsOne ? [{ what: 'its application, with its show open', on: device }] : [];
}

/** A computer that controls runs the program that does. */
function controllingOf(show: Show, device: Device): Process[] {
  const type = typeOf(show, device);
  return isComputer(type) && (type?.drives.length ?? 0) > 0 ? [{ what: 'its controlling program', on: device }] : [];
}

/** A helper that is for one system only does not run on another. */
function helpersOf(show: Show, device: Device): Process[] {
  const on = hostOf(show, device);
  return (typeOf(show, device)?.helpers ?? [])
    .filter(({ system }) => system === null || on.system === null || on.system === system)
    .map(({ label }) => ({ what: label, on }));
}
