import type { findings, Show } from '@deep-patch/core';
import type { ComponentType } from 'react';

export interface Screen {
  readonly path: string;
  /** What may follow in its address, as the router takes it. */
  readonly more: string;
  readonly label: string;
  /** Other words by which people look for it. */
  readonly also: string;
  /** What keys do there and nowhere else. */
  readonly keys: readonly { readonly keys: string; readonly what: string }[];
  /** Pressed behind `g`, it goes there. */
  readonly key: string;
  /** Whose findings stand beside it on the rail. */
  readonly room: findings.Room | undefined;
  readonly load: () => Promise<ComponentType>;
  /** Has its part of the job begun? Undefined for what has no place on the rail. */
  readonly isBegun: ((show: Show) => boolean) | undefined;
}

const hasRows = (table: object): boolean => Object.keys(table).length > 0;

const inTables = [
  { keys: '↑ ↓', what: 'Move from row to row' },
  { keys: 'Page Up Page Down', what: 'Move by twelve rows' },
  { keys: 'Home End', what: 'Go to the first row, to the last' },
] as const;
const inCells = [
  { keys: '← →', what: 'Choose a column' },
  { keys: 'Enter', what: 'Type into the cell; Enter keeps it, Esc leaves it' },
  { keys: 'Shift ↑ ↓', what: 'Choose several rows' },
  { keys: 'Ctrl A', what: 'Choose all rows' },
  { keys: 'Ctrl D', what: 'Fill the first row’s text down' },
  { keys: 'Ctrl C', what: 'Copy the column of the rows chosen' },
  { keys: 'Ctrl V', what: 'Lay a block of a spreadsheet on the cells' },
] as const;
const onRuler = [
  { keys: '← →', what: 'On the ruler: to the next address' },
  { keys: 'Enter', what: 'On the ruler: place the next unit here; on the edge of a block: keep it' },
] as const;

/** Every screen of a show, in the order of the job: router, rail, shortcuts and command box are made from this. */
export const screens: readonly Screen[] = [
  {
    path: 'rig',
    more: '/:deviceId?/:view?',
    label: 'Rig',
    also: 'gear devices equipment inventory units list',
    keys: [...inTables, ...inCells],
    key: 'r',
    room: 'rig',
    load: async () => (await import('../rig/rig-screen.tsx')).RigScreen,
    isBegun: ({ devices }) => hasRows(devices),
  },
  {
    path: 'addresses',
    more: '/:networkId?/:addressId?',
    label: 'Addresses',
    also: 'ip network subnet plan',
    keys: [...inTables, ...onRuler],
    key: 'a',
    room: 'addressing',
    load: async () => (await import('../addresses/addresses-screen.tsx')).AddressesScreen,
    isBegun: ({ networks }) => hasRows(networks),
  },
  {
    path: 'cabling',
    more: '/:cableId?',
    label: 'Cabling',
    also: 'cables runs sockets plugs switch topology wiring',
    keys: [...inTables, ...inCells],
    key: 'c',
    room: 'cabling',
    load: async () => (await import('../cabling/cabling-screen.tsx')).CablingScreen,
    isBegun: ({ cables }) => hasRows(cables),
  },
  {
    path: 'links',
    more: '/:linkId?',
    label: 'Links',
    also: 'control connections patch',
    keys: inTables,
    key: 'l',
    room: 'links',
    load: async () => (await import('../links/links-screen.tsx')).LinksScreen,
    isBegun: ({ links }) => hasRows(links),
  },
  {
    path: 'bring-up',
    more: '/:stepKey?',
    label: 'Bring-up',
    also: 'commission set keying order steps sheet first contact key in',
    keys: [
      { keys: 'Enter', what: 'The step is done; on to the next' },
      { keys: '← → ↑ ↓', what: 'Look ahead and back' },
    ],
    key: 'u',
    room: undefined,
    load: async () => (await import('../bringup/bring-up-screen.tsx')).BringUpScreen,
    isBegun: ({ progress }) => hasRows(progress),
  },
  {
    path: 'surfaces',
    more: '/:deviceId?',
    label: 'Surfaces',
    also: 'controls faders buttons mapping assign layers banks operator page panel',
    keys: [
      { keys: '← → ↑ ↓', what: 'While playing: move the control that has the focus' },
      { keys: 'Space', what: 'On the handle of a function: pick it up; arrows carry it, Space drops it' },
    ],
    key: 's',
    room: 'surfaces',
    load: async () => (await import('../surfaces/surfaces-screen.tsx')).SurfacesScreen,
    isBegun: ({ assignments }) => hasRows(assignments),
  },
  {
    path: 'cues',
    more: '/:cueId?',
    label: 'Cues',
    also: 'running order messages triggers osc rehearsal',
    keys: [
      { keys: '↑ ↓', what: 'Choose a cue' },
      { keys: 'Alt ↑ ↓', what: 'Move the chosen cue up or down' },
      { keys: 'Enter', what: 'On Send: send the next cue' },
    ],
    key: 'q',
    room: 'cues',
    load: async () => (await import('../cues/cues-screen.tsx')).CuesScreen,
    isBegun: ({ cues }) => hasRows(cues),
  },
  {
    path: 'on-air',
    more: '/:switcherId?/:input?',
    label: 'On air',
    also: 'switcher inputs cuts tally playout clips take delay lists callers',
    keys: [{ keys: '← →', what: 'On the handle of the strip: one frame less or more; Enter keeps it' }],
    key: 'o',
    room: 'onair',
    load: async () => (await import('../onair/on-air-screen.tsx')).OnAirScreen,
    isBegun: ({ inputRules }) => hasRows(inputRules),
  },
  {
    path: 'timecode',
    more: '',
    label: 'Timecode',
    also: 'smpte ltc mtc linear midi time code drop frame drift chain calculator',
    keys: [],
    key: 'm',
    room: 'timecode',
    load: async () => (await import('../timecode/timecode-screen.tsx')).TimecodeScreen,
    isBegun: ({ timeHops }) => hasRows(timeHops),
  },
  {
    path: 'wall',
    more: '/:wallId?',
    label: 'LED wall',
    also: 'panels tiles pixels receivers outputs strings load test picture scan colour order',
    keys: [{ keys: '← ↑ → ↓', what: 'On the wall: to the next panel' }],
    key: 'w',
    room: 'wall',
    load: async () => (await import('../wall/wall-screen.tsx')).WallScreen,
    isBegun: ({ walls }) => hasRows(walls),
  },
  {
    path: 'bench',
    more: '/:deviceId?',
    label: 'Bench',
    also: 'simulator simulation test devices stand-ins',
    keys: [],
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
    also: 'problems errors warnings issues faults',
    keys: [],
    key: 'f',
    room: undefined,
    load: async () => (await import('../findings/findings-screen.tsx')).FindingsScreen,
    isBegun: undefined,
  },
];
