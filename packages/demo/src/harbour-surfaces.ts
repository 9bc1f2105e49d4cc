import { show } from '@deep-patch/core';

type Content<T extends show.TableName> = show.Content<T>;
const { filledRow } = show;

const cameras = ['camera-2', 'camera-3', 'camera-4', 'camera-5'];
const straight = (fromMin: number, fromMax: number, toMin: number, toMax: number) => ({
  fromMin,
  fromMax,
  toMin,
  toMax,
});

type Patch = Partial<Content<'assignments'>> & Pick<Content<'assignments'>, 'control'>;
const onRemote = (
  id: string,
  patch: Omit<Patch, 'transfer'> & { transfer?: ReturnType<typeof straight> },
): Content<'assignments'> =>
  filledRow('assignments', {
    ...{ id: `remote-${id}`, deviceId: 'remote', targetId: 'camera-1', serviceKey: 'web', among: cameras },
    ...patch,
  });

/** Who steers a camera turns, zooms and recalls on whichever is chosen. The lens was scaled by hand, and wrongly. */
const remote: Content<'assignments'>[] = [
  ...[0, 1, 2, 3, 4].map((number) =>
    onRemote(`camera-${number + 1}`, {
      control: `camera-${number + 1}`,
      does: 'choose_target',
      number,
      label: `Camera ${number + 1}`,
    }),
  ),
  ...[1, 2, 3, 4, 5].map((position) =>
    onRemote(`position-${position}`, { control: `position-${position}`, command: 'recall', args: [position] }),
  ),
  onRemote('pan', {
    control: 'stick',
    part: 'x',
    command: 'pan',
    args: [0],
    drives: 'angle',
    transfer: straight(-100, 100, -90, 90),
  }),
  onRemote('tilt', {
    control: 'stick',
    part: 'y',
    command: 'tilt',
    args: [0],
    drives: 'angle',
    transfer: straight(-100, 100, -30, 90),
  }),
  onRemote('zoom', {
    control: 'lens',
    command: 'zoom',
    args: [0.5],
    drives: 'share',
    transfer: straight(-100, 100, 0, 0.03),
  }),
  onRemote('lamp', { control: 'light', command: 'lamp', args: [true], drives: 'lit', label: 'Front lamp' }),
];

const mutes: Content<'assignments'>[] = [1, 2, 3, 4, 5, 6, 7, 8].map((channel) =>
  filledRow('assignments', {
    ...{ id: `left-mute-${channel}`, deviceId: 'faders-left', control: `key-${channel}`, layer: 0 },
    ...{ targetId: 'mixer', serviceKey: 'osc', command: 'mute', args: [channel, true], drives: 'muted' },
  }),
);
const main: Content<'assignments'> = filledRow('assignments', {
  ...{ id: 'left-main', deviceId: 'faders-left', control: 'odd', label: 'Main' },
  ...{ targetId: 'mixer', serviceKey: 'osc', command: 'main-level', args: [0], drives: 'level' },
  transfer: straight(0, 127, -90, 10),
});

export const assignments: Content<'assignments'>[] = [...remote, ...mutes, main];

export const banks: Content<'banks'>[] = [
  filledRow('banks', {
    ...{ id: 'bank-left', deviceId: 'faders-left', targetId: 'mixer', serviceKey: 'osc', command: 'channel-level' },
    ...{ channel: 'channel', level: 'level', place: 0, odd: 'bus' },
  }),
  filledRow('banks', {
    ...{ id: 'bank-right', deviceId: 'faders-right', targetId: 'mixer', serviceKey: 'midi', command: 'fader' },
    ...{ channel: 'channel', level: 'value', place: 1 },
  }),
];

type Message = Content<'cues'>['messages'][number];
const to = (targetId: string, serviceKey: string, command: string, ...args: Message['args']): Message => ({
  ...{ targetId, serviceKey, command, args, typed: '', delayMs: 0 },
});
const later = (delayMs: number, message: Message): Message => ({ ...message, delayMs });
const desk = (cue: number, fade: number) => to('desk', 'osc', 'start-cue', cue, fade);
const caller = (name: string) => to('callers', 'osc', 'show-caller', name);

const cue = (
  number: number,
  name: string,
  messages: Message[],
  starts: Content<'cues'>['starts'] = { by: 'hand' },
): Content<'cues'> =>
  filledRow('cues', {
    id: `cue-${String(number).replace('.', '-')}`,
    controllerId: 'host',
    number,
    name,
    messages,
    starts,
  });

/** One name is not spelt as the gateway shows it. */
export const cues: Content<'cues'>[] = [
  cue(1, 'Horn, all harbour', [desk(1, 0), to('media', 'osc', 'go-to', 1)]),
  cue(2, 'Names of the jury', [to('lyrics-quay', 'osc', 'go-to', 2)], { by: 'after', delayMs: 6000 }),
  cue(3, 'Helm walks on', [desk(30, 2), to('lyrics-quay', 'osc', 'go-to', 3)]),
  cue(3.5, 'Mast light', [desk(31, 4)]),
  cue(4, 'Sailors clip', [to('media', 'osc', 'go-to', 12)], { by: 'on_air', deviceId: 'switcher', input: 5 }),
  cue(5, 'Split screen', [to('switcher', 'web', 'cut', 3), later(500, to('led-quay', 'web', 'picture', 'grid'))], {
    by: 'cue',
    cueId: 'cue-4',
    delayMs: 12_000,
  }),
  cue(6, 'Caller: Rosa', [caller('Rosa Lindqvist')]),
  cue(7, 'Caller: Bram', [caller('Bram Okafor')]),
  cue(8, 'Fireworks', [to('media', 'osc', 'go-to', 20), desk(40, 0)], { by: 'timecode', code: '10:00:12:00' }),
  cue(9, 'Harbour dark', [desk(99, 8), to('media', 'osc', 'clear'), to('callers', 'osc', 'hide-caller')], {
    by: 'clock',
    time: '22:15:00',
  }),
];
