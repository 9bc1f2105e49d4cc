import { analyse, rig, show as core, addressing, type Change, type Show } from '@deep-patch/core';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { startServer, type TestServer } from '../../test/running.ts';
import { apiRoutes } from '../http/openapi.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startServer();
});
afterAll(() => server.stop());

let counter = 0;
const newId = () => `t${Date.now().toString(36)}-${(counter += 1)}`;
const [me, you] = ['author-me-0001', 'author-you-0002'];
const demo = '/shows/harbour-finals';

async function newShow(): Promise<string> {
  const { body } = await server.call('POST', '/shows', { name: 'Test rig' });
  return String(body['id']);
}
const load = async (id: string) => (await server.call('GET', `/shows/${id}`)).body as unknown as Show;
const save = (id: string, change: Change | undefined, author = me, changeId = newId()) =>
  server.call('POST', `/shows/${id}/changes`, { id: changeId, author, change });
const step = (id: string, kind: 'undo' | 'redo', author = me) =>
  server.call('POST', `/shows/${id}/${kind}`, { id: newId(), author });

async function withCamera(): Promise<{ id: string; show: Show; device: core.Device }> {
  const id = await newShow();
  const empty = await load(id);
  const type = empty.types['pan-tilt-camera'];
  if (!type) throw new Error('no camera type');
  await save(
    id,
    rig.planAddDevice(
      empty,
      { type, name: 'Camera 1', unit: 1, place: 'Quay', mac: '02:00:00:00:00:01', firmware: '2.0' },
      newId,
    ),
  );
  const show = await load(id);
  const [device] = core.rowsOf(show, 'devices');
  if (!device) throw new Error('no device');
  return { id, show, device };
}

