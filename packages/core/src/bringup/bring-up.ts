import { addressingFacts, formatIp, mustIp, overlaps, type AddressingFacts } from '../addressing/index.ts';
import { cablingFacts, type CablingFacts } from '../cabling/index.ts';
import { linkFacts } from '../links/index.ts';
import { byName, memo, type Device, type Show } from '../show/index.ts';
import { powerOrder } from '../rig/index.ts';
import type { Access } from './access.ts';
import { buildTasks } from './build-tasks.ts';
import type { Ground } from './ground.ts';
import { computerAdapters, placeIn, techniciansComputer, type ComputerAdapter } from './computer.ts';
import { landingsOf, type Landing, type Landings } from './landings.ts';
import { fewestMoves, type Need } from './moves.ts';
import { sequence } from './sequence.ts';
import type { Blocked, Spot, Task, Why } from './tasks.ts';
import { subnetText, type FoundAt, type Place, type Standing } from './unit-now.ts';
import type { UnitPlan } from './unit-plan.ts';

/** What the computer is set to in a station, and where its cable leads. */
export interface ComputerStep {
  readonly adapter: string;
  readonly label: string;
  readonly place: Place | undefined;
  /** The address that it leaves; undefined where it takes another one beside what it has. */
  readonly replaces: Place | undefined;
  readonly cable: Landing | 'as_planned' | undefined;
  /** Its socket that leads to this adapter. */
  readonly socket: string;
  /** All that each of its adapters holds afterwards: another one may have to leave a subnet. */
  readonly held: readonly { readonly adapter: string; readonly places: readonly Place[] }[];
}

export interface BringUpStep {
  readonly key: string;
  readonly kind: Task['kind'] | 'computer';
  readonly deviceId: string;
  readonly station: number;
  readonly access: readonly Access[];
  readonly lines: Task['lines'];
  readonly acts: Task['acts'];
  /** The address that it is about: what is keyed in, or asked for. */
  readonly place: Place | undefined;
  readonly addressId: string | undefined;
  readonly basis: string | undefined;
  readonly partnerId: string | undefined;
  /** Where the unit answers before. */
  readonly before: Standing;
  readonly computer: ComputerStep | undefined;
  readonly hands: number;
  readonly waits: number;
  readonly startS: number;
  readonly why: Why;
  /** Keys of the steps that it waits for, and of those that wait for it. */
  readonly after: readonly string[];
  readonly waiting: readonly string[];
}

/** One place of the computer, with what is done there. */
export interface Station {
  readonly places: readonly (readonly [label: string, place: Place])[];
  readonly segment: string | null;
  /** The unit that its cable leads to for the meantime, alone or in a network of its own. */
  readonly lead: Landing | undefined;
  readonly units: readonly string[];
  readonly steps: readonly BringUpStep[];
}

export interface BringUp {
  readonly computer: Device | undefined;
  readonly stations: readonly Station[];
  readonly steps: readonly BringUpStep[];
  /** Changes of the computer's address and moves of its cables, and what no order could do better. */
  readonly changes: number;
  readonly cables: number;
  readonly bound: number;
  readonly exact: boolean;
  readonly seconds: number;
  readonly blocked: readonly Blocked[];
  readonly units: ReadonlyMap<string, UnitPlan>;
}

/** So often the rest is planned anew without what would clash. */
const mostTries = 8;

const nobody: Omit<BringUp, 'units'> = {
  computer: undefined,
  ...{ stations: [], steps: [], changes: 0, cables: 0, bound: 0, exact: true, seconds: 0, blocked: [] },
};

/**
 * The ordered work of setting every unit, from what is true now (C15): the fewest changes of the computer's address, then
 * the fewest moves of its cables, then the least waiting. What is done is not asked again.
 */
export function bringUp(
  show: Show,
  {
    addressing = addressingFacts(show),
    cabling = cablingFacts(show),
    foundAt = () => undefined,
  }: { readonly addressing?: AddressingFacts; readonly cabling?: CablingFacts; readonly foundAt?: FoundAt } = {},
): BringUp {
  const computer = techniciansComputer(show);
  if (!computer) return { ...nobody, units: new Map() };
  const landings = landingsOf(show, addressing, cabling);
  const adapters = computerAdapters(show, addressing, cabling, computer, landings.at);
  const links = linkFacts(show, addressing, () => ({ change: undefined }), cabling);
  const ground: Ground = { show, addressing, cabling, links, computer, adapters, landings, foundAt };
  const { tasks, blocked, units } = buildTasks(ground);
  return inOrder(ground, tasks, blocked, units);
}

