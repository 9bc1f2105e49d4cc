import { formatIp, maskOf } from '../addressing/index.ts';
import { counted, nameList } from '../findings/index.ts';
import { actWords, wayWords } from '../rig/index.ts';
import { hostOf, typeOf, type Device, type Show } from '../show/index.ts';
import type { BringUp, BringUpStep } from './bring-up.ts';
import { partnersIn, partnersKey } from './first-sync.ts';
import type { Blocked } from './tasks.ts';
import { isPlace, type Place, type Standing } from './unit-now.ts';

/** A step as somebody at the rack reads it. */
export interface StepWords {
  readonly title: string;
  /** Where and how, in half a line. */
  readonly where: string;
  /** Why it stands here, and not earlier or later. */
  readonly why: string;
  /** What is not so yet once it is done; empty where everything is. */
  readonly then: string;
}

/** One thing to key in, big; `was` is what it replaces. */
export interface Figure {
  readonly label: string;
  readonly value: string;
  readonly was: string;
}

const nameOf = (show: Show, id: string): string => show.devices[id]?.name ?? 'a unit';
const namesOf = (show: Show, ids: readonly string[]): string => nameList(ids.map((id) => nameOf(show, id)));
const addressOf = ({ ip, prefix }: Place): string => `${formatIp(ip)} /${prefix}`;

export function stepWords(show: Show, plan: Pick<BringUp, 'units'>, step: BringUpStep): StepWords {
  return {
    title: titleOf(show, plan, step),
    where: whereOf(show, step),
    why: whyOf(show, step),
    then: thenOf(show, step),
  };
}

function titleOf(show: Show, { units }: Pick<BringUp, 'units'>, step: BringUpStep): string {
  const { kind, deviceId, computer, lines, place } = step;
  const name = nameOf(show, deviceId);
  switch (kind) {
    case 'computer':
      return computer?.place ? `Set your computer to ${formatIp(computer.place.ip)}` : 'Move your computer’s cable';
    case 'part':
      return `Take ${name} off the network`;
    case 'join':
      return isProgram(show, deviceId) ? `Start ${name}` : `Plug in ${name} and switch it on`;
    case 'sign_in':
      return `Make the administrator of ${name}`;
    case 'meantime':
      return `Give ${name} an address for the meantime`;
    case 'key_in':
      return lines.some(({ of }) => of === 'address') ? `Give ${name} its address` : `Set ${name}`;
    case 'update':
      return `Update ${name} to ${units.get(deviceId)?.update?.version ?? 'the newer version'}`;
    case 'register':
      return `Register the targets of ${name}`;
    case 'confirm':
      return `Confirm ${name}${place ? ` at ${formatIp(place.ip)}` : ''}`;
    case 'sync':
      return isOnlyOpen(show, step)
        ? `See that ${name} and ${nameOf(show, step.partnerId ?? '')} have the same open`
        : `Bring ${name} and ${nameOf(show, step.partnerId ?? '')} into step`;
    case 'name_endpoint':
      return `Name ${name} on ${nameOf(show, step.partnerId ?? '')}`;
    case 'home':
      return 'Put your computer back';
    default:
      return `Restart ${name}`;
  }
}

/** Neither of two partners has anything to lose: they only have to have the same open. */
const isOnlyOpen = (show: Show, { key }: BringUpStep): boolean =>
  partnersIn(show).some((partners) => partnersKey(partners) === key && partners.what.length === 0);

const isProgram = (show: Show, id: string): boolean => typeOf(show, show.devices[id])?.form === 'program';

