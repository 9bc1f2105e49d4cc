import type { timecode } from '@deep-patch/core';

/** Where network MIDI comes from on a machine (need 11.2). */
export const driverWords: Readonly<Record<timecode.MidiDriver, string>> = {
  own: 'in the unit',
  built_in: 'comes with its system, to be enabled',
  add_on: 'an add-on for its system, to be installed',
  unsaid: 'nobody has said which system it has',
};
