import { fixWith, groups, nameList } from '../../findings/index.ts';
import { changeOf, indexBy, rowsBy, typeOf, updateRow, type Device, type Show } from '../../show/index.ts';
import { rigRule } from '../rig-rule.ts';

const subjects = (devices: readonly Device[]) => devices.map(({ id }) => ({ table: 'devices' as const, id }));
const modelOf = (show: Show, device: Device | undefined): string => typeOf(show, device)?.model ?? '';

const namesakes = indexBy('devices', (device) => [[device.name.toLowerCase(), device]]);
const alikeNumbered = indexBy('devices', (device, show) =>
  device.unit === null ? [] : [[`${modelOf(show, device)} ${device.unit}`, device]],
);
/** The numbers that are taken, by model. */
const numbered = indexBy('devices', (device, show) =>
  device.unit === null ? [] : [[modelOf(show, device), device.unit]],
);
const oneSerial = indexBy('devices', (device, show) => {
  const serial = device.serial.trim().toLowerCase();
  return serial === '' ? [] : [[`${modelOf(show, device)} ${serial}`, device]];
});

/** One name for two units: nobody can tell which is meant, on a label or in a cue (need 5.2). */
export const doubledName = rigRule<{ doubled_name: { name: string; count: number } }>(
  {
    doubled_name: (f) => [
      `${f.count} units are called ${f.name}.`,
      'Nobody can tell on a label or in a cue which one is meant.',
      'Give each a name of its own, with its place or number.',
    ],
  },
  groups(
    namesakes,
    (found, devices) => [
      found('doubled_name', 'risky', subjects(devices), { name: devices[0]?.name ?? '', count: devices.length }),
    ],
    2,
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
  groups(
    alikeNumbered,
    (found, devices, show) => {
      const used = new Set(numbered(show).get(modelOf(show, devices[0])));
      let next = 1;
      while (used.has(next)) next += 1;
      const last = [...devices].sort((a, b) => a.rev - b.rev || (a.id < b.id ? -1 : 1)).at(-1);
      const change = last && changeOf(`Number ${last.name} ${next}`, [updateRow('devices', last, { unit: next })]);
      const details = { unit: String(last?.unit), names: devices.map((device) => device.name) };
      return [
        found('doubled_unit', 'risky', subjects(devices), details, [
          fixWith(`Make ${last?.name} unit ${next}`, change),
        ]),
      ];
    },
    2,
  ),
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
  groups(
    (show) => rowsBy(show, 'interfaces', 'mac'),
    (found, rows, show) => {
      const devices = rows.flatMap((row) => show.devices[row.deviceId] ?? []);
      const details = { mac: rows[0]?.mac ?? '', names: devices.map((device) => device.name) };
      return [found('doubled_mac', 'risky', subjects(devices), details)];
    },
    2,
  ),
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
  groups(
    oneSerial,
    (found, devices) => {
      const details = { serial: devices[0]?.serial.trim() ?? '', names: devices.map(({ name }) => name) };
      return [found('doubled_serial', 'risky', subjects(devices), details)];
    },
    2,
  ),
);