function whereOf(show: Show, step: BringUpStep): string {
  const { kind, deviceId, access, acts, computer, before, station } = step;
  const device = show.devices[deviceId];
  if (kind === 'computer') return computerWhere(show, computer);
  if (kind === 'join')
    return device && isProgram(show, deviceId) ? `on ${hostOf(show, device).name}` : placeWords(show, deviceId);
  if (kind === 'sync')
    return isOnlyOpen(show, step) ? 'both sides beside each other' : 'choose which side overwrites the other';
  if (kind === 'name_endpoint') return 'in the list of MIDI endpoints of its system';
  if (kind === 'confirm') return 'asked from your computer, where it is now';
  if (kind === 'update') return 'over the network, from your computer';
  if (kind.endsWith('restart')) return actWords(acts);
  const ways = access.map(({ way, note, need }) => {
    if (way === 'system') return 'network settings';
    const words = wayWords({ way, note, alone: false });
    return way === 'web' && need?.subnet !== null && isPlace(before)
      ? `${words} at http://${formatIp(before.ip)}`
      : words;
  });
  const how =
    ways.length > 0
      ? `from its ${ways.join(', or ')}`
      : isProgram(show, deviceId)
        ? 'in the program itself'
        : 'at the unit';
  return station >= 0 && acts.length > 0 ? `${how}; then ${actWords(acts)}` : how;
}

function computerWhere(show: Show, computer: BringUpStep['computer']): string {
  if (!computer) return '';
  const { cable, label } = computer;
  if (cable === undefined) return `adapter “${label}”, gateway empty`;
  if (cable === 'as_planned') return `adapter “${label}”, its cable back to where it belongs`;
  const unit = show.devices[cable.deviceId];
  const socket = typeOf(show, unit)?.sockets.find(({ key }) => key === cable.socket)?.label ?? cable.socket;
  return `adapter “${label}”, its cable to ${unit?.name ?? 'a unit'}, socket ${socket}`;
}

const placeWords = (show: Show, id: string): string => {
  const place = show.devices[id]?.place ?? '';
  return place === '' ? 'as it is planned' : `at ${place}, as it is planned`;
};

function whyOf(show: Show, { why: { code, units } }: BringUpStep): string {
  const names = namesOf(show, units);
  const words: Readonly<Record<typeof code, string>> = {
    one_at_a_time: `As delivered it has the same address as ${names}: only one of them may be on at a time.`,
    on_the_way: 'Others are reached through it, so it comes before them.',
    held_by: `${names} stands there until then.`,
    circle: `It and ${names} wait for each other’s addresses. This one steps aside first; it is on the list of what to put back.`,
    computer_here: 'It needs your computer, so it is done while that is here.',
    needs_no_computer: 'It needs nothing of your computer, so it is done while others restart.',
    only_then_counts: 'What was keyed in counts only after this.',
    looks_up_once: `It looks an address up once, when it is entered: ${names} must be there before.`,
    targets_first: units.length > 0 ? `Its targets come first: ${names}.` : 'Its targets come first.',
    firmware_first: units.length > 1 ? `${names} ask for the newer version.` : `${names} asks for the newer version.`,
    clash_now: `It is on the same address as ${names}: nothing can be set while both are on.`,
    bare_numbers: `${names} lists it by bare numbers only: right after it was switched on, what is new there is this one.`,
    sets_match: `It and ${names} are both set by now, and the show is not made in either yet.`,
    proves_it: 'The last thing at a unit: proof that everything counts.',
    as_it_was: 'What was altered only for this is put back.',
  };
  return words[code];
}

function thenOf(show: Show, { kind, acts, before, place, waits, deviceId }: BringUpStep): string {
  const type = typeOf(show, show.devices[deviceId]);
  const restarts = (type?.commits.find(({ of }) => of === 'address')?.acts ?? []).filter(({ act }) =>
    act.startsWith('restart'),
  );
  if (kind === 'key_in' && place && restarts.length > 0) {
    const there = isPlace(before) ? `Until then it keeps answering at ${formatIp(before.ip)}, and` : 'Until then';
    return `The new address counts after a restart. ${there} nothing answers at ${formatIp(place.ip)}.`;
  }
  if (kind.endsWith('restart') && waits > 0)
    return `It is away for about ${waits} s. ${acts.length > 0 ? 'Go on with the next unit meanwhile.' : ''}`.trim();
  if (kind === 'sync') return meetingWords(show.devices[deviceId]);
  if (kind === 'update') return 'It is away for some minutes. Follow the maker’s instructions to the letter.';
  return '';
}

