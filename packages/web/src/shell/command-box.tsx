import { Command } from 'cmdk';
import { Cable, Hash, LayoutList, Network, Zap } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { show as core } from '@deep-patch/core';
import { useWorkspace } from '../live/workspace.tsx';
import { screens } from './screens.ts';

export interface Action {
  readonly label: string;
  readonly run: () => void;
}

export interface FindProps {
  readonly actions: readonly Action[];
  readonly onClose: () => void;
}

const mostShown = 60;
const valueOf = ({ kind, label, more }: { kind: string; label: string; more: string }) =>
  `${kind} ${label} ${more}`.trim();

/** Everything that can be found: screens, actions, devices, addresses and links. */
function useEntries(actions: readonly Action[]) {
  const { show, analysis, showId } = useWorkspace();
  const navigate = useNavigate();
  return useMemo(() => {
    const to = (path: string) => () => void navigate(`/shows/${showId}/${path}`);
    const nameOf = (id: string) => show?.devices[id]?.name ?? '';
    return [
      ...screens.map(({ path, label }) => ({ kind: 'Screens', icon: LayoutList, label, more: '', run: to(path) })),
      ...actions.map((action) => ({ kind: 'Actions', icon: Zap, more: '', ...action })),
      ...(show ? core.devicesByName(show) : []).map(({ id, name, place }) => ({
        kind: 'Devices',
        icon: Network,
        label: name,
        more: place,
        run: to(`rig/${id}`),
      })),
      ...(analysis?.addressing.planned ?? [])
        .filter(({ address }) => address.ip !== null)
        .map(({ address, device, network }) => ({
          kind: 'Addresses',
          icon: Hash,
          label: address.ip ?? '',
          more: `${device.name}, ${network.name}`,
          run: to(`addresses/${network.id}/${address.id}`),
        })),
      ...(show ? core.rowsOf(show, 'links') : []).map(({ id, controllerId, targetId }) => ({
        kind: 'Links',
        icon: Cable,
        label: `${nameOf(controllerId)} to ${nameOf(targetId)}`,
        more: '',
        run: to(`links/${id}`),
      })),
    ];
  }, [show, analysis, actions, navigate, showId]);
}
type Entry = ReturnType<typeof useEntries>[number];

function matching(all: readonly Entry[], typed: string): Entry[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  return all
    .filter(({ label, more }) => words.every((word) => `${label} ${more}`.toLowerCase().includes(word)))
    .slice(0, mostShown);
}

/** Finds every device, address, link, screen and action. Typing an address anywhere in the list finds its unit. */
export function CommandBox({ actions, onClose }: FindProps) {
  const all = useEntries(actions);
  const dialog = useRef<HTMLDialogElement>(null);
  const [typed, setTyped] = useState('');
  const [picked, setPicked] = useState('');
  useEffect(() => {
    dialog.current?.showModal();
    dialog.current?.querySelector('input')?.focus();
  }, []);
  const found = matching(all, typed);
  const values = found.map(valueOf);
  // what was picked may have been typed away: then the first that is left
  const value = values.includes(picked) ? picked : (values[0] ?? '');
  return (
    <dialog
      ref={dialog}
      onClose={onClose}
      aria-label="Find"
      className="mx-auto mt-[12vh] w-full max-w-xl rounded-box border border-line bg-base-200 p-0 text-base-content shadow-2xl backdrop:bg-black/50"
    >
      <Command shouldFilter={false} value={value} onValueChange={setPicked} label="Find a device, address or action">
        <Command.Input
          value={typed}
          onValueChange={setTyped}
          placeholder="Find a device, address or action"
          className="w-full border-b border-rule bg-transparent px-4 py-3 text-base outline-none placeholder:text-mute"
        />
        <Command.List className="max-h-96 overflow-auto p-1.5">
          <Command.Empty className="px-3 py-6 text-center text-mute">
            Nothing is called that. Try part of a name or the last figures of an address.
          </Command.Empty>
          {[...core.groupBy(found, ({ kind }) => kind)].map(([kind, entries]) => (
            <Kind key={kind} kind={kind} entries={entries} onClose={onClose} />
          ))}
        </Command.List>
      </Command>
    </dialog>
  );
}

function Kind({
  kind,
  entries,
  onClose,
}: {
  readonly kind: string;
  readonly entries: readonly Entry[];
  readonly onClose: () => void;
}) {
  return (
    <Command.Group
      heading={kind}
      className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:py-1 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:font-semibold [&_[cmdk-group-heading]]:text-mute"
    >
      {entries.map((entry, at) => (
        <Command.Item
          key={`${entry.label} ${at}`}
          value={valueOf(entry)}
          onSelect={() => {
            onClose();
            entry.run();
          }}
          className="flex cursor-pointer items-center gap-2.5 rounded-field px-3 py-1.5 data-[selected=true]:bg-base-300 data-[selected=true]:shadow-[inset_3px_0_0_var(--color-primary)]"
        >
          <entry.icon size={14} aria-hidden className="text-mute" />
          <span className={kind === 'Addresses' ? 'key-num' : ''}>{entry.label}</span>
          <span className="ml-auto truncate pl-3 text-xs text-mute">{entry.more}</span>
        </Command.Item>
      ))}
    </Command.Group>
  );
}
