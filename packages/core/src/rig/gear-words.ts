import type { GearProblem } from './read-gear-list.ts';

/** One sentence for a cell of a gear list that cannot be taken as it stands. */
export function gearWords({ code, text, hint }: GearProblem): string {
  switch (code) {
    case 'no_column':
      return 'No column is chosen for this. Pick one above.';
    case 'no_name':
      return 'This unit has no name.';
    case 'long_text':
      return 'At most 80 characters.';
    case 'name_twice':
      return `The same name as in line ${hint}.`;
    case 'name_in_show':
      return 'A unit in the show already has this name.';
    case 'no_type':
      return 'Say what it is, such as “Pan-tilt camera”.';
    case 'unknown_type':
      return hint ? `No type is called “${text}”. Did you mean ${hint}?` : `No type is called “${text}”.`;
    case 'bad_unit':
      return 'A unit number is a whole number from 0 to 9999.';
    case 'bad_mac':
      return 'A MAC address is six pairs of 0-9 and a-f, the first of them even.';
    case 'mac_twice':
      return hint === '0'
        ? 'A unit in the show already has this MAC address.'
        : `The same MAC address as in line ${hint}.`;
  }
}
