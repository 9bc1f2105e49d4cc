import type { LayerName, MeasuredSounding } from '../show/index.ts';

/** A cause with the layer that would show it; null where no sounding can. */
type Cause = readonly [layer: LayerName | null, check: string];

/** What people see, in the order in which a day brings it, each with its causes from the likeliest down (need 12.2). */
const table = {
  not_found: [
    'It does not appear in any list',
    ['cable', 'Has it power, and has it finished starting?'],
    ['segment', 'Is the right adapter plugged into the right switch and VLAN?'],
    ['address', 'Are both in one subnet, with the same mask?'],
    ['address', 'Is its address known at all? Look at its display, or search for it.'],
    [null, 'Search again: lists do not renew themselves.'],
  ],
  never_worked: [
    'It never worked out of the box',
    ['address', 'Its factory address may be unusable here: key the planned one in.'],
    ['service', 'Is its network function switched on?'],
  ],
  not_taken: [
    'Settings do not seem to be taken',
    [null, 'Was every entry confirmed, with the key that this unit wants?'],
    [null, 'Does a restart wait?'],
    [null, 'Was it stored in the unit itself, not only in its program?'],
  ],
  trying: [
    'The status stays at “trying”',
    ['address', 'Is the address entered, and is it the right one?'],
    ['port', 'Is the program at the other end closed?'],
  ],
  warns: [
    'The status warns although the other end answers',
    ['message', 'Is a show open in the program there?'],
    [null, 'Faulty cues in the open show raise marks that have nothing to do with the link.'],
  ],
  bad_but_works: [
    'The status is bad but control works',
    [null, 'Believe the effect: this lamp measures something else. Sound the link to have it on record.'],
  ],
  dead_but_fine: [
    'Control seems dead but the link is fine',
    ['message', 'Is another show or item open at the far end?'],
    [null, 'Is somebody else in control, or the bank on another page?'],
  ],
  no_connect: [
    'Everything is right, but it does not connect',
    [null, 'Was the target not ready when it was entered? Alter the entry, put it back, and connect again.'],
    ['access', 'Is the login the one that the target has now?'],
  ],
  same_machine: [
    'Programs on one computer do not see each other',
    ['port', 'Does the firewall let both programs through?'],
    ['access', 'Was access opened in the program?'],
    [null, 'Does a restart of the program wait?'],
  ],
  leaves: [
    'A message leaves but nothing happens',
    ['port', 'Is it the port that the target listens on, not the one that it sends from?'],
    ['port', 'Was the controller’s default port left in place?'],
    ['service', 'Is the receiver switched on?'],
    ['message', 'Is the notation right, with blanks and capitals as the target wants them?'],
    ['message', 'Is the value of the right kind and within its range?'],
  ],
  slight: ['A control moves it only slightly', [null, 'Is the range scaled to what the target takes?']],
  one_fader: ['One fader of a surface is dead', [null, 'Is it assigned? Not all are from the start.']],
  which_endpoint: [
    'Nobody can tell which endpoint is which',
    [null, 'Note the list, connect one unit, and look at what is new.'],
  ],
  same_channels: ['A second surface moves the same channels as the first', [null, 'Give the second one its offset.']],
  wall_shifted: ['The wall’s picture is shifted or flipped', [null, 'Is the order of the receivers reversed?']],
  wall_scrambled: [
    'The wall’s picture is scrambled',
    [null, 'Is the profile of the tiles loaded?'],
    [null, 'Are scan rate and tile size the ones of these tiles?'],
  ],
  wall_dark: [
    'No output to the wall',
    ['cable', 'Are the two network cables swapped, or is it the wrong interface?'],
    [null, 'Is the output switched on?'],
    [null, 'Does a restart of the output process wait?'],
    [null, 'Does the processor’s own test picture appear? Then the fault lies before it.'],
  ],
  address_missing: ['An expected second address is missing', [null, 'Renew the page before you conclude anything.']],
  colours: ['Colours are wrong', [null, 'Is the order of colours the one of these tiles?']],
  definition: ['A new definition has no effect', [null, 'Does an older one of another library come first?']],
  frozen_start: [
    'The start of a clip is seen frozen, or is lost',
    [null, 'Make up for the delay with the take delay, in frames.'],
  ],
  install: ['An install keeps failing', [null, 'Is the computer or its system too old for this version?']],
  no_callers: [
    'No caller channels are found',
    ['address', 'Is the address right?'],
    ['access', 'Is the login right?'],
    [null, 'Were the inputs declared at the switcher?'],
  ],
  operators: ['Operators cancel each other out', [null, 'Agree who drives: equal controllers do not ask.']],
} as const satisfies Record<string, readonly [string, ...Cause[]]>;

export type Symptom = keyof typeof table;
export const symptoms = Object.keys(table) as Symptom[];
export const symptomWords = (symptom: Symptom): string => table[symptom][0];

/** Causes that are left to check, in order, and those that a sounding has already ruled out or shown. */
export interface Causes {
  readonly shown: readonly string[];
  readonly open: readonly string[];
  readonly ruledOut: readonly string[];
}

/** Orders the causes of a symptom by what is known: a layer that passed rules its causes out, the one that failed shows them. */
export function causesFor(symptom: Symptom, measured: MeasuredSounding | undefined): Causes {
  const [, ...causes] = table[symptom] as readonly [string, ...Cause[]];
  const state = (layer: LayerName | null) =>
    layer === null ? undefined : measured?.layers.find((one) => one.layer === layer)?.state;
  const pick = (wanted: (layer: LayerName | null) => boolean) =>
    causes.flatMap(([layer, check]) => (wanted(layer) ? [check] : []));
  return {
    shown: pick((layer) => state(layer) === 'fail'),
    open: pick((layer) => state(layer) !== 'fail' && state(layer) !== 'pass'),
    ruledOut: pick((layer) => state(layer) === 'pass'),
  };
}