describe('the plan', () => {
  test('the demo show is there, as a snapshot that the schemas accept and that core can analyse', async () => {
    const show = await load('harbour-finals');
    for (const table of core.tableNames)
      for (const row of core.rowsOf(show, table))
        expect(core.schemas[table].safeParse(core.contentOf(row)).error).toBeUndefined();
    expect(Object.keys(show.devices)).toHaveLength(41);
    const { body } = await server.call('GET', `${demo}/analysis`);
    expect((body['findings'] as { key: string }[]).map(({ key }) => key)).toEqual(
      analyse(show, core.nothingSeen, 0).findings.map(({ key }) => key),
    );
  });

  test('a change, undo and redo survive a restart of the server, and rows come back as they were', async () => {
    const { id, show, device } = await withCamera();
    await save(
      id,
      addressing.planNetwork({
        id: 'net',
        name: 'Control',
        ip: addressing.mustIp('10.7.0.9'),
        prefix: 24,
        vlan: 7,
        purpose: '',
        join: [{ id: newId(), interfaceId: core.interfacesOf(show, device.id)[0]?.id ?? '' }],
        blocks: [],
      }),
    );
    await save(id, addressing.planPlacement(await load(id)).change);
    const planned = await load(id);
    expect(core.rowsOf(planned, 'addresses')[0]?.ip).toBe('10.7.0.1');
    const again = await startServer(server.databaseUrl, server.dataDir);
    const steps: string[] = [];
    for (const kind of ['undo', 'undo', 'redo', 'redo'] as const)
      steps.push(String((await again.call('POST', `/shows/${id}/${kind}`, { id: newId(), author: me })).body['label']));
    await again.stop();
    expect(steps).toEqual([
      'Place Camera 1',
      'Add network Control 10.7.0.0/24',
      'Add network Control 10.7.0.0/24',
      'Place Camera 1',
    ]);
    const after = await load(id);
    for (const table of core.tableNames)
      expect(Object.values<core.Row>(after[table]).map((row) => core.contentOf(row))).toEqual(
        Object.values<core.Row>(planned[table]).map((row) => core.contentOf(row)),
      );
    expect(after.rev).toBe(planned.rev + 4);
    const { changes } = (await server.call('GET', `/shows/${id}/changes?since=${planned.rev}`)).body as unknown as {
      changes: (Change & { rev: number })[];
    };
    expect(changes.reduce((at, change) => core.written(at, change, change.rev), planned)).toEqual(after);
  });

  test('undo takes back only what its author did, and says when there is nothing', async () => {
    const { id, device } = await withCamera();
    await save(id, rig.planEditDevice(await load(id), device, { place: 'Tower' }), you);
    expect((await step(id, 'undo', 'author-nobody')).body.code).toBe('NOTHING_TO_UNDO');
    expect((await step(id, 'redo')).body.code).toBe('NOTHING_TO_REDO');
    expect((await step(id, 'undo', you)).status).toBe(200);
    expect((await load(id)).devices[device.id]?.place).toBe('Quay');
    await save(
      id,
      rig.planEditDevice(await load(id), (await load(id)).devices[device.id] ?? device, { place: 'Boat' }),
      you,
    );
    const clash = await step(id, 'undo');
    expect(clash.body).toMatchObject({ code: 'SHOW_CHANGED', conflicts: [{ yours: null, theirs: { place: 'Boat' } }] });
    expect((clash.body['change'] as Change).edits.length).toBeGreaterThan(1);
  });

  test('a change that says of a row what it never held is refused, and so can never be taken back to that', async () => {
    const { id, show, device } = await withCamera();
    const honest = rig.planEditDevice(show, device, { place: 'Tower' })?.edits[0] ?? expect.fail('no edit');
    const other = { ...core.contentOf(device), id: 'other' };
    const added: core.Edit = { table: 'devices', id: other.id, base: 0, before: null, after: other };
    const forged: core.Edit = { ...honest, before: { ...core.contentOf(device), name: 'Somebody else’s' } };
    const answer = await save(id, { label: 'Forged', edits: [added, forged] });
    expect([answer.status, answer.body]).toMatchObject([
      422,
      { code: 'INVALID', faults: [{ at: 'change.edits.1.before' }] },
    ]);
    // nothing of it was saved
    expect(await load(id)).toEqual(show);
    expect((await save(id, { label: 'True', edits: [added, honest] })).status).toBe(201);
  });

  test('a row that is there already is not added again, and each such place is named', async () => {
    const { id, show, device } = await withCamera();
    const again = core.insertRow('devices', core.contentOf<'devices'>(device));
    const fresh = core.insertRow('devices', { ...core.contentOf<'devices'>(device), id: 'fresh' });
    const answer = await save(id, { label: 'Again', edits: [fresh, again] });
    expect([answer.status, answer.body]).toMatchObject([
      409,
      { code: 'ROW_EXISTS', faults: [{ at: 'change.edits.1.id' }] },
    ]);
    expect(await load(id)).toEqual(show);
  });

  test('two people edit one device: the second is told both values and nothing is lost', async () => {
    const { id, show, device } = await withCamera();
    expect((await save(id, rig.planEditDevice(show, device, { name: 'Mine', place: 'Tower' }), me)).status).toBe(201);
    const second = await save(id, rig.planEditDevice(show, device, { name: 'Yours', firmware: '3.0' }), you);
    expect([second.status, second.type]).toEqual([409, 'application/problem+json; charset=utf-8']);
    expect(second.body).toMatchObject({
      code: 'SHOW_CHANGED',
      conflicts: [
        {
          id: device.id,
          base: { name: 'Camera 1' },
          yours: { name: 'Yours' },
          theirs: { name: 'Mine', place: 'Tower' },
        },
      ],
    });
    expect((await load(id)).devices[device.id]).toMatchObject({ name: 'Mine', place: 'Tower', firmware: '2.0' });
  });

  test('twenty people at once: every change is saved once, in one row of revisions', async () => {
    const { id, show } = await withCamera();
    const type = show.types['tablet'];
    if (!type) throw new Error('no type');
    const sent = Array.from({ length: 20 }, (_, at) =>
      save(
        id,
        rig.planAddDevice(show, { type, name: `Tablet ${at}`, unit: at, place: '', mac: null, firmware: null }, newId),
        `author-${1000 + at}`,
      ),
    );
    expect((await Promise.all(sent)).map(({ status }) => status)).toEqual(Array.from({ length: 20 }, () => 201));
    const after = await load(id);
    expect([core.rowsOf(after, 'devices').length, after.rev]).toEqual([21, show.rev + 20]);
  });

  test('a change that arrives twice is saved once', async () => {
    const { id, show, device } = await withCamera();
    const change = rig.planEditDevice(show, device, { place: 'Boat' });
    const [first, second] = [
      await save(id, change, me, 'same-change-id'),
      await save(id, change, me, 'same-change-id'),
    ];
    expect([first.body['rev'], second.body['rev'], (await load(id)).rev]).toEqual([
      show.rev + 1,
      show.rev + 1,
      show.rev + 1,
    ]);
  });

  test('a row that points nowhere is refused whole', async () => {
    const id = await newShow();
    const edits = [
      core.insertRow(
        'devices',
        core.filledRow('devices', {
          id: 'ok',
          typeId: 'tablet',
          name: 'Fine',
          unit: null,
          place: '',
          firmware: null,
          note: '',
        }),
      ),
      core.insertRow('interfaces', { id: 'bad', deviceId: 'gone', adapter: 'lan', mac: null }),
    ];
    const answer = await save(id, { label: 'x', edits });
    expect([answer.status, answer.body.code]).toEqual([422, 'DANGLING']);
    expect(await load(id)).toMatchObject({ rev: 0, devices: {} });
  });

  test('a 5,000-row gear list goes in as one change', async () => {
    const id = await newShow();
    const show = await load(id);
    const cells = [
      ['name', 'type', 'unit'],
      ...Array.from({ length: 5000 }, (_, at) => [`Camera ${at}`, 'Pan-tilt camera', String(at % 9999)]),
    ];
    const change = addressing.planTakeIn(show, rig.readGearList(cells, show).rows, newId);
    const body = { id: newId(), author: me, change };
    expect((await server.call('POST', `/shows/${id}/changes`, body)).body.code).toBe('TOO_LARGE');
    expect((await server.call('POST', `/shows/${id}/imports`, body)).status).toBe(201);
    expect(core.rowsOf(await load(id), 'devices')).toHaveLength(5000);
    expect((await step(id, 'undo')).status).toBe(200);
    expect(core.rowsOf(await load(id), 'devices')).toHaveLength(0);
  });

  test('names of any kind are kept, and never reach SQL as text', async () => {
    const { id, show, device } = await withCamera();
    const name = `Robert'); drop table device; -- "ü" \\ $1`;
    await save(id, rig.planEditDevice(show, device, { name }));
    expect((await load(id)).devices[device.id]?.name).toBe(name);
  });
});

