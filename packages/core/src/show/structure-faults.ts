import type { Change, Row, TableName } from './entities.ts';
import { groupBy } from './group-by.ts';
import { typeOf } from './lookups.ts';
import { once } from './memo.ts';
import { rowsOf, type Show } from './show.ts';

export interface StructureFault {
  readonly path: readonly (string | number)[];
  readonly message: string;
}

/**
 * Rows of a change that name what is not there: a cable in a socket that the unit's type does not have, from a socket to
 * itself, or in a socket that holds another one; cues that start each other in a circle; an interface of an unknown adapter; a program that runs on itself, over
 * however many corners. `show` is the plan after the change, as far as these rows lead. Other flaws of a plan are
 * findings; this would be broken data.
 */
export function structureFaults(show: Show, { edits }: Pick<Change, 'edits'>): StructureFault[] {
  // a change of thousands of cables looks every socket up once
  const plugs = once(() => groupBy(rowsOf(show, 'cables').flatMap(plugsOf), ({ place }) => place));
  return edits.flatMap(({ table, after }, at) => {
    const check = after && checks[table];
    if (!after || !check) return [];
    return check(show, after as never, plugs).map(([field, message]) => ({
      path: ['change', 'edits', at, 'after', field],
      message,
    }));
  });
}

type Fault = readonly [field: string, message: string];
type Plugs = () => ReadonlyMap<string, readonly Plug[]>;
type Checks = { readonly [T in TableName]?: (show: Show, row: Omit<Row<T>, 'rev'>, plugs: Plugs) => Fault[] };

const checks: Checks = {
  devices: (show, { id, runsOn }) => {
    const seen = new Set([id]);
    for (let at = runsOn; at !== null; at = show.devices[at]?.runsOn ?? null) {
      if (seen.has(at)) return [['runsOn', 'A program cannot run on itself']];
      seen.add(at);
    }
    return [];
  },
  cues: (show, { id, starts }) => {
    const seen = new Set([id]);
    for (let next = starts; next.by === 'cue';) {
      if (seen.has(next.cueId))
        return [['starts', 'These cues would start each other in a circle: let one of them be started by hand']];
      seen.add(next.cueId);
      const cue = show.cues[next.cueId];
      if (!cue) return [];
      next = cue.starts;
    }
    return [];
  },
  interfaces: (show, { deviceId, adapter }) => {
    const type = typeOf(show, show.devices[deviceId]);
    const isThere = !type || type.adapters.some(({ key }) => key === adapter);
    return isThere ? [] : [['adapter', `Its type has no adapter “${adapter}”`]];
  },
  cables: (show, cable, plugs) => {
    const { fromDevice, fromSocket, toDevice, toSocket } = cable;
    const missing = (deviceId: string, socket: string): boolean => {
      const type = typeOf(show, show.devices[deviceId]);
      return type !== undefined && !type.sockets.some(({ key }) => key === socket);
    };
    return [
      ...(missing(fromDevice, fromSocket) ? [['fromSocket', `Its type has no socket “${fromSocket}”`] as const] : []),
      ...(missing(toDevice, toSocket) ? [['toSocket', `Its type has no socket “${toSocket}”`] as const] : []),
      ...(fromDevice === toDevice && fromSocket === toSocket
        ? [['toSocket', 'A cable has two ends: choose another socket'] as const]
        : []),
      ...sharing(plugs(), cable),
    ];
  },
};

/** One end of a cable, and the field that names it. */
interface Plug {
  readonly id: string;
  readonly field: 'fromSocket' | 'toSocket';
  readonly place: string;
}

/** A socket takes one plug; over the air several reach one. */
const plugsOf = ({ id, medium, fromDevice, fromSocket, toDevice, toSocket }: Omit<Row<'cables'>, 'rev'>): Plug[] =>
  medium === 'wireless'
    ? []
    : [
        { id, field: 'fromSocket', place: `${fromDevice}/${fromSocket}` },
        { id, field: 'toSocket', place: `${toDevice}/${toSocket}` },
      ];

const sharing = (plugs: ReadonlyMap<string, readonly Plug[]>, cable: Omit<Row<'cables'>, 'rev'>): Fault[] =>
  plugsOf(cable).flatMap(({ id, field, place }): Fault[] =>
    plugs.get(place)?.some((other) => other.id !== id)
      ? [[field, 'Another cable is in this socket: take that out first, or choose another socket']]
      : [],
  );
