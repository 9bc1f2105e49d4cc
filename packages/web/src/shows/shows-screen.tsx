import type { contract } from '@deep-patch/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, asProblem, Problem } from '../live/api.ts';
import { useSteadyIds } from '../live/steady-ids.ts';
import { Dialog } from '../parts/dialog.tsx';
import { Empty, Loading } from '../parts/empty.tsx';
import { MarkLogo } from '../shell/rail.tsx';
import { ThemeButton } from '../shell/top-bar.tsx';
import { goToStop } from '../shell/tour.ts';
import { CopyDialog, NewShowDialog, RemoveShowDialog, RenameDialog } from './show-dialogs.tsx';

type Doing =
  { readonly what: 'new' } | { readonly what: 'remove' | 'rename' | 'copy'; readonly show: contract.ShowLine };

export function ShowsScreen() {
  const shows = useQuery({ queryKey: ['shows'], queryFn: () => api.get<contract.ShowLine[]>('/shows') });
  const [doing, setDoing] = useState<Doing>();
  const done = () => setDoing(undefined);
  const here = shows.data?.filter(({ archived }) => !archived) ?? [];
  const away = shows.data?.filter(({ archived }) => archived) ?? [];
  return (
    <div className="flex h-full flex-col">
      <header className="flex h-11 items-center gap-2 border-b border-rule bg-base-200 px-4 text-base font-bold">
        <MarkLogo /> Deep Patch
        <span className="ml-auto">
          <ThemeButton />
        </span>
      </header>
      <main className="mx-auto w-full max-w-5xl flex-1 overflow-auto p-6">
        <div className="mb-4 flex flex-wrap items-end gap-3">
          <h1 className="text-xl font-bold">Shows</h1>
          <p className="mb-0.5 mr-auto text-mute">
            Every control link of a show, from the gear list to an answered command
          </p>
          <FreshDemo />
          <OpenFile />
          <button type="button" className="act-main" onClick={() => setDoing({ what: 'new' })}>
            New show
          </button>
        </div>
        {shows.isPending && <Loading rows={4} />}
        {shows.error && (
          <Empty text={`${shows.error.message}. ${asProblem(shows.error).detail}`}>
            <button type="button" className="act-main" onClick={() => void shows.refetch()}>
              Try again
            </button>
          </Empty>
        )}
        {shows.data?.length === 0 && <Empty text="No show yet. Make one and start with its gear list." />}
        <ShowList shows={here} onDo={setDoing} />
        {away.length > 0 && (
          <details className="mt-6">
            <summary className="cursor-pointer font-semibold text-mute">Put away · {away.length}</summary>
            <ShowList shows={away} onDo={setDoing} />
          </details>
        )}
      </main>
      {doing?.what === 'new' && <NewShowDialog onClose={done} />}
      {doing?.what === 'remove' && <RemoveShowDialog show={doing.show} onClose={done} />}
      {doing?.what === 'rename' && <RenameDialog show={doing.show} onClose={done} />}
      {doing?.what === 'copy' && <CopyDialog show={doing.show} onClose={done} />}
    </div>
  );
}

function ShowList({
  shows,
  onDo,
}: {
  readonly shows: readonly contract.ShowLine[];
  readonly onDo: (doing: Doing) => void;
}) {
  return (
    <ul className="border-t border-rule">
      {shows.map((show) => (
        <ShowRow key={show.id} show={show} onDo={onDo} />
      ))}
    </ul>
  );
}

function ShowRow({ show, onDo }: { readonly show: contract.ShowLine; readonly onDo: (doing: Doing) => void }) {
  const client = useQueryClient();
  const put = useMutation({
    mutationFn: () => api.patch(`/shows/${show.id}`, { archived: !show.archived }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['shows'] }),
  });
  const quiet = 'btn btn-ghost btn-sm text-mute';
  return (
    <li className="flex flex-wrap items-center gap-x-1 border-b border-rule hover:bg-base-200">
      <Link to={`/shows/${show.id}/rig`} className="min-w-64 flex-1 px-2 py-2.5">
        <b>{show.name}</b> <span className="text-mute">{show.subtitle}</span>
        <Standing show={show} />
        <span className="block text-xs text-mute">
          {show.devices} devices · rev {show.rev} · changed{' '}
          {new Date(show.changedAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}
        </span>
      </Link>
      <button
        type="button"
        className={quiet}
        onClick={() => onDo({ what: 'rename', show })}
        aria-label={`Rename ${show.name}`}
      >
        Rename
      </button>
      <button
        type="button"
        className={quiet}
        onClick={() => onDo({ what: 'copy', show })}
        aria-label={`Copy ${show.name}`}
      >
        Copy
      </button>
      <a className={quiet} href={`/api/shows/${show.id}/file`} download aria-label={`Save as a file: ${show.name}`}>
        Save as a file
      </a>
      <button
        type="button"
        className={quiet}
        onClick={() => put.mutate()}
        aria-label={show.archived ? `Take out again: ${show.name}` : `Put away: ${show.name}`}
      >
        {show.archived ? 'Take out' : 'Put away'}
      </button>
      <button
        type="button"
        className={quiet}
        onClick={() => onDo({ what: 'remove', show })}
        aria-label={`Remove ${show.name}`}
      >
        Remove
      </button>
    </li>
  );
}

