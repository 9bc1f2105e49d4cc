import { show as core, type Show } from '@deep-patch/core';
import { diceOf, type Dice } from './dice.test-data.ts';

type Content<T extends core.TableName> = core.Content<T>;
type Type = core.DeviceType;

const layers = 3;
const controlOf = (dice: Dice, at: number): Type['controls'][number] => ({
  ...{ key: `c-${at}`, label: `Control ${at}`, kind: dice.pick(['key', 'switch', 'fader', 'encoder', 'pad'] as const) },
  ...{ row: at % 4, column: Math.floor(at / 4), rows: 1 + dice.below(2), screen: dice.chance(0.3) },
  lamp: dice.pick(['none', 'lamp', 'colour'] as const),
  least: dice.pick([0, -100, 1]),
  greatest: dice.pick([127, 100, 255]),
  strip: dice.chance(0.5) ? 1 + at : null,
  odd: dice.chance(0.15),
  enabledFirst: at % 5 === 0,
});

/** A rig with surfaces and cues over whatever is in it, most of them right and some of them wild. */
export function withSurfaces(show: Show, seed: number): Show {
  const dice = diceOf(seed ^ 0x7f4a7c15);
  const panel: Type = {
    ...core.filledRow('types', {
      ...{ id: 'panel', libraryId: 'rigs', model: 'panel', version: '1.0', name: 'Panel', kind: 'fader-bank' },
      ...{ factory: { mode: 'none', ip: null, prefix: null }, adapters: [], sockets: [], layers },
      drives: ['osc', 'http', 'midi', 'text'],
      controls: Array.from({ length: 4 + dice.below(6) }, (_, at) => controlOf(dice, at)),
      sendsOnly: dice.chance(0.2) ? ['start', 'look'] : [],
    }),
    rev: 1,
  };
  const panels = [0, 1].map((at) =>
    core.filledRow('devices', {
      ...{ id: `panel-${at}`, typeId: 'panel', name: `Panel ${at}`, unit: null, place: '', firmware: null, note: '' },
    }),
  );
  const types = Object.fromEntries(
    Object.values({ ...show.types, panel }).map((type) => [type.id, withMeaning(type, dice)]),
  );
  const rig = { ...show, types, devices: { ...show.devices, ...byId(panels) } };
  const maker = new RowMaker(rig, dice);
  return {
    ...rig,
    controls: byId(maker.some(4, (at) => maker.control(at))),
    assignments: byId(maker.some(14, (at) => maker.assignment(at))),
    banks: byId(maker.some(4, (at) => maker.bank(at))),
    cues: byId(maker.some(12, (at) => maker.cue(at))),
  };
}

const byId = <Row extends { readonly id: string }>(rows: readonly Row[]): Record<string, Row & { rev: number }> =>
  Object.fromEntries(rows.map((row) => [row.id, { ...row, rev: 1 }]));

/** Commands that need each other, that a show needs, and names from a list. */
function withMeaning(type: Type, dice: Dice): Type {
  const services = type.services.map((service) => ({
    ...service,
    ...(dice.chance(0.3) ? { perSecond: 1 + dice.below(3) } : {}),
    feedback: [feedbackOf(service, dice)],
    commands: service.commands.map((command, at, all) => {
      const other = all[(at + 1) % all.length]?.key ?? command.key;
      const args = command.args.map((argument) => (argument.type === 's' ? { ...argument, list: 'names' } : argument));
      return {
        ...command,
        args,
        ...(dice.chance(0.3) ? { essential: true } : {}),
        ...(dice.chance(0.3) && other !== command.key ? { counterpart: other } : {}),
      };
    }),
  }));
  return { ...type, services, lists: [{ key: 'names', label: 'names', names: ['north', 'south', 'twin', 'twin'] }] };
}

function feedbackOf({ protocol, transport, commands }: Type['services'][number], dice: Dice): core.Feedback {
  const asks = commands.find(({ args, sets }) => args.length + sets.length === 0);
  const colours = (['off', 'on', 'ready'] as const).flatMap((says) =>
    dice.chance(0.6) ? [{ says, colour: dice.pick(['white', 'red', 'amber', 'green', 'blue'] as const) }] : [],
  );
  return {
    ...{ key: 'state', label: 'State', parameter: 'state', means: 'what it does', lit: dice.chance(0.7) ? ['on'] : [] },
    ...(dice.chance(0.6) ? { colours } : {}),
    ...((protocol === 'http' || (protocol === 'osc' && transport === 'udp')) && asks ? { ask: asks.key } : {}),
  };
}

