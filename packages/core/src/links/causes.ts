import type { LookingKey, StandinState } from '../contract/index.ts';
import type { Link } from '../show/index.ts';

/**
 * How somebody makes sure of a cause: by looking for a unit step by step (the step that fails), at a unit's own screen,
 * by sounding the link, or only with their own eyes and hands.
 */
export type NextCheck =
  | { readonly by: 'looking'; readonly keys: readonly LookingKey[] }
  | {
      readonly by: 'screen';
      readonly of: 'target' | 'controller';
      readonly sees: (state: StandinState, link: Entered) => boolean;
    }
  | { readonly by: 'sounding' }
  | { readonly by: 'person' };

/** What the controller has entered, to be compared with what stands at the target. */
type Entered = Pick<Link, 'serviceKey' | 'port'>;

export interface Cause {
  /** What to ask, as a colleague would. */
  readonly check: string;
  /** Where a sounding stops because of it: a layer, or a layer with the code of what was seen. None shows no sounding. */
  readonly places: readonly string[];
  readonly next: NextCheck;
}

const cause = (check: string, places: readonly string[], next: NextCheck): Cause => ({ check, places, next });
const looking = (...keys: LookingKey[]): NextCheck => ({ by: 'looking', keys });
const screen = (of: 'target' | 'controller', sees: (state: StandinState, link: Entered) => boolean): NextCheck => ({
  by: 'screen',
  of,
  sees,
});
const sounding: NextCheck = { by: 'sounding' };
const person: NextCheck = { by: 'person' };

/** Nobody has the address; and somebody has it, but nothing comes back. */
const nobody = ['address nobody', 'address no_address', 'address no_route'];
const silent = ['address silent', 'address no_route'];
/** It may concern another setting than the one that a sounding proves: nothing rules it out. */
const anywhere = 'anywhere';
const closedPort = ['port refused', 'port not_opened', 'port silent', 'service silent'];
const waits = (stage: StandinState['pending'][number]['stage'], act: RegExp) => (state: StandinState) =>
  state.pending.some((pending) => pending.stage === stage && act.test(pending.acts[0] ?? ''));
const serviceAt = ({ settings }: StandinState, { serviceKey }: Entered) =>
  settings.services.find(({ key }) => key === serviceKey);

