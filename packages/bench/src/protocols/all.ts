import type { show } from '@deep-patch/core';
import { http } from './http/index.ts';
import { midi } from './midi/index.ts';
import { osc } from './osc/index.ts';
import type { Protocol } from './protocol.ts';
import { text } from './text/index.ts';

/** Every protocol that a service of a type may speak. */
export const protocols: Readonly<Record<show.ServiceType['protocol'], Protocol>> = { osc, http, text, midi };
