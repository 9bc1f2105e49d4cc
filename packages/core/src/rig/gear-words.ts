import type { GearProblem } from './read-gear-list.ts';

/** One sentence for a cell of a gear list that cannot be taken as it stands. */
export function gearWords({ code, text, hint }: GearProblem): string {
  switch (code) {
    case 'no_column':
      return 'No column says what the gear is. Pick one below.';
    case 'no_name':
      return 'This unit has no name.';
    case 'long_text':
      return `At most ${hint} characters.`;
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
    case 'bad_quantity':
      return `“${text}” is no quantity. Say a whole number from 1 to 500.`;
    case 'one_of_many':
      return `The line stands for ${hint} units and this belongs to one. Give each a line of its own.`;
    case 'bad_address':
      return hint ? `“${text}” is no address. Did you mean ${hint}?` : `“${text}” is no address such as 10.61.20.31.`;
    case 'no_host_address':
      return `No unit can have ${text}: ${hint}.`;
    case 'address_twice':
      return `The same address as in line ${hint}.`;
    case 'address_in_show':
      return 'A unit in the show already has this address.';
    case 'address_of_program':
      return 'A program has the address of its computer. It is taken in without one.';
    case 'bad_host_name':
      return 'A host name has up to 63 of a-z, 0-9 and -, none at its ends.';
    case 'bad_mac':
      return 'A MAC address is six pairs of 0-9 and a-f, the first of them even.';
    case 'mac_twice':
      return hint === '0'
        ? 'A unit in the show already has this MAC address.'
        : `The same MAC address as in line ${hint}.`;
  }
}
