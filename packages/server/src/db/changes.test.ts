import { show as core, type Change } from '@deep-patch/core';
import fc from 'fast-check';
import type { Pool } from 'pg';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { startServer, type TestServer } from '../../test/running.ts';
import { Failure } from '../http/failure.ts';
import { Changes } from './changes.ts';
import { changesSince } from './log.ts';
import { openPool } from './pool.ts';
import { loadShow } from './shows.ts';

let server: TestServer;
let pool: Pool;
beforeAll(async () => {
  server = await startServer();
  pool = openPool(server.databaseUrl);
});
afterAll(async () => {
  await pool.end();
  await server.stop();
});

let counter = 0;
const authors = ['author-anna-1', 'author-bela-2'];
/** What each asks for, on one of four contacts, four computers, and their links; `as` of somebody before is a second try. */
const asking = fc.record({
  act: fc.oneof(
    { weight: 20, arbitrary: fc.constant('contact' as const) },
    { weight: 6, arbitrary: fc.constantFrom('forged', 'computer', 'runsOn', 'link', 'undo', 'redo') },
  ),
  at: fc.nat(3),
  base: fc.constantFrom('as it is', 'as it is', 'old'),
  gone: fc.boolean(),
  author: fc.constantFrom(...authors),
  again: fc.nat(9),
});
type Asking = typeof asking extends fc.Arbitrary<infer T> ? T : never;

const newShow = async () => {
  const { body } = await server.call('POST', '/shows', { name: 'Crowd' });
  return String(body['id']);
};

/** What a crowd expects of the show before anything is answered: its rows, and the revision that comes next. */
class Guess {
  private readonly rows = new Map<string, core.Row>();
  private rev = 0;

  changeOf(at: number, { act, at: which, base, gone }: Asking): Change | null {
    if (act === 'undo' || act === 'redo') return null;
    const [table, id, after] = rowOf(act, which, `${act} ${at}`);
    const now = this.rows.get(id);
    const before = now ? core.contentOf(now) : null;
    if (base === 'as it is' && ['contact', 'computer'].includes(act)) {
      this.rev += 1;
      if (gone) this.rows.delete(id);
      else this.rows.set(id, { ...after, rev: this.rev } as core.Row);
    }
    const edit = {
      table,
      id,
      base: (now?.rev ?? 0) - (base === 'old' ? 1 : 0),
      before: act === 'forged' ? { ...after, name: 'never' } : before,
      after: gone && act === 'contact' ? null : after,
    };
    return { label: `${act} ${at}`, edits: [edit as core.Edit] };
  }
}

function rowOf(act: Asking['act'], which: number, name: string): [core.TableName, string, { id: string }] {
  if (act === 'contact' || act === 'forged') {
    const id = `contact-${which}`;
    return ['contacts', id, core.filledRow('contacts', { id, name, knows: '', reach: '' })];
  }
  const id = `computer-${which}`;
  const computer = { id, typeId: 'tablet', name, unit: null, place: '', firmware: null, note: '' };
  if (act !== 'link')
    return ['devices', id, core.filledRow('devices', { ...computer, runsOn: act === 'runsOn' ? 'nobody' : null })];
  const ends = {
    controllerId: id,
    targetId: 'nobody',
    serviceKey: 'x',
    slot: null,
    host: null,
    port: 9,
    replyPort: null,
  };
  const link = { id: `link-${which}`, ...ends, account: null, secretId: null, command: null, args: [] };
  return ['links', link.id, core.filledRow('links', link)];
}

const told = (outcome: unknown) => {
  if (outcome instanceof Failure) return outcome.code;
  const { rev, id, kind, ofRev, label, author } = outcome as Record<string, unknown>;
  return { rev, id, kind, ofRev, label, author };
};

