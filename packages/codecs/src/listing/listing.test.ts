import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { readListing, utf8Bytes, type Sighting } from '../index.ts';

const read = (text: string) => readListing(utf8Bytes(text));
const sightings = (text: string): readonly Sighting[] => {
  const result = read(text);
  if (!result.ok) throw new Error(result.fault);
  return result.sightings;
};
const mac = '02:1e:70:00:00:7d';
const own = { by: 'listing', mac, ip: '10.61.20.5', prefix: 24, name: 'SHOWHOST' } as const;
const gateway = { by: 'listing', mac: null, ip: '10.61.20.1', role: 'gateway' } as const;

/** One adapter with a fixed address, as the same command prints it in four languages. */
const labelled: readonly (readonly [string, string])[] = [
  [
    'English',
    `Windows IP Configuration

   Host Name . . . . . . . . . . . . : SHOWHOST
   Node Type . . . . . . . . . . . . : Hybrid

Ethernet adapter Ethernet:

   Description . . . . . . . . . . . : Wired adapter
   Physical Address. . . . . . . . . : 02-1E-70-00-00-7D
   DHCP Enabled. . . . . . . . . . . : No
   Link-local IPv6 Address . . . . . : fe80::1c2b:3d4e:5f60:7182%12(Preferred)
   IPv4 Address. . . . . . . . . . . : 10.61.20.5(Preferred)
   Subnet Mask . . . . . . . . . . . : 255.255.255.0
   Default Gateway . . . . . . . . . : 10.61.20.1

Wireless LAN adapter Wi-Fi:

   Media State . . . . . . . . . . . : Media disconnected
`,
  ],
  [
    'German',
    `Windows-IP-Konfiguration

   Hostname  . . . . . . . . . . . . : SHOWHOST

Ethernet-Adapter Ethernet:

   Beschreibung. . . . . . . . . . . : Netzwerkkarte
   Physische Adresse . . . . . . . . : 02-1E-70-00-00-7D
   DHCP aktiviert. . . . . . . . . . : Nein
   IPv4-Adresse  . . . . . . . . . . : 10.61.20.5(Bevorzugt)
   Subnetzmaske  . . . . . . . . . . : 255.255.255.0
   Standardgateway . . . . . . . . . : 10.61.20.1
`,
  ],
  [
    'French',
    `Configuration IP de Windows

   Nom de l'hôte . . . . . . . . . . : SHOWHOST

Carte Ethernet Ethernet :

   Description. . . . . . . . . . . . . . : Carte filaire
   Adresse physique . . . . . . . . . . . : 02-1E-70-00-00-7D
   DHCP activé. . . . . . . . . . . . . . : Non
   Adresse IPv4. . . . . . . . . . . . . .: 10.61.20.5(préféré)
   Masque de sous-réseau. . . . . . . . . : 255.255.255.0
   Passerelle par défaut. . . . . . . . . : 10.61.20.1
`,
  ],
  [
    'Spanish',
    `Configuración IP de Windows

   Nombre de host. . . . . . . . . : SHOWHOST

Adaptador de Ethernet Ethernet:

   Descripción . . . . . . . . . . . . . . . : Adaptador
   Dirección física. . . . . . . . . . . . . : 02-1E-70-00-00-7D
   DHCP habilitado . . . . . . . . . . . . . : no
   Dirección IPv4. . . . . . . . . . . . . . : 10.61.20.5(Preferido)
   Máscara de subred . . . . . . . . . . . . : 255.255.255.0
   Puerta de enlace predeterminada . . . . . : 10.61.20.1
`,
  ],
];

