import {
  byName,
  groupBy,
  hostOf,
  interfacesOf,
  memoFor,
  rowsBy,
  rowsOf,
  typeOf,
  type Device,
  type DeviceType,
  type Show,
} from '../show/index.ts';
import { techniciansComputer } from './computer.ts';

/** Two units that are to hold the same: a program and its hardware, a mixer and its rack, linked computers. */
export interface Partners {
  /** The program of the two, or the one that controls the other. */
  readonly one: Device;
  readonly other: Device;
  /** What an overwritten side loses; nothing where both only have to have the same open. */
  readonly what: readonly string[];
}

interface Unit {
  readonly device: Device;
  readonly type: DeviceType;
}

/**
 * Who keeps step with whom (needs 7.1 and 7.4). Types say which models go together; which units those are is certain where
 * one controls the other, where a model is there once, and where alike ones use the same function.
 */
export const partnersIn: (show: Show) => readonly Partners[] = memoFor(findPartners);

function findPartners(show: Show): Partners[] {
  const units = rowsOf(show, 'devices').flatMap((device): Unit[] => {
    const type = typeOf(show, device);
    return type ? [{ device, type }] : [];
  });
  const byModel = groupBy(units, ({ type }) => type.model);
  const linked = new Set(rowsOf(show, 'links').map(({ controllerId, targetId }) => `${controllerId} ${targetId}`));
  const mine = techniciansComputer(show)?.id;
  const isLinked = (a: Unit, b: Unit) => linked.has(`${a.device.id} ${b.device.id}`);
  const found: Partners[] = [];
  for (const [model, own] of byModel)
    for (const partner of new Set(own.flatMap(({ type }) => type.matches.map((match) => match.model)))) {
      const theirs = byModel.get(partner) ?? [];
      const isOnce = own.length === 1 || theirs.length === 1;
      const pairs = partner === model ? neighbours(own) : own.flatMap((a) => theirs.map((b): [Unit, Unit] => [a, b]));
      for (const [a, b] of pairs)
        if (partner === model || isOnce || isLinked(a, b) || isLinked(b, a)) found.push(partnersOf(a, b, isLinked));
    }
  const meets = found.filter((pair) => doMeet(show, pair, mine));
  return [...new Map(meets.map((pair) => [partnersKey(pair), pair])).values()];
}

/** On one computer, in one network, or one of them runs on the computer that goes wherever it is wanted. */
function doMeet(show: Show, { one, other }: Partners, mine: string | undefined): boolean {
  const [host, otherHost] = [hostOf(show, one).id, hostOf(show, other).id];
  if (host === otherHost || host === mine || otherHost === mine) return true;
  const networksOf = (id: string) =>
    interfacesOf(show, id)
      .flatMap((its) => rowsBy(show, 'addresses', 'interfaceId').get(its.id) ?? [])
      .map(({ networkId }) => networkId);
  const near = new Set(networksOf(host));
  return networksOf(otherHost).some((id) => near.has(id));
}

/** Alike units in a row, by name: each with the next of its group that uses one of its functions too. */
function neighbours(units: readonly Unit[]): [Unit, Unit][] {
  const sorted = [...units].sort((a, b) => byName(a.device, b.device));
  return sorted.flatMap((unit, at): [Unit, Unit][] => {
    const next = sorted
      .slice(at + 1)
      .find(
        ({ device }) =>
          device.peers === unit.device.peers && device.features.some((key) => unit.device.features.includes(key)),
      );
    return next ? [[unit, next]] : [];
  });
}

function partnersOf(a: Unit, b: Unit, controls: (one: Unit, other: Unit) => boolean): Partners {
  const rank = (unit: Unit, other: Unit): number =>
    (unit.type.form === 'program' ? 0 : 2) + (controls(unit, other) ? 0 : 1);
  const isFirst = rank(a, b) - rank(b, a) || (a.device.id < b.device.id ? -1 : 1);
  const [one, other] = isFirst < 0 ? [a, b] : [b, a];
  return {
    one: one.device,
    other: other.device,
    what: [...new Set([...one.type.erases, ...other.type.erases])].sort(),
  };
}

/** How the versions of two partners have to go together. */
export function matchRule(show: Show, one: Device, other: Device): DeviceType['matches'][number]['rule'] | undefined {
  const [a, b] = [typeOf(show, one), typeOf(show, other)];
  const says = (type: DeviceType | undefined, model: string | undefined) =>
    type?.matches.find((match) => match.model === model)?.rule;
  return says(a, b?.model) ?? says(b, a?.model);
}

/** The key of their step. */
export const partnersKey = ({ one, other }: Pick<Partners, 'one' | 'other'>): string => `sync:${one.id}+${other.id}`;

/** What a synchronisation was of: another box on either side has to be synchronised anew. */
export const syncBasis = ({ one, other }: Pick<Partners, 'one' | 'other'>): string => `${one.swaps} ${other.swaps}`;
