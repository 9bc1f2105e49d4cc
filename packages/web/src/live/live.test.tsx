import { type contract, show as core, type Change, type Show } from '@deep-patch/core';
import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { act, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { api, Problem } from './api.ts';
import { newId, ownAuthor } from './identity.ts';
import { NoticesProvider, useNotices } from './notices.tsx';
import { catchUp, seeAnew, seenKey, showKey } from './snapshot.ts';
import { openSocket } from './socket.ts';
import { useShortcuts } from '../shell/use-shortcuts.ts';

afterEach(() => {
  vi.restoreAllMocks();
  vi.useRealTimers();
});

/** An answer that comes when the test says so. */
function later() {
  let resolve: (response: Response) => void = () => undefined;
  const promise = new Promise<Response>((done) => (resolve = done));
  return { promise, resolve };
}

const answer = (status: number, body: unknown) =>
  new Response(typeof body === 'string' ? body : JSON.stringify(body), { status });

describe('the interface to the server', () => {
  test.each([
    [
      'a problem document',
      () =>
        Promise.resolve(answer(409, { code: 'SHOW_CHANGED', title: 'Changed meanwhile', detail: 'Choose.', extra: 1 })),
      'SHOW_CHANGED',
      'Changed meanwhile',
    ],
    [
      'a server that is away',
      () => Promise.reject(new TypeError('failed')),
      'SERVER_AWAY',
      'Deep Patch does not answer',
    ],
    [
      'an answer that is no JSON',
      () => Promise.resolve(answer(500, '<html>')),
      'SERVER_AWAY',
      'The answer could not be read',
    ],
  ])('%s becomes a problem with a code and words', async (_what, reply, code, title) => {
    vi.spyOn(globalThis, 'fetch').mockImplementation(reply);
    const problem = await api.post('/shows', {}).catch((error: unknown) => error);
    expect(problem).toBeInstanceOf(Problem);
    expect([(problem as Problem).code, (problem as Problem).message]).toEqual([code, title]);
  });

  test('an author is made once and kept, in the form that the server takes', () => {
    localStorage.clear();
    const first = ownAuthor();
    expect([ownAuthor(), /^[a-z0-9-]{8,40}$/.test(first), core.idSchema.safeParse(newId()).success]).toEqual([
      first,
      true,
      true,
    ]);
    localStorage.setItem('deep-patch-author', 'NOT VALID');
    expect(ownAuthor()).toMatch(/^[a-z0-9-]{8,40}$/);
  });
});

describe('catching up', () => {
  const device = (name: string) =>
    core.filledRow('devices', { id: 'd', typeId: 't', name, unit: null, place: '', firmware: null, note: '' });
  const at = (rev: number): Show => ({
    ...core.emptyShow({ id: 's', name: 'S' }),
    rev,
    devices: { d: { ...device('One'), rev: 1 } },
  });
  const change = (rev: number, name: string): Change & { rev: number } => ({
    rev,
    label: 'x',
    edits: [{ table: 'devices', id: 'd', base: rev - 1, before: device('One'), after: device(name) }],
  });
  let client: QueryClient;
  beforeEach(() => {
    client = new QueryClient();
    client.setQueryData(showKey('s'), at(1));
  });
  const held = () => client.getQueryData<Show>(showKey('s'));

  test('applies what it missed in order', async () => {
    const fetched = vi
      .spyOn(globalThis, 'fetch')
      .mockImplementation(() => Promise.resolve(answer(200, { changes: [change(2, 'Two'), change(3, 'Three')] })));
    await catchUp(client, 's');
    expect(fetched.mock.calls[0]?.[0]).toBe('/api/shows/s/changes?since=1');
    expect([held()?.rev, held()?.devices['d']]).toEqual([3, { ...device('Three'), rev: 3 }]);
  });

  test('two at once do not apply a change twice', async () => {
    vi.spyOn(globalThis, 'fetch').mockImplementation(() =>
      Promise.resolve(answer(200, { changes: [change(2, 'Two')] })),
    );
    await Promise.all([catchUp(client, 's'), catchUp(client, 's')]);
    expect([held()?.rev, held()?.devices['d']?.name]).toEqual([2, 'Two']);
  });

  /** A question that is under way, and what the server is asked; each answer is given when the test says so. */
  function asking(key: readonly string[], path: string) {
    const empty = new QueryClient();
    const [first, second] = [later(), later()];
    const asked = vi.spyOn(globalThis, 'fetch').mockReturnValueOnce(first.promise).mockReturnValueOnce(second.promise);
    const watching = new QueryObserver(empty, {
      queryKey: key,
      queryFn: () => api.get<object>(path),
      staleTime: Infinity,
    });
    const end = watching.subscribe(() => undefined);
    return { empty, first, second, asked, watching, end };
  }

  test('news that overtakes the first answer is asked for after it, not taken for it', async () => {
    const { empty, first, second, asked, end } = asking(showKey('s'), '/shows/s');
    const caught = catchUp(empty, 's');
    first.resolve(answer(200, at(1)));
    second.resolve(answer(200, { changes: [change(2, 'Two')] }));
    await caught;
    expect(asked.mock.calls.map(([url]) => url)).toEqual(['/api/shows/s', '/api/shows/s/changes?since=1']);
    expect(empty.getQueryData<Show>(showKey('s'))?.devices['d']?.name).toBe('Two');
    end();
  });

  test('what was seen is asked for again after a first answer that may be older than the news', async () => {
    const { empty, first, second, watching, end } = asking(seenKey('s'), '/shows/s/seen');
    const caught = seeAnew(empty, 's');
    first.resolve(answer(200, { found: 'before' }));
    second.resolve(answer(200, { found: 'after' }));
    await caught;
    expect(watching.getCurrentResult().data).toEqual({ found: 'after' });
    end();
  });

  test('loads the snapshot anew when too much happened', async () => {
    vi.spyOn(globalThis, 'fetch').mockImplementation(() => Promise.resolve(answer(200, { changes: null })));
    await catchUp(client, 's');
    expect(client.getQueryState(showKey('s'))?.isInvalidated).toBe(true);
  });
});

describe('the socket', () => {
  class FakeSocket {
    static readonly all: FakeSocket[] = [];
    onopen: (() => void) | undefined;
    onclose: (() => void) | undefined;
    onmessage: ((event: { data: string }) => void) | undefined;
    readonly sent: string[] = [];
    readonly url: string;
    closed = false;
    constructor(url: string) {
      this.url = url;
      FakeSocket.all.push(this);
    }
    send(text: string) {
      this.sent.push(text);
    }
    close() {
      this.closed = true;
    }
  }

  test('joins its show, comes back after a break with growing patience, and ends for good when told', () => {
    vi.useFakeTimers();
    vi.stubGlobal('WebSocket', FakeSocket);
    FakeSocket.all.length = 0;
    const states: string[] = [];
    const messages: contract.LiveMessage[] = [];
    const end = openSocket('harbour', {
      connection: (state) => states.push(state),
      message: (message) => messages.push(message),
    });
    vi.advanceTimersByTime(1);
    const [first] = FakeSocket.all;
    first?.onopen?.();
    first?.onmessage?.({ data: '{"topic":"presence","showId":"harbour","here":2}' });
    expect([first?.sent, messages, states]).toEqual([
      ['{"topic":"join","showId":"harbour"}'],
      [{ topic: 'presence', showId: 'harbour', here: 2 }],
      ['open'],
    ]);
    const waits = [300, 600, 1200, 2400, 3000, 3000];
    for (const [at, wait] of waits.entries()) {
      FakeSocket.all.at(-1)?.onclose?.();
      vi.advanceTimersByTime(wait - 1);
      expect(FakeSocket.all.length).toBe(at + 1);
      vi.advanceTimersByTime(1);
      expect(FakeSocket.all.length).toBe(at + 2);
    }
    FakeSocket.all.at(-1)?.onopen?.();
    end();
    FakeSocket.all.at(-1)?.onclose?.();
    vi.advanceTimersByTime(10_000);
    expect([FakeSocket.all.length, FakeSocket.all.at(-1)?.closed, states.at(-1)]).toEqual([
      waits.length + 1,
      true,
      'open',
    ]);
    vi.unstubAllGlobals();
  });
});

describe('notices', () => {
  function Teller() {
    const { notices, tell } = useNotices();
    return (
      <>
        <button type="button" onClick={() => tell({ text: 'Done' })}>
          good
        </button>
        <button type="button" onClick={() => tell({ problem: new Problem({ title: 'Failed' }) })}>
          bad
        </button>
        <output>{notices.map(({ text, problem }) => text ?? problem?.message).join()}</output>
      </>
    );
  }

  test('what was done goes by itself, what went wrong stays', () => {
    vi.useFakeTimers();
    render(
      <NoticesProvider>
        <Teller />
      </NoticesProvider>,
    );
    act(() => screen.getByRole('button', { name: 'bad' }).click());
    act(() => screen.getByRole('button', { name: 'good' }).click());
    expect(screen.getByRole('status').textContent).toBe('Failed,Done');
    act(() => void vi.advanceTimersByTime(6_000));
    expect(screen.getByRole('status').textContent).toBe('Failed');
  });
});

describe('shortcuts', () => {
  function Keys({ ran }: { ran: string[] }) {
    useShortcuts(['Ctrl K', 'Ctrl Z', '?', 'g a'].map((keys) => ({ keys, what: keys, run: () => ran.push(keys) })));
    return <input aria-label="Field" />;
  }

  test('plain keys and undo are left to somebody who types; the command box opens from anywhere', async () => {
    const user = userEvent.setup();
    const ran: string[] = [];
    render(<Keys ran={ran} />);
    await user.keyboard('?ga{Control>}z{/Control}');
    expect(ran).toEqual(['?', 'g a', 'Ctrl Z']);
    await user.click(screen.getByLabelText('Field'));
    await user.keyboard('?ga{Control>}z{/Control}{Control>}k{/Control}');
    expect(ran.slice(3)).toEqual(['Ctrl K']);
    expect(screen.getByLabelText<HTMLInputElement>('Field').value).toBe('?ga');
  });
});
