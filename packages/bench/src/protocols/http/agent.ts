import type { Standin } from '../../units/standin.ts';

/** A client says what kind it is before its name (RFC 9110 section 10.1.5, product and comment). */
export const agentOf = ({ type, device }: Pick<Standin, 'type' | 'device'>): string => `${type.kind} (${device.name})`;

/** Empty where nothing tells what it is, as with a program from outside. */
export const kindOfAgent = (agent: string | undefined): string => /^([a-z-]+) \(/.exec(agent ?? '')?.[1] ?? '';

/** How a service turns away a kind of client that it was not opened for. */
export const notOpenFor = 'not open for a';
