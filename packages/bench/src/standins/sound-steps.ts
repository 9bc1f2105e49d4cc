import type { OscArg } from '@deep-patch/codecs';
import type { show, Show } from '@deep-patch/core';
import type { ServiceSetting } from '../setup.ts';
import { filled, type Standin } from './standin.ts';

type Layer = show.MeasuredLayer;
export type Step = Omit<Layer, 'layer'>;
export interface SoundRequest {
  readonly show: Show;
  readonly link: show.Link;
  readonly passwords: Readonly<Record<string, string>>;
  readonly controller: Standin | undefined;
  readonly target: Standin | undefined;
}

export interface MeasuredLayers {
  readonly layers: Layer[];
  readonly rttMs: number | null;
}

export const replyWaitMs = 700;
export const good = (code: string, facts: Layer['facts'] = {}): Step => ({ state: 'pass', code, facts });
export const bad = (code: string, facts: Layer['facts'] = {}): Step => ({ state: 'fail', code, facts });
export const later = (code: string): Step => ({ state: 'waits', code, facts: {} });

export type SeenLayers = Map<show.LayerName, Step>;

export const mark = (seen: SeenLayers, layer: show.LayerName, step: Step): null => {
  seen.set(layer, step);
  return null;
};
export const pair = (seen: SeenLayers, one: show.LayerName, first: Step, two: show.LayerName, second: Step): null => {
  mark(seen, one, first);
  return mark(seen, two, second);
};

export interface Talk {
  readonly controller: Standin;
  readonly target: Standin;
  /** What the controller aims at. */
  readonly ip: number;
  readonly service: ServiceSetting;
  readonly port: string;
  readonly command: show.Command | undefined;
}

export function showReply({ type, memory }: Standin, text: string): void {
  if (type.face.some(({ parameter }) => parameter === 'last reply')) memory.face.set('last reply', text);
}

export function addressOf(command: show.Command | undefined, link: show.Link): string {
  if (!command) return `/${link.command ?? ''}`;
  const values = new Map(command.args.map(({ name }, at) => [name, String(link.args[at] ?? '')]));
  return filled(command.address, values);
}

const trailing = (command: show.Command, link: show.Link) =>
  command.args.flatMap((argument, at) =>
    command.address.includes(`{${argument.name}}`) ? [] : [{ argument, value: link.args[at] }],
  );

/** What a controller puts on the wire for typed values: the tag of the argument where the value allows it. */
export function oscArgs(command: show.Command | undefined, link: show.Link): OscArg[] {
  if (!command) return [];
  const surplus = link.args.slice(command.args.length).map((value) => ({ argument: undefined, value }));
  return [...trailing(command, link), ...surplus].flatMap(({ argument, value }): OscArg[] => {
    if (typeof value === 'boolean') return [{ type: value ? 'T' : 'F' }];
    if (typeof value === 'string') return [{ type: 's', value }];
    if (value === undefined) return [];
    return [{ type: argument?.type === 'f' ? 'f' : Number.isInteger(value) ? 'i' : 'f', value }];
  });
}

export const bodyOf = (command: show.Command | undefined, link: show.Link): Record<string, unknown> =>
  command ? Object.fromEntries(trailing(command, link).map(({ argument, value }) => [argument.name, value])) : {};

export const faceWords = ({ memory }: Standin): string =>
  [...memory.face].map(([key, value]) => `${key} ${value}`).join(', ');
export const rounded = (ms: number): number => Math.round(ms * 10) / 10;

export async function until(
  scheduler: Standin['host']['scheduler'],
  waitMs: number,
  isDone: () => boolean,
): Promise<void> {
  const end = scheduler.now() + waitMs;
  while (!isDone() && scheduler.now() < end) await new Promise<void>((done) => void scheduler.after(0.5, done));
}
