import { readOsc, tagOfTime, writeOsc, type OscArg, type OscMessage } from '@deep-patch/codecs';
import { show as core } from '@deep-patch/core';
import { afterEach, describe, expect, test } from 'vitest';
import { startScheduler, type Scheduler } from '../ether/scheduler.ts';
import { OutsidePeer } from '../jacks/outside-peer.ts';
import { tuned } from '../demo-bench.test-data.ts';
import { Site } from '../site/site.ts';
import { fitsArgument, matchCommand } from '../units/match-command.ts';
import { serviceOf } from '../units/standin.ts';
import { requestWeb } from './http/web-client.ts';

const running: Scheduler[] = [];
afterEach(() => running.splice(0).forEach((scheduler) => scheduler.stop()));

const passwords = { 'quay-login': 'lantern-tide-31' };
function site(): Site {
  const scheduler = startScheduler(20);
  running.push(scheduler);
  const show = tuned();
  const made = new Site({ show, passwords }, scheduler, () => 0.9);
  made.power(Object.keys(show.devices), true);
  return made;
}
const faceOf = (made: Site, id: string) =>
  Object.fromEntries(made.states().find(({ deviceId }) => deviceId === id)?.face ?? []);

/** Hands a datagram to the desk's OSC input from beyond the simulated network; answers what came back at once. */
function handIn(made: Site, bytes: Uint8Array): Uint8Array[] {
  const desk = made.standins.get('desk');
  const port = desk && serviceOf(desk, 'osc')?.receivePort;
  if (!desk || port === undefined) throw new Error('no desk');
  const back: Uint8Array[] = [];
  const peer = new OutsidePeer({
    unit: () => ({ host: desk.host, mac: '' }),
    scheduler: made.scheduler,
    tell: () => undefined,
    hear: (datagram) => back.push(datagram.bytes),
  });
  peer.send({ from: 9000, to: port }, bytes);
  return back;
}

describe('commands of the dictionary', () => {
  const commands = core.rowsOf(tuned(), 'types').flatMap(({ services }) =>
    services.flatMap(({ protocol, commands: own }) =>
      own.map((command) => ({
        command,
        between: protocol === 'osc' || protocol === 'http' ? ('/' as const) : (' ' as const),
      })),
    ),
  );

  const reading = ({ method }: core.Command) => (method === undefined ? {} : { method });

  test('every command is found by its own address with the parts filled in, and by no other', () => {
    for (const { command, between } of commands) {
      const address = command.address.replace(/\{\w+\}/g, '7');
      expect([
        command.address,
        matchCommand([command], address, { ...reading(command), between })?.command.key,
      ]).toEqual([command.address, command.key]);
      for (const wrong of [`${address}${between}more`, address.slice(0, -2), '', between, address.toUpperCase()])
        expect([wrong, matchCommand([command], wrong, { ...reading(command), between })]).toEqual([wrong, undefined]);
      if (command.method) expect(matchCommand([command], address, { method: 'DELETE' })).toBeUndefined();
    }
    expect(commands.length).toBeGreaterThan(10);
  });

  test.each([
    [{ type: 'i', min: 1, max: 9 }, [1, 9], [0, 10, 1.5, '1', true, undefined, NaN]],
    [{ type: 'f', min: -90, max: 10 }, [-90, 0.5, 10], [-91, 11, '0', null]],
    [{ type: 's' }, ['', 'x'], [1, undefined]],
    [{ type: 'T' }, [true, false], [1, 'true', undefined]],
  ] as const)('%j takes what fits and nothing else', (argument, good, bad) => {
    const full = { name: 'x', example: 1, ...argument };
    expect([good.every((value) => fitsArgument(full, value)), bad.some((value) => fitsArgument(full, value))]).toEqual([
      true,
      false,
    ]);
  });
});

