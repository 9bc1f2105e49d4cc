import { byName, rowsOf, typeOf, type Device, type DeviceType, type Show } from '../show/index.ts';

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
  const controlling = new Set(rowsOf(show, 'links').map(({ controllerId }) => controllerId));
  const typed = rowsOf(show, 'devices').flatMap((device) => {
    const type = typeOf(show, device);
    return type ? [{ device, type, stage: stageOf(type, controlling.has(device.id)) }] : [];
  });
  return stages.flatMap((stage): PowerStep[] => {
    const own = typed.filter((item) => item.stage === stage).sort((a, b) => byName(a.device, b.device));
    const waits = own.map(({ type }) => type.startsInSeconds ?? 0);
    return own.length > 0 ? [{ stage, devices: own.map(({ device }) => device), waitSeconds: Math.max(...waits) }] : [];
  });
}

function stageOf(type: DeviceType, controls: boolean): PowerStage {
  if (type.form === 'program') return 'programs';
  if (type.forwards) return 'network';
  return controls ? 'controllers' : 'targets';
}
