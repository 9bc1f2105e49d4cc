import { show as core, type Change, type Show } from '@deep-patch/core';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { startServer, type TestServer } from '../../test/running.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startServer();
});
afterAll(() => server.stop());

let counter = 0;
const authors = ['author-anna-1', 'author-bela-2'] as const;
type Author = (typeof authors)[number];
type Step = {
  readonly author: Author;
  readonly act: 'add' | 'rename' | 'remove' | 'undo' | 'redo';
  readonly at: number;
};

const step: fc.Arbitrary<Step> = fc.record({
  author: fc.constantFrom(...authors),
  act: fc.constantFrom('add', 'rename', 'remove', 'undo', 'undo', 'redo'),
  at: fc.nat(5),
});
const contentsOf = (show: Show) =>
  Object.fromEntries(core.rowsOf(show, 'devices').map((row) => [row.id, core.contentOf(row)]));

/** What the people expect: a list of contents and two stacks each, kept in memory by the simplest rules. */
class Model {
  rows: Record<string, core.Content<'devices'>> = {};
  readonly stacks: Record<Author, { undo: Change[]; redo: Change[] }> = {
    'author-anna-1': { undo: [], redo: [] },
    'author-bela-2': { undo: [], redo: [] },
  };

  write(change: Change): void {
    for (const { id, after } of change.edits as core.Edit<'devices'>[]) {
      const { [id]: _gone, ...rest } = this.rows;
      this.rows = after ? { ...rest, [id]: after } : rest;
    }
  }
  do(author: Author, change: Change): void {
    this.write(change);
    this.stacks[author].undo.push(change);
    this.stacks[author].redo = [];
  }
  /** Takes the top of a stack back if every row still is as that change left it; answers whether it did. */
  back(author: Author, from: 'undo' | 'redo'): 'done' | 'empty' | 'clash' {
    const [source, target] =
      from === 'undo'
        ? [this.stacks[author].undo, this.stacks[author].redo]
        : [this.stacks[author].redo, this.stacks[author].undo];
    const change = source.at(-1);
    if (!change) return 'empty';
    const untouched = change.edits.every(({ id, after }) => core.isEqual(this.rows[id] ?? null, after));
    if (!untouched) return 'clash';
    source.pop();
    const inverse = {
      label: change.label,
      edits: change.edits.map((edit) => ({ ...edit, before: edit.after, after: edit.before })).reverse(),
    };
    this.write(inverse);
    target.push(inverse);
    return 'done';
  }
}

describe('undo and redo of two people on one show', () => {
  test('the server does what the simplest model does, whatever they do in which order', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 3, maxLength: 14 }), async (steps) => {
        const id = String((await server.call('POST', '/shows', { name: 'Model' })).body['id']);
        const load = async () => (await server.call('GET', `/shows/${id}`)).body as unknown as Show;
        const model = new Model();
        for (const { author, act, at } of steps) {
          counter += 1;
          if (act === 'undo' || act === 'redo') {
            const answer = await server.call('POST', `/shows/${id}/${act}`, { id: `m-${counter}`, author });
            const told = answer.status === 200 ? 'done' : answer.body.code === 'SHOW_CHANGED' ? 'clash' : 'empty';
            expect([act, told]).toEqual([act, model.back(author, act)]);
          } else {
            const change = changeFor(await load(), act, at);
            if (!change) continue;
            expect(
              (await server.call('POST', `/shows/${id}/changes`, { id: `m-${counter}`, author, change })).status,
            ).toBe(201);
            model.do(author, change);
          }
          expect(contentsOf(await load())).toEqual(model.rows);
        }
        for (const author of authors) {
          const { body } = await server.call('GET', `/shows/${id}/history?author=${author}`);
          const { undo, redo } = model.stacks[author];
          expect(body).toEqual({ undo: undo.at(-1)?.label ?? null, redo: redo.at(-1)?.label ?? null });
        }
        await server.call('DELETE', `/shows/${id}`);
      }),
      { numRuns: 25 },
    );
  });

  function changeFor(show: Show, act: 'add' | 'rename' | 'remove', at: number): Change | undefined {
    const rows = core.rowsOf(show, 'devices').sort((a, b) => (a.id < b.id ? -1 : 1));
    const row = rows[at % Math.max(1, rows.length)];
    if (act === 'add')
      return {
        label: `Add ${counter}`,
        edits: [
          core.insertRow(
            'devices',
            core.filledRow('devices', {
              id: `n${counter}`,
              typeId: 'tablet',
              name: `Tablet ${counter}`,
              unit: null,
              place: '',
              firmware: null,
              note: '',
            }),
          ),
        ],
      };
    if (!row) return undefined;
    return act === 'rename'
      ? { label: `Rename ${counter}`, edits: [core.updateRow('devices', row, { name: `Renamed ${counter}` })] }
      : { label: `Remove ${counter}`, edits: [core.removeRow('devices', row)] };
  }
});

test('undo goes back to the start of the show, and forward again', async () => {
  const id = String((await server.call('POST', '/shows', { name: 'Long' })).body['id']);
  const path = `/shows/${id}`;
  const load = async () => (await server.call('GET', path)).body as unknown as Show;
  const author = authors[0];
  const named = (name: string) =>
    core.filledRow('devices', { id: 'd', typeId: 'tablet', name, unit: null, place: '', firmware: null, note: '' });
  const steps = 220;
  let base = 0;
  for (let at = 0; at < steps; at += 1) {
    const edit = {
      table: 'devices',
      id: 'd',
      base,
      before: at === 0 ? null : named(`${at - 1}`),
      after: named(`${at}`),
    };
    const request = { id: `l-${at}`, author, change: { label: `${at}`, edits: [edit] } };
    const saved = await server.call('POST', `${path}/changes`, request);
    expect(saved.status).toBe(201);
    base = Number(saved.body['rev']);
  }
  const last = contentsOf(await load());
  for (const [kind, end] of [
    ['undo', {}],
    ['redo', last],
  ] as const) {
    for (let at = 0; at < steps; at += 1)
      expect((await server.call('POST', `${path}/${kind}`, { id: `${kind}-${at}`, author })).status).toBe(200);
    expect((await server.call('POST', `${path}/${kind}`, { id: `${kind}-x`, author })).status).toBe(409);
    expect(contentsOf(await load())).toEqual(end);
  }
});
