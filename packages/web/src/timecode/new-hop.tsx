import { show as core, type Show } from '@deep-patch/core';
import { useState } from 'react';
import { useShow } from '../live/workspace.tsx';
import { ChoiceField } from '../parts/kept-fields.tsx';

/** From whom to whom: the rest follows from what both can do. */
export function NewHop({
  devices,
  onAdd,
}: {
  readonly devices: readonly core.Device[];
  readonly onAdd: (fromId: string, toId: string) => void;
}) {
  const show = useShow();
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  const names = (list: readonly core.Device[]) => list.toSorted(core.byName).map(({ id, name }) => [id, name] as const);
  const givers = devices.filter((device) => can(show, device, 'gives'));
  const takers = devices.filter((device) => can(show, device, 'takes') && device.id !== from);
  return (
    <div className="mt-4 flex flex-wrap items-end gap-2">
      <div className="w-48">
        <ChoiceField label="Time code from" value={from} options={names(givers)} onKeep={setFrom} />
      </div>
      <div className="w-48">
        <ChoiceField label="Time code to" value={to} options={names(takers)} onKeep={setTo} />
      </div>
      <button
        type="button"
        className="act-main"
        disabled={from === '' || to === '' || from === to}
        onClick={() => {
          onAdd(from, to);
          setTo('');
        }}
      >
        Add the hop
      </button>
    </div>
  );
}

const can = (show: Show, device: core.Device, what: 'gives' | 'takes'): boolean =>
  (core.typeOf(show, device)?.timecode?.[what].length ?? 0) > 0;