describe('refusals', () => {
  test('rows that name a socket, an adapter or a computer which is not there are refused with every fault at once', async () => {
    const show = await load('harbour-finals');
    const insert = <T extends core.TableName>(table: T, row: Parameters<typeof core.filledRow<T>>[1]) =>
      core.insertRow(table, core.filledRow(table, row));
    const cable = { fromDevice: 'desk', toDevice: 'desk', medium: 'copper', lengthM: null } as const;
    const edits = [
      insert('cables', { ...cable, id: 'odd', fromSocket: 'port-9', toSocket: 'port-1' }),
      insert('cables', { ...cable, id: 'round', fromSocket: 'port-1', toSocket: 'port-1' }),
      insert('interfaces', { id: 'odd', deviceId: 'desk', adapter: 'second', mac: null }),
      core.updateRow('devices', show.devices['monitor'] as core.Device, { runsOn: 'monitor' }),
    ];
    const taken = core.rowsOf(show, 'cables').find(({ medium }) => medium === 'copper') as core.Cable;
    const spare = core.rowsOf(show, 'cables').find(({ id }) => id !== taken.id) as core.Cable;
    edits.push(
      core.updateRow('cables', spare, { toDevice: taken.fromDevice, toSocket: taken.fromSocket, medium: 'copper' }),
    );
    const { status, body } = await save('harbour-finals', { label: 'Odd rows', edits });
    expect([status, [...new Set((body['faults'] as { at: string }[]).map(({ at }) => at))]]).toEqual([
      422,
      [
        'change.edits.0.after.fromSocket',
        'change.edits.0.after.toSocket',
        'change.edits.1.after.toSocket',
        'change.edits.1.after.fromSocket',
        'change.edits.2.after.adapter',
        'change.edits.3.after.runsOn',
        'change.edits.4.after.toSocket',
      ],
    ]);
    expect((await load('harbour-finals')).rev).toBe(show.rev);
  });

  const faults: [string, () => Promise<{ status: number; body: { code?: string } }>, number, string][] = [
    ['malformed JSON', () => server.call('POST', '/shows', '{"name":'), 400, 'NOT_JSON'],
    ['unknown fields', () => server.call('POST', '/shows', { name: 'x', colour: 1 }), 422, 'INVALID'],
    ['a body over 1 MB', () => server.call('POST', '/shows', { name: 'x'.repeat(1_100_000) }), 413, 'TOO_LARGE'],
    [
      'an import over 10 MB',
      () => server.call('POST', `${demo}/imports`, { x: 'x'.repeat(10_500_000) }),
      413,
      'TOO_LARGE',
    ],
    ['an unknown show', () => server.call('GET', '/shows/nowhere'), 404, 'SHOW_NOT_FOUND'],
    ['an unknown route', () => server.call('GET', '/nothing'), 404, 'NO_ROUTE'],
    ['a bad revision', () => server.call('GET', `${demo}/changes?since=-1`), 422, 'INVALID'],
    [
      'a body that was cut off',
      () => server.call('POST', `${demo}/changes`, '{"id":"abcdefgh-1","author":"Unterminated'),
      400,
      'NOT_JSON',
    ],
    ['a path of broken characters', () => server.call('GET', '/shows/%E0%A4%A'), 404, 'NO_ROUTE'],
    ['an id that no show can have', () => server.call('GET', '/shows/a%00b/seen'), 404, 'SHOW_NOT_FOUND'],
    [
      'an unknown link',
      () => server.call('POST', '/bench/harbour-finals/sound', { linkId: 'none' }),
      404,
      'LINK_NOT_FOUND',
    ],
    [
      'a jack to nothing',
      () => server.call('POST', '/bench/harbour-finals/jacks', { deviceId: 'none', serviceKey: 'osc', replyTo: null }),
      422,
      'BENCH_REFUSED',
    ],
  ];
  test.each(faults)('%s', async (_what, ask, status, code) => {
    const answer = await ask();
    expect([answer.status, answer.body.code]).toEqual([status, code]);
  });

  test('half a character or a zero in any text is refused with its place', async () => {
    for (const broken of ['a\u0000b', 'a\ud800b', '\udc00']) {
      const { status, body } = await server.call('POST', '/shows', { name: broken, subtitle: `sub ${broken}` });
      expect([status, body.code, body['faults']]).toMatchObject([422, 'INVALID', [{ at: 'name' }, { at: 'subtitle' }]]);
    }
    const whole = await server.call('POST', '/shows', { name: 'a wave 🌊 from é' });
    expect(whole.status).toBe(201);
  });

  test('whatever is asked of a show that is not there, the answer is that', async () => {
    const paths = apiRoutes.filter(({ path }) => /^\/api\/(shows|bench)\/\{/.test(path));
    expect(paths.length).toBeGreaterThan(15);
    for (const { method, path } of paths) {
      const address = path
        .replace('/api', '')
        .replace(/\{(id|showId)\}/, 'nowhere')
        .replaceAll(/\{[^}]+\}/g, '1');
      const answer = await server.call(method.toUpperCase(), address, method === 'get' ? undefined : {});
      expect([method, path, answer.status, answer.body.code]).toEqual([method, path, 404, 'SHOW_NOT_FOUND']);
    }
  });

  test('what is no file of the pages is nothing at that address', async () => {
    const answer = await fetch(`${server.url}/assets/none.js`);
    expect([answer.status, ((await answer.json()) as { code: string }).code]).toEqual([404, 'NO_ROUTE']);
  });

  test('all faults of a change come at once, each with its place', async () => {
    const row = {
      ...core.filledRow('devices', {
        id: 'a',
        typeId: 'tablet',
        name: 'x',
        unit: 1,
        place: '',
        firmware: null,
        note: '',
      }),
      name: '',
      unit: -1,
    };
    const { body } = await save(await newShow(), {
      label: '',
      edits: [{ table: 'devices', id: 'a', base: 0, before: null, after: row }],
    });
    expect((body['faults'] as { at: string }[]).map(({ at }) => at)).toEqual([
      'change.label',
      'change.edits.0.after.name',
      'change.edits.0.after.unit',
    ]);
  });

  test.each([
    ['another host', { host: 'evil.example' }, 'WRONG_HOST'],
    ['another origin', { origin: 'http://evil.example' }, 'WRONG_ORIGIN'],
    ['a cross-site fetch', { 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'cors' }, 'WRONG_ORIGIN'],
  ])('%s is turned away', async (_what, headers, code) => {
    const { request } = await import('node:http');
    const status = await new Promise<string>((done) => {
      const asked = request({ host: '127.0.0.1', port: server.port, path: '/api/shows', headers }, (response) => {
        let text = '';
        response.on('data', (chunk: Buffer) => (text += chunk.toString()));
        response.on('end', () => done((JSON.parse(text) as { code: string }).code));
      });
      asked.end();
    });
    expect(status).toBe(code);
  });

  test('the content security policy allows nothing inline and nothing from elsewhere', async () => {
    const { headers } = await fetch(`${server.url}/api/health`);
    const policy = headers.get('content-security-policy') ?? '';
    expect(policy).toContain("default-src 'self'");
    expect(policy).not.toMatch(/unsafe|\*|https?:/);
    expect(headers.get('x-powered-by')).toBeNull();
    // one worker runs a compiled library; whatever else it is, it may not make code of text
    const worker = await fetch(`${server.url}/assets/read-media.worker-AbC1_2-x.js`);
    const own = worker.headers.get('content-security-policy') ?? '';
    expect(own).toContain("script-src 'self' 'wasm-unsafe-eval'");
    expect(own).not.toMatch(/unsafe-inline|'unsafe-eval'|\*|https?:/);
  });

  test('every route of the description answers as described, and the description names every problem code', async () => {
    const { body } = await server.call('GET', '/openapi.json');
    expect(Object.values(body['paths'] as Record<string, object>).flatMap((path) => Object.keys(path))).toHaveLength(
      apiRoutes.length,
    );
    // a document is asked for where one is kept: papers.test.ts; a frame where one went by: bench-acts.test.ts
    const asked = apiRoutes.filter(({ method, path }) => method === 'get' && !/\{(documentId|number)\}/.test(path));
    for (const { method, path } of asked) {
      const url = path
        .replace('/api', '')
        .replace('{id}', 'harbour-finals')
        .replace('{showId}', 'harbour-finals')
        .replace('{deviceId}', 'desk');
      const query = path.endsWith('changes') ? '?since=0' : path.endsWith('history') ? `?author=${me}` : '';
      expect([method, path, (await server.call('GET', url + query)).status]).toEqual([method, path, 200]);
    }
  });
});

