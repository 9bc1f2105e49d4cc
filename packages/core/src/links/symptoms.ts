import type { MeasuredLayer, MeasuredSounding } from '../show/index.ts';
import { causes, type CauseKey, type NextCheck } from './causes.ts';

/** What people see, in the order in which a day brings it, each with its causes from the likeliest down. */
const table = {
  not_found: [
    'It does not appear in any list',
    [
      'no_power',
      'cable_out',
      'starting',
      'other_subnet',
      'address_unknown',
      'no_lease',
      'other_mask',
      'cables_swapped',
    ],
    ['wrong_vlan', 'loop', 'uplink_out', 'address_clash', 'firewall', 'factory_address', 'search_again'],
  ],
  never_worked: [
    'It never worked out of the box',
    ['factory_address', 'first_sign_in', 'function_off', 'old_version', 'address_clash', 'no_lease'],
    ['no_power', 'cable_out', 'restart_due'],
  ],
  not_taken: [
    'Settings do not seem to be taken',
    ['not_confirmed', 'restart_due', 'not_stored', 'in_set_up'],
    ['old_page'],
  ],
  trying: [
    'The status stays at “trying”',
    ['entry_missing', 'target_closed', 'other_subnet', 'address_clash', 'firewall', 'helper_quit', 'controller_closed'],
    ['no_power', 'cable_out', 'looked_up_once', 'wrong_port', 'function_off'],
  ],
  warns: [
    'The status warns although the other end answers',
    ['no_show_open', 'login_changed', 'marks_of_cues'],
    ['reply_elsewhere'],
  ],
  bad_but_works: ['The status is bad but control works', ['lamp_lies', 'reply_elsewhere', 'firewall'], []],
  dead_but_fine: [
    'Control seems dead but the link is fine',
    ['other_show', 'no_show_open', 'helper_quit', 'in_set_up', 'other_page', 'looked_up_once'],
    ['controller_closed'],
  ],
  no_connect: [
    'Everything is right, but it does not connect',
    ['looked_up_once', 'login_changed', 'address_clash', 'first_sign_in', 'restart_due', 'firewall', 'old_version'],
    ['helper_quit', 'target_closed', 'other_mask'],
  ],
  same_machine: [
    'Programs on one computer do not see each other',
    ['firewall', 'access_closed', 'restart_due', 'target_closed'],
    [],
  ],
  leaves: [
    'A message leaves but nothing happens',
    ['wrong_port', 'function_off', 'wrong_notation', 'wrong_value', 'no_show_open', 'firewall', 'address_clash'],
    ['helper_quit', 'reply_elsewhere', 'target_closed', 'other_mask'],
  ],
  slight: ['A control moves it only slightly', ['no_scaling'], []],
  one_fader: ['One fader of a surface is dead', ['not_assigned', 'in_set_up'], []],
  which_endpoint: ['Nobody can tell which endpoint is which', ['opaque_names'], []],
  same_channels: ['A second surface moves the same channels as the first', ['no_offset'], []],
  wall_shifted: ['The wall’s picture is shifted or flipped', ['receivers_reversed'], []],
  wall_scrambled: ['The wall’s picture is scrambled', ['no_profile', 'scan_rate'], []],
  wall_dark: [
    'No output to the wall',
    ['cables_swapped', 'cable_out', 'output_off', 'restart_due', 'before_or_after'],
    ['no_power'],
  ],
  address_missing: ['An expected second address is missing', ['old_page', 'not_confirmed', 'restart_due'], []],
  colours: ['Colours are wrong', ['colour_order'], []],
  definition: ['A new definition has no effect', ['older_definition'], []],
  frozen_start: ['The start of a clip is seen frozen, or is lost', ['no_take_delay'], []],
  install: ['An install keeps failing', ['too_old'], []],
  no_callers: [
    'No caller channels are found',
    ['entry_missing', 'login_changed', 'inputs_undeclared'],
    ['target_closed', 'address_clash'],
  ],
  operators: ['Operators cancel each other out', ['no_agreement'], []],
} as const satisfies Record<string, readonly [string, readonly CauseKey[], readonly CauseKey[]]>;

export type Symptom = keyof typeof table;
export const symptoms = Object.keys(table) as Symptom[];
export const symptomWords = (symptom: Symptom): string => table[symptom][0];

/** `shown`: the sounding stopped as it does; `ruled_out`: it would have stopped a sounding that went past there. */
export interface ListedCause {
  readonly key: CauseKey;
  readonly check: string;
  readonly next: NextCheck;
  readonly state: 'shown' | 'open' | 'ruled_out';
}

/**
 * The causes of a symptom in the order in which to look. `measured` is a proof of now, or none: what an old one says
 * counts for nothing. A cause is shown where the sounding stopped in just the way that it brings about; it is ruled out
 * only where every layer at which it may stop one was seen to pass. The rest is open, what stops at the same layer first.
 */
export function causesFor(symptom: Symptom, measured: MeasuredSounding | undefined): ListedCause[] {
  const [, likely, others] = table[symptom];
  const fits = [...likely, ...others].map((key) => {
    const fit = fitOf(causes[key].places, measured);
    const state = fit === exact ? 'shown' : fit < 0 ? 'ruled_out' : 'open';
    return { fit, listed: { key, check: causes[key].check, next: causes[key].next, state } as const };
  });
  return fits.sort((a, b) => b.fit - a.fit).map(({ listed }) => listed);
}

const exact = 2;

/** 2 where the sounding stopped in just that way, 1 at that layer, -1 where it went past, 0 where it does not tell. */
function fitOf(places: readonly string[], measured: MeasuredSounding | undefined): number {
  if (!measured || places.length === 0) return 0;
  const stop = measured.layers.find(({ state }) => state === 'fail');
  if (stop && places.includes(`${stop.layer} ${stop.code}`)) return exact;
  const layers = new Set(places.map((place) => place.split(' ')[0]));
  // a whole layer that is named fits as well as its codes do
  if (stop && places.includes(stop.layer)) return exact;
  if (stop && layers.has(stop.layer)) return 1;
  const passed = (layer: string | undefined): boolean =>
    measured.layers.some((one: MeasuredLayer) => one.layer === layer && one.state === 'pass');
  return [...layers].every(passed) ? -1 : 0;
}