describe('adapters of a computer', () => {
  test.each(labelled)('labelled lines in %s', (_language, text) => {
    expect(sightings(text)).toEqual([{ ...own, method: 'static' }, gateway]);
  });

  test.each(labelled)('labelled lines in %s, garbled by the console', (_language, text) => {
    // oxlint-disable-next-line no-control-regex -- everything that is not ASCII
    expect(sightings(text.replace(/[^\x00-\x7f]/g, '\ufffd'))).toEqual([{ ...own, method: 'static' }, gateway]);
  });

  test('a leased address and one that the computer made up itself', () => {
    const text = `Ethernet-Adapter A:

   Physische Adresse . . . . . . . . : 02-1E-70-00-00-7D
   DHCP aktiviert. . . . . . . . . . : Ja
   IPv4-Adresse  . . . . . . . . . . : 10.61.20.121(Bevorzugt)
   Subnetzmaske  . . . . . . . . . . : 255.255.255.0
   DHCP-Server . . . . . . . . . . . : 10.61.20.1

Ethernet-Adapter B:

   Physikalische Adresse . . . . . . : 02-1E-70-00-00-7E
   DHCP aktiviert. . . . . . . . . . : Ja
   IPv4-Adresse (Auto. Konfiguration): 169.254.10.3(Bevorzugt)
   Subnetzmaske  . . . . . . . . . . : 255.255.0.0
`;
    expect(sightings(text)).toEqual([
      { by: 'listing', mac, ip: '10.61.20.121', prefix: 24, method: 'dhcp' },
      { by: 'listing', mac: null, ip: '10.61.20.1', role: 'dhcp_server' },
      { by: 'listing', mac: '02:1e:70:00:00:7e', ip: '169.254.10.3', prefix: 16, method: 'self' },
    ]);
  });

  test.each([
    [
      'interface listing, hexadecimal mask',
      'lo0: flags=8049<UP,LOOPBACK> mtu 16384\n\tinet 127.0.0.1 netmask 0xff000000\nen0: flags=8863<UP,BROADCAST> mtu 1500\n\tether 02:1e:70:00:00:7d\n\tinet6 fe80::1%en0 prefixlen 64\n\tinet 10.61.20.5 netmask 0xffffff00 broadcast 10.61.20.255\n\tstatus: active\n',
    ],
    [
      'interface listing, dotted mask, MAC after it',
      'eth0: flags=4163<UP,BROADCAST>  mtu 1500\n        inet 10.61.20.5  netmask 255.255.255.0  broadcast 10.61.20.255\n        ether 02:1e:70:00:00:7d  txqueuelen 1000  (Ethernet)\n\nlo: flags=73<UP,LOOPBACK>\n        inet 127.0.0.1  netmask 255.0.0.0\n',
    ],
    [
      'ip address',
      '1: lo: <LOOPBACK,UP> mtu 65536\n    link/loopback 00:00:00:00:00:00 brd 00:00:00:00:00:00\n    inet 127.0.0.1/8 scope host lo\n2: eth0: <BROADCAST,UP> mtu 1500 qdisc fq state UP\n    link/ether 02:1e:70:00:00:7d brd ff:ff:ff:ff:ff:ff\n    inet 10.61.20.5/24 brd 10.61.20.255 scope global eth0\n',
    ],
    [
      'older interface listing',
      'eth0      Link encap:Ethernet  HWaddr 02:1e:70:00:00:7d\n          inet addr:10.61.20.5  Bcast:10.61.20.255  Mask:255.255.255.0\n',
    ],
    [
      'network service information',
      'Manual Configuration\nIP address: 10.61.20.5\nSubnet mask: 255.255.255.0\nRouter: (null)\nEthernet Address: 02:1e:70:00:00:7d\n',
    ],
  ])('%s', (_name, text) => {
    const { name: _host, ...plain } = own;
    expect(sightings(text).map(({ method: _method, ...rest }) => rest)).toEqual([plain]);
  });
});

