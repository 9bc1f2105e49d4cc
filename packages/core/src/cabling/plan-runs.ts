import {
  byName,
  changeOf,
  insertRow,
  limits,
  rowsOf,
  socketLabel,
  socketsOf,
  typeOf,
  updateRow,
  type Cable,
  type Change,
  type Device,
  type DeviceType,
  type Edit,
  type Show,
} from '../show/index.ts';
import { mates, mediumBetween, type SocketEnd } from './fitting-sockets.ts';
import type { RunField, RunText } from './read-runs.ts';
import { bare, endWords, gradeWords, mediumWords, readKind, readLength, readStage, stageWords } from './run-words.ts';

/** A run that is written down; `cableId` names the one that it takes the place of, ids a unit that is known already. */
export interface WrittenRun extends RunText {
  readonly cableId?: string;
  readonly fromId?: string;
  readonly toId?: string;
}
export interface RunFault {
  readonly line: number;
  readonly field: RunField;
  readonly text: string;
  /** What is wrong with it and what helps, as a sentence. */
  readonly message: string;
}
/** What a run would be, in the words of the sockets. */
export interface PlannedRun {
  readonly line: number;
  readonly from: SocketEnd;
  readonly to: SocketEnd;
  readonly medium: Cable['medium'];
  readonly grade: Cable['grade'];
  readonly lengthM: number | null;
  readonly stage: Cable['stage'];
}
export type RunPlan =
  | { readonly ok: true; readonly change: Change | undefined; readonly runs: readonly PlannedRun[] }
  | { readonly ok: false; readonly faults: readonly RunFault[] };

/**
 * Runs as one change, or every fault of every line: a unit or socket that nobody knows, a socket that has a run
 * already or twice in the list, a run back into its own socket, plugs that do not fit. A socket that is left empty is
 * the first free one that fits.
 */
export function planRuns(show: Show, written: readonly WrittenRun[]): RunPlan {
  const desk = new RunDesk(show, written);
  const runs = written.map((run) => desk.take(run));
  if (desk.faults.length > 0) return { ok: false, faults: desk.faults };
  const planned = runs.flatMap((run) => run ?? []);
  const edits = planned.flatMap((run, at) => desk.editOf(run, written[at]?.cableId));
  if (edits.length === 0) return { ok: true, change: undefined, runs: planned };
  const label = edits.length === 1 ? labelOf(show, planned[0]) : `Write down ${edits.length} runs`;
  return { ok: true, change: changeOf(label, edits), runs: planned };
}

function labelOf(show: Show, run: PlannedRun | undefined): string {
  const [from, to] = [run?.from, run?.to].map((end) => end && endWords(show, end.deviceId, end.socket));
  return `Run ${from ?? ''} to ${to ?? ''}`.slice(0, 200);
}

/** Where runs are laid out one after the other: each takes its sockets before the next one looks for some. */
class RunDesk {
  readonly faults: RunFault[] = [];
  private readonly show: Show;
  private readonly devices: readonly Device[];
  /** Who is in a socket, by `device socket`: in the show, or on an earlier line. */
  private readonly taken = new Map<string, string>();
  private readonly ids: Set<string>;

  constructor(show: Show, written: readonly WrittenRun[]) {
    this.show = show;
    this.devices = rowsOf(show, 'devices');
    this.ids = new Set(Object.keys(show.cables));
    const replaced = new Set(written.map(({ cableId }) => cableId));
    for (const cable of rowsOf(show, 'cables'))
      if (!replaced.has(cable.id)) {
        this.taken.set(`${cable.fromDevice} ${cable.fromSocket}`, `the run to ${this.nameOf(cable.toDevice)}`);
        this.taken.set(`${cable.toDevice} ${cable.toSocket}`, `the run to ${this.nameOf(cable.fromDevice)}`);
      }
  }

  take(run: WrittenRun): PlannedRun | null {
    const before = this.faults.length;
    const [from, to] = [this.unit(run, 'from'), this.unit(run, 'to')];
    const lengthM = this.length(run);
    const wanted = run.medium === '' ? null : this.kind(run);
    const stage = this.stage(run);
    if (!from || !to) return null;
    const near = this.socket(run, 'from', from, undefined);
    const far = near && this.socket(run, 'to', to, near);
    if (!near || !far || this.faults.length > before) return null;
    for (const [end, other] of [
      [near, far],
      [far, near],
    ] as const)
      this.taken.set(`${end.deviceId} ${end.socket}`, `the run to ${this.nameOf(other.deviceId)} on line ${run.line}`);
    const { medium, grade } = wanted ?? { medium: mediumBetween(this.show, near, far), grade: null };
    return { line: run.line, from: near, to: far, medium, grade, lengthM, stage };
  }

  editOf({ from, to, medium, grade, lengthM, stage }: PlannedRun, cableId: string | undefined): Edit[] {
    const row = {
      fromDevice: from.deviceId,
      fromSocket: from.socket,
      toDevice: to.deviceId,
      toSocket: to.socket,
      medium,
      grade,
      lengthM,
      stage,
    };
    const known = cableId === undefined ? undefined : this.show.cables[cableId];
    if (!known) return [insertRow('cables', { id: this.freshId(from), ...row, delayMs: null })];
    const patch = Object.fromEntries(Object.entries(row).filter(([key, value]) => known[key as keyof Cable] !== value));
    return Object.keys(patch).length > 0 ? [updateRow('cables', known, patch)] : [];
  }

  private freshId({ deviceId, socket }: SocketEnd): string {
    const base = `c-${deviceId.slice(-16)}-${socket.slice(-12)}`.replace(/-+/g, '-');
    let id = base;
    for (let n = 2; this.ids.has(id); n += 1) id = `${base}-${n}`;
    this.ids.add(id);
    return id;
  }