describe('passwords', () => {
  const planted = 'planted-Gannet-4711-password';

  test('a planted password works on the bench and is nowhere else: not in snapshots, sockets, logs, answers or the database', async () => {
    const tab = await server.socket('harbour-finals');
    const said: string[] = [];
    const keep = async (method: string, path: string, body?: unknown) => {
      const answer = await server.call(method, path, body);
      said.push(JSON.stringify(answer.body));
      return answer;
    };
    const secret = await keep('POST', `${demo}/secrets`, { password: planted });
    const show = await load('harbour-finals');
    const secretId = String(secret.body['id']);
    const camera = show.services['camera-1-web'];
    const link = show.links['remote-to-camera-1'];
    if (!camera || !link) throw new Error('demo changed');
    await keep('POST', `${demo}/changes`, {
      id: newId(),
      author: me,
      change: {
        label: 'Set a password',
        edits: [core.updateRow('services', camera, { secretId }), core.updateRow('links', link, { secretId })],
      },
    });
    await keep('POST', '/bench/harbour-finals/power', { deviceIds: Object.keys(show.devices), on: true });
    const sounding = await keep('POST', '/bench/harbour-finals/sound', { linkId: 'remote-to-camera-1' });
    expect((sounding.body['layers'] as { state: string }[]).every(({ state }) => state === 'pass')).toBe(true);
    await tab.until(({ topic }) => topic === 'bench');
    for (const path of ['', '/changes?since=0', '/analysis', '/seen', `/history?author=${me}`])
      await keep('GET', demo + path);
    await keep('GET', '/bench/harbour-finals');
    const sql = new pg.Client({ connectionString: server.databaseUrl });
    await sql.connect();
    const tables = await sql.query<{ name: string }>(
      `select table_name as name from information_schema.tables where table_schema = 'public'`,
    );
    let stored = '';
    for (const { name } of tables.rows)
      stored += JSON.stringify((await sql.query(`select t::text from "${name}" t`)).rows);
    const raw = await sql.query<{ sealed: Buffer }>('select sealed from secret');
    await sql.end();
    const places = {
      answers: said.join(),
      sockets: JSON.stringify(tab.messages),
      log: server.log(),
      database: stored,
      sealed: raw.rows.map(({ sealed }) => sealed.toString('latin1')).join(),
    };
    for (const [place, text] of Object.entries(places))
      expect([place, text.length > 50, text.includes(planted)]).toEqual([place, true, false]);
    tab.socket.close();
  });
});