function inOrder(
  { show, addressing, cabling, computer, adapters, landings }: Ground,
  tasks: readonly Task[],
  blocked: readonly Blocked[],
  units: ReadonlyMap<string, UnitPlan>,
): BringUp {
  const at = new Map(tasks.map((task, index) => [task, index]));
  const isRoom = memo((subnet) => placeIn(addressing, adapters, subnet) !== undefined);
  const reachable = tasks.map((task) =>
    task.needs.filter(
      (need) =>
        canBeAt(adapters, landings, need) &&
        // in a circle of frames nobody hears anything
        !cabling.domains().loopIn(need.segment) &&
        (need.subnet === null || isRoom(need.subnet)),
    ),
  );
  const lost = new Set(tasks.filter((task, index) => task.needs.length > 0 && reachable[index]?.length === 0));
  // where a cable is pulled for the computer's, the adapter that goes there is the one that nobody needs behind it then
  const leavesOthers = (own: ComputerAdapter, to: string): boolean => {
    const cut = landings.pulledFrom(to);
    const isOf = ({ home }: ComputerAdapter) => home.segment === cut;
    return cut === undefined || isOf(own) || !adapters.some(isOf);
  };
  const able = adapters.map((own) => ({
    ...own,
    goes: (to: string) => own.home.segment === to || (landings.of(to) !== undefined && leavesOthers(own, to)),
    cuts: (at: string) => (own.home.segment === at ? undefined : landings.pulledFrom(at)),
  }));
  const rankOf = rankIn(show);
  const attempt = () => {
    const jobs = tasks.map((task, index) => ({
      needs: reachable[index] ?? [],
      // what nobody gets to holds up itself and whoever waits for it
      after: lost.has(task) ? [index] : task.after.flatMap((before) => at.get(before) ?? []),
    }));
    const found = fewestMoves(jobs, able, areNear);
    const groups = [found.before, ...found.moves.map((move) => move.jobs)].map((list) =>
      list.flatMap((index) => tasks[index] ?? []),
    );
    const stops = stopsOf(addressing, adapters, landings, found.moves);
    return { found, stops, ordered: sequence(groups, units, rankOf, (station) => spotsAt(stops[station])) };
  };
  let { found, stops, ordered } = attempt();
  // what only a clash would let begin is left for later, and nobody goes anywhere for it
  const held: Task[] = [];
  for (let tries = 0; ordered.stuck.length > 0 && tries < mostTries; tries += 1) {
    for (const task of ordered.stuck) if (task.kind !== 'home') held.push(task);
    for (const task of held) lost.add(task);
    ({ found, stops, ordered } = attempt());
  }
  const steps = ordered.stations.map((timed, station) => [
    ...(stops[station]?.step ? [computerStep(computer, station, stops[station]?.step, timed[0]?.startS ?? 0)] : []),
    ...timed.filter(({ task }) => task.kind !== 'home').map(({ task, startS }) => stepOf(task, station, startS, units)),
  ]);
  const waiting = waitingIn(tasks);
  const full = steps.map((list) => list.map((step) => ({ ...step, waiting: waiting.get(step.key) ?? [] })));
  const stuck = [...found.stuck.flatMap((index) => tasks[index] ?? []), ...ordered.stuck].filter(
    ({ kind }) => kind !== 'home',
  );
  return {
    computer,
    stations: full
      .map((list, station) => stationOf(stops[station], list, computer))
      .filter((station) => station.steps.length > 0),
    steps: full.flat(),
    changes: found.changes,
    cables: found.cables,
    bound: found.bound,
    exact: found.exact,
    seconds: ordered.seconds,
    blocked: [...blocked, ...stuckUnits(stuck, new Set([...lost].filter((task) => !held.includes(task))))],
    units,
  };
}

/** Its cable is there, belongs there, or can be led there. */
const canBeAt = (adapters: readonly ComputerAdapter[], landings: Landings, { segment }: Need): boolean =>
  adapters.some((own) => own.segment === segment || own.home.segment === segment) ||
  (adapters.length > 0 && landings.of(segment) !== undefined);

interface Stop {
  readonly held: readonly {
    readonly label: string;
    readonly segment: string | null;
    readonly places: readonly Place[];
  }[];
  readonly moved: number;
  readonly lead: Landing | undefined;
  readonly step: ComputerStep | undefined;
}

/** Two subnets of which one holds the other: on two adapters nobody knows which of them a packet takes. */
const areNear = (a: string, b: string): boolean => overlaps(subnetFrom(a), subnetFrom(b));

function subnetFrom(text: string) {
  const [network = '', prefix = ''] = text.split('/');
  return { network: mustIp(network), prefix: Number(prefix) };
}

