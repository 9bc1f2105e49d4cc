import { addressing, links, show as core, type Show } from '@deep-patch/core';
import { diceOf, rigTypes } from '@deep-patch/demo/rigs';
import { expect, test } from 'vitest';
import { agrees, compare } from './agreement.test-data.ts';

const usual = { unit: null, place: '', firmware: null, note: '' };
const open = { enabled: true, account: null, secretId: null };

type Pair = `${core.ConnectionRole} ${core.ConnectionRole}`;

/** A controller and a target on one switch; who waits and who opens is all that differs. */
function rigOf(serviceKey: string, pair: Pair, service: Partial<core.Content<'services'>>): Show {
  const [role, its] = pair.split(' ') as [core.ConnectionRole, core.ConnectionRole];
  const types = rigTypes(diceOf(1)).map((type) => ({ ...type, drives: [...core.protocols], lampMeans: null }));
  const offers = types.find(({ services }) => services.some(({ key }) => key === serviceKey));
  const type = offers?.services.find(({ key }) => key === serviceKey);
  if (!offers || !type) throw new Error(`no type offers ${serviceKey}`);
  const isProgram = offers.form === 'program';
  const units = [
    { id: 'hub', typeId: 'plain', name: 'Hub', ...usual },
    { id: 'near', typeId: 'computer', name: 'Near', ...usual },
    ...(isProgram ? [{ id: 'box', typeId: 'computer', name: 'Box', ...usual }] : []),
    { id: 'far', typeId: offers.id, name: 'Far', runsOn: isProgram ? 'box' : null, ...usual },
  ];
  const machine = isProgram ? 'box' : 'far';
  const adapterOf = (id: string) => types.find((each) => each.id === units.find((unit) => unit.id === id)?.typeId);
  const plugged = ['near', machine].map((id, at) => ({ id, at, adapter: adapterOf(id)?.adapters[0]?.key ?? '' }));
  const command = type.commands[0];
  const port = role === 'waits' ? 8600 : type.receivePort;
  return filled({
    libraries: [{ id: 'rigs', name: 'Rigs', position: 0 }],
    types,
    networks: [
      {
        id: 'net',
        name: 'Net',
        network: '10.1.1.0',
        prefix: 24,
        vlan: null,
        purpose: '',
        gateway: null,
        poolFrom: null,
        poolTo: null,
      },
    ],
    devices: units,
    interfaces: plugged.map(({ id, adapter }) => ({ id: `${id}-i`, deviceId: id, adapter, mac: null })),
    addresses: plugged.map(({ id, at }) => ({
      ...{ id: `${id}-a`, interfaceId: `${id}-i`, networkId: 'net', ip: `10.1.1.${at + 1}` },
      ...{ prefix: null, gateway: null, held: false },
    })),
    cables: plugged.map(({ id, at, adapter }) => ({
      ...{ id: `${id}-c`, fromDevice: id, toDevice: 'hub', toSocket: `p-${at + 1}`, medium: 'copper', lengthM: 5 },
      fromSocket: adapterOf(id)?.sockets.find((socket) => socket.adapter === adapter)?.key,
    })),
    services: [
      {
        ...{ id: 'far-s', deviceId: 'far', key: serviceKey, receivePort: type.receivePort, ...open },
        ...{ role: its, sendTo: '10.1.1.1', sendPort: 8600, ...service },
      },
    ],
    links: [
      {
        ...{ id: 'link', controllerId: 'near', targetId: 'far', serviceKey, slot: null, host: null, port, role },
        ...{ replyPort: null, account: null, secretId: null },
        ...{ command: command?.key ?? null, args: command ? links.exampleArgs(command) : [] },
      },
    ],
  });
}

const filled = (tables: Record<string, readonly object[]>): Show => ({
  ...core.emptyShow({ id: 'rig', name: 'Rig' }),
  rev: 1,
  ...Object.fromEntries(
    Object.entries(tables).map(([table, rows]) => [
      table,
      Object.fromEntries(
        rows.map((row) => {
          const { id } = row as { id: string };
          return [id, { ...core.filledRow(table as core.TableName, row as never), rev: 1 }];
        }),
      ),
    ]),
  ),
});

async function both(show: Show) {
  const [found] = await compare(show, {});
  const row = show.links['link'] ?? expect.fail('no link');
  const { stopsAt } = links.forecast(show, links.linkFacts(show, addressing.addressingFacts(show)), row);
  return { found: found ?? expect.fail('not sounded'), stopsAt };
}

function after(show: Show, change: core.Change): Show {
  const applied = core.applyChange(show, change);
  return applied.ok ? applied.show : expect.fail('refused');
}

const meetings: readonly (readonly [Pair, string, Partial<core.Content<'services'>>])[] = [
  ['opens waits', '', {}],
  ['waits opens', '', {}],
  ['waits waits', 'both_wait', {}],
  ['opens opens', 'both_open', {}],
  ['waits opens', 'opens_nowhere', { sendTo: null }],
  ['waits opens', 'opens_elsewhere', { sendTo: '10.1.1.77' }],
  ['waits opens', 'opens_other_port', { sendPort: 8601 }],
  ['waits opens', 'switched_off', { enabled: false }],
];

test.each(['lines', 'stream', 'midi'])('%s works only where one end waits and the other opens to it', async (key) => {
  for (const [pair, code, service] of meetings) {
    const show = rigOf(key, pair, service);
    const { found, stopsAt } = await both(show);
    expect([pair, stopsAt?.code ?? '']).toEqual([pair, code]);
    expect(agrees(found), `${pair} ${code}: ${JSON.stringify(found)}`).toBe(true);
    if (!stopsAt || code === 'switched_off') continue;
    // every way out that is offered makes it work, here and on the bench
    expect(stopsAt.fixes.length).toBeGreaterThan(0);
    for (const { change } of stopsAt.fixes) {
      const mended = await both(after(show, change));
      expect([pair, code, change.label, mended.stopsAt?.code ?? '']).toEqual([pair, code, change.label, '']);
      expect(agrees(mended.found)).toBe(true);
    }
  }
});