describe('neighbour tables', () => {
  const [one, two] = [
    { by: 'listing', mac: '02:1e:70:00:00:10', ip: '10.61.20.31' },
    { by: 'listing', mac: '02:1e:70:00:00:11', ip: '10.61.20.32' },
  ];
  test.each([
    [
      'by interface, English',
      'Interface: 10.61.20.5 --- 0xc\n  Internet Address      Physical Address      Type\n  10.61.20.31           02-1e-70-00-00-10     dynamic\n  10.61.20.32           02-1e-70-00-00-11     dynamic\n  10.61.20.255          ff-ff-ff-ff-ff-ff     static\n  224.0.0.22            01-00-5e-00-00-16     static\n',
    ],
    [
      'by interface, German',
      'Schnittstelle: 10.61.20.5 --- 0xc\n  Internetadresse       Physische Adresse     Typ\n  10.61.20.31           02-1e-70-00-00-10     dynamisch\n  10.61.20.32           02-1e-70-00-00-11     dynamisch\n',
    ],
    [
      'by interface, French',
      'Interface : 10.61.20.5 --- 0xc\n  Adresse Internet      Adresse physique      Type\n  10.61.20.31           02-1e-70-00-00-10     dynamique\n  10.61.20.32           02-1e-70-00-00-11     dynamique\n',
    ],
    [
      'by interface, Spanish',
      'Interfaz: 10.61.20.5 --- 0xc\n  Dirección de Internet Dirección física      Tipo\n  10.61.20.31           02-1e-70-00-00-10     dinámico\n  10.61.20.32           02-1e-70-00-00-11     dinámico\n',
    ],
    [
      'with dropped zeros',
      '? (10.61.20.31) at 2:1e:70:0:0:10 on en0 ifscope [ethernet]\n? (10.61.20.32) at 2:1e:70:0:0:11 on en0 ifscope [ethernet]\n? (10.61.20.40) at (incomplete) on en0 ifscope [ethernet]\n',
    ],
    [
      'as columns',
      'Address                  HWtype  HWaddress           Flags Mask            Iface\n10.61.20.31              ether   02:1e:70:00:00:10   C                     eth0\n10.61.20.32              ether   02:1e:70:00:00:11   C                     eth0\n10.61.20.40                      (incomplete)                              eth0\n',
    ],
    [
      'ip neighbour',
      '10.61.20.31 dev eth0 lladdr 02:1e:70:00:00:10 REACHABLE\n10.61.20.32 dev eth0 lladdr 02:1e:70:00:00:11 STALE\n10.61.20.40 dev eth0 FAILED\n',
    ],
  ])('%s', (_name, text) => expect(sightings(text)).toEqual([one, two]));

  test('a name before the address is kept', () =>
    expect(sightings('camera-3.local (10.61.20.33) at 2:1e:70:0:0:3c on en0\n')).toEqual([
      { by: 'listing', mac: '02:1e:70:00:00:3c', ip: '10.61.20.33', name: 'camera-3' },
    ]));
});

test('a table with a heading, in any order of columns', () => {
  expect(sightings('Firmware;MAC;Name;IP-Adresse\n2.1;02-1E-70-00-00-10;Camera 1;10.61.20.31/24\n;;Nobody;\n')).toEqual(
    [{ by: 'listing', mac: '02:1e:70:00:00:10', ip: '10.61.20.31', prefix: 24, name: 'Camera 1', version: '2.1' }],
  );
});

