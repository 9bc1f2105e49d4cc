import { show as core, type Change, type Show } from '@deep-patch/core';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { startServer, type TestServer } from '../../test/running.ts';
import { stacksOf, type ChangeKind, type LoggedChange } from './changes.ts';

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
            core.contentWith('devices', {
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

test('the stacks follow from the log alone', () => {
  const entry = (rev: number, kind: ChangeKind): LoggedChange => ({
    rev,
    id: `c${rev}`,
    kind,
    ofRev: null,
    label: '',
    author: 'a',
    edits: [],
  });
  const revs = (kinds: ChangeKind[]) => {
    const { undo, redo } = stacksOf(kinds.map((kind, at) => entry(at + 1, kind)));
    return [undo.map(({ rev }) => rev), redo.map(({ rev }) => rev)];
  };
  expect(revs([])).toEqual([[], []]);
  expect(revs(['do', 'do', 'undo'])).toEqual([[1], [3]]);
  expect(revs(['do', 'do', 'undo', 'undo', 'redo'])).toEqual([[5], [3]]);
  expect(revs(['do', 'undo', 'do'])).toEqual([[3], []]);
});
