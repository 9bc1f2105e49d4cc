import { indexBy, memoFor, rowsBy, rowsOf, type Cue, type Show } from '../show/index.ts';
import { aimedAt } from './messages.ts';
import { cuesInOrder } from './order.ts';

/** The cues that are not left out, by what starts each. */
const starters = memoFor((show: Show) => {
  const order = cuesInOrder(show).filter(({ enabled }) => enabled);
  const byKey = new Map<string, Cue[]>();
  for (const [at, cue] of order.entries()) {
    const key = causeOf(cue, order[at - 1]);
    if (key !== undefined) byKey.set(key, [...(byKey.get(key) ?? []), cue]);
  }
  return byKey;
});

/** What another cue does that starts this one, as a key. */
function causeOf({ starts: how, controllerId }: Cue, before: Cue | undefined): string | undefined {
  switch (how.by) {
    case 'after':
      return before && `cue ${before.id}`;
    case 'cue':
      return `cue ${how.cueId}`;
    case 'on_air':
      return `air ${how.deviceId} ${how.input}`;
    case 'message':
      return `hears ${controllerId} ${how.address}`;
    default:
      return undefined;
  }
}

/**
 * Which cues a cue starts by itself: the one behind it that follows it, others that name it, and those that wait for an
 * input that it takes on air or for a message that it sends to whoever runs the list.
 */
export function startedBy(show: Show, cue: Cue): Cue[] {
  const keys = [
    `cue ${cue.id}`,
    ...cue.messages.flatMap((message) => [
      `air ${message.targetId} ${takesInput(show, message)}`,
      `hears ${message.targetId} ${addressOf(show, message)}`,
    ]),
  ];
  const found = keys.flatMap((key) => starters(show).get(key) ?? []);
  return [...new Set(found)].filter(({ id }) => id !== cue.id);
}

/** The input that a message takes on air: the number of a command that says so of the switcher. */
export function takesInput(show: Show, message: Cue['messages'][number]): number | undefined {
  const { command, args } = aimedAt(show, message);
  const set = command?.sets.find(({ parameter }) => onAirParameters.has(parameter));
  const name = /^\{(\w+)\}$/.exec(set?.value ?? '')?.[1];
  const value = args[command?.args.findIndex((argument) => argument.name === name) ?? -1];
  return typeof value === 'number' ? value : undefined;
}
const onAirParameters: ReadonlySet<string> = new Set(['on air', 'program']);

const addressOf = (show: Show, message: Cue['messages'][number]): string =>
  aimedAt(show, message).command?.address ?? message.typed;

/** Cues that start each other in a circle, each circle once, in the order in which they do (refused: it never ends). */
export function circlesOf(show: Show): Cue[][] {
  const seen = new Set<string>();
  const circles: Cue[][] = [];
  for (const start of cuesInOrder(show)) {
    if (seen.has(start.id)) continue;
    walk(show, start, [], seen, circles);
  }
  return circles;
}

function walk(show: Show, cue: Cue, path: readonly Cue[], seen: Set<string>, circles: Cue[][]): void {
  const at = path.findIndex(({ id }) => id === cue.id);
  if (at >= 0) {
    circles.push(path.slice(at));
    return;
  }
  if (seen.has(cue.id)) return;
  const next = [...path, cue];
  for (const other of startedBy(show, cue)) walk(show, other, next, seen, circles);
  seen.add(cue.id);
}

/** What starts a cue by itself, as a key: two with the same one fire together. */
export function startKey({ starts: how }: Cue): string | undefined {
  switch (how.by) {
    case 'clock':
      return `clock ${how.time}`;
    case 'timecode':
      return `timecode ${how.code}`;
    case 'on_air':
      return `on_air ${how.deviceId} ${how.input}`;
    case 'message':
      return `message ${how.address}`;
    case 'level':
      return `level ${how.universe} ${how.channel} ${how.above}`;
    case 'web':
      return `web ${how.page} ${how.says}`;
    default:
      return undefined;
  }
}