/** Where the computer is in each station: before its first move as it is now. */
function stopsOf(
  addressing: AddressingFacts,
  adapters: readonly ComputerAdapter[],
  landings: Landings,
  moves: ReturnType<typeof fewestMoves>['moves'],
): Stop[] {
  let held = adapters.map(({ key, label, segment, places }) => ({ adapter: key, label, segment, places }));
  const stops: Stop[] = [{ held, moved: 0, lead: undefined, step: undefined }];
  for (const { adapter, need, cable, address, replaces } of moves) {
    const own = adapters[adapter];
    const before = held[adapter];
    if (!own || !before) continue;
    const place = address && need.subnet !== null ? placeIn(addressing, adapters, need.subnet) : undefined;
    const left = before.places.find((one) => replaces !== null && subnetText(one) === replaces);
    const places = [...before.places.filter((one) => one !== left), ...(place ? [place] : [])];
    const isLeft = (one: Place): boolean => place !== undefined && areNear(subnetText(one), subnetText(place));
    held = held.map((one, n) =>
      n === adapter
        ? { ...one, segment: need.segment, places }
        : { ...one, places: one.places.filter((other) => !isLeft(other)) },
    );
    const to = need.segment === own.home.segment ? ('as_planned' as const) : landings.of(need.segment);
    const cableTo = cable ? to : undefined;
    const step = {
      ...{ adapter: own.key, label: own.label, socket: own.socket, held },
      place,
      replaces: left,
      cable: cableTo,
    };
    stops.push({ held, moved: adapter, lead: to === 'as_planned' ? undefined : to, step });
  }
  return stops;
}

const spotsAt = (stop: Stop | undefined): Spot[] =>
  (stop?.held ?? []).flatMap(({ segment, places }) =>
    segment === null ? [] : places.map(({ ip }) => ({ segment, ip })),
  );

function computerStep(computer: Device, station: number, step: ComputerStep | undefined, startS: number): BringUpStep {
  const text = step?.place ? `${formatIp(step.place.ip)}/${step.place.prefix}` : 'cable';
  const to =
    step?.cable === 'as_planned'
      ? 'planned'
      : step?.cable
        ? `${step.cable.deviceId} ${step.cable.socket} ${step.cable.vlan ?? ''}`
        : '';
  return {
    key: `computer:${step?.adapter ?? ''} ${text} ${to}`.trim().slice(0, 130),
    kind: 'computer',
    deviceId: computer.id,
    ...{
      station,
      access: [],
      lines: [],
      acts: [],
      addressId: undefined,
      basis: undefined,
      partnerId: undefined,
      before: 'none',
      waits: 0,
      after: [],
      waiting: [],
    },
    place: step?.place,
    computer: step,
    hands: 60,
    startS: Math.max(0, startS - 60),
    why: { code: 'computer_here', units: [] },
  };
}

function stepOf(task: Task, station: number, startS: number, units: ReadonlyMap<string, UnitPlan>): BringUpStep {
  const { key, kind, deviceId, access, lines, acts, place, addressId, basis, partnerId, hands, waits, why, after } =
    task;
  const before = units.get(deviceId)?.now.at ?? 'none';
  return {
    ...{
      key,
      kind,
      deviceId,
      station,
      access,
      lines,
      acts,
      place,
      addressId,
      basis,
      partnerId,
      before,
      hands,
      waits,
      startS,
      why,
    },
    computer: undefined,
    after: [...new Set(after.map((one) => one.key))],
    waiting: [],
  };
}

function waitingIn(tasks: readonly Task[]): Map<string, string[]> {
  const waiting = new Map<string, string[]>();
  for (const { key, kind, after } of tasks)
    if (kind !== 'home')
      for (const before of new Set(after.map((one) => one.key))) {
        const list = waiting.get(before) ?? [];
        list.push(key);
        waiting.set(before, list);
      }
  return waiting;
}

function stationOf(stop: Stop | undefined, steps: readonly BringUpStep[], computer: Device): Station {
  const held = stop?.held ?? [];
  return {
    places: held.flatMap(({ label, places }) => places.map((place) => [label, place] as const)),
    segment: held[stop?.moved ?? 0]?.segment ?? null,
    lead: stop?.lead,
    units: [...new Set(steps.map(({ deviceId }) => deviceId))].filter((id) => id !== computer.id),
    steps,
  };
}

function stuckUnits(stuck: readonly Task[], lost: ReadonlySet<Task>): Blocked[] {
  const byUnit = new Map<string, Blocked>();
  for (const task of stuck)
    if (!byUnit.has(task.deviceId))
      byUnit.set(task.deviceId, { deviceId: task.deviceId, code: lost.has(task) ? 'not_reached' : 'stuck', units: [] });
  return [...byUnit.values()];
}

/** In the order of switching on, and there by name. */
function rankIn(show: Show): (deviceId: string) => number {
  const order = powerOrder(show).flatMap(({ devices }) => [...devices].sort(byName));
  const rank = new Map(order.map(({ id }, at) => [id, at]));
  return (id) => rank.get(id) ?? order.length;
}