/** Every cause once, however many symptoms it has. */
export const causes = {
  no_power: cause('Has it power?', ['cable off'], looking('power')),
  starting: cause('Has it finished starting?', ['cable off'], looking('power')),
  cable_out: cause(
    'Is its cable in, at both ends, with a lamp at each?',
    ['cable down'],
    looking('cable', 'own_cable'),
  ),
  cables_swapped: cause(
    'Are the two network cables swapped, or is it the wrong adapter?',
    ['cable down', 'segment unseen', 'address no_route'],
    looking('segment', 'cable', 'own_cable', 'own_subnet'),
  ),
  wrong_vlan: cause('Does its switch socket belong to the right VLAN?', ['segment unseen'], looking('segment')),
  loop: cause(
    'Do all lamps of a switch flicker at once? Then two of its sockets are joined: take one cable out.',
    ['segment unseen'],
    looking('segment'),
  ),
  uplink_out: cause('Is the cable between the switches in?', ['segment unseen'], looking('segment')),
  other_mask: cause('Have both the same mask?', silent, looking('mask_back', 'own_subnet')),
  other_subnet: cause(
    'Are both in one subnet? Look at the address that it really has.',
    nobody,
    looking('own_subnet', 'as_planned', 'segment'),
  ),
  address_unknown: cause(
    'Is its address known at all? Look at its display, or search for it.',
    nobody,
    looking('as_planned', 'unit_address'),
  ),
  factory_address: cause(
    'Has it still the address from its box? Key the planned one in.',
    [...nobody, 'address other_unit', 'address two_owners'],
    looking('as_planned'),
  ),
  address_clash: cause(
    'Does somebody else have its address? Switch it off: the address must go silent.',
    ['address two_owners', 'address other_unit'],
    looking('one_owner'),
  ),
  no_lease: cause(
    'Does anybody hand out addresses here? One that begins with 169.254 says no.',
    ['address no_address', 'address nobody'],
    looking('unit_address', 'as_planned', 'own_subnet'),
  ),
  firewall: cause(
    'Does a firewall let both programs through?',
    ['address silent', 'address quiet', 'port silent', 'service silent', 'message', 'reply'],
    looking('firewall'),
  ),
  target_closed: cause(
    'Is the program at the other end closed?',
    closedPort,
    screen('target', ({ application }) => application === 'closed'),
  ),
  no_show_open: cause(
    'Is a show open in the program there?',
    ['message', 'reply missing', 'service silent'],
    screen('target', ({ application }) => application === 'no_show'),
  ),
  other_show: cause('Is another show or item open at the far end?', ['message'], person),
  controller_closed: cause(
    'Is the controlling program open itself?',
    ['service closed', 'service no_show'],
    screen('controller', ({ application }) => application !== 'ready'),
  ),
  helper_quit: cause(
    'Does what has to run beside it still run? It is hidden, never quit.',
    ['service helper', 'service silent', 'port refused'],
    screen('controller', ({ helper }) => helper?.runs === false),
  ),
  in_set_up: cause(
    'Is it still in its set-up? One more press of the same key leaves it.',
    ['service in_set_up'],
    screen('controller', ({ status }) => status === 'set-up'),
  ),
  looked_up_once: cause(
    'Was the target away, or not ready when it was entered? Key the entry in again.',
    ['service looked_up'],
    sounding,
  ),
  function_off: cause(
    'Is its network function switched on?',
    closedPort,
    screen('target', (state, link) => serviceAt(state, link)?.enabled === false),
  ),
  wrong_port: cause(
    'Is it the port that the target listens on, not the one that it sends from, nor the controller’s own default?',
    closedPort,
    screen('target', (state, link) => serviceAt(state, link)?.receivePort !== link.port),
  ),
  old_version: cause(
    'Is its version new enough for this function?',
    [...closedPort, 'access', 'message'],
    looking('version'),
  ),
  login_changed: cause('Is the login the one that the target has now?', ['access refused'], sounding),
  first_sign_in: cause(
    'Does it ask for an administrator first, straight from its box?',
    ['access first_sign_in'],
    screen('target', ({ menu }) => menu.some(([label]) => label === 'sign-in')),
  ),
  access_closed: cause('Was access opened in the program?', ['access', 'port refused'], sounding),
  wrong_notation: cause(
    'Is the notation right, with blanks and capitals as the target wants them?',
    ['message refused', 'reply missing'],
    sounding,
  ),
  wrong_value: cause(
    'Is the value of the right kind and within its range?',
    ['message refused', 'reply missing'],
    sounding,
  ),
  reply_elsewhere: cause(
    'Does the target answer to this controller, at the port where it listens?',
    ['reply missing', 'reply elsewhere', 'address quiet'],
    sounding,
  ),
  not_confirmed: cause(
    'Was every entry confirmed, with the key that this unit wants?',
    [anywhere, ...nobody, ...closedPort],
    screen('target', waits('typed', /^(confirm|store|leave)/)),
  ),
  restart_due: cause(
    'Does a restart wait: of the unit, its program or its computer?',
    [anywhere, ...nobody, ...closedPort],
    screen('target', (state) => state.pending.some(({ acts }) => acts[0]?.startsWith('restart') ?? false)),
  ),
  not_stored: cause(
    'Was it stored in the unit itself, not only in its program?',
    [anywhere, ...nobody],
    screen('target', waits('in_force', /^store$/)),
  ),
  entry_missing: cause('Is the target entered in the controller, at the right address?', nobody, sounding),
  search_again: cause('Search again: lists do not renew themselves.', [], person),
  lamp_lies: cause(
    'Believe the effect: this lamp measures something else. Sound the link to have it on record.',
    [],
    sounding,
  ),
  marks_of_cues: cause('Faulty cues in the open show raise marks that have nothing to do with the link.', [], person),
  other_page: cause('Is somebody else in control, or the bank on another page?', [], person),
  no_scaling: cause('Is the range scaled to what the target takes?', [], person),
  not_assigned: cause('Is it assigned? Not all are from the start.', [], person),
  opaque_names: cause('Note the list, connect one unit, and look at what is new.', [], person),
  no_offset: cause('Give the second one its offset.', [], person),
  receivers_reversed: cause('Is the order of the receivers reversed?', [], person),
  no_profile: cause('Is the profile of the tiles loaded?', [], person),
  scan_rate: cause('Are scan rate and tile size the ones of these tiles?', [], person),
  output_off: cause('Is the output switched on?', [], person),
  before_or_after: cause('Does the processor’s own test picture appear? Then the fault lies before it.', [], person),
  old_page: cause('Renew the page before you conclude anything.', [], person),
  colour_order: cause('Is the order of colours the one of these tiles?', [], person),
  older_definition: cause('Does an older one of another library come first?', [], person),
  no_take_delay: cause('Make up for the delay with the take delay, in frames.', [], person),
  too_old: cause('Is the computer or its system too old for this version?', [], person),
  inputs_undeclared: cause('Were the inputs declared at the switcher?', [], person),
  no_agreement: cause('Agree who drives: equal controllers do not ask.', [], person),
} as const satisfies Record<string, Cause>;

export type CauseKey = keyof typeof causes;
