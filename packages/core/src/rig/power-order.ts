import {
  byName,
  groupBy,
  memo,
  rowsOf,
  typeOf,
  type Device,
  type DeviceType,
  type Link,
  type Show,
} from '../show/index.ts';

export type PowerStage = 'network' | 'targets' | 'controllers' | 'programs';

/** What is switched on together, and how long to wait before the next (need 1.12). */
export interface PowerStep {
  readonly stage: PowerStage;
  readonly devices: readonly Device[];
  /** The longest start-up of them in seconds; 0 where no type says one. */
  readonly waitSeconds: number;
}

const stages: readonly PowerStage[] = ['network', 'targets', 'controllers', 'programs'];

/**
 * The order of switching on: what others are found through, then what is controlled, then what controls and looks its
 * targets up, programs last, since they see only what is there when they start.
 */
export function powerOrder(show: Show): PowerStep[] {
  const links = rowsOf(show, 'links');
  const controlling = new Set(links.map(({ controllerId }) => controllerId));
  const rankOf = lookUpRanks(show, links);
  const typed = rowsOf(show, 'devices').flatMap((device) => {
    const type = typeOf(show, device);
    return type ? [{ device, type, stage: stageOf(type, controlling.has(device.id)), rank: rankOf(device.id) }] : [];
  });
  return stages.flatMap((stage): PowerStep[] => {
    const own = typed.filter((item) => item.stage === stage).sort((a, b) => byName(a.device, b.device));
    const ranks = [...new Set(own.map(({ rank }) => rank))].sort((a, b) => a - b);
    return ranks.map((rank) => {
      const together = own.filter((item) => item.rank === rank);
      const waits = together.map(({ type }) => type.startsInSeconds ?? 0);
      return { stage, devices: together.map(({ device }) => device), waitSeconds: Math.max(...waits) };
    });
  });
}

/**
 * Who looks an address up once comes after whom it looks for, wherever both stand in the order: 0 for most, one more
 * than its targets for the others. A circle ends where it began.
 */
function lookUpRanks(show: Show, links: readonly Link[]): (deviceId: string) => number {
  const targets = groupBy(
    links.filter(({ controllerId }) => typeOf(show, show.devices[controllerId])?.looksUpOnce),
    ({ controllerId }) => controllerId,
  );
  const controls = new Set(links.map(({ controllerId }) => controllerId));
  const rank = (id: string, path: ReadonlySet<string>): number => {
    // a target that controls nothing is on before all of them
    const waits = (targets.get(id) ?? []).filter(({ targetId }) => controls.has(targetId) && !path.has(targetId));
    return Math.max(0, ...waits.map(({ targetId }) => 1 + rank(targetId, new Set([...path, targetId]))));
  };
  return memo((id: string) => rank(id, new Set([id])));
}

function stageOf(type: DeviceType, controls: boolean): PowerStage {
  if (type.form === 'program') return 'programs';
  if (type.forwards) return 'network';
  return controls ? 'controllers' : 'targets';
}
