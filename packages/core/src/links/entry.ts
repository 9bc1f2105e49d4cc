import { mustIp, type Planned } from '../addressing/index.ts';
import type { Link } from '../show/index.ts';
import { facing, type Side, type Sides } from './sides.ts';

/** What stands in a controller's list for a target, and the adapters that somebody would look at. */
export interface Entry {
  /** The address that is keyed in; undefined while the plan has none. */
  readonly ip: number | undefined;
  readonly from: string | undefined;
  readonly to: string | undefined;
  readonly near: Planned | undefined;
  readonly far: Planned | undefined;
}

export const loopbackIp = mustIp('127.0.0.1');
export const isLoopback = (ip: number): boolean => ip >>> 24 === 127;

/**
 * What the plan keys into a controller for a link: what was typed; on one machine loopback, or the address of the
 * adapter that the target was told to use; else the target's address on a network that both are on (C12).
 */
export function entryOf({ sides }: { readonly sides: Sides }, link: Link): Entry {
  const [controller, target] = [sides(link.controllerId), sides(link.targetId)];
  if (!controller || !target) return { ip: undefined, from: undefined, to: undefined, near: undefined, far: undefined };
  const [near, far] = facing(controller, target);
  return {
    ip: link.host === null ? plannedEntry(controller, target, far) : mustIp(link.host),
    from: near?.interface.adapter ?? controller.firstAdapter,
    to: far?.interface.adapter ?? target.firstAdapter,
    near,
    far,
  };
}

function plannedEntry(controller: Side, target: Side, far: Planned | undefined): number | undefined {
  if (controller.host.id !== target.host.id) return far?.ip ?? undefined;
  return target.device.adapter === null ? loopbackIp : (far?.ip ?? loopbackIp);
}
