import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { applyChange } from '../show/index.ts';
import { adapter, device, service, link, showOf } from '../show/sample-show.test-data.ts';
import { compareVersions } from './compare-versions.ts';
import { findRig } from './find-rig.ts';
import { planAddDevice } from './plan-devices.ts';
import { readGearList } from './read-gear-list.ts';
import { readMac } from './read-mac.ts';
import { gearFields } from './gear-headings.ts';
import { gearWords } from './gear-words.ts';

const show = showOf({
  devices: [device('Desk A', 'desk')],
  interfaces: [{ ...adapter('Desk A'), mac: '02:00:00:00:00:01' }],
});
const counter = () => {
  let n = 0;
  return () => `n${(n += 1)}`;
};

describe('gear lists', () => {
  test('any order of columns under a header', () => {
    const { rows, problems, columns } = readGearList(
      [
        ['Location', 'Device', 'Model', 'Unit', 'Version', 'MAC address'],
        ['Quay', 'Camera 1', 'camera', '1', '2.1', '02-1E-70-00-00-0A'],
        [],
      ],
      show,
    );
    expect([columns.header, problems]).toEqual([1, []]);
    expect(rows).toMatchObject([
      {
        line: 2,
        name: 'Camera 1',
        type: { id: 'camera' },
        unit: 1,
        place: 'Quay',
        mac: '02:1e:70:00:00:0a',
        firmware: '2.1',
      },
    ]);
  });

  test('columns are guessed from their contents when there is no header', () => {
    const { columns, rows } = readGearList(
      [
        ['1', 'Camera', 'Camera east', '02:1e:70:00:00:0a', 'Quay', '2.1'],
        ['2', 'Camera', 'Camera west', '02:1e:70:00:00:0b', 'Quay', '2.1'],
      ],
      show,
    );
    expect(columns).toEqual({ header: 0, fields: ['unit', 'type', 'name', 'mac', 'place', 'firmware'] });
    expect(rows).toHaveLength(2);
  });

  test('every fault is named by line and column, in words', () => {
    const { problems } = readGearList(
      [
        ['name', 'type', 'unit', 'mac'],
        ['', 'Camera', 'x', '02:00:00:00:00:01'],
        ['Desk A', 'Camra', '1', 'zz'],
        ['B', '', '', '03:00:00:00:00:02'],
        ['b', 'Desk', '', ''],
        ['n'.repeat(81), 'Desk', '', ''],
      ],
      show,
    );
    expect(problems.map(({ line, field, code, isBlocking }) => [line, field, code, isBlocking])).toEqual([
      [2, 'name', 'no_name', true],
      [2, 'unit', 'bad_unit', true],
      [2, 'mac', 'mac_twice', true],
      [3, 'name', 'name_in_show', false],
      [3, 'type', 'unknown_type', true],
      [3, 'mac', 'bad_mac', true],
      [4, 'type', 'no_type', true],
      [4, 'mac', 'bad_mac', true],
      [5, 'name', 'name_twice', false],
      [6, 'name', 'long_text', true],
    ]);
    expect(gearWords(problems.find(({ code }) => code === 'unknown_type') ?? fail())).toBe(
      'No type is called “Camra”. Did you mean Camera?',
    );
  });

  test('a line that stands for several becomes as many units, numbered past the names that are taken', () => {
    const { rows, problems } = readGearList(
      [
        ['Crew list of the final'],
        [],
        ['Qty', 'Item', 'What', 'Serial'],
        ['', 'Camera x 3', '', ''],
        ['2 pcs', 'Camera 2', 'camera', ''],
        ['1', 'Desk A', 'desk', ''],
        ['2', 'Desk B', 'desk', 'S-7'],
        ['many', 'Desk C', 'desk', ''],
        ['0', 'Desk D', 'desk', ''],
      ],
      show,
    );
    expect(rows.slice(0, 5).map(({ line, name, unit, type }) => [line, name, unit, type?.id])).toEqual([
      [4, 'Camera 1', 1, 'camera'],
      [4, 'Camera 2', 2, 'camera'],
      [4, 'Camera 3', 3, 'camera'],
      [5, 'Camera 4', 4, 'camera'],
      [5, 'Camera 5', 5, 'camera'],
    ]);
    expect(problems.map(({ line, code }) => [line, code])).toEqual([
      [6, 'name_in_show'],
      [7, 'one_of_many'],
      [8, 'bad_quantity'],
      [9, 'bad_quantity'],
    ]);
  });

  test('without a column of names units are called by what they are', () => {
    const { rows, problems } = readGearList([['3 x camera'], ['desk'], ['Desk']], show);
    expect([rows.map(({ name }) => name), problems]).toEqual([
      ['Camera 1', 'Camera 2', 'Camera 3', 'Desk', 'Desk 1'],
      [],
    ]);
  });

  test.each([
    ['Gerät;Typ;Anzahl;Nr.;Ort;IP-Adresse;Rechnername;MAC-Adresse;Seriennummer;Softwarestand;Bemerkung'],
    ['Nom;Modèle;Nombre;Numéro;Lieu;Adresse IP;Nom d’hôte;Adresse MAC;N° de série;Version;Remarque'],
    ['Nombre;Modelo;Cantidad;Núm.;Ubicación;Dirección IP;Nombre de host;Dirección MAC;Número de serie;Versión;Notas'],
    ['Naam;Soort;Aantal;Nummer;Plaats;IP-adres;Hostnaam;MAC-adres;Serienummer;Versie;Opmerking'],
    ['Nome;Modello;Quantità;Numero;Luogo;Indirizzo IP;Nome host;Indirizzo MAC;Matricola;Versione;Osservazioni'],
    ['Device;Model;Qty;#;Location;IP address;Host name;MAC address;Serial no.;Firmware;Remarks'],
  ])('headings %s', (line) => {
    const { columns } = readGearList([line.split(';'), ['x', 'Camera']], show);
    expect(columns).toEqual({ header: 1, fields: [...gearFields] });
  });

  test('lines that were left out are not read, and every other text is kept as long as its field is', () => {
    const cells = [
      ['name', 'type', 'host name', 'serial', 'note', 'place'],
      ['C', 'camera', 'cam-1.local', 'S1', 'n'.repeat(2000), 'p'.repeat(200)],
      ['', '', '', '', '', ''],
      ['Cameras', '', '', '', '', ''],
      ['D', 'camera', '-bad-', 'S2', 'n'.repeat(2001), 'p'.repeat(201)],
    ];
    const { rows, problems } = readGearList(cells, show, { leftOut: new Set([4]) });
    expect(rows[0]).toMatchObject({ hostName: 'cam-1', serial: 'S1', note: 'n'.repeat(2000) });
    expect(problems.map(({ line, field, code }) => [line, field, code])).toEqual([
      [5, 'place', 'long_text'],
      [5, 'hostName', 'bad_host_name'],
      [5, 'note', 'long_text'],
    ]);
  });

  test('a list in which no column says what the gear is says so once, not per row', () => {
    expect(
      readGearList(
        [
          ['10', '20'],
          ['30', '40'],
        ],
        show,
      ).problems.map(({ code, line }) => [code, line]),
    ).toContainEqual(['no_column', 0]);
  });

  test('garbage of any shape is read without a throw', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.string({ unit: 'binary', maxLength: 30 }), { maxLength: 8 }), { maxLength: 20 }),
        (cells) => void readGearList(cells, show),
      ),
    );
  });

  test('5,000 rows report their progress and keep their order', () => {
    const cells = [
      ['name', 'type', 'unit'],
      ...Array.from({ length: 5000 }, (_, at) => [`Camera ${at}`, 'Camera', String(at)]),
    ];
    const steps: number[] = [];
    const { rows, problems } = readGearList(cells, show, { onProgress: (done) => steps.push(done) });
    expect([rows.length, problems.length, rows.at(-1)?.line]).toEqual([5000, 0, 5001]);
    expect(steps.length).toBeGreaterThan(10);
    expect(steps).toEqual([...steps].sort((a, b) => a - b));
  });
});

