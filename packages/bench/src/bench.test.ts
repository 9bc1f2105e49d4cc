import { spawn, spawnSync } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { existsSync } from 'node:fs';
import { once } from 'node:events';
import { type contract, show as core, type Show } from '@deep-patch/core';
import { demoPasswords, demoShow } from '@deep-patch/demo';
import { diceOf, rotatingSeed } from '@deep-patch/demo/rigs';
import { casesOf } from '@deep-patch/core/cases';
import { afterEach, describe, expect, test } from 'vitest';
import { agrees, compare } from './rigs/agreement.test-data.ts';
import { Bench } from './bench.ts';
import { dice } from './rigs/dice.test-data.ts';

const open: Bench[] = [];
afterEach(() => open.splice(0).forEach((bench) => bench.stop()));

async function benchOf(show: Show): Promise<Bench> {
  const bench = new Bench(10, dice(7));
  open.push(bench);
  await bench.handle({ kind: 'load', plan: { show, passwords: demoPasswords } });
  await bench.handle({ kind: 'power', showId: show.id, deviceIds: Object.keys(show.devices), on: true });
  return bench;
}
const sound = (bench: Bench, show: Show, linkId: string) =>
  bench.handle({ kind: 'sound', showId: show.id, linkId }) as Promise<core.MeasuredSounding>;
const stateOf = async (bench: Bench, show: Show) =>
  (await bench.handle({ kind: 'state', showId: show.id })) as contract.BenchState;

const happened = ({ layers }: core.MeasuredSounding) => layers.find(({ state }) => state !== 'pass')?.layer;

const apply = (show: Show, table: core.TableName, id: string, patch: object): Show => {
  const row = (show[table] as Record<string, core.Row>)[id];
  // another mistake of the same set may have taken it out
  if (!row) return show;
  return { ...show, [table]: { ...show[table], [id]: { ...row, ...patch } } };
};
const without = (show: Show, table: core.TableName, id: string): Show => ({
  ...show,
  [table]: Object.fromEntries(Object.entries(show[table]).filter(([key]) => key !== id)),
});

/** Links that stopped elsewhere than the plan says, or whose sounding says what cannot be. */
const disagreements = async (show: Show, linkIds: readonly string[]) =>
  (await compare(show, demoPasswords, linkIds))
    .filter((one) => !agrees(one))
    .map((one) => [one.linkId, one.forecast, one.happened]);