/** Those that move together are asked once for their group, and never again (need 5.7). */
function meetingWords(device: Device | undefined): string {
  if (!device?.features.includes('linked')) return '';
  const group =
    device.peers === '' ? 'agree on one name, and write it down in the rig' : `type “${device.peers}” at both`;
  return `When they meet for the first time, each asks for its group: ${group}. Then press a key on one: both move.`;
}

/** What is keyed in, figure by figure. Passwords are not said here: they stand where the crew keeps them. */
export function figuresOf({ kind, lines, place, computer, before }: BringUpStep): Figure[] {
  if (kind === 'computer' || kind === 'meantime') {
    const at = kind === 'computer' ? computer?.place : place;
    const was = computer?.replaces ? formatIp(computer.replaces.ip) : standingWords(before);
    return at
      ? addressFigures(
          formatIp(at.ip),
          formatIp(maskOf(at.prefix)),
          'leave empty',
          kind === 'computer' && !computer?.replaces ? '' : was,
        )
      : [];
  }
  if (kind === 'confirm') return place ? [{ label: 'Answers at', value: formatIp(place.ip), was: '' }] : [];
  return lines.flatMap(({ of, key, label, now, was }): Figure[] => {
    const read = of === 'address' ? /^([\d.]+), mask ([\d.]+), gateway (.+)$/.exec(now ?? '') : null;
    if (read) {
      const [, ip = '', mask = '', gateway = ''] = read;
      const several = lines.filter((line) => line.of === 'address' && line.now?.includes(', mask ')).length > 1;
      return addressFigures(ip, mask, gateway === 'none' ? 'leave empty' : gateway, was ?? standingWords(before)).map(
        (figure) => (several ? { ...figure, label: `${figure.label} · ${label}` } : figure),
      );
    }
    if (key.endsWith(':password')) return [{ label, value: 'as written down', was: was === null ? '' : 'another' }];
    return [{ label, value: now ?? 'take it out', was: was ?? '' }];
  });
}

const addressFigures = (ip: string, mask: string, gateway: string, was: string): Figure[] => [
  { label: 'Address', value: ip, was: was.replace(/,.*$/, '') },
  { label: 'Mask', value: mask, was: '' },
  { label: 'Gateway', value: gateway, was: '' },
];

export function standingWords(standing: Standing): string {
  if (isPlace(standing)) return addressOf(standing);
  return { asks: 'by DHCP', self: 'self-assigned', none: 'no address' }[standing];
}

/** Why a unit is not in the order, with the next step. */
export function blockedWords(show: Show, { deviceId, code, units }: Blocked): string {
  const [name, others] = [nameOf(show, deviceId), namesOf(show, units)];
  const words: Readonly<Record<typeof code, string>> = {
    no_way: `Nobody gets at the settings of ${name}: it has no address and no menu. Add a way to its type, or reset it.`,
    held_for_good: `${others} stands on the address that ${name} is to have, and stays there. Move one of them in the plan.`,
    planned_twice: `${name} and ${others} are planned on one address. Move one of them in the plan.`,
    left_out: `${name} was left out. Take it up again when it is ready.`,
    not_reached: `Your computer does not get to ${name}: no socket leads there, or frames run in circles.`,
    no_computer: `${name} runs on no computer that is set. Choose one for it.`,
    not_a_host: `${name} is planned on an address that no unit can have. Move it in the plan.`,
    not_placed: `${name} has an address that is not placed yet. Place it first.`,
    stuck: `${name} waits for ${units.length > 0 ? others : 'units that are not in the order'}. Mend those first.`,
  };
  return words[code];
}

/** Seconds in words that somebody plans a morning by. */
export function aboutTime(seconds: number): string {
  const minutes = Math.max(1, Math.round(seconds / 60));
  if (minutes < 60) return counted(minutes, 'minute', 'minutes');
  const rest = Math.round((minutes % 60) / 5) * 5;
  const hours = Math.floor(minutes / 60) + (rest === 60 ? 1 : 0);
  return `${hours} h${rest === 0 || rest === 60 ? '' : ` ${rest} min`}`;
}
