import type { show } from '@deep-patch/core';
import type { Served } from './memory.ts';
import type { Standin } from './standin.ts';

/** Notes that a service took something in, or did something. */
export function count({ memory }: Standin, serviceKey: string, what: keyof Served): void {
  let served = memory.served.get(serviceKey);
  if (!served) memory.served.set(serviceKey, (served = { heard: 0, done: 0 }));
  served[what] += 1;
  if (what === 'heard') memory.heard += 1;
}

/**
 * Notes whether a service got its ports, and what gives them back; one that was told to use an adapter hears nothing
 * else.
 */
export function noteOpening(
  { closers, crowdedOut, device, host }: Pick<Standin, 'closers' | 'crowdedOut' | 'device' | 'host'>,
  serviceKey: string,
  close: (() => void) | undefined,
  ...ports: readonly (readonly ['udp' | 'tcp', number])[]
): void {
  if (!close) crowdedOut.add(serviceKey);
  else {
    closers.push(close);
    if (device.adapter !== null) for (const [transport, port] of ports) host.bind(transport, port, device.adapter);
  }
}

/** Runs what a stand-in does; if it throws, that unit alone is switched off and says why. */
export function guarded(standin: Standin, run: () => void): void {
  try {
    run();
  } catch (error) {
    trip(standin, error);
  }
}

export function trip({ memory }: Standin, error: unknown): void {
  memory.powered = false;
  memory.fault = error instanceof Error ? error.message : 'unknown fault';
}

/**
 * Does what a command of the type's dictionary says; the values are by argument name. False when it is left undone, as
 * when its application has no show open: then there is nothing to do it with.
 */
export function act(
  standin: Standin,
  serviceKey: string,
  command: show.Command,
  values: ReadonlyMap<string, string>,
): boolean {
  if (standin.memory.application === 'no_show') return false;
  for (const allows of standin.guards) if (!allows(command, values)) return false;
  for (const { parameter, value } of command.sets)
    standin.memory.face.set(filled(parameter, values), filled(value, values));
  standin.memory.lastAt = Date.now();
  count(standin, serviceKey, 'done');
  for (const follow of standin.followers) follow(command, values);
  return true;
}

/** What a command did, in words. */
export const deed = (command: show.Command, values: ReadonlyMap<string, string>): string =>
  command.sets.map(({ parameter, value }) => `${filled(parameter, values)} ${filled(value, values)}`).join(', ') ||
  command.label;

/** A text with its braces filled in; what has no value stays as it is. */
export function filled(text: string, values: ReadonlyMap<string, string>): string {
  if (!text.includes('{')) return text;
  const parts = templates.get(text) ?? takenApart(text);
  let whole = parts[0] ?? '';
  for (let at = 1; at < parts.length; at += 2) {
    const name = parts[at] ?? '';
    whole += (values.get(name) ?? `{${name}}`) + (parts[at + 1] ?? '');
  }
  return whole;
}

function takenApart(text: string): readonly string[] {
  const parts = text.split(/\{(\w+)\}/);
  if (templates.size < mostTemplates) templates.set(text, parts);
  return parts;
}

/** Texts of dictionaries, taken apart: there are as many as commands, whatever comes over the network. */
const templates = new Map<string, readonly string[]>();
const mostTemplates = 5000;
