import { once } from '../show/index.ts';
import type { Blocked, Spot } from './tasks.ts';
import { spotNow, type UnitPlan } from './unit-plan.ts';

/** All units that are to be set: who stands where, who is in whose way, and who is left out. */
export class Crowd {
  readonly units: ReadonlyMap<string, UnitPlan>;
  /** Units at which nothing is done. */
  readonly out = new Set<string>();
  readonly blocked: Blocked[] = [];

  constructor(units: ReadonlyMap<string, UnitPlan>) {
    this.units = units;
  }

  block(deviceId: string, code: Blocked['code'], units: readonly string[] = []): void {
    this.out.add(deviceId);
    this.blocked.push({ deviceId, code, units });
  }

  readonly moves = ({ lines, isProgram }: UnitPlan): boolean => !isProgram && lines.some(({ of }) => of === 'address');

  /** Who stands now where a unit is planned. */
  holdersOf({ device, takes }: UnitPlan): UnitPlan[] {
    return takes
      .flatMap((spot) => this.standingAt().get(spot.ip) ?? [])
      .filter((other) => other.device.id !== device.id);
  }

  /** Others that stand on the same address in the same segment now. */
  alikeWith(plan: UnitPlan): UnitPlan[] {
    const [spot] = spotNow(plan);
    const there = spot ? (this.standingAt().get(spot.ip) ?? []) : [];
    return there.filter((other) => other.device.id !== plan.device.id && !this.out.has(other.device.id));
  }

  /**
   * Who stands on which address now, in whatever segment: as long as somebody is not set, nobody can be sure in which one
   * that is.
   */
  readonly standingAt = once(() => {
    const standing = new Map<number, UnitPlan[]>();
    for (const plan of this.units.values())
      for (const { ip } of [...spotNow(plan), ...maybeAt(plan)]) standing.set(ip, [...(standing.get(ip) ?? []), plan]);
    return standing;
  });
}

/** Whoever left a step at which it gets its address may have done it: it counts as being there too. */
const maybeAt = ({ now, takes }: UnitPlan): readonly Spot[] =>
  now.progress?.left.some(({ step }) => /^(key_in|restart):/.test(step)) ? takes : [];
