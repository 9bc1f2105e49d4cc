import { show as core, type Show } from '@deep-patch/core';
import { diceOf, type Dice } from './dice.test-data.ts';

type Type = core.DeviceType;
type Way = Type['ways'][number];

const cases: readonly (readonly [string, number])[] = [
  ['10.1.1.7', 24],
  ['10.1.1.12', 24],
  ['192.168.0.10', 24],
  ['192.168.0.10', 16],
  ['172.27.5.20', 24],
  ['10.1.2.3', 24],
];

/** A rig whose types are delivered in all the ways that there are: on shared addresses, asking, helping themselves. */
export function deliveredRig(show: Show, seed: number): Show {
  const dice = diceOf(seed ^ 0x1f123bb5);
  const types = Object.values(show.types).map((type) => [type.id, delivered(type, dice)] as const);
  return { ...show, types: Object.fromEntries(types) };
}

function delivered(type: Type, dice: Dice): Type {
  if (type.form === 'program') return { ...type, commits: commits(dice, ['restart_program']) };
  const isComputer = core.isComputer(type);
  if (type.adapters.length === 0) return type;
  const [ip, prefix] = dice.pick(cases);
  const mode = isComputer ? 'dhcp' : dice.pick(['static', 'static', 'static', 'dhcp', 'self', 'none'] as const);
  const isFixed = mode === 'static';
  const login = !isComputer && dice.chance(0.2) ? 'create' : 'none';
  return {
    ...type,
    factory: {
      ...{ mode, ip: isFixed ? ip : null, prefix: isFixed ? prefix : null, account: null, login },
      linkLocal6: dice.chance(0.2),
    },
    // what a router has before it is set is in no VLAN of the plan: it is set at itself
    ways: isComputer ? type.ways : waysOf(dice, mode === 'none' || type.kind === 'router'),
    commits: commits(dice, isComputer ? [] : ['restart_device', 'restart_service']),
    startsInSeconds: dice.pick([null, 2, 20]),
    looksUpOnce: dice.chance(0.3),
  };
}

function waysOf(dice: Dice, mustBeAtItself: boolean): Way[] {
  const way = (name: Way['way']): Way => ({ way: name, note: '', alone: false });
  const far = dice.pick(['web', 'web', 'search', 'program'] as const);
  const near = dice.pick(['menu', 'usb'] as const);
  if (mustBeAtItself) return [way(near)];
  return dice.chance(0.4) ? [way(far), way(near)] : [way(far)];
}

function commits(dice: Dice, restarts: readonly core.CommitAct[]): Type['commits'] {
  const kinds = (['address', 'service', 'login', 'entry'] as const).filter(() => dice.chance(0.6));
  return kinds.map((of) => {
    const restart = restarts.length > 0 && dice.chance(0.5) ? [dice.pick(restarts)] : [];
    const acts = [...(['confirm_page', 'store'] as const).filter(() => dice.chance(0.4)), ...restart];
    return { of, acts: acts.map((act) => ({ act, seconds: dice.pick([null, 3, 30]) })) };
  });
}