describe('an OSC input', () => {
  const send = (made: Site, message: OscMessage): OscMessage | undefined => {
    const read = readOsc(handIn(made, writeOsc(message))[0] ?? new Uint8Array());
    return read.ok ? (read.packet as OscMessage) : undefined;
  };

  test('obeys what it knows and answers as the dictionary says', () => {
    const made = site();
    expect(send(made, { address: '/desk/cue/5/start', args: [{ type: 'f', value: 2 }] })).toEqual({
      address: '/desk/cue/5/running',
      args: [{ type: 'T' }],
    });
    expect(faceOf(made, 'desk')).toMatchObject({ cue: '5', state: 'running, 2 s' });
    expect(send(made, { address: '/desk/master', args: [{ type: 'f', value: 0.5 }] })).toEqual({
      address: '/desk/master',
      args: [{ type: 'f', value: 0.5 }],
    });
  });

  const unknown: [string, string, OscArg[]][] = [
    ['another address', '/desk/cue/5/begin', [{ type: 'f', value: 2 }]],
    ['a missing argument', '/desk/cue/5/start', []],
    ['one argument too many', '/desk/cue/5/stop', [{ type: 'i', value: 1 }]],
    ['a number sent as text', '/desk/cue/5/start', [{ type: 's', value: '2' }]],
    ['a whole number for a decimal one', '/desk/cue/5/start', [{ type: 'i', value: 2 }]],
    ['a value out of range', '/desk/cue/5/start', [{ type: 'f', value: 601 }]],
    ['a cue that is no number', '/desk/cue/five/start', [{ type: 'f', value: 2 }]],
    ['cue 0', '/desk/cue/0/start', [{ type: 'f', value: 2 }]],
  ];
  test.each(unknown)('drops %s without a word, and says so in what it heard', (_what, address, args) => {
    const made = site();
    expect(send(made, { address, args })).toBeUndefined();
    expect([faceOf(made, 'desk')['cue'], made.heard.at(-1)?.ok]).toEqual(['—', false]);
  });

  test('takes every message of a bundle', () => {
    const made = site();
    const bundle = {
      time: 1n,
      elements: [
        { address: '/desk/cue/8/stop', args: [] },
        { address: '/desk/master', args: [{ type: 'f' as const, value: 0.25 }] },
      ],
    };
    handIn(made, writeOsc(bundle));
    expect(faceOf(made, 'desk')).toMatchObject({ cue: '8', master: '0.25' });
    expect(readOsc(writeOsc(bundle)).ok).toBe(true);
  });
});

describe('a bundle with a time', () => {
  const cueAt = (made: Site, inMs: number, cue: number) =>
    handIn(
      made,
      writeOsc({
        time: tagOfTime(made.clock() + inMs),
        elements: [{ address: `/desk/cue/${cue}/stop`, args: [] }],
      }),
    );
  const pass = (made: Site, ms: number) => new Promise<void>((done) => void made.scheduler.after(ms, done));
  const cue = (made: Site) => faceOf(made, 'desk')['cue'];

  test('is done when its time comes, at once where that is past, and not at all when the unit went off meanwhile', async () => {
    const made = site();
    cueAt(made, 500, 7);
    cueAt(made, -300, 5);
    expect([cue(made), made.heard.at(-1)?.text]).toEqual(['5', 'a bundle for 300 ms ago: done at once']);
    await pass(made, 480);
    expect(cue(made)).toBe('5');
    await pass(made, 40);
    expect(cue(made)).toBe('7');
    cueAt(made, 500, 9);
    made.restart(['desk']);
    await pass(made, 900);
    expect(cue(made)).toBe('—');
    cueAt(made, 7_200_000, 9);
    expect(made.heard.at(-1)?.text).toBe('a bundle for in 7200 s: not kept for so long, and not done');
  });
});

