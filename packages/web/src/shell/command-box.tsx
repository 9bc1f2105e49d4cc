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

/** Finds every device, address, link, screen and action. Typing an address anywhere in the list finds its unit. */
export function CommandBox({ actions, onClose }: FindProps) {
  const { show, analysis, showId } = useWorkspace();
  const navigate = useNavigate();
  const dialog = useRef<HTMLDialogElement>(null);
  const [typed, setTyped] = useState('');
  const [picked, setPicked] = useState('');
  useEffect(() => {
    dialog.current?.showModal();
    dialog.current?.querySelector('input')?.focus();
  }, []);

  const all = useMemo(() => {
    const to = (path: string) => () => void navigate(`/shows/${showId}/${path}`);
    const devices = show ? core.devicesByName(show) : [];
    return [
      ...screens.map(({ path, label }) => ({ kind: 'Screens', icon: LayoutList, label, more: '', run: to(path) })),
      ...actions.map((action) => ({ kind: 'Actions', icon: Zap, more: '', ...action })),
      ...devices.map((device) => ({
        kind: 'Devices',
        icon: Network,
        label: device.name,
        more: device.place,
        run: to(`rig/${device.id}`),
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
      ...(show ? core.rowsOf(show, 'links') : []).map((link) => ({
        kind: 'Links',
        icon: Cable,
        label: `${show?.devices[link.controllerId]?.name ?? ''} to ${show?.devices[link.targetId]?.name ?? ''}`,
        more: '',
        run: to(`links/${link.id}`),
      })),
    ];
  }, [show, analysis, actions, navigate, showId]);

  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const found = all
    .filter(({ label, more }) => words.every((word) => `${label} ${more}`.toLowerCase().includes(word)))
    .slice(0, mostShown);
  const values = found.map(valueOf);
  // what was picked may have been typed away: then the first that is left
  const value = values.includes(picked) ? picked : (values[0] ?? '');
  const kinds = [...new Set(found.map(({ kind }) => kind))];
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
          {kinds.map((kind) => (
            <Command.Group
              key={kind}
              heading={kind}
              className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:py-1 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:font-semibold [&_[cmdk-group-heading]]:text-mute"
            >
              {found
                .filter((entry) => entry.kind === kind)
                .map(({ label, more, icon: Icon, run }, at) => (
                  <Command.Item
                    key={`${label} ${at}`}
                    value={valueOf({ kind, label, more })}
                    onSelect={() => {
                      onClose();
                      run();
                    }}
                    className="flex cursor-pointer items-center gap-2.5 rounded-field px-3 py-1.5 data-[selected=true]:bg-base-300 data-[selected=true]:shadow-[inset_3px_0_0_var(--color-primary)]"
                  >
                    <Icon size={14} aria-hidden className="text-mute" />
                    <span className={kind === 'Addresses' ? 'key-num' : ''}>{label}</span>
                    <span className="ml-auto truncate pl-3 text-xs text-mute">{more}</span>
                  </Command.Item>
                ))}
            </Command.Group>
          ))}
        </Command.List>
      </Command>
    </dialog>
  );
}