describe('versions and MAC addresses', () => {
  test.each([
    ['1.10', '1.9', 1],
    ['1.4', '1.4.0', 0],
    ['v2.0', '2.0.1', -1],
    ['2.0-beta', '2.0', undefined],
  ])('%s against %s: %s', (a, b, order) => expect(compareVersions(a, b)).toBe(order));

  test('comparing is antisymmetric', () => {
    const version = fc.array(fc.nat(20), { minLength: 1, maxLength: 4 }).map((parts) => parts.join('.'));
    fc.assert(
      fc.property(version, version, (a, b) => {
        expect((compareVersions(a, b) ?? 9) + (compareVersions(b, a) ?? 9)).toBe(0);
      }),
    );
  });

  test.each([
    ['02-1E-70-00-00-0A', '02:1e:70:00:00:0a'],
    ['021e.7000.000a', '02:1e:70:00:00:0a'],
    ['01:00:5e:00:00:01', undefined],
    ['00:00:00:00:00:00', undefined],
    ['02:1e:70', undefined],
  ])('%s reads as %s', (text, mac) => expect(readMac(text)).toBe(mac));
});

test('doubled names, units and MAC addresses and old firmware are found', () => {
  const twin = showOf({
    devices: [
      device('a', 'camera', { name: 'Cam', unit: 1 }),
      device('b', 'camera', { name: 'cam', unit: 1, firmware: '1.3' }),
    ],
    interfaces: [
      { ...adapter('a'), mac: '02:00:00:00:00:01' },
      { ...adapter('b'), mac: '02:00:00:00:00:01' },
    ],
    services: [
      service('a', { id: 'a-web', key: 'web', receivePort: 80 }),
      service('b', { key: 'web', receivePort: 80 }),
    ],
    links: [link('b', { serviceKey: 'web' })],
  });
  expect(findRig(twin).map(({ code }) => code)).toEqual([
    'doubled_name',
    'doubled_unit',
    'doubled_mac',
    'firmware_below',
  ]);
  const renumbered = findRig(twin).find(({ code }) => code === 'doubled_unit')?.fixes[0]?.change;
  const applied = renumbered && applyChange(twin, renumbered);
  expect(applied?.ok && findRig(applied.show).some(({ code }) => code === 'doubled_unit')).toBe(false);
});

test('adding a device by hand is one change', () => {
  const type = show.types['camera'];
  if (!type) throw new Error('no type');
  const change = planAddDevice(show, { type, name: 'New', unit: 4, place: '', mac: null, firmware: null }, counter());
  expect(change.edits.map(({ table }) => table)).toEqual(['devices', 'interfaces', 'services']);
});

const fail = (): never => {
  throw new Error('not found');
};
