import { show as core } from '@deep-patch/core';
import { isUp, type Standin } from './standin.ts';

/**
 * How the system of a computer lists MIDI units that are connected: by bare numbers, an input under another one than
 * its output. Whoever wants to know which is which connects one unit at a time.
 */
export function endpointsOf(standins: Iterable<Standin>): string[] {
  return [...standins]
    .filter(
      (standin) =>
        standin.type.form === 'unit' && standin.type.drives.includes('midi') && !core.isComputer(standin.type),
    )
    .filter(isUp)
    .flatMap(({ device }) => [`in ${numberOf(`${device.id} in`)}`, `out ${numberOf(`${device.id} out`)}`])
    .sort();
}

function numberOf(text: string): number {
  let hash = 7;
  for (const letter of text) hash = (hash * 31 + letter.charCodeAt(0)) % 8999;
  return 1000 + hash;
}