export const byStart = indexBy('cues', (cue) => {
  const key = cue.enabled ? startKey(cue) : undefined;
  return key === undefined ? [] : [[key, cue]];
});

/** Milliseconds over which messages are counted together. */
const windowMs = 1000;

/** The most messages that a service gets within a second when a cue starts, with those that it starts by itself. */
export function loadOf(show: Show, cue: Cue): Map<string, number> {
  const times = new Map<string, number[]>();
  const add = (own: Cue, from: number, path: readonly string[]): void => {
    for (const { targetId, serviceKey, delayMs } of own.messages) {
      const key = `${targetId} ${serviceKey}`;
      times.set(key, [...(times.get(key) ?? []), from + delayMs]);
    }
    for (const other of startedBy(show, own)) {
      const wait = 'delayMs' in other.starts ? other.starts.delayMs : 0;
      if (!path.includes(other.id) && wait < windowMs) add(other, from + wait, [...path, other.id]);
    }
  };
  add(cue, 0, [cue.id]);
  return new Map([...times].map(([key, list]) => [key, busiest(list)]));
}

function busiest(list: readonly number[]): number {
  const sorted = [...list].sort((a, b) => a - b);
  let [first, most] = [0, 0];
  for (const [last, at] of sorted.entries()) {
    while (at - (sorted[first] ?? 0) >= windowMs) first += 1;
    most = Math.max(most, last - first + 1);
  }
  return most;
}

/** A cue by what starts it, in words. */
export function startWords(show: Show, { starts: how }: Cue): string {
  switch (how.by) {
    case 'hand':
      return 'by hand';
    case 'after':
      return how.delayMs > 0 ? `after it, ${seconds(how.delayMs)}` : 'with the one before';
    case 'cue': {
      const number = show.cues[how.cueId]?.number;
      return `${number === undefined ? 'after a cue that is gone' : `after ${number}`}, ${seconds(how.delayMs)}`;
    }
    case 'clock':
      return `at ${how.time}`;
    case 'timecode':
      return `time code ${how.code}`;
    case 'on_air':
      return `input ${how.input} on air`;
    case 'message':
      return `hears ${how.address}`;
    case 'level':
      return `light ${how.universe}.${how.channel} above ${how.above}`;
    case 'web':
      return `web says ${how.says}`;
  }
}

const seconds = (ms: number): string => `${Math.round(ms / 100) / 10} s`;

/** What a record of a rehearsal holds for: the very messages, and where they lead. */
export function basisOfCue(show: Show, cue: Cue): string {
  // field by field: a database gives fields back in another order than they went in
  const parts = cue.messages.map(({ targetId, serviceKey, command, args, typed, delayMs }) => {
    const link = (rowsBy(show, 'links', 'controllerId').get(cue.controllerId) ?? []).find(
      (own) => own.targetId === targetId && own.serviceKey === serviceKey,
    );
    return [targetId, serviceKey, command, args, typed, delayMs, link ? [link.id, link.port, link.host] : null];
  });
  return hashed(JSON.stringify(parts));
}

/** FNV-1a in 32 bits (the algorithm of draft-eastlake-fnv), as eight digits: it only has to differ when its text does. */
function hashed(text: string): string {
  let hash = 0x811c9dc5;
  for (let at = 0; at < text.length; at += 1) hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193) >>> 0;
  return hash.toString(16).padStart(8, '0');
}

/** Was it rehearsed as it is now, and did all of it happen? */
export function proofOf(show: Show, cue: Cue): 'done' | 'failed' | 'stale' | 'none' {
  if (!cue.proved) return 'none';
  if (cue.proved.basis !== basisOfCue(show, cue)) return 'stale';
  return cue.proved.outcomes.every((outcome) => outcome === 'done') ? 'done' : 'failed';
}

/** Cues, those that were proved as they are, and those with something to mend. */
export function cueCounts(show: Show): { all: number; proved: number } {
  const cues = rowsOf(show, 'cues');
  return { all: cues.length, proved: cues.filter((cue) => proofOf(show, cue) === 'done').length };
}