describe('adapters in other forms', () => {
  const plain = { by: 'listing', mac, ip: '10.61.20.5', prefix: 24 } as const;
  const radio = { by: 'listing', mac: '02:1e:70:00:00:7e', ip: null } as const;
  const rows = [
    { ifname: 'lo', address: '00:00:00:00:00:00', addr_info: [{ family: 'inet', local: '127.0.0.1', prefixlen: 8 }] },
    {
      ifname: 'eth0',
      address: mac,
      addr_info: [
        { family: 'inet', local: '10.61.20.5', prefixlen: 24, dynamic: true },
        { family: 'inet6', local: 'fe80::1', prefixlen: 64 },
      ],
    },
    { ifname: 'wlan0', address: radio.mac, addr_info: [] },
  ];

  test.each([
    ['JSON in one line', JSON.stringify(rows), [{ ...plain, method: 'dhcp' }, radio]],
    ['JSON in many lines', JSON.stringify(rows, null, 2), [{ ...plain, method: 'dhcp' }, radio]],
    [
      'routes in JSON',
      JSON.stringify([
        { dst: 'default', gateway: '10.61.20.1', dev: 'eth0' },
        { dst: '10.61.20.0/24', dev: 'eth0' },
      ]),
      [gateway],
    ],
    [
      'neighbours in JSON',
      JSON.stringify([
        { dst: '10.61.20.31', dev: 'eth0', lladdr: '02:1e:70:00:00:10', state: ['STALE'] },
        { dst: '10.61.20.40', dev: 'eth0', lladdr: mac, state: ['FAILED'] },
      ]),
      [{ by: 'listing', mac: '02:1e:70:00:00:10', ip: '10.61.20.31' }],
    ],
    [
      'brief lines of addresses and of links',
      `lo UNKNOWN 127.0.0.1/8 ::1/128\neth0@if2 UP 10.61.20.5/24 fe80::1/64\nwlan0 DOWN\neth0@if2 UP ${mac} <BROADCAST,UP>\nwlan0 DOWN ${radio.mac} <BROADCAST>\n`,
      [plain, radio],
    ],
    [
      'all ports of a list of ports',
      `Hardware Port: Ethernet\nDevice: en0\nEthernet Address: ${mac}\n\nHardware Port: Wi-Fi\nDevice: en1\nEthernet Address: ${radio.mac}\n\nHardware Port: Bridge\nDevice: bridge0\nEthernet Address: N/A\n`,
      [{ by: 'listing', mac, ip: null }, radio],
    ],
    [
      'a gateway of IPv6 before that of IPv4',
      `Ethernet adapter A:\n\n   Physical Address. . . : ${mac}\n   IPv4 Address. . . . : 10.61.20.5\n   Subnet Mask . . . . : 255.255.255.0\n   Default Gateway . . : fe80::1%12\n                         10.61.20.1\n   DNS Servers . . . . : 10.61.20.2\n                         10.61.20.3\n`,
      [plain, gateway],
    ],
  ] as [string, string, Sighting[]][])('%s', (_what, text, expected) => expect(sightings(text)).toEqual(expected));

  test('MAC addresses without anything between, in a table and in a list of neighbours', () => {
    expect(sightings('MAC;IP\n021E7000007D;10.61.20.5/24\n')).toEqual([plain]);
    expect(sightings('10.61.20.5 021e7000007d\n')).toEqual([{ by: 'listing', mac, ip: '10.61.20.5' }]);
  });

  test.each([
    ['UTF-16, little end first', [0xff, 0xfe], (code: number) => [code & 255, code >> 8]],
    ['UTF-16, big end first', [0xfe, 0xff], (code: number) => [code >> 8, code & 255]],
  ])('%s', (_what, mark, bytesOf) => {
    const text = 'Gerät;IP\nKamera Süd;10.61.20.31\n';
    const result = readListing(
      Uint8Array.from([...mark, ...Array.from(text).flatMap((letter) => bytesOf(letter.charCodeAt(0)))]),
    );
    expect(result.ok && result.sightings).toEqual([
      { by: 'listing', mac: null, ip: '10.61.20.31', name: 'Kamera Süd' },
    ]);
    expect(
      readListing(Uint8Array.from(Array.from(text).flatMap((letter) => bytesOf(letter.charCodeAt(0))))),
    ).toMatchObject({ ok: false, fault: 'binary' });
  });
});