class RowMaker {
  private readonly show: Show;
  private readonly dice: Dice;
  private readonly targets: readonly { readonly id: string; readonly service: core.ServiceType }[];

  constructor(show: Show, dice: Dice) {
    this.show = show;
    this.dice = dice;
    this.targets = core.rowsOf(show, 'services').flatMap(({ deviceId, key }) => {
      const service = core.serviceTypeOf(show, show.devices[deviceId], key);
      return service && service.commands.length > 0 ? [{ id: deviceId, service }] : [];
    });
  }

  some<Row>(most: number, make: (at: number) => Row | undefined): Row[] {
    return Array.from({ length: this.dice.below(most + 1) }, (_, at) => make(at)).flatMap((row) => row ?? []);
  }

  private wild(): boolean {
    return this.dice.chance(0.12);
  }

  private value({ type, min, max, example, list }: core.Command['args'][number]): number | string | boolean {
    if (list !== undefined) return this.dice.pick(['north', 'nrth', 'twin', 'nobody at all']);
    if (type === 's') return this.wild() ? '' : String(example);
    if (type === 'T') return this.dice.chance(0.5);
    const [low, high] = [min ?? 0, max ?? 10];
    const drawn = this.wild() ? high + 5 : low + (high - low) * (this.dice.below(100) / 99);
    return type === 'i' ? Math.round(drawn) : drawn;
  }

  private range(): readonly [number, number] {
    const from = this.dice.pick([0, -100, 1, 64]);
    return [from, from + this.dice.pick([0.01, 0.1, 1, 3, 127, 200])];
  }

  /** Scaled by somebody who mistook hundredths for whole ones. */
  private sliver(command: core.Command): NonNullable<Content<'assignments'>['transfer']> {
    const { min = 0, max = 1 } = command.args.at(-1) ?? {};
    const ends = { fromMin: 0, fromMax: 127, toMin: min, toMax: min + (max - min) / 100 };
    return { ...this.transfer(), ...ends, curve: 'straight', points: [], low: null, high: null, step: null };
  }

  private transfer(): NonNullable<Content<'assignments'>['transfer']> {
    const { dice } = this;
    const [[fromMin, fromMax], [toMin, toMax]] = [this.range(), this.range()];
    const isTable = dice.chance(0.3);
    return {
      ...{ fromMin, fromMax, toMin: dice.chance(0.2) ? toMax : toMin, toMax },
      curve: isTable ? 'table' : 'straight',
      points: isTable ? [0, 0.4, 1].map((at) => ({ at, to: dice.below(101) / 100 })) : [],
      step: dice.pick([null, 0.5, 1]),
      dead: dice.pick([0, 0.05, 0.3]),
      low: dice.pick([null, -50]),
      high: dice.pick([null, 50]),
      pickUp: dice.pick(['jump', 'when_passed'] as const),
    };
  }

  control(at: number): Content<'controls'> {
    const { dice } = this;
    const isRegion = dice.chance(0.3);
    return core.filledRow('controls', {
      ...{ id: `own-${at}`, deviceId: dice.pick(['panel-0', 'panel-1']), label: `Own ${at}` },
      ...{ kind: isRegion ? 'region' : dice.pick(['fader', 'key'] as const), row: 8 + dice.below(3), column: at },
      ...{ address: isRegion ? '' : `/own/${at}`, least: dice.pick([0, -1]), greatest: dice.pick([1, 100]) },
      region: isRegion
        ? { screenWidth: 800, screenHeight: 600, x: dice.below(400), y: 0, width: 200, height: 100 }
        : null,
    });
  }

