import { Command } from 'cmdk';
import { Cable, Hash, LayoutList, Network, Plug, TriangleAlert, Zap, type LucideIcon } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { show as core } from '@deep-patch/core';
import { useWorkspace } from '../live/workspace.tsx';
import { entriesOf, matching, type Entry } from './find-entries.ts';

export interface Action {
  readonly label: string;
  /** Other words for it. */
  readonly also: string;
  readonly run: () => void;
}

export interface FindProps {
  readonly actions: readonly Action[];
  readonly onClose: () => void;
}

const icons: Readonly<Record<Entry['kind'], LucideIcon>> = {
  Screens: LayoutList,
  Actions: Zap,
  Devices: Network,
  Addresses: Hash,
  Ports: Plug,
  Links: Cable,
  Findings: TriangleAlert,
};
const valueOf = ({ kind, label, more }: Runnable) => `${kind} ${label} ${more}`.trim();

type Runnable = Omit<Entry, 'path'> & { readonly run: () => void };

/** All that can be found in this show, and done on any screen. */
function useEntries(actions: readonly Action[]): Runnable[] {
  const { show, analysis, showId } = useWorkspace();
  const navigate = useNavigate();
  return useMemo(
    () => [
      ...actions.map((action) => ({ kind: 'Actions' as const, more: '', ...action })),
      ...entriesOf(show, analysis).map((entry) => ({
        ...entry,
        run: () => void navigate(`/shows/${showId}/${entry.path}`),
      })),
    ],
    [show, analysis, actions, navigate, showId],
  );
}

/** Finds every device, address, port, link, finding, screen and action. Typing an address anywhere in the list finds its unit. */
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
          placeholder="Find a device, address, MAC, port, finding or action"
          className="w-full border-b border-rule bg-transparent px-4 py-3 text-base outline-none placeholder:text-mute"
        />
        <Command.List className="max-h-96 overflow-auto p-1.5">
          <Command.Empty className="px-3 py-6 text-center text-mute">
            Nothing has that. Try part of a name, address, MAC, serial number or port.
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
  readonly entries: readonly Runnable[];
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
          <EntryLine entry={entry} />
        </Command.Item>
      ))}
    </Command.Group>
  );
}

function EntryLine({ entry: { kind, label, more } }: { readonly entry: Runnable }) {
  const Icon = icons[kind];
  return (
    <>
      <Icon size={14} aria-hidden className="shrink-0 text-mute" />
      <span className={kind === 'Addresses' || kind === 'Ports' ? 'key-num shrink-0' : ''}>{label}</span>
      <span className="ml-auto truncate pl-3 text-xs text-mute">{more}</span>
    </>
  );
}
