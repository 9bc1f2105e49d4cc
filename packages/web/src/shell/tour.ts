import { useSyncExternalStore } from 'react';

export interface Stop {
  /** The rest of its address within the show. */
  readonly path: string;
  readonly title: string;
  readonly text: string;
}

/** The way through the demo on its first day: what stands where, and what it is good for. */
export const stops: readonly Stop[] = [
  {
    path: 'rig',
    title: 'The rig',
    text: 'A sailing final with all its gear. Every cell can be typed into, filled down and pasted over. What is wrong is counted at the bottom left, whichever screen is open.',
  },
  {
    path: 'rig/camera-3',
    title: 'A unit',
    text: 'Somebody gave two cameras one address. The panel says what is wrong with this unit and only with it, with a button that mends it, and what is still to be keyed in.',
  },
  {
    path: 'addresses/control',
    title: 'Addresses',
    text: 'A network as a ruler: blocks for each kind, pools, who stands where. “Place the rest” gives everybody an address by its number, and shows what it does before it does it.',
  },
  {
    path: 'cabling',
    title: 'Cabling',
    text: 'Every run with its sockets, and which networks it carries. “Join several” cables a whole rack in one act.',
  },
  {
    path: 'links/remote-to-camera-3',
    title: 'A link',
    text: 'Who controls whom, and how deep it reaches: eight layers from the cable to the reply. The first one that stops says why, and what to do.',
  },
  {
    path: 'bench',
    title: 'The bench',
    text: 'Stand-ins for all of it, on a simulated network with real bytes. Press “Power on”, then “Sound all links”, and watch the tap below. Open a line to see what each byte stands for.',
  },
  {
    path: 'findings',
    title: 'Findings',
    text: 'Everything that is wrong in one list, worst first, each with its fix. Mend them, or leave the tour here: the show stays as you made it.',
  },
];

interface Tour {
  readonly showId: string;
  readonly at: number;
}
const key = 'deep-patch-tour';
const listeners = new Set<() => void>();
let tour: Tour | undefined = read();

function read(): Tour | undefined {
  try {
    const kept = JSON.parse(sessionStorage.getItem(key) ?? 'null') as Tour | null;
    return kept && stops[kept.at] ? kept : undefined;
  } catch {
    return undefined;
  }
}

/** Goes to a stop of the tour through a show; `undefined` leaves it. This tab alone is on it. */
export function goToStop(next: Tour | undefined): void {
  tour = next && stops[next.at] ? next : undefined;
  if (tour) sessionStorage.setItem(key, JSON.stringify(tour));
  else sessionStorage.removeItem(key);
  for (const listener of listeners) listener();
}

/** Moves on along the tour; whoever left it meanwhile stays off it. */
export function moveToStop(next: Tour): void {
  if (tour?.showId === next.showId) goToStop(next);
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

/** Where the tour through this show is; undefined while nobody is on one. */
export const useStop = (showId: string): number | undefined =>
  useSyncExternalStore(subscribe, () => (tour?.showId === showId ? tour.at : undefined));
