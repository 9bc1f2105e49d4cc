import type { findings, Show } from '@deep-patch/core';
import type { ComponentType } from 'react';

export interface Screen {
  readonly path: string;
  /** What may follow in its address, as the router takes it. */
  readonly more: string;
  readonly label: string;
  /** Pressed behind `g`, it goes there. */
  readonly key: string;
  /** Whose findings stand beside it on the rail. */
  readonly room: findings.Room | undefined;
  readonly load: () => Promise<ComponentType>;
  /** Has its part of the job begun? Undefined for what has no place on the rail. */
  readonly isBegun: ((show: Show) => boolean) | undefined;
}

const hasRows = (table: object): boolean => Object.keys(table).length > 0;

/** Every screen of a show, in the order of the job: router, rail, shortcuts and command box are made from this. */
export const screens: readonly Screen[] = [
  {
    path: 'rig',
    more: '/:deviceId?/:view?',
    label: 'Rig',
    key: 'r',
    room: 'rig',
    load: async () => (await import('../rig/rig-screen.tsx')).RigScreen,
    isBegun: ({ devices }) => hasRows(devices),
  },
  {
    path: 'addresses',
    more: '/:networkId?/:addressId?',
    label: 'Addresses',
    key: 'a',
    room: 'addressing',
    load: async () => (await import('../addresses/addresses-screen.tsx')).AddressesScreen,
    isBegun: ({ networks }) => hasRows(networks),
  },
  {
    path: 'links',
    more: '/:linkId?',
    label: 'Links',
    key: 'l',
    room: 'links',
    load: async () => (await import('../links/links-screen.tsx')).LinksScreen,
    isBegun: ({ links }) => hasRows(links),
  },
  {
    path: 'bench',
    more: '/:deviceId?',
    label: 'Bench',
    key: 'b',
    room: undefined,
    load: async () => (await import('../bench/bench-screen.tsx')).BenchScreen,
    // it is never done with
    isBegun: () => false,
  },
  {
    path: 'findings',
    more: '',
    label: 'Findings',
    key: 'f',
    room: undefined,
    load: async () => (await import('../findings/findings-screen.tsx')).FindingsScreen,
    isBegun: undefined,
  },
];