describe('forecast and bench check each other', () => {
  test('on every link of the demo show', async () => {
    const compared = await compare(demoShow(), demoPasswords);
    expect([compared.length, compared.filter((one) => !agrees(one))]).toEqual([19, []]);
  });

  const secondAdapter = (show: Show) =>
    apply(show, 'addresses', 'led-host-wired-2', { networkId: 'control', ip: '10.61.20.201' });

  /** A program on the technician's computer as a target, driven from there or over the network. */
  const toMonitor =
    (controllerId: string, patch: Partial<core.Content<'links'>> = {}, runsOn = 'laptop', port = 9310) =>
    (show: Show): Show => {
      const moved = apply(apply(show, 'devices', 'monitor', { runsOn }), 'services', 'monitor-osc', {
        receivePort: port,
      });
      const link = core.filledRow('links', {
        id: 'to-monitor',
        controllerId,
        targetId: 'monitor',
        serviceKey: 'osc',
        slot: null,
        host: null,
        port,
        replyPort: null,
        account: null,
        secretId: null,
        command: 'note',
        args: ['high tide'],
        ...patch,
      });
      return { ...moved, links: { ...moved.links, [link.id]: { ...link, rev: 1 } } };
    };

  /** Ways in which plans go wrong, each on one of the demo's sound links. */
  const faults: readonly [string, (show: Show) => Show][] = [
    ['host-to-desk', (show) => apply(show, 'links', 'host-to-desk', { port: 8310, replyPort: 8300 })],
    ['host-to-desk', (show) => apply(show, 'links', 'host-to-desk', { host: '10.61.20.16' })],
    ['host-to-desk', (show) => apply(show, 'links', 'host-to-desk', { host: '10.61.20.71' })],
    ['host-to-desk', (show) => apply(show, 'links', 'host-to-desk', { host: '10.16.20.61' })],
    ['host-to-desk', (show) => apply(show, 'links', 'host-to-desk', { args: ['31', 4] })],
    ['host-to-desk', (show) => apply(show, 'links', 'host-to-desk', { args: [31] })],
    ['host-to-desk', (show) => apply(show, 'links', 'host-to-desk', { args: [31, 900] })],
    ['host-to-desk', (show) => apply(show, 'links', 'host-to-desk', { command: 'nothing' })],
    ['host-to-desk', (show) => apply(show, 'links', 'host-to-desk', { replyPort: 8311 })],
    ['host-to-desk', (show) => apply(show, 'services', 'desk-osc', { sendTo: '10.61.20.201' })],
    ['host-to-desk', (show) => apply(show, 'services', 'desk-osc', { sendTo: null })],
    ['host-to-desk', (show) => apply(show, 'services', 'desk-osc', { enabled: false })],
    ['host-to-desk', (show) => apply(show, 'services', 'desk-osc', { receivePort: 8400 })],
    ['host-to-desk', (show) => apply(show, 'addresses', 'control-desk-lan', { ip: '10.61.21.61' })],
    ['host-to-desk', (show) => apply(show, 'addresses', 'control-desk-lan', { ip: null })],
    ['host-to-desk', (show) => apply(show, 'addresses', 'control-desk-lan', { ip: '10.61.20.71' })],
    ['host-to-desk', (show) => apply(show, 'addresses', 'control-desk-lan', { prefix: 28 })],
    ['host-to-desk', (show) => apply(show, 'addresses', 'control-host-wired-1', { prefix: 28 })],
    ['host-to-desk', (show) => apply(show, 'addresses', 'control-laptop-lan', { ip: '10.61.20.200' })],
    ['host-to-desk', (show) => without(show, 'cables', 'c-desk-port-1')],
    ['host-to-desk', (show) => without(show, 'cables', 'c-host-port-1')],
    ['host-to-desk', (show) => without(show, 'cables', 'c-switch-booth-p-24')],
    ['host-to-desk', secondAdapter],
    ['host-to-desk', (show) => without(secondAdapter(show), 'cables', 'c-host-port-1')],
    ['host-to-desk', (show) => without(secondAdapter(show), 'cables', 'c-host-port-2')],
    ['remote-to-camera-1', (show) => apply(show, 'links', 'remote-to-camera-1', { secretId: 'older-login' })],
    ['remote-to-camera-1', (show) => apply(show, 'links', 'remote-to-camera-1', { account: 'admin' })],
    ['remote-to-camera-1', (show) => apply(show, 'links', 'remote-to-camera-1', { account: null, secretId: null })],
    ['remote-to-camera-1', (show) => apply(show, 'links', 'remote-to-camera-1', { port: 8080 })],
    ['remote-to-camera-1', (show) => apply(show, 'links', 'remote-to-camera-1', { args: [400] })],
    ['remote-to-camera-1', (show) => apply(show, 'services', 'camera-1-web', { enabled: false })],
    ['remote-to-camera-1', (show) => apply(show, 'services', 'camera-1-web', { account: null, secretId: null })],
    ['remote-to-camera-1', (show) => without(show, 'cables', 'c-camera-1-port-1')],
    ['remote-to-camera-1', (show) => apply(show, 'services', 'camera-1-web', { login: 'basic' })],
    ['remote-to-camera-1', (show) => apply(show, 'services', 'camera-1-web', { login: 'none' })],
    [
      'remote-to-camera-1',
      (show) =>
        apply(apply(show, 'services', 'camera-1-web', { login: 'basic' }), 'links', 'remote-to-camera-1', {
          secretId: 'older-login',
        }),
    ],
    ['host-to-desk', (show) => apply(show, 'links', 'host-to-desk', { host: '127.0.0.1' })],
    ['host-to-desk', (show) => apply(show, 'addresses', 'control-desk-lan', { method: 'dhcp', ip: null })],
    ['host-to-desk', (show) => apply(show, 'devices', 'host', { adapter: 'wired-1' })],
    ['host-to-desk', (show) => apply(show, 'devices', 'host', { adapter: 'wired-2' })],
    ['host-to-desk', (show) => apply(secondAdapter(show), 'devices', 'host', { adapter: 'wired-2' })],
    ['host-to-desk', (show) => apply(show, 'addresses', 'control-desk-lan', { networkId: 'led', ip: '10.61.40.61' })],
    [
      'host-to-desk',
      (show) => apply(show, 'addresses', 'control-host-wired-1', { networkId: 'audio', ip: '10.61.30.9' }),
    ],
    ['host-to-desk', (show) => apply(show, 'networks', 'control', { vlan: null })],
    ['host-to-desk', (show) => apply(show, 'networks', 'led', { vlan: 20 })],
    ['host-to-desk', (show) => without(show, 'addresses', 'control-desk-lan')],
    ['remote-to-camera-4', (show) => apply(show, 'addresses', 'control-ap-boat-lan', { networkId: 'audio' })],
    ['host-to-recorder', (show) => apply(show, 'services', 'recorder-text', { receivePort: 9701 })],
    ['host-to-recorder', (show) => apply(show, 'services', 'recorder-text', { enabled: false })],
    ['faders-right-to-mixer', (show) => apply(show, 'links', 'faders-right-to-mixer', { args: [3, 200] })],
    ['faders-right-to-mixer', (show) => apply(show, 'links', 'faders-right-to-mixer', { port: 5006 })],
    ['to-monitor', toMonitor('laptop')],
    ['to-monitor', toMonitor('laptop', { host: '127.0.0.1' })],
    ['to-monitor', toMonitor('laptop', { host: '10.61.20.128' })],
    ['to-monitor', toMonitor('laptop', { host: '10.61.20.99' })],
    ['to-monitor', toMonitor('host')],
    ['to-monitor', toMonitor('host', { host: '127.0.0.1' })],
    ['to-monitor', toMonitor('host', {}, 'lyrics-quay')],
    ['to-monitor', toMonitor('host', {}, 'lyrics-quay', 7420)],
    ['to-monitor', (show) => without(toMonitor('host')(show), 'cables', 'c-laptop-port-1')],
  ];

  test('under every single mistake', async () => {
    expect(faults.length).toBeGreaterThanOrEqual(60);
    for (const [at, [linkId, bend]] of faults.entries())
      expect([at, linkId, await disagreements(bend(demoShow()), [linkId])]).toEqual([at, linkId, []]);
  }, 300_000);

  test('under random sets of mistakes', async () => {
    const seed = rotatingSeed();
    const dice = diceOf(seed);
    for (let set = 0; set < casesOf(40); set += 1) {
      const chosen = Array.from({ length: 2 + dice.below(2) }, () => dice.below(faults.length));
      const show = chosen.reduce((plan, at) => faults[at]?.[1](plan) ?? plan, demoShow());
      expect([
        `seed ${seed}`,
        chosen,
        await disagreements(show, [...new Set(chosen.map((at) => faults[at]?.[0] ?? ''))]),
      ]).toEqual([`seed ${seed}`, chosen, []]);
    }
  }, 300_000);
});

