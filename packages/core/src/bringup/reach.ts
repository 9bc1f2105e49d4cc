import { runGraph } from '../cabling/index.ts';
import { typeOf } from '../show/index.ts';
import { accessTo, aloneWith, subnetNear, type Access } from './access.ts';
import type { Ground } from './ground.ts';
import type { Need } from './moves.ts';
import type { Why } from './tasks.ts';
import type { Standing } from './unit-now.ts';
import type { UnitPlan } from './unit-plan.ts';

/** A place that does not exist. */
export const nowhere: Need = { segment: 'nowhere', subnet: null };

/** How the computer gets to a unit, and past whom. */
export class Reach {
  private readonly ground: Ground;
  private graph: ReturnType<typeof runGraph> | undefined;

  constructor(ground: Ground) {
    this.ground = ground;
  }

  accessTo(plan: UnitPlan, at: Standing): Access[] {
    const { show } = this.ground;
    const isNow = at === plan.now.at && plan.segmentNow !== plan.segment;
    const adapter = isNow ? plan.type.adapters[0]?.key : accessAdapter(plan);
    const segment = this.placeFor(isNow ? plan.segmentNow : plan.segment, plan.device.id, adapter);
    return accessTo(show, this.ground, { ...plan, segment }, at);
  }

  /** The segment of a unit, or the unit alone where no socket of a switch is free for the computer. */
  placeFor(segment: string, deviceId: string, adapter: string | undefined): string {
    const { adapters, landings, cabling } = this.ground;
    // where frames run in circles a cable of one's own does not help
    if (cabling.domains().loopIn(segment)) return segment;
    const isOpen = adapters.some((own) => own.segment === segment || own.home.segment === segment);
    return isOpen || landings.of(segment) ? segment : aloneWith(deviceId, adapter);
  }

  /** Where a computer meets a unit whose address somebody else picks. */
  needsAt(plan: UnitPlan): Need[] {
    const { addressing, cabling } = this.ground;
    const subnet = subnetNear(addressing, cabling, plan, plan.target);
    return subnet === undefined ? [nowhere] : [{ segment: plan.segment, subnet }];
  }

  /** Units that frames pass between the computer and a unit. */
  readonly wayTo = memoUnit((plan: UnitPlan): string[] => {
    const { show, computer, adapters, landings } = this.ground;
    // of two adapters in one segment it may be either that gets there: past whoever stands on either way
    const homes = adapters.filter(({ home: { segment } }) => segment === plan.segment);
    const landing = homes.length > 0 ? undefined : landings.of(plan.segment);
    const from = landing ? [landing.deviceId] : homes.map(({ key }) => `${computer.id}/${key}`);
    const hub = landing && typeOf(show, show.devices[landing.deviceId])?.forwards ? [landing.deviceId] : [];
    const passed = from.flatMap((node) => this.passed(node, nodeOf(plan)));
    return [...new Set([...hub, ...passed])].filter((id) => id !== plan.device.id);
  });

  /** Units that frames pass between two units. */
  between(one: UnitPlan, other: UnitPlan): string[] {
    const ends = new Set([one.device.id, other.device.id]);
    const shared = one.planned.find(({ network }) => other.planned.some((item) => item.network.id === network.id));
    const networkId = shared?.network.id;
    return this.passed(nodeOf(one, networkId), nodeOf(other, networkId)).filter((id) => !ends.has(id));
  }

  private passed(from: string, to: string): string[] {
    const { show, cabling } = this.ground;
    const graph = (this.graph ??= runGraph(show, cabling.domains()));
    const between = from === to ? [] : (graph.path(from, to)?.between ?? []);
    return [...new Set(between.map((node) => node.split('/')[0] ?? node))];
  }
}

/** A unit in the graph of the runs: itself where it passes frames on, else its adapter, that in a network where one is named. */
function nodeOf({ device, type, planned }: UnitPlan, networkId?: string): string {
  if (type.forwards) return device.id;
  const own = planned.find(({ network }) => network.id === networkId) ?? planned[0];
  return `${device.id}/${own?.interface.adapter ?? type.adapters[0]?.key ?? ''}`;
}

/** The adapter by which its settings are reached. */
const accessAdapter = ({ planned, type }: UnitPlan): string | undefined =>
  planned[0]?.interface.adapter ?? type.adapters[0]?.key;

export const reachWhy = (access: readonly Access[]): Why => ({
  code: access.length === 0 || access.some(({ need }) => need === null) ? 'needs_no_computer' : 'computer_here',
  units: [],
});

function memoUnit(work: (plan: UnitPlan) => string[]): (plan: UnitPlan) => string[] {
  const known = new Map<string, string[]>();
  return (plan) => {
    const found = known.get(plan.device.id) ?? work(plan);
    known.set(plan.device.id, found);
    return found;
  };
}