interface ShowAnalysis {
  readonly findings: readonly { readonly grade: string }[];
  readonly links: readonly { readonly depth: number }[];
}

/** How far a show is: links that reach the bottom, and what comes next. */
function Standing({ show }: { readonly show: contract.ShowLine }) {
  const { data } = useQuery({
    queryKey: ['standing', show.id, show.rev],
    queryFn: () => api.get<ShowAnalysis>(`/shows/${show.id}/analysis`),
    enabled: !show.archived && show.devices > 0,
    staleTime: 60_000,
  });
  if (show.devices === 0) return <span className="block text-[13px]">Next: read its gear list</span>;
  if (!data) return null;
  const deep = data.links.filter(({ depth }) => depth === 8).length;
  const stops = data.findings.filter(({ grade }) => grade === 'stops').length;
  const next =
    data.links.length === 0
      ? 'say who controls what'
      : stops > 0
        ? `mend ${stops} ${stops === 1 ? 'thing' : 'things'} that ${stops === 1 ? 'stops' : 'stop'} it`
        : 'rehearse it on the bench';
  return (
    <span className="block text-[13px]">
      {data.links.length > 0 && `${deep} of ${data.links.length} links reach the bottom · `}Next: {next}
    </span>
  );
}

/** The demo as it was on the first day, beside whatever became of the others. */
function FreshDemo() {
  const navigate = useNavigate();
  const steady = useSteadyIds();
  const make = useMutation({
    mutationFn: (_as: 'tour' | 'demo') => api.post<{ id: string }>('/shows/demo', { key: steady.begin()() }),
    onSuccess: ({ id }, as) => {
      if (as === 'tour') goToStop({ showId: id, at: 0 });
      void navigate(`/shows/${id}/rig`);
    },
  });
  return (
    <>
      {make.error && (
        <p role="alert" className="w-full text-error">
          {make.error.message}. {asProblem(make.error).detail}
        </p>
      )}
      <button type="button" className="act" disabled={make.isPending} onClick={() => make.mutate('tour')}>
        Take the tour
      </button>
      <button type="button" className="act" disabled={make.isPending} onClick={() => make.mutate('demo')}>
        Fresh demo
      </button>
    </>
  );
}

/** A show that was saved as a file, here or elsewhere: taken whole, or refused with all its faults. */
function OpenFile() {
  const navigate = useNavigate();
  const open = useMutation({
    mutationFn: async (file: File) => api.post<{ id: string }>('/shows/files', await asJson(file)),
    onSuccess: ({ id }) => void navigate(`/shows/${id}/rig`),
  });
  const problem = open.error ? asProblem(open.error) : undefined;
  return (
    <>
      <label className="act cursor-pointer">
        Open a file
        <input
          type="file"
          accept=".json,application/json"
          className="sr-only"
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            event.target.value = '';
            if (file) open.mutate(file);
          }}
        />
      </label>
      {problem && (
        <Dialog title="The file was not opened" onClose={() => open.reset()}>
          <p>
            {problem.message}. {problem.detail}
          </p>
          <ul className="mt-2 max-h-72 overflow-auto text-[13px] wrap-anywhere text-error">
            {faultsOf(problem.facts).map(({ at, message }) => (
              <li key={`${at} ${message}`}>
                <code>{at}</code> {message}
              </li>
            ))}
          </ul>
        </Dialog>
      )}
    </>
  );
}

/** Throws a `Problem` for the dialogue where the file holds something else. */
async function asJson(file: File): Promise<unknown> {
  const text = await file.text();
  try {
    return JSON.parse(text) as unknown;
  } catch {
    throw new Problem({
      code: 'NO_SHOW_FILE',
      title: `${file.name} is no show file`,
      detail: 'It is not JSON, or it was cut short. Save the show as a file again, and open that.',
    });
  }
}

const faultsOf = (facts: Readonly<Record<string, unknown>>): readonly { at: string; message: string }[] =>
  Array.isArray(facts['faults']) ? (facts['faults'] as { at: string; message: string }[]).slice(0, 50) : [];