describe('nothing is passed over in silence', () => {
  const unread = (text: string) => {
    const result = read(text);
    return result.ok ? result.unread.map(({ line, hasAddress }) => (hasAddress ? line : -line)) : result.fault;
  };
  test.each([
    [
      'a table whose cells say nothing',
      'Name;IP;MAC;Mask\nA;10.61.20.300;;\nB;10.61.20.7;zz;24\nC;10.61.20.8;;255.0.255.0\nD;10.61.20.9;;24\n\nE;;;\n',
      [2, 3, 4, -7],
    ],
    [
      'adapters with strange values',
      'Physical Address. . : 02-1E\nIPv4 Address. . : 10.61.20.5\nIPv4 Address. . : ten\nSubnet Mask . : 255.0.255.0\nNode Type . . : Hybrid\nDefault Gateway . . : fe80::1%3\nDHCP Server . . : 300.1.1.1\n',
      [4, 7, -1, -3, -5],
    ],
    [
      'neighbours with half a line',
      '? (10.61.20.31) at 2:1e:70:0:0:10 on en0\n? (10.61.20.40) at (incomplete) on en0\n10.61.20.255 ff-ff-ff-ff-ff-ff static\n10.61.20.41 is busy\nhello\n',
      [4, -5],
    ],
    [
      'rows of JSON that say nothing',
      JSON.stringify([{ dst: '10.61.20.31', lladdr: mac }, { odd: '10.61.20.77' }], null, 1),
      [7],
    ],
    [
      'an interface listing',
      'en0: flags=8863<UP> mtu 1500\n\tether 02:1e:70:00:00:7d\n\tinet6 fe80::1%en0\n\tinet 10.61.20.5 netmask 0xffffff00\n\tpeer 10.9.9.9\n',
      [5],
    ],
  ] as [string, string, number[]][])('%s', (_what, text, lines) => expect(unread(text)).toEqual(lines));

  test('of very many lines the first are listed and the others counted', () => {
    const result = read(`10.61.20.5 ${mac}\n${'strange\n'.repeat(1000)}`);
    expect(result.ok && [result.unread.length, result.unreadMore, result.unread[0]]).toEqual([
      300,
      700,
      { line: 2, text: 'strange', hasAddress: false },
    ]);
  });
});

test('what is no listing is said to be none', () => {
  expect(
    [read(''), read('hello'), readListing(new Uint8Array([0, 1, 0, 255, 254]))].map((result) =>
      result.ok ? '' : result.fault,
    ),
  ).toEqual(['empty', 'not_understood', 'binary']);
  const utf16 = new Uint8Array([
    0xff,
    0xfe,
    ...Array.from('10.61.20.31 02-1e-70-00-00-10').flatMap((letter) => [letter.charCodeAt(0), 0]),
  ]);
  expect(readListing(utf16).ok).toBe(true);
});

test('any text is read or refused, never thrown at, and what comes out is well-formed', () => {
  const words = fc.constantFrom(
    ...labelled.flatMap(([, text]) => text.split(/(?<=\n)/)),
    '10.1.2.3',
    '02:1e:70:00:00:01',
    'inet ',
    '/24',
    '\t',
    ';',
  );
  fc.assert(
    fc.property(
      fc.oneof(
        fc.string(),
        fc.array(words, { maxLength: 12 }).map((parts) => parts.join('')),
      ),
      (text) => {
        const result = read(text);
        for (const { ip, mac: found } of result.ok ? result.sightings : []) {
          expect(ip ?? '1.1.1.1').toMatch(/^\d{1,3}(\.\d{1,3}){3}$/);
          expect(found ?? mac).toMatch(/^([0-9a-f]{2}:){5}[0-9a-f]{2}$/);
        }
      },
    ),
    { numRuns: 2000 },
  );
});

test('lines are counted as somebody sees them: the end of the last begins no other', () => {
  const line = '? (10.61.20.31) at 02:1e:70:00:00:01 on en0';
  for (const [text, count] of [
    [line, 1],
    [`${line}\n`, 1],
    [`${line}\r\n${line}\r\n`, 2],
  ] as const)
    expect([text, read(text)]).toMatchObject([text, { ok: true, lines: count }]);
});