  assignment(at: number): Content<'assignments'> | undefined {
    const { dice } = this;
    if (this.targets.length === 0) return undefined;
    const { id, service } = dice.pick(this.targets);
    const ranged = service.commands.filter((own) => own.args.at(-1)?.min !== undefined);
    const command = dice.pick(ranged.length > 0 && dice.chance(0.5) ? ranged : service.commands);
    const does = dice.pick([
      'command',
      'command',
      'command',
      'choose_target',
      'show_layer',
      'machine',
      'stop_all',
    ] as const);
    const args = command.args.map((argument) => this.value(argument));
    return core.filledRow('assignments', {
      ...{ id: `as-${at}`, deviceId: dice.pick(['panel-0', 'panel-1']), control: `c-${dice.below(8)}` },
      ...{ layer: dice.chance(0.4) ? dice.below(layers) : null, does, label: dice.chance(0.2) ? 'Go' : '' },
      part: dice.pick(['whole', 'whole', 'up', 'down', 'x', 'y'] as const),
      ...{
        targetId: does === 'stop_all' ? null : id,
        serviceKey: service.key,
        command: this.wild() ? 'leap' : command.key,
      },
      args: this.wild() ? args.slice(1) : args,
      drives: dice.chance(0.6) ? (command.args.at(-1)?.name ?? null) : null,
      transfer: dice.chance(0.5) ? (dice.chance(0.4) ? this.sliver(command) : this.transfer()) : null,
      among: dice.chance(0.2) ? [dice.pick(this.targets).id] : [],
      number: does === 'choose_target' || dice.chance(0.2) ? dice.below(2) : null,
      machine: does === 'machine' ? dice.pick(['wake', 'save', 'restart'] as const) : null,
      feedback: dice.chance(0.4) ? 'state' : null,
    });
  }

  bank(at: number): Content<'banks'> | undefined {
    const { dice } = this;
    const wide = this.targets.flatMap(({ id, service }) =>
      service.commands.flatMap((command) => {
        const [channel, level] = command.args;
        return channel?.type === 'i' && level ? [{ id, service, command, channel, level }] : [];
      }),
    );
    if (wide.length === 0) return undefined;
    const { id, service, command, channel, level } = dice.pick(wide);
    return core.filledRow('banks', {
      ...{ id: `bank-${at}`, deviceId: dice.pick(['panel-0', 'panel-1']), targetId: id, serviceKey: service.key },
      ...{ command: this.wild() ? 'leap' : command.key, place: dice.below(4) },
      ...{ channel: this.wild() ? 'gone' : channel.name, level: this.wild() ? 'gone' : level.name },
      offset: dice.chance(0.3) ? dice.below(12) : null,
      odd: dice.pick(['none', 'bus', 'channel', 'channel_of_layer'] as const),
    });
  }

  private message(): core.CueMessage | undefined {
    const { dice } = this;
    if (this.targets.length === 0) return undefined;
    const { id, service } = dice.pick(this.targets);
    const command = dice.pick(service.commands);
    const isTyped = dice.chance(0.15);
    return {
      ...{ targetId: this.wild() ? 'gone' : id, serviceKey: service.key, delayMs: dice.pick([0, 0, 200, 1500]) },
      ...{ command: isTyped ? null : command.key, typed: isTyped ? dice.pick(['/mute 1', '/nothing']) : '' },
      args: isTyped ? [] : command.args.map((argument) => this.value(argument)),
    };
  }

  cue(at: number): Content<'cues'> {
    const { dice } = this;
    const controllers = Object.values(this.show.devices).map(({ id }) => id);
    const starts = dice.pick<core.CueStart>([
      { by: 'hand' },
      { by: 'hand' },
      { by: 'after', delayMs: dice.pick([0, 500, 2000]) },
      // only to those before it: a circle is refused before it is saved
      at > 0 ? { by: 'cue', cueId: `cue-${dice.below(at)}`, delayMs: 100 } : { by: 'hand' },
      { by: 'clock', time: dice.pick(['20:00:00', '21:00:00']) },
      { by: 'timecode', code: '10:00:00:00' },
      { by: 'on_air', deviceId: dice.pick(controllers), input: 1 + dice.below(2) },
      { by: 'message', address: dice.pick(['/mute', '/count']) },
      { by: 'level', universe: 1, channel: 1 + dice.below(2), above: 127 },
      { by: 'web', page: 'tide', says: 'high' },
    ]);
    return core.filledRow('cues', {
      ...{
        id: `cue-${at}`,
        number: dice.chance(0.1) ? 1 : at + 1,
        name: `Cue ${at}`,
        controllerId: dice.pick(controllers),
      },
      ...{ enabled: dice.chance(0.85), starts, note: dice.pick(['', 'slowly']) },
      messages: this.some(4, () => this.message()),
      proved: dice.chance(0.3) ? { at: 1, basis: '00000000', outcomes: ['done'], tookMs: 3 } : null,
    });
  }
}