test('changes that come at once end as if each had waited for the one before', async () => {
  let [cases, together] = [0, 0];
  const outcomes = new Set<string>();
  await fc.assert(
    fc.asyncProperty(fc.array(asking, { minLength: 5, maxLength: 25 }), async (list) => {
      cases += 1;
      const guess = new Guess();
      const shows = await Promise.all([newShow(), newShow()]);
      const asked = list.map((one, at) => ({
        one,
        request: { id: `change-${one.again === 0 ? Math.floor(at / 2) : at}`, author: one.author },
        change: guess.changeOf(at, one),
      }));
      const run = (changes: Changes, showId: string, { one, request, change }: (typeof asked)[number]) =>
        (change
          ? changes.save(showId, { ...request, change })
          : changes.stepBack(showId, request, one.act as 'undo' | 'redo')
        ).catch((error: unknown) => error);
      const changes = new Changes(pool);
      const atOnce = await Promise.all(asked.map((each) => run(changes, shows[0], each)));
      const oneByOne: unknown[] = [];
      for (const each of asked) oneByOne.push(await run(changes, shows[1], each));
      expect(atOnce.map(told)).toEqual(oneByOne.map(told));
      const rows = async (showId: string) => ({ ...(await loadShow(pool, showId)), id: '' });
      expect(await rows(shows[0])).toEqual(await rows(shows[1]));
      expect(await changesSince(pool, shows[0], 0)).toEqual(await changesSince(pool, shows[1], 0));
      for (const outcome of atOnce) outcomes.add(outcome instanceof Failure ? outcome.code : 'saved');
      const times = await savedAt(shows[0]);
      together += times.length - new Set(times).size;
    }),
    { numRuns: 60 },
  );
  expect(cases).toBe(60);
  // a crowd that guesses wrong adds a row twice, not in every run
  outcomes.delete('ROW_EXISTS');
  expect([...outcomes].sort()).toEqual([
    'DANGLING',
    'INVALID',
    'NOTHING_TO_REDO',
    'NOTHING_TO_UNDO',
    'SHOW_CHANGED',
    'saved',
  ]);
  // many did share a transaction, which is what `now()` tells
  expect(together).toBeGreaterThan(60);
}, 300_000);

async function savedAt(showId: string): Promise<string[]> {
  const { rows } = await pool.query<{ at: string }>('select at::text from change where show_id = $1', [showId]);
  return rows.map(({ at }) => at);
}

test('what holds only with a change that comes later is refused, though both are saved at once', async () => {
  const showId = await newShow();
  const changes = new Changes(pool);
  const [computer, other] = [1, 2].map((n) => rowOf('computer', n, `C ${n}`)[2] as core.Content<'devices'>);
  const [, , link] = rowOf('link', 1, 'L');
  const wanted = { ...link, targetId: 'computer-2' } as core.Content<'links'>;
  const all = (...list: (core.Edit | undefined)[][]) =>
    Promise.all(
      list.map((edits, at) => {
        const change = { label: 'x', edits: edits.flatMap((edit) => edit ?? []) };
        const saved = changes.save(showId, { id: `a${counter++}-${at}`, author: 'author-anna-1', change });
        return saved.then(
          () => 'saved',
          (error: unknown) => (error as Failure).code,
        );
      }),
    );
  const insert = (row: core.Content<'devices'> | undefined) => row && core.insertRow('devices', row);
  // the first goes by itself, the others wait for it and go together
  const contact = core.insertRow('contacts', core.filledRow('contacts', { id: 'c', name: 'C', knows: '', reach: '' }));
  expect(await all([contact], [insert(computer), core.insertRow('links', wanted)], [insert(other)])).toEqual([
    'saved',
    'DANGLING',
    'saved',
  ]);
  expect(await all([insert(computer), core.insertRow('links', wanted)])).toEqual(['saved']);
  const { devices, links } = await loadShow(pool, showId);
  const [target, drawn] = [devices['computer-2'], links['link-1']];
  const another = core.insertRow('contacts', core.filledRow('contacts', { id: 'd', name: 'D', knows: '', reach: '' }));
  expect(
    await all([another], [target && core.removeRow('devices', target)], [drawn && core.removeRow('links', drawn)]),
  ).toEqual(['saved', 'DANGLING', 'saved']);
});

test('who waits when the database goes is told so, each of them, and nobody waits for a second try of others', async () => {
  const own = openPool('postgresql://nobody@127.0.0.1:9/none');
  const changes = new Changes(own);
  const change: Change = { label: 'x', edits: [] };
  const all = Array.from({ length: 20 }, (_, at) => changes.save('x', { id: `c${at}`, author: 'a', change }));
  const codes = await Promise.all(all.map((one) => one.catch((error: unknown) => (error as Failure).code)));
  expect(new Set(codes)).toEqual(new Set(['DATABASE_AWAY']));
  await own.end();
});
