import type { OscArg } from '@deep-patch/codecs';
import { links as linkRoom, show, type links, type Show } from '@deep-patch/core';
import { filled } from '../units/doing.ts';
import type { Standin } from '../units/standin.ts';

type Layer = show.MeasuredLayer;
export type Step = Omit<Layer, 'layer'>;
export interface SoundRequest {
  readonly show: Show;
  readonly link: show.Link;
  readonly passwords: Readonly<Record<string, string>>;
  readonly controller: Standin | undefined;
  readonly target: Standin | undefined;
  /** What stands in the controller's list, as the plan has it keyed in. */
  readonly entry: Pick<links.Entry, 'ip' | 'from' | 'to'>;
  /** Repeated by itself: nothing may be sent that changes anything, so no command is. */
  readonly quiet?: boolean;
}

export interface MeasuredLayers {
  readonly layers: Layer[];
  readonly rttMs: number | null;
}

export const replyWaitMs = 700;
/** A program that names no port of its own sends from one of these, and hears on it (RFC 6335 section 6). */
export const ownPort = 49_151;
export const good = (code: string, facts: Layer['facts'] = {}): Step => ({ state: 'pass', code, facts });
export const bad = (code: string, facts: Layer['facts'] = {}): Step => ({ state: 'fail', code, facts });
export const later = (code: string): Step => ({ state: 'waits', code, facts: {} });
/** Nothing on the wire tells: the layer may have passed, and may not. */
export const unseen = (code: string): Step => ({ state: 'unseen', code, facts: {} });

export type SeenLayers = Map<show.LayerName, Step>;

export const mark = (seen: SeenLayers, layer: show.LayerName, step: Step): null => {
  seen.set(layer, step);
  return null;
};
/** Layers of which the wire told nothing. */
export function markUnseen(seen: SeenLayers, layers: readonly show.LayerName[], code = 'not_told'): void {
  for (const layer of layers) mark(seen, layer, unseen(code));
}

/** From this layer down only a command would tell, and a quiet sounding sends none. */
export function notAsked(seen: SeenLayers, from: show.LayerName): null {
  for (const layer of show.layerNames.slice(show.layerNames.indexOf(from))) mark(seen, layer, unseen('not_asked'));
  return null;
}

export const pair = (seen: SeenLayers, one: show.LayerName, first: Step, two: show.LayerName, second: Step): null => {
  mark(seen, one, first);
  return mark(seen, two, second);
};

export interface Talk {
  readonly controller: Standin;
  readonly target: Standin;
  /** What the controller aims at. */
  readonly ip: number;
  readonly type: show.ServiceType;
  readonly port: string;
  readonly command: show.Command | undefined;
}

export function showReply({ type, memory }: Standin, text: string): void {
  if (type.face.some(({ parameter }) => parameter === 'last reply')) memory.face.set('last reply', text);
}

/**
 * The address of a command with its braces filled. In paths and lines of text a value is percent-encoded (RFC 3986
 * section 2.1), so that a blank or a stroke in it never ends it and no line break passes.
 */
export function addressOf(command: show.Command | undefined, link: show.Link, protocol: Protocol): string {
  if (!command) return typedAddress(link, protocol);
  const isCoded = protocol === 'http' || protocol === 'text';
  const written = (value: Arg) => (isCoded ? encodeURIComponent(String(value)) : String(value));
  const values = new Map(
    command.args.map(({ name }, at) => [name, at in link.args ? written(link.args[at] ?? '') : '']),
  );
  const address = filled(command.address, values);
  if (protocol !== 'text' && protocol !== 'midi') return address;
  const inside = new Set(command.args.filter(({ name }) => command.address.includes(`{${name}}`)));
  const behind = link.args.flatMap((value, at) => {
    const argument = command.args[at];
    return argument && inside.has(argument) ? [] : [written(value)];
  });
  return [address, ...behind].join(' ');
}

type Protocol = show.ServiceType['protocol'];
type Arg = show.Link['args'][number];

const trailing = (command: show.Command, link: show.Link) =>
  command.args.flatMap((argument, at) =>
    command.address.includes(`{${argument.name}}`) ? [] : [{ argument, value: link.args[at] }],
  );

/** A message that nobody knows goes out as it was typed, as far as its protocol can carry it. */
function typedAddress({ typed, command }: show.Link, protocol: Protocol): string {
  if (typed === '' || protocol === 'midi') return `/${command ?? ''}`;
  if (protocol === 'osc') return linkRoom.oscParts(typed).address;
  return protocol === 'http' ? encodeURI(typed.startsWith('/') ? typed : `/${typed}`) : typed;
}

const typedArgs = ({ typed }: show.Link): OscArg[] =>
  linkRoom.oscParts(typed).behind.map((typedValue): OscArg => {
    const value = linkRoom.valueOf(typedValue, undefined);
    if (typeof value === 'boolean') return { type: value ? 'T' : 'F' };
    if (typeof value === 'string') return { type: 's', value };
    return Number.isInteger(value) && Math.abs(value) < 2 ** 31 ? { type: 'i', value } : { type: 'f', value };
  });

/** What a controller puts on the wire for typed values: the tag of the argument where the value allows it. */
export function oscArgs(command: show.Command | undefined, link: show.Link): OscArg[] {
  if (!command) return typedArgs(link);
  const surplus = link.args.slice(command.args.length).map((value) => ({ argument: undefined, value }));
  return [...trailing(command, link), ...surplus].flatMap(({ argument, value }): OscArg[] => {
    if (typeof value === 'boolean') return [{ type: value ? 'T' : 'F' }];
    if (typeof value === 'string') return [{ type: 's', value }];
    if (value === undefined) return [];
    if (argument?.type === 'f' || !Number.isInteger(value)) return [{ type: 'f', value }];
    // what 32 bits do not hold travels in 64, and means something else to most units
    return value >= -(2 ** 31) && value < 2 ** 31 ? [{ type: 'i', value }] : [{ type: 'd', value }];
  });
}

export const bodyOf = (command: show.Command | undefined, link: show.Link): Record<string, unknown> =>
  command
    ? Object.fromEntries([
        ...trailing(command, link).map(({ argument, value }) => [argument.name, value] as const),
        ...link.args.slice(command.args.length).map((value, at) => [`more ${at + 1}`, value] as const),
      ])
    : {};

export const rounded = (ms: number): number => Math.round(ms * 10) / 10;

export async function until(
  scheduler: Standin['host']['scheduler'],
  waitMs: number,
  isDone: () => boolean,
): Promise<void> {
  const end = scheduler.now() + waitMs;
  while (!isDone() && scheduler.now() < end) await new Promise<void>((done) => void scheduler.after(0.5, done));
}
