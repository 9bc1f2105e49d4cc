import { fixWith, nameList } from '../../findings/index.ts';
import { changeOf, groupBy, rowsOf, typeOf, updateRow, type Device } from '../../show/index.ts';
import { rigRule } from '../rig-rule.ts';

const subjects = (devices: readonly Device[]) => devices.map(({ id }) => ({ table: 'devices' as const, id }));
const doubles = <Item>(groups: Map<string, Item[]>): [string, Item[]][] =>
  [...groups].filter(([, items]) => items.length > 1);

/** One name for two units: nobody can tell which is meant, on a label or in a cue (need 5.2). */
export const doubledName = rigRule<{ doubled_name: { name: string; count: number } }>(
  {
    doubled_name: (f) => [
      `${f.count} units are called ${f.name}.`,
      'Nobody can tell on a label or in a cue which one is meant.',
      'Give each a name of its own, with its place or number.',
    ],
  },
  (found, show) =>
    doubles(groupBy(rowsOf(show, 'devices'), ({ name }) => name.toLowerCase())).map(([, devices]) =>
      found('doubled_name', 'risky', subjects(devices), { name: devices[0]?.name ?? '', count: devices.length }),
    ),
);

/** Two units of one type with one number: placement and people mix them up. The later one gets the next free number. */
export const doubledUnit = rigRule<{ doubled_unit: { unit: string; names: string[] } }>(
  {
    doubled_unit: (f, fixable) => [
      `${nameList(f.names)} are both unit ${f.unit}.`,
      'Addresses follow unit numbers, so one of them gets a number that nobody expects.',
      fixable ? 'Renumber one of them.' : 'Give one of them another number.',
    ],
  },
  (found, show) => {
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
        const names = devices.map((device) => device.name);
        return found('doubled_unit', 'risky', subjects(devices), { unit, names }, [
          fixWith(`Make ${last?.name} unit ${next}`, change),
        ]);
      });
    });
  },
);

/** One MAC address on two interfaces: a slip in the list, since no two adapters share one. */
export const doubledMac = rigRule<{ doubled_mac: { mac: string; names: string[] } }>(
  {
    doubled_mac: (f) => [
      `${nameList(f.names)} have the same MAC address ${f.mac}.`,
      'No two adapters share one, so one line of the list is wrong and a scan will mix them up.',
      'Read it again from the unit’s label.',
    ],
  },
  (found, show) =>
    doubles(
      groupBy(
        rowsOf(show, 'interfaces').filter((row) => row.mac !== null),
        (row) => row.mac ?? '',
      ),
    ).map(([mac, rows]) => {
      const devices = rows.flatMap((row) => show.devices[row.deviceId] ?? []);
      return found('doubled_mac', 'risky', subjects(devices), { mac, names: devices.map((device) => device.name) });
    }),
);

/** One serial number on two units of a model: each has its own, so one line of the list is wrong (need 1.1). */
export const doubledSerial = rigRule<{ doubled_serial: { serial: string; names: string[] } }>(
  {
    doubled_serial: (f) => [
      `${nameList(f.names)} have the same serial number ${f.serial}.`,
      'No two units share one: one line of the list is wrong, or one unit stands in it twice.',
      'Read it again from the unit’s label.',
    ],
  },
  (found, show) =>
    doubles(
      groupBy(
        rowsOf(show, 'devices').filter(({ serial }) => serial.trim() !== ''),
        (device) => `${typeOf(show, device)?.model ?? ''} ${device.serial.trim().toLowerCase()}`,
      ),
    ).map(([, devices]) =>
      found('doubled_serial', 'risky', subjects(devices), {
        serial: devices[0]?.serial.trim() ?? '',
        names: devices.map(({ name }) => name),
      }),
    ),
);