describe('shows as things', () => {
  const asFile = async (id: string) => (await server.call('GET', `/shows/${id}/file`)).body as unknown as core.ShowFile;
  const plain = (show: Show) =>
    Object.fromEntries(
      core.tableNames.map((table) => [
        table,
        core
          .rowsOf(show, table)
          .sort((a, b) => (a.id < b.id ? -1 : 1))
          .map(core.contentOf),
      ]),
    );

  test('a show is renamed and put away, and its plan is not touched', async () => {
    const id = await newShow();
    expect((await server.call('PATCH', `/shows/${id}`, { name: 'Tide trials', archived: true })).status).toBe(204);
    const { body } = await server.call('GET', '/shows');
    const line = (body as unknown as { id: string }[]).find((show) => show.id === id);
    expect(line).toMatchObject({ name: 'Tide trials', subtitle: '', archived: true, rev: 0 });
    expect((await server.call('PATCH', `/shows/${id}`, { name: '' })).status).toBe(422);
    expect((await server.call('PATCH', '/shows/none', { archived: true })).status).toBe(404);
  });

  test('a show goes out as one file and comes in elsewhere as it was, with its papers and without passwords', async () => {
    const paper = await fetch(`${server.url}/api${demo}/files`, { method: 'POST', body: 'press and hold' });
    const { fileId } = (await paper.json()) as { fileId: string };
    const document = { id: newId(), model: null, title: 'guide', fileId, bytes: 14 };
    await save('harbour-finals', { label: 'Keep a guide', edits: [core.insertRow('documents', document)] });
    const file = await asFile('harbour-finals');
    const before = await load('harbour-finals');
    expect(file.passwords.length).toBeGreaterThan(0);
    expect(JSON.stringify(file)).not.toMatch(/"secretId":"/);
    const { status, body } = await server.call('POST', '/shows/files', file);
    expect(status).toBe(201);
    const after = await load(String(body['id']));
    const bare = (show: Show) =>
      JSON.parse(JSON.stringify(plain(show)).replace(/"secretId":"[^"]*"/g, '"secretId":null')) as unknown;
    expect(bare(after)).toEqual(bare(before));
    expect(after.name).toBe('Harbour Finals');
    expect(await asFile(after.id)).toEqual({ ...file, passwords: [] });
  });

  test('a file with faults is refused whole, with all of them, and makes no show', async () => {
    const file = await asFile('harbour-finals');
    const count = async () => ((await server.call('GET', '/shows')).body as unknown as object[]).length;
    const [first, second, ...devices] = file.tables.devices;
    if (!first || !second) throw new Error('no units');
    const bad = {
      ...file,
      tables: {
        ...file.tables,
        devices: [first, first, { ...second, typeId: 'nothing' }, ...devices],
        cables: file.tables.cables.map((cable, at) => (at === 0 ? { ...cable, fromSocket: 'none' } : cable)),
      },
    };
    const shows = await count();
    const { status, body } = await server.call('POST', '/shows/files', bad);
    expect([status, body['code']]).toEqual([422, 'INVALID']);
    const faults = (body['faults'] as { at: string }[]).map(({ at }) => at);
    expect(faults).toContain('tables.devices.1.id');
    expect(faults).toContain(`tables.devices/${second.id}.typeId`);
    expect(faults.some((at) => at.startsWith('tables.cables/'))).toBe(true);
    const paper = Object.keys(file.papers)[0] ?? '';
    const forged = { ...file, papers: { [paper]: Buffer.from('other bytes').toString('base64') } };
    expect((await server.call('POST', '/shows/files', forged)).body['code']).toBe('INVALID');
    expect(await count()).toBe(shows);
  });

  test('a copy is a start: the plan without passwords, ticks and what was keyed in; asked twice it is made once', async () => {
    const key = newId();
    const ask = () => server.call('POST', `${demo}/copies`, { name: 'Next year', key });
    const [one, two] = [await ask(), await ask()];
    expect([one.status, two.body['id']]).toEqual([201, one.body['id']]);
    const copy = await load(String(one.body['id']));
    const source = await load('harbour-finals');
    expect(Object.keys(copy.devices)).toEqual(Object.keys(source.devices));
    expect([copy.name, copy.rev, copy.keyedIn, copy.documents]).toEqual(['Next year', 0, {}, {}]);
    expect(core.rowsOf(copy, 'links').every(({ secretId }) => secretId === null)).toBe(true);
    expect(core.rowsOf(copy, 'devices').every(({ savedOn, done }) => savedOn === null && done.length === 0)).toBe(true);
  });

  test('the demo can be made fresh, with its passwords', async () => {
    const { status, body } = await server.call('POST', '/shows/demo', {});
    expect(status).toBe(201);
    const fresh = await load(String(body['id']));
    expect([Object.keys(fresh.devices).length, fresh.id === 'harbour-finals']).toEqual([41, false]);
    expect(core.rowsOf(fresh, 'links').some(({ secretId }) => secretId !== null)).toBe(true);
  });
});
