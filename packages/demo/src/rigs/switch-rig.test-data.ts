import { show as core, type Show } from '@deep-patch/core';
import { diceOf, type Dice } from './dice.test-data.ts';
import { rigTypes } from './rig-types.test-data.ts';

interface Size {
  readonly switches: number;
  readonly desks: number;
  /** Managed switches with sockets to spare, and a desk at every leaf. */
  readonly roomy?: boolean;
}

/** A tree of switches, some of them plain, with desks on it that computers drive: every link has to hold. */
export function switchRig(dice: Dice, { switches, desks, roomy = false }: Size): Show {
  const usual = rigTypes(diceOf(7));
  const tables: Record<string, Record<string, core.Row>> = {};
  const put = <T extends core.TableName>(table: T, row: Parameters<typeof core.filledRow<T>>[1] & { id: string }) => {
    (tables[table] ??= {})[row.id] = { ...core.filledRow(table, row), rev: 1 } as unknown as core.Row;
  };
  const types = usual.map((type) => ({
    ...type,
    sockets:
      roomy && type.forwards
        ? Array.from({ length: 64 }, (_, at) => ({ ...type.sockets[0], key: `p-${at + 1}`, label: `p-${at + 1}` }))
        : type.sockets.slice(0, type.forwards ? 3 + dice.below(3) : roomy ? 1 : 2),
  })) as core.DeviceType[];
  const vlans = dice.chance(0.5) ? [20, 30] : [null];
  for (const [at, vlan] of vlans.entries())
    put('networks', {
      id: `net-${at}`,
      name: `Net ${at}`,
      network: `10.1.${at}.0`,
      ...{ prefix: 24, vlan, purpose: '', gateway: null, poolFrom: null, poolTo: null },
    });
  const free = new Map<string, string[]>();
  const unit = (id: string, typeId: string) => {
    put('devices', { id, typeId, name: id, unit: null, place: '', firmware: '2.1', note: '' });
    free.set(
      id,
      (types.find((type) => type.id === typeId)?.sockets ?? []).map(({ key }) => key),
    );
    return id;
  };
  const run = (from: string, to: string) => {
    const [a, b] = [free.get(from)?.shift(), free.get(to)?.shift()];
    if (a === undefined || b === undefined) return false;
    const ends = { fromDevice: from, fromSocket: a, toDevice: to, toSocket: b };
    put('cables', { id: `c-${from}-${to}`, ...ends, medium: 'copper', lengthM: 5 });
    return true;
  };
  const hubs: string[] = [];
  for (let at = 0; at < switches; at += 1) {
    const hub = unit(`hub-${at}`, roomy || dice.chance(0.75) ? 'bare' : 'plain');
    const above = hubs.filter((id) => (free.get(id)?.length ?? 0) > 1);
    if (at === 0 || (above.length > 0 && run(hub, dice.pick(above)))) hubs.push(hub);
  }
  const hosted = (id: string, net: number, host: number) => {
    put('interfaces', { id: `${id}-lan`, deviceId: id, adapter: 'lan', mac: null });
    const ip = `10.1.${net}.${host}`;
    put('addresses', {
      id: `${id}-a`,
      interfaceId: `${id}-lan`,
      networkId: `net-${net}`,
      ...{ ip, prefix: null, gateway: null, held: false },
    });
    return ip;
  };
  const place = (id: string, typeId: string, at: number) => {
    unit(id, typeId);
    const open = hubs.filter((hub) => (free.get(hub)?.length ?? 0) > 0);
    return open.length > 0 && run(id, roomy ? (hubs[at % hubs.length] ?? '') : dice.pick(open));
  };
  const its = usual.find(({ id }) => id === 'desk')?.services.find(({ key }) => key === 'told');
  if (!its) throw new Error('a desk is meant to tell whoever asked');
  for (const [net] of vlans.entries()) {
    const controllerId = `driver-${net}`;
    if (!place(controllerId, 'desk', net)) continue;
    hosted(controllerId, net, 2);
    for (let at = net; at < desks; at += vlans.length) {
      const id = `desk-${at}`;
      if (!place(id, 'desk', at)) continue;
      hosted(id, net, 10 + at);
      const ports = { receivePort: its.receivePort, sendPort: its.sendPort };
      put('services', {
        id: `${id}-s`,
        deviceId: id,
        key: its.key,
        enabled: true,
        ...ports,
        ...{ sendTo: null, account: null, secretId: null },
      });
      const [command] = its.commands;
      put('links', {
        ...{ id: `to-${id}`, controllerId, targetId: id, serviceKey: its.key, slot: null, host: null },
        ...{ port: its.receivePort, replyPort: its.sendPort, account: null, secretId: null, mustHold: true },
        ...{ command: command?.key ?? null, args: command?.args.map(({ example }) => example) ?? [] },
      });
    }
  }
  return {
    ...core.emptyShow({ id: 'rig', name: 'Rig' }),
    rev: 1,
    types: Object.fromEntries(types.map((type) => [type.id, { ...type, rev: 1 }])),
    ...tables,
  };
}