describe('an HTTP control', () => {
  const ask = async (
    made: Site,
    patch: {
      path?: string;
      method?: string;
      body?: Record<string, unknown>;
      login?: { username: string; password: string } | undefined;
    },
  ) => {
    const remote = made.standins.get('remote');
    if (!remote) throw new Error('no remote');
    const camera = 0x0a3d141f; // 10.61.20.31
    return requestWeb(remote.host, {
      ip: camera,
      port: 80,
      method: 'PUT',
      path: '/control/position/4',
      body: {},
      login: { username: 'ops', password: 'lantern-tide-31' },
      agent: 'test',
      ...patch,
    });
  };

  test('does what it is told after a digest login, and shows it', async () => {
    const made = site();
    expect(await ask(made, {})).toMatchObject({ status: 200, body: { did: 'position 4', position: '4' } });
    expect(await ask(made, { path: '/control/lamp', body: { lit: true } })).toMatchObject({ status: 200 });
    expect(faceOf(made, 'camera-1')).toMatchObject({ position: '4', lamp: 'true', bars: 'false' });
  });

  test.each([
    ['no login', { login: undefined }, 401],
    ['a wrong password', { login: { username: 'ops', password: 'lantern-tide-30' } }, 401],
    ['another account', { login: { username: 'OPS', password: 'lantern-tide-31' } }, 401],
    ['an unknown path', { path: '/control/nothing' }, 404],
    ['another method', { method: 'GET' }, 405],
    ['a value out of range', { path: '/control/position/101' }, 400],
    ['a value of the wrong kind', { path: '/control/lamp', body: { lit: 'yes' } }, 400],
    ['a missing value', { path: '/control/lamp' }, 400],
  ])('turns away %s', async (_what, patch, status) => {
    const made = site();
    const before = faceOf(made, 'camera-1');
    expect(await ask(made, patch)).toMatchObject({ status });
    expect(faceOf(made, 'camera-1')).toEqual(before);
  });

  /** What comes back to bytes on a fresh connection, once the far end closes it. */
  const say = async (made: Site, deviceId: string, text: string): Promise<string> => {
    const unit = made.standins.get(deviceId) ?? expect.fail(`no ${deviceId}`);
    const port = unit.type.services.find(({ protocol }) => protocol === 'http')?.receivePort ?? 0;
    const stream = await made.standins.get('remote')?.host.tcp.connect(unit.host.firstIp(), port);
    if (typeof stream !== 'object') throw new Error('no connection');
    const chunks: Buffer[] = [];
    stream.on('data', (chunk: Buffer) => chunks.push(chunk));
    stream.write(text);
    await new Promise((done) => stream.once('end', done));
    stream.end();
    return Buffer.concat(chunks).toString('latin1');
  };

  test('names the methods of a path, takes the absolute form, and refuses a body that it cannot read', async () => {
    const made = site();
    const head = 'host: x\r\nconnection: close\r\n';
    const wrong = await say(made, 'switcher', `DELETE /on-air/3 HTTP/1.1\r\n${head}\r\n`);
    expect([/^HTTP\/1.1 405 /.test(wrong), /\r\nallow: PUT\r\n/i.test(wrong)]).toEqual([true, true]);
    await say(made, 'switcher', `PUT http://10.61.20.5:8090/on-air/3?x=1 HTTP/1.1\r\n${head}content-length: 0\r\n\r\n`);
    expect(faceOf(made, 'switcher')['on air']).toBe('3');
    for (const [body, status] of [
      ['{', 400],
      ['[1]', 400],
      ['"x"', 400],
      [`{"x":"${'y'.repeat(17_000)}"}`, 413],
    ] as const)
      expect(
        await say(made, 'switcher', `PUT /on-air/4 HTTP/1.1\r\n${head}content-length: ${body.length}\r\n\r\n${body}`),
      ).toMatch(new RegExp(`^HTTP/1.1 ${status} `));
    expect(faceOf(made, 'switcher')['on air']).toBe('3');
  });

  test('does not wait for ever for the rest of a request', async () => {
    const made = site();
    const before = made.scheduler.now();
    expect(await say(made, 'switcher', 'PUT /on-air/4 HTTP/1.1\r\nhost: x\r\n')).toMatch(/^HTTP\/1.1 408 /);
    expect(made.scheduler.now() - before).toBeGreaterThanOrEqual(10_000);
  });

  test('a stand-in that throws is switched off alone and says why', () => {
    const made = site();
    const desk = made.standins.get('desk');
    if (!desk) throw new Error('no desk');
    Object.defineProperty(desk.memory, 'face', {
      get: () => {
        throw new Error('lamp burnt out');
      },
    });
    handIn(made, writeOsc({ address: '/desk/cue/8/stop', args: [] }));
    expect([desk.memory.powered, desk.memory.fault]).toEqual([false, 'lamp burnt out']);
    expect([...made.standins.values()].filter(({ memory }) => !memory.powered)).toHaveLength(1);
  });
});