describe('stand-ins', () => {
  test('the desk visibly does what was asked, and the sounding says how long it took', async () => {
    const show = demoShow();
    const bench = await benchOf(show);
    const sounding = await sound(bench, show, 'host-to-desk');
    expect(sounding.layers.every(({ state }) => state === 'pass')).toBe(true);
    expect(sounding.rttMs).toBeGreaterThan(0);
    const { standins, heard } = await stateOf(bench, show);
    const desk = standins.find(({ deviceId }) => deviceId === 'desk');
    expect(Object.fromEntries(desk?.face ?? [])).toMatchObject({ cue: '31', state: 'running, 4 s' });
    expect(heard.filter(({ protocol }) => protocol === 'OSC').map(({ from, to, text }) => [from, to, text])).toEqual([
      ['Show host', 'Lighting desk', '/desk/cue/31/start 4.0'],
      ['Lighting desk', 'Show host', '/desk/cue/31/running T'],
      // the other direction: the desk tells what was done at it
      ['Lighting desk', 'Show host', '/desk/cue/31/running T'],
    ]);
  });

  test('a unit without power stops the sounding at the cable, and its face is fresh when it comes back', async () => {
    const show = demoShow();
    const bench = await benchOf(show);
    await sound(bench, show, 'host-to-desk');
    await bench.handle({ kind: 'power', showId: show.id, deviceIds: ['desk'], on: false });
    expect((await sound(bench, show, 'host-to-desk')).layers[0]).toMatchObject({
      state: 'fail',
      code: 'off',
      facts: { who: 'Lighting desk' },
    });
    await bench.handle({ kind: 'power', showId: show.id, deviceIds: ['desk'], on: true });
    const desk = (await stateOf(bench, show)).standins.find(({ deviceId }) => deviceId === 'desk');
    expect(Object.fromEntries(desk?.face ?? [])).toMatchObject({ cue: '—', state: 'idle' });
  });

  test('an unpowered switch in between is seen as a dead segment', async () => {
    const show = demoShow();
    const bench = await benchOf(show);
    await bench.handle({ kind: 'power', showId: show.id, deviceIds: ['switch-quay'], on: false });
    expect(happened(await sound(bench, show, 'host-to-desk'))).toBe('cable');
  });

  test('faces and power stay when the plan moves on', async () => {
    const show = demoShow();
    const bench = await benchOf(show);
    await sound(bench, show, 'host-to-desk');
    await bench.handle({ kind: 'load', plan: { show: { ...show, rev: 2 }, passwords: demoPasswords } });
    const state = await stateOf(bench, show);
    expect([state.rev, state.standins.every(({ powered }) => powered)]).toEqual([2, true]);
    expect(Object.fromEntries(state.standins.find(({ deviceId }) => deviceId === 'desk')?.face ?? [])).toMatchObject({
      cue: '31',
    });
  });
});

