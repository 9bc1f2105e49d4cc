import { show as core } from '@deep-patch/core';
import { isUp, type Standin } from './standin.ts';

/** A run that is plugged in: between which units, and whether it is of USB at either end. */
export interface Run {
  readonly ends: readonly [string, string];
  readonly isUsb: boolean;
}

/**
 * How the system of one computer lists MIDI units that are connected to it: by bare numbers, which are others on another
 * computer, an input under another one than its output. A unit with a USB cable is listed by the computer at its other
 * end only; any other as long as both have a link to the network.
 */
export function endpointsOf(computer: Standin, standins: Iterable<Standin>, runs: readonly Run[]): string[] {
  const usb = runs.filter(({ isUsb }) => isUsb);
  const isConnected = ({ device, host }: Standin): boolean => {
    const own = usb.filter(({ ends }) => ends.includes(device.id));
    if (own.length > 0) return own.some(({ ends }) => ends.includes(computer.device.id));
    return [host, computer.host].every((one) => one.adapters.some(({ port }) => port.cable?.hasCarrier()));
  };
  return [...standins]
    .filter(
      (standin) =>
        standin.type.form === 'unit' && standin.type.drives.includes('midi') && !core.isComputer(standin.type),
    )
    .filter((standin) => isUp(standin) && isConnected(standin))
    .flatMap(({ device }) =>
      ['in', 'out'].map((way) => `${way} ${numberOf(`${computer.device.id} ${device.id} ${way}`)}`),
    )
    .sort();
}

function numberOf(text: string): number {
  let hash = 7;
  for (const letter of text) hash = (hash * 31 + letter.charCodeAt(0)) % 8999;
  return 1000 + hash;
}
