import { show as core, type contract } from '@deep-patch/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState, type SyntheticEvent } from 'react';
import { useNavigate } from 'react-router';
import { api, asProblem } from '../live/api.ts';
import { useSteadyIds } from '../live/steady-ids.ts';
import { Dialog } from '../parts/dialog.tsx';
import { TypedField } from '../parts/typed-fields.tsx';

export function RenameDialog({ show, onClose }: { show: contract.ShowLine; onClose: () => void }) {
  const client = useQueryClient();
  const [name, setName] = useState(show.name);
  const [subtitle, setSubtitle] = useState(show.subtitle);
  const rename = useMutation({
    mutationFn: () => api.patch(`/shows/${show.id}`, { name, subtitle }),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ['shows'] });
      onClose();
    },
  });
  return (
    <Dialog title={`Rename ${show.name}`} onClose={onClose} unsaved={name !== show.name || subtitle !== show.subtitle}>
      <NameForm
        {...{ name, subtitle, setName, setSubtitle }}
        problem={rename.error}
        isBusy={rename.isPending}
        label="Rename"
        onSubmit={() => rename.mutate()}
      />
    </Dialog>
  );
}

export function CopyDialog({ show, onClose }: { show: contract.ShowLine; onClose: () => void }) {
  const navigate = useNavigate();
  const steady = useSteadyIds();
  const [name, setName] = useState(`${show.name}, copy`);
  const copy = useMutation({
    mutationFn: () => api.post<{ id: string }>(`/shows/${show.id}/copies`, { name, key: steady.begin()() }),
    onSuccess: ({ id }) => void navigate(`/shows/${id}/rig`),
  });
  return (
    <Dialog title={`Copy ${show.name}`} onClose={onClose}>
      <p className="mb-3 text-mute">
        A start for another show: the same gear, addresses, cables and links, without passwords, papers, ticks and
        anything that was keyed in or measured.
      </p>
      <NameForm
        {...{ name, setName }}
        problem={copy.error}
        isBusy={copy.isPending}
        label="Make the copy"
        onSubmit={() => copy.mutate()}
      />
    </Dialog>
  );
}

export function NewShowDialog({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate();
  const steady = useSteadyIds();
  const [name, setName] = useState('');
  const [subtitle, setSubtitle] = useState('');
  const make = useMutation({
    mutationFn: () => api.post<{ id: string }>('/shows', { name, subtitle, key: steady.begin()() }),
    onSuccess: ({ id }) => void navigate(`/shows/${id}/rig`),
  });
  return (
    <Dialog title="New show" onClose={onClose}>
      <NameForm
        {...{ name, subtitle, setName, setSubtitle }}
        problem={make.error}
        isBusy={make.isPending}
        label="Make the show"
        onSubmit={() => make.mutate()}
      />
    </Dialog>
  );
}

interface NameFormProps {
  readonly name: string;
  readonly setName: (name: string) => void;
  readonly subtitle?: string;
  readonly setSubtitle?: (subtitle: string) => void;
  readonly problem: Error | null;
  readonly isBusy: boolean;
  readonly label: string;
  readonly onSubmit: () => void;
}

function NameForm({ name, setName, subtitle, setSubtitle, problem, isBusy, label, onSubmit }: NameFormProps) {
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    onSubmit();
  };
  return (
    <form onSubmit={submit} className="grid gap-1">
      <TypedField
        label="Name"
        error={problem ? `${problem.message}. ${asProblem(problem).detail}` : undefined}
        value={name}
        onType={setName}
        most={core.limits.name}
      />
      {setSubtitle && (
        <TypedField
          label="Stage and day"
          hint="such as Quay stage, day 2"
          value={subtitle ?? ''}
          onType={setSubtitle}
          most={core.limits.subtitle}
        />
      )}
      <button type="submit" className="act-main justify-self-end" disabled={isBusy || name.trim() === ''}>
        {label}
      </button>
    </form>
  );
}

export function RemoveShowDialog({ show, onClose }: { show: contract.ShowLine; onClose: () => void }) {
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