describe('jacks', () => {
  const openJack = async (bench: Bench, show: Show, replyTo: number | null) => {
    const { jacks } = (await bench.handle({
      kind: 'jack',
      showId: show.id,
      deviceId: 'desk',
      serviceKey: 'osc',
      replyTo,
    })) as contract.BenchState;
    const port = jacks.at(-1)?.port;
    if (port === undefined) throw new Error('no jack');
    return port;
  };
  const faceOf = async (bench: Bench, show: Show) =>
    Object.fromEntries((await stateOf(bench, show)).standins.find(({ deviceId }) => deviceId === 'desk')?.face ?? []);
  const eventually = async (check: () => Promise<boolean>) => {
    for (let tries = 0; tries < 60; tries += 1) {
      if (await check()) return true;
      await new Promise((done) => setTimeout(done, 50));
    }
    return false;
  };

  test('a show has 32 jacks at most, and another one when one was closed', async () => {
    const show = demoShow();
    const bench = await benchOf(show);
    // all at once: those under way count as well
    const opened = await Promise.allSettled(Array.from({ length: 40 }, () => openJack(bench, show, null)));
    expect(opened.filter(({ status }) => status === 'rejected')).toHaveLength(8);
    await expect(openJack(bench, show, null)).rejects.toThrow('32 jacks are open');
    const { jacks } = await stateOf(bench, show);
    await bench.handle({ kind: 'close-jack', showId: show.id, port: jacks[7]?.port ?? 0 });
    expect(await openJack(bench, show, null)).toBeGreaterThan(0);
    await bench.handle({ kind: 'unload', showId: show.id });
  });

  test('a show that is taken off the bench ends its jacks with its site', async () => {
    const show = demoShow();
    const bench = await benchOf(show);
    const port = await openJack(bench, show, null);
    await bench.handle({ kind: 'unload', showId: show.id });
    await expect(bench.handle({ kind: 'state', showId: show.id })).rejects.toThrow('not loaded');
    // its port is free again
    const socket = createSocket('udp4');
    expect(
      await eventually(
        () => new Promise((done) => socket.once('error', () => done(false)).bind(port, '127.0.0.1', () => done(true))),
      ),
    ).toBe(true);
    socket.close();
  });

  test('malformed datagrams from outside are reported and hurt nobody', async () => {
    const show = demoShow();
    const bench = await benchOf(show);
    const port = await openJack(bench, show, null);
    const socket = createSocket('udp4');
    socket.bind(0, '127.0.0.1');
    await once(socket, 'listening');
    for (const bytes of [Buffer.alloc(0), Buffer.from('nonsense'), Buffer.alloc(2000, 0x2f)])
      socket.send(bytes, port, '127.0.0.1');
    expect(
      await eventually(
        async () =>
          (await stateOf(bench, show)).heard.filter(({ ok, text }) => !ok && text.startsWith('malformed')).length >= 2,
      ),
    ).toBe(true);
    socket.close();
    expect(happened(await sound(bench, show, 'host-to-desk'))).toBeUndefined();
  });

  const tools = existsSync('/usr/bin/oscsend') && existsSync('/usr/bin/oscdump');
  test.skipIf(!tools)(
    `an outside OSC tool drives the desk and hears its reply${tools ? '' : ' (skipped: liblo-tools is not installed)'}`,
    async () => {
      const show = demoShow();
      const bench = await benchOf(show);
      const own = createSocket('udp4');
      own.bind(0, '127.0.0.1');
      await once(own, 'listening');
      const replyPort = own.address().port;
      own.close();
      const dump = spawn('/usr/bin/oscdump', ['-L', String(replyPort)], { stdio: ['ignore', 'pipe', 'ignore'] });
      let said = '';
      dump.stdout.on('data', (chunk: Buffer) => (said += chunk.toString()));
      try {
        const port = await openJack(bench, show, replyPort);
        // oscdump tells nobody when it listens: send until it hears
        const heard = await eventually(async () => {
          const sent = spawnSync('/usr/bin/oscsend', ['127.0.0.1', String(port), '/desk/cue/77/start', 'f', '2.5']);
          expect(sent.status).toBe(0);
          return said.includes('/desk/cue/77/running') && (await faceOf(bench, show))['cue'] === '77';
        });
        expect([heard, said.includes('T')]).toEqual([true, true]);
        expect((await faceOf(bench, show))['state']).toBe('running, 2.5 s');
      } finally {
        dump.kill();
      }
    },
  );
});