  private nameOf(deviceId: string): string {
    return this.show.devices[deviceId]?.name ?? 'a unit';
  }

  private fail(run: WrittenRun, field: RunField, message: string): null {
    this.faults.push({ line: run.line, field, text: run[field], message });
    return null;
  }

  /** The unit of that name, or the only one whose name begins with it or holds it. */
  private unit(run: WrittenRun, field: 'from' | 'to'): Device | null {
    const known = this.show.devices[(field === 'from' ? run.fromId : run.toId) ?? ''];
    if (known) return known;
    const wanted = bare(run[field]);
    if (wanted === '') return this.fail(run, field, 'Name the unit at this end');
    const folded = this.devices.map((device) => ({ device, name: bare(device.name) }));
    const ways = [
      (name: string) => name === wanted,
      (name: string) => name.startsWith(wanted),
      (name: string) => name.includes(wanted),
    ];
    for (const fits of ways) {
      const hits = folded.filter(({ name }) => fits(name)).map(({ device }) => device);
      if (hits.length === 1) return hits[0] ?? null;
      if (hits.length > 1) return this.fail(run, field, `${oneOf(hits)} could be meant: write the whole name`);
    }
    return this.fail(run, field, 'No unit has this name: add it to the rig first, or correct the name');
  }

  private socket(run: WrittenRun, side: 'from' | 'to', device: Device, other: SocketEnd | undefined): SocketEnd | null {
    const field = side === 'from' ? 'fromSocket' : 'toSocket';
    const type = typeOf(this.show, device);
    const sockets = type ? socketsOf(type, device.variant) : [];
    const ends = sockets.map(({ key }) => ({ deviceId: device.id, socket: key }));
    const isFree = ({ deviceId, socket }: SocketEnd) =>
      !this.taken.has(`${deviceId} ${socket}`) && !(other?.deviceId === deviceId && other.socket === socket);
    if (run[field] === '') {
      const fitting = ends.find((end) => isFree(end) && this.isWanted(run, side, end, other));
      return fitting ?? this.fail(run, field, `${device.name} has no free socket that fits`);
    }
    const end = ends[placeOf(sockets, run[field])];
    if (!end) {
      const some = sockets.slice(0, 6).map(({ label }) => label);
      const more = sockets.length > some.length ? ` and ${sockets.length - some.length} more` : '';
      return this.fail(run, field, `${device.name} has ${some.join(', ') || 'no sockets'}${more}`);
    }
    if (other?.deviceId === end.deviceId && other.socket === end.socket)
      return this.fail(run, field, 'A run needs two ends: this is the socket it comes from');
    const who = this.taken.get(`${end.deviceId} ${end.socket}`);
    const label = socketLabel(this.show, device.id, end.socket);
    if (who !== undefined)
      return this.fail(run, field, `${device.name} ${label} has ${who}: take another socket, or unplug that`);
    if (other && !mates(this.show, other, end)) {
      const far = endWords(this.show, other.deviceId, other.socket);
      return this.fail(run, field, `What comes out of ${far} does not go into ${device.name} ${label}`);
    }
    return end;
  }

  /** May an end that nobody named be this socket? The far end has to have one that it goes into. */
  private isWanted(run: WrittenRun, side: 'from' | 'to', end: SocketEnd, other: SocketEnd | undefined): boolean {
    if (other) return mates(this.show, other, end);
    const [id, text] = side === 'from' ? [run.toId, run.to] : [run.fromId, run.from];
    const hits = this.devices.find((device) => device.id === id || bare(device.name) === bare(text));
    const type = typeOf(this.show, hits);
    if (!hits || !type) return true;
    return socketsOf(type, hits.variant).some(
      ({ key }) => !this.taken.has(`${hits.id} ${key}`) && mates(this.show, end, { deviceId: hits.id, socket: key }),
    );
  }

  private kind(run: WrittenRun): Pick<Cable, 'medium' | 'grade'> | null {
    const kinds = [...Object.values(mediumWords), ...Object.values(gradeWords)].join(', ');
    return readKind(run.medium) ?? this.fail(run, 'medium', `A run is one of ${kinds}`);
  }

  private stage(run: WrittenRun): Cable['stage'] {
    const stage = readStage(run.stage);
    if (stage === undefined) this.fail(run, 'stage', `A run is there ${Object.values(stageWords).join(', ')}`);
    return stage ?? 'both';
  }

  private length(run: WrittenRun): number | null {
    if (run.length === '') return null;
    const metres = readLength(run.length);
    if (metres === undefined || metres > limits.lengthM)
      this.fail(run, 'length', `A length is metres, up to ${limits.lengthM.toLocaleString('en-GB')}`);
    return metres ?? null;
  }
}

/** A socket by its key, by what stands at it, or by its number. */
function placeOf(sockets: DeviceType['sockets'], text: string): number {
  const wanted = bare(text);
  const ways: ((socket: DeviceType['sockets'][number]) => boolean)[] = [
    ({ key }) => key === text,
    ({ label }) => bare(label) === wanted,
    ({ label, key }) => bare(key) === wanted || /(\d+)$/.exec(label)?.[1] === wanted,
  ];
  return ways.reduce((at, fits) => (at < 0 ? sockets.findIndex(fits) : at), -1);
}

const oneOf = (devices: readonly Device[]): string => {
  const names = [...devices].sort(byName).map(({ name }) => name);
  return `${names.slice(0, 3).join(', ')}${names.length > 3 ? ` or ${names.length - 3} more` : ''}`;
};
