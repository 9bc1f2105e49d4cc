import type { Facts } from '../findings/index.ts';
import type { LayerResult } from './layer.ts';
import { some } from './some.ts';

export interface SideBySide {
  readonly left: string;
  readonly right: string;
  readonly between: string;
}

/** Both ends of one layer and what lies between them, in a few words each. */
export function layerWords({ layer, code, facts: f, state }: LayerResult): SideBySide {
  if (state === 'waits') return { left: '—', right: '—', between: 'not reached' };
  switch (layer) {
    case 'cable':
      return {
        left: some(f['left'], 'not plugged in'),
        right: some(f['right'], 'not plugged in'),
        between: cableBetween(code, f),
      };
    case 'segment':
      return {
        left: some(f['left'], 'no network'),
        right: some(f['right'], 'no network'),
        between: segmentBetween(code, f),
      };
    case 'address':
      return {
        left: some(f['left'], 'no address'),
        right: f['entered'] ? `aims at ${f['entered']}` : some(f['right'], 'no address'),
        between: code === 'by_router' ? `through ${f['router']}` : addressBetween(code),
      };
    case 'port':
      return {
        left: `asks ${f['transport']} ${f['asks']}`,
        right: `listens ${f['transport']} ${f['listens']}`,
        between: portBetween(code, f),
      };
    case 'service':
      return {
        left: `needs ${f['label']}`,
        right: code === 'switched_off' ? 'switched off' : `on${f['firmware'] ? ` · fw ${f['firmware']}` : ''}`,
        between: f['lowest']
          ? `${f['lowest']} or later asked`
          : code === 'cannot_speak'
            ? `does not speak ${f['protocol']}`
            : 'same protocol',
      };
    case 'access':
      return {
        left: some(f['left'], 'no login entered'),
        right: some(f['right'], 'no login asked'),
        between: accessBetween(code, f),
      };
    case 'message':
      return {
        left: some(f['left'], some(f['command'], 'no test message')),
        right: some(f['right'], `${f['known']} commands known`),
        between: messageBetween(code, f),
      };
    case 'reply':
      return replySides(code, f);
  }
}

function cableBetween(code: string, f: Facts): string {
  if (code === 'same_machine') return 'same machine';
  if (code === 'too_long') return `${f['lengthM']} m, ${f['mostM']} m at most`;
  if (code !== 'plugged') return 'no cable';
  if (f['hops'] === 0) return 'no way between them';
  const length = f['lengthM'] ? `, ${f['lengthM']} m` : '';
  return `${f['hops']} ${f['hops'] === 1 ? 'cable' : 'cables'}${length}${f['wireless'] ? ', partly wireless' : ''}`;
}

const segmentBetween = (code: string, f: Facts): string =>
  code === 'apart'
    ? 'no cable leads across'
    : code === 'routed'
      ? `through ${f['router']}`
      : code === 'other_vlan'
        ? 'different VLANs'
        : code === 'wireless_hop'
          ? 'same segment, over wireless'
          : code === 'same_machine'
            ? 'same machine'
            : 'same segment';

function addressBetween(code: string): string {
  const between: Readonly<Record<string, string>> = {
    on_link: 'on-link both ways',
    one_way: 'only one side sees the other',
    other_subnet: 'different subnets',
    not_placed: 'not placed yet',
    two_owners: 'two units own it',
    not_a_host: 'not a host address',
    aims_elsewhere: 'nobody is there',
    same_machine: 'loopback',
    own_address: 'same machine, by its own address',
    not_known: 'address not known beforehand',
    aims_away: 'leaves the machine',
    loopback_elsewhere: 'points back at itself',
  };
  return between[code] ?? code;
}

function portBetween(code: string, f: Facts): string {
  if (code === 'agreed') return 'same port';
  if (code === 'interchanged') return 'that is its sending port';
  if (code === 'two_listeners') return `shared with ${f['other']}`;
  return code === 'slip'
    ? `one figure ${f['slip']}`
    : code === 'still_default'
      ? 'the type’s default, changed on this unit'
      : 'different ports';
}

function accessBetween(code: string, f: Facts): string {
  const between: Readonly<Record<string, string>> = {
    open: 'no login',
    left_open: `${f['login']} offered, left open`,
    same: `${f['login']}, same on both sides`,
    missing: `${f['login']} asked, nothing entered`,
    account_differs: 'accounts differ',
    password_differs: 'passwords differ',
    open_but_filled: 'filled in, not asked for',
    not_required: 'filled in, not asked for',
  };
  return between[code] ?? code;
}

function messageBetween(code: string, f: Facts): string {
  const between: Readonly<Record<string, string>> = {
    understood: 'in its command list',
    none_chosen: 'choose one to test with',
    nothing_to_say: 'nothing to check',
    unknown_command: 'not in its command list',
    argument_count: `${f['given']} of ${f['wanted']} arguments`,
    argument_type: `${f['name']} has the wrong type`,
    argument_range: `${f['name']} goes from ${f['range']}`,
  };
  return between[code] ?? code;
}

function replySides(code: string, f: Facts): SideBySide {
  if (code === 'same_connection')
    return { left: 'same connection', right: 'same connection', between: 'comes back by itself' };
  if (code === 'to_sender')
    return { left: 'own sending port', right: 'back to the sender', between: 'comes back by itself' };
  if (code === 'none_expected') return { left: '—', right: '—', between: 'no answer expected' };
  const right = f['sendTo'] ? `sends to ${f['sendTo']}:${f['sends']}` : `sends to nobody, port ${f['sends']}`;
  const between =
    code === 'agreed'
      ? 'same port'
      : code === 'other_reply_port'
        ? 'different ports'
        : code === 'no_way_back'
          ? 'no address entered'
          : 'goes elsewhere';
  return { left: `hears on ${some(f['hears'], 'no port')}`, right, between };
}
