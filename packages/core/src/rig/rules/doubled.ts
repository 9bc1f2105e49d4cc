import { finding, fixWith } from '../../findings/index.ts';
import { changeOf, groupBy, rowsOf, typeOf, updateRow, type Device, type Show } from '../../show/index.ts';

const subjects = (devices: readonly Device[]) => devices.map(({ id }) => ({ table: 'devices' as const, id }));
const doubles = <Item>(groups: Map<string, Item[]>): [string, Item[]][] =>
  [...groups].filter(([, items]) => items.length > 1);

/** One name for two units: nobody can tell which is meant, on a label or in a cue (need 5.2). */
export const doubledName = (show: Show) =>
  doubles(groupBy(rowsOf(show, 'devices'), ({ name }) => name.toLowerCase())).map(([, devices]) =>
    finding('rig', 'doubled_name', 'risky', subjects(devices), { name: devices[0]?.name ?? '', count: devices.length }),
  );

/** Two units of one type with one number: placement and people mix them up. The later one gets the next free number. */
export const doubledUnit = (show: Show) => {
  const perType = groupBy(
    rowsOf(show, 'devices').filter((device) => device.unit !== null),
    (device) => typeOf(show, device)?.model ?? '',
  );
  return [...perType].flatMap(([, all]) => {
    const used = new Set(all.map((device) => device.unit));
    let next = 1;
    while (used.has(next)) next += 1;
    return doubles(groupBy(all, (device) => String(device.unit))).map(([unit, devices]) => {
      const last = [...devices].sort((a, b) => a.rev - b.rev || (a.id < b.id ? -1 : 1)).at(-1);
      const change = last && changeOf(`Number ${last.name} ${next}`, [updateRow('devices', last, { unit: next })]);
      const details = { unit, type: typeOf(show, devices[0])?.name ?? '', names: devices.map((device) => device.name) };
      return finding('rig', 'doubled_unit', 'risky', subjects(devices), details, [
        fixWith(`Make ${last?.name} unit ${next}`, change),
      ]);
    });
  });
};

/** One MAC address on two interfaces: a slip in the list, since no two adapters share one. */
export const doubledMac = (show: Show) =>
  doubles(
    groupBy(
      rowsOf(show, 'interfaces').filter((row) => row.mac !== null),
      (row) => row.mac ?? '',
    ),
  ).map(([mac, rows]) => {
    const devices = rows.flatMap((row) => show.devices[row.deviceId] ?? []);
    return finding('rig', 'doubled_mac', 'risky', subjects(devices), {
      mac,
      names: devices.map((device) => device.name),
    });
  });
