import { onair, show as core, type Show } from '@deep-patch/core';
import { diceOf, type Dice } from './dice.test-data.ts';

type Content<T extends core.TableName> = core.Content<T>;
type Type = core.DeviceType;
const formats = ['linear', 'midi', 'network_midi'] as const;

/** A rig with a switcher, players, callers and chains of time code over whatever is in it, some of them wild. */
export function withOnAir(show: Show, seed: number): Show {
  const dice = diceOf(seed ^ 0x2545f491);
  const types = [
    ...[airSwitcher(dice), airPlayer(dice), airCaller()],
    ...[0, 1, 2].map((at) => clockType(`clock-${at}`, dice)),
  ];
  const unit = (id: string, typeId: string, more: object = {}) =>
    core.filledRow('devices', {
      ...{
        id,
        typeId,
        name: dice.chance(0.1) ? 'Twin' : id,
        unit: null,
        place: '',
        firmware: dice.pick([null, '1.0', '9.0']),
        note: '',
      },
      ...{
        rate: dice.pick([null, '25', '29.97df', '30', '24'] as const),
        leads: dice.chance(0.2),
        usedFor: dice.pick(['', 'lyrics']),
        outputs: dice.chance(0.3) ? [{ socket: 'out', form: dice.pick(core.outputForms) }] : [],
      },
      ...{ peers: dice.pick(['', 'lights']), features: dice.chance(0.4) ? ['linked', 'output'] : [], ...more },
    });
  const devices = [
    unit('air', 'air-switcher', {
      takeDelay: dice.pick([null, 0, 4, 12]),
      inputs: [1, 2, 3].map((number) => ({
        ...{ number, label: dice.pick(['', 'A', 'B']), kind: dice.pick(['picture', 'player', 'caller'] as const) },
      })),
    }),
    ...[1, 2].map((at) => unit(`player-${at}`, 'air-player')),
    unit('gateway', 'air-caller', { names: dice.chance(0.5) ? [{ list: 'channels', names: ['one', 'two'] }] : [] }),
    ...[0, 1, 2, 3, 4].map((at) => unit(`clock-${at}`, `clock-${dice.below(3)}`)),
  ];
  const rig = { ...show, types: { ...show.types, ...byId(types) }, devices: { ...show.devices, ...byId(devices) } };
  const cables = [1, 2, 3].flatMap((at) => {
    const [fromDevice, fromSocket] = at === 3 ? ['gateway', 'out'] : [`player-${at}`, 'out'];
    const row = {
      id: `air-${at}`,
      fromDevice,
      fromSocket,
      toDevice: 'air',
      toSocket: `in-${at}`,
      medium: 'copper' as const,
    };
    return dice.chance(0.8) ? [core.filledRow('cables', { ...row, lengthM: dice.pick([null, 3]) })] : [];
  });
  const links = [1, 2].map((at) =>
    core.filledRow('links', {
      ...{
        id: `air-link-${at}`,
        controllerId: 'air',
        targetId: `player-${at}`,
        serviceKey: 'web',
        slot: dice.pick([at, 3 - at, null]),
      },
      ...{ host: null, port: 5310, replyPort: null, account: null, secretId: null, command: 'play', args: [1] },
    }),
  );
  return asMeasured(dice, {
    ...rig,
    cables: { ...show.cables, ...byId(cables) },
    links: { ...show.links, ...byId(links) },
    inputRules: byId([1, 2, 3].flatMap((input) => (dice.chance(0.8) ? [rule(input, dice)] : []))),
    clips: byId(Array.from({ length: dice.below(8) }, (_, at) => clip(at, dice))),
    timeHops: byId(hops(dice)),
  });
}

/** Most takes were tried on the rig as it is; the others are of a plan before. */
function asMeasured(dice: Dice, show: Show): Show {
  const inputs = onair.airInputs(show).filter(({ switcher }) => switcher.id === 'air');
  const inputRules = core.rowsOf(show, 'inputRules').map((each) => {
    const input = inputs.find(({ number }) => number === each.input);
    if (!input || !each.measured || dice.chance(0.2)) return each;
    return { ...each, measured: { ...each.measured, basis: onair.takeBasis(show, input) } };
  });
  return { ...show, inputRules: byId(inputRules) };
}

const byId = <Row extends { readonly id: string }>(rows: readonly Row[]): Record<string, Row & { rev: number }> =>
  Object.fromEntries(rows.map((row) => [row.id, { ...row, rev: 1 }]));

