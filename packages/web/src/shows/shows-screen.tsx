import { show as core } from '@deep-patch/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type SyntheticEvent } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, asProblem } from '../live/api.ts';
import { useSteadyIds } from '../live/steady-ids.ts';
import { Dialog } from '../parts/dialog.tsx';
import { Empty, Loading } from '../parts/empty.tsx';
import { Field } from '../parts/field.tsx';
import { MarkLogo } from '../shell/rail.tsx';
import { ThemeButton } from '../shell/top-bar.tsx';

interface ShowLine {
  readonly id: string;
  readonly name: string;
  readonly subtitle: string;
  readonly rev: number;
  readonly devices: number;
  readonly changedAt: string;
}

export function ShowsScreen() {
  const shows = useQuery({ queryKey: ['shows'], queryFn: () => api.get<ShowLine[]>('/shows') });
  const [adding, setAdding] = useState(false);
  const [removing, setRemoving] = useState<ShowLine>();
  return (
    <div className="flex h-full flex-col">
      <header className="flex h-11 items-center gap-2 border-b border-rule bg-base-200 px-4 text-base font-bold">
        <MarkLogo /> Deep Patch
        <span className="ml-auto">
          <ThemeButton />
        </span>
      </header>
      <main className="mx-auto w-full max-w-3xl flex-1 overflow-auto p-6">
        <div className="mb-4 flex items-end gap-3">
          <h1 className="text-xl font-bold">Shows</h1>
          <p className="mb-0.5 text-mute">Every control link of a show, from the gear list to an answered command</p>
          <button type="button" className="act-main ml-auto" onClick={() => setAdding(true)}>
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
        <ul className="border-t border-rule">
          {shows.data?.map((show) => (
            <li key={show.id} className="flex items-center gap-3 border-b border-rule hover:bg-base-200">
              <Link to={`/shows/${show.id}/rig`} className="min-w-0 flex-1 px-2 py-2.5">
                <b>{show.name}</b> <span className="text-mute">{show.subtitle}</span>
                <span className="block text-xs text-mute">
                  {show.devices} devices · rev {show.rev} · changed{' '}
                  {new Date(show.changedAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}
                </span>
              </Link>
              <button
                type="button"
                className="btn btn-ghost btn-sm text-mute"
                onClick={() => setRemoving(show)}
                aria-label={`Remove ${show.name}`}
              >
                Remove
              </button>
            </li>
          ))}
        </ul>
      </main>
      {adding && <NewShowDialog onClose={() => setAdding(false)} />}
      {removing && <RemoveShowDialog show={removing} onClose={() => setRemoving(undefined)} />}
    </div>
  );
}

function NewShowDialog({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate();
  const steady = useSteadyIds();
  const [name, setName] = useState('');
  const [subtitle, setSubtitle] = useState('');
  const make = useMutation({
    mutationFn: () => api.post<{ id: string }>('/shows', { name, subtitle, key: steady.begin()() }),
    onSuccess: ({ id }) => void navigate(`/shows/${id}/rig`),
  });
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    make.mutate();
  };
  return (
    <Dialog title="New show" onClose={onClose}>
      <form onSubmit={submit} className="grid gap-1">
        <Field label="Name" error={make.error ? `${make.error.message}. ${asProblem(make.error).detail}` : undefined}>
          {(ids) => (
            <input
              {...ids}
              required
              maxLength={core.limits.name}
              className="field"
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
          )}
        </Field>
        <Field label="Stage and day" hint="such as Quay stage, day 2">
          {(ids) => (
            <input
              {...ids}
              maxLength={core.limits.subtitle}
              className="field"
              value={subtitle}
              onChange={(event) => setSubtitle(event.target.value)}
            />
          )}
        </Field>
        <button type="submit" className="act-main justify-self-end" disabled={make.isPending || name.trim() === ''}>
          Make the show
        </button>
      </form>
    </Dialog>
  );
}

function RemoveShowDialog({ show, onClose }: { show: ShowLine; onClose: () => void }) {
  const client = useQueryClient();
  const remove = useMutation({
    mutationFn: () => api.remove(`/shows/${show.id}`),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ['shows'] });
      onClose();
    },
  });
  return (
    <Dialog title={`Remove ${show.name}?`} onClose={onClose}>
      <p>
        The plan, its history and its passwords are erased: {show.devices} devices, {show.rev} changes. This cannot be
        taken back.
      </p>
      {remove.error && (
        <p role="alert" className="mt-2 text-error">
          {remove.error.message}. {asProblem(remove.error).detail}
        </p>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <button type="button" className="act" onClick={onClose}>
          Keep it
        </button>
        <button
          type="button"
          className="btn btn-sm btn-error"
          onClick={() => remove.mutate()}
          disabled={remove.isPending}
        >
          Erase {show.name}
        </button>
      </div>
    </Dialog>
  );
}