const base = (id: string, kind: Type['kind']) => ({
  ...{ id, libraryId: 'rigs', model: id, version: '1.0', name: id, kind },
  ...{ factory: { mode: 'none' as const, ip: null, prefix: null }, adapters: [], sockets: [] },
});
const picture = (key: string, label: string, direction: 'in' | 'out') =>
  ({ key, label, adapter: null, role: 'video', connector: 'sdi', direction }) as const;

const airSwitcher = (dice: Dice): Type =>
  filled({
    ...base('air-switcher', 'switcher'),
    sockets: [1, 2, 3].map((at) => picture(`in-${at}`, `input ${at}`, 'in')),
    drives: dice.chance(0.9) ? ['http'] : [],
  });

const airPlayer = (dice: Dice): Type =>
  filled({
    ...base('air-player', 'playout'),
    sockets: [picture('out', 'picture out', 'out')],
    plays: {
      ...{ startMs: dice.pick([0, 90, 400]), jitterMs: dice.pick([0, 50]), togetherFrom: dice.pick([null, '2.0']) },
      codecs: dice.chance(0.5) ? ['H.264'] : [],
      most: dice.chance(0.5) ? { width: 1920, height: 1080, fps: 50 } : null,
    },
  });

const airCaller = (): Type =>
  filled({
    ...base('air-caller', 'caller'),
    sockets: [picture('out', 'picture out', 'out')],
    lists: [{ key: 'channels', label: 'channels', names: ['one', 'two', 'three'] }],
  });

function clockType(id: string, dice: Dice): Type {
  const some = () => formats.filter(() => dice.chance(0.6));
  return filled({
    ...base(id, 'timecode'),
    drives: dice.chance(0.7) ? ['midi'] : [],
    timecode: dice.chance(0.9)
      ? { takes: some(), gives: some(), inputs: dice.pick([null, 1, 2]), makes: dice.chance(0.5) }
      : null,
  });
}

const filled = (given: Parameters<typeof core.filledRow<'types'>>[1]): Type => ({
  ...core.filledRow('types', given),
  rev: 1,
});

const rule = (input: number, dice: Dice): Content<'inputRules'> =>
  core.filledRow('inputRules', {
    ...{
      id: `rule-${input}`,
      switcherId: 'air',
      input,
      goes: dice.pick(['nothing', 'when_on_air', 'with_cut'] as const),
    },
    leaves: dice.pick(['nothing', 'stop', 'hold', 'next'] as const),
    offers: dice.pick(['selected', 'fixed'] as const),
    list: dice.pick(['', 'First', 'gone']),
    channel: dice.pick(['', '', 'one', 'nobody']),
    measured: dice.chance(0.5)
      ? {
          at: dice.below(99),
          basis: 'deadbeef',
          takes: Array.from(
            { length: dice.below(5) },
            () => [1, 50, 100 + dice.below(300)] as [number, number, number],
          ),
        }
      : null,
  });

const clip = (at: number, dice: Dice): Content<'clips'> =>
  core.filledRow('clips', {
    ...{
      id: `clip-${at}`,
      deviceId: dice.pick(['player-1', 'player-2']),
      list: dice.pick(['First', 'Second']),
      place: at,
    },
    ...{ name: `item ${dice.below(6)}`, seconds: dice.pick([null, 10, 40]), title: dice.pick(['', 'A name']) },
    form: dice.chance(0.6)
      ? {
          container: 'MPEG-4',
          codec: dice.pick(['H.264', 'VC-3']),
          width: dice.pick([null, 1920, 3840]),
          height: 1080,
          fps: dice.pick([null, 25, 60]),
        }
      : null,
    actions: Array.from({ length: dice.below(3) }, () => ({
      ...{ at: dice.below(50), text: 'A name', lasts: dice.pick([null, 5]) },
    })),
  });

function hops(dice: Dice): Content<'timeHops'>[] {
  return Array.from({ length: dice.below(6) }, (_, at) => {
    const [from, to] = [dice.below(5), dice.below(5)];
    return core.filledRow('timeHops', {
      ...{
        id: `hop-${at}`,
        fromId: `clock-${from}`,
        toId: `clock-${from === to ? (to + 1) % 5 : to}`,
        format: dice.pick(formats),
      },
      ...{
        says: dice.pick(['', 'Clock', 'clock']),
        hears: dice.pick(['', 'Clock', 'Cl ock']),
        input: dice.pick(['', 'in 1', 'in 2']),
      },
    });
  });
}
