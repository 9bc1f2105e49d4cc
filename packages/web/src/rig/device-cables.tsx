import { cabling, show as core, type show } from '@deep-patch/core';
import { X } from 'lucide-react';
import { useCallback, useDeferredValue, useMemo, useState } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { DeviceOptions, useDevices } from '../parts/device-options.tsx';

/** What is plugged in where; the Cabling screen will draw it, until then each cable is a line here. */
export function DeviceCables({ device }: { device: show.Device }) {
  const show = useShow();
  const { save } = useWorkspace();
  const type = core.typeOf(show, device);
  const cables = core
    .rowsOf(show, 'cables')
    .filter((cable) => cable.fromDevice === device.id || cable.toDevice === device.id);
  const labelOf = (deviceId: string, key: string) =>
    core.typeOf(show, show.devices[deviceId])?.sockets.find((socket) => socket.key === key)?.label ?? key;
  return (
    <section className="grid gap-1">
      <h3 className="text-xs font-semibold text-mute">Cables</h3>
      {cables.map((cable) => {
        const [own, farId, far] =
          cable.fromDevice === device.id
            ? [cable.fromSocket, cable.toDevice, cable.toSocket]
            : [cable.toSocket, cable.fromDevice, cable.fromSocket];
        const words = `${labelOf(device.id, own)} to ${show.devices[farId]?.name ?? ''} ${labelOf(farId, far)}`;
        return (
          <div key={cable.id} className="flex items-center gap-2">
            <code>{labelOf(device.id, own)}</code> <span aria-hidden>→</span>
            <span className="truncate">
              {show.devices[farId]?.name} <code>{labelOf(farId, far)}</code>
            </span>
            <CableNature cable={cable} words={words} />
            <button
              type="button"
              className="btn btn-ghost btn-xs btn-square"
              aria-label={`Unplug ${words}`}
              onClick={() => void save(core.planRemove(show, 'cables', [cable.id], `Unplug ${words}`))}
            >
              <X size={12} aria-hidden />
            </button>
          </div>
        );
      })}
      {type && <PlugIn device={device} />}
    </section>
  );
}

/** Medium, length and delay as one line; opened, each can be written down. */
function CableNature({ cable, words }: { cable: show.Cable; words: string }) {
  const { save } = useWorkspace();
  const [open, setOpen] = useState(false);
  const write = (patch: Partial<Pick<show.Cable, 'medium' | 'lengthM' | 'delayMs'>>) =>
    void save(core.changeOf(`Cable ${words}`.slice(0, 200), [core.updateRow('cables', cable, patch)]));
  const number = (key: 'lengthM' | 'delayMs', label: string, most: number) => (
    <label className="flex items-center gap-1">
      {label}
      <input
        type="number"
        min={0}
        max={most}
        step="any"
        className="field key-num h-6 w-18"
        defaultValue={cable[key] ?? ''}
        key={cable[key]}
        onBlur={(event) => {
          const text = event.target.value.trim();
          const next = text === '' ? null : Math.min(most, Math.max(0, Number(text)));
          if (next !== cable[key]) write({ [key]: next });
        }}
      />
    </label>
  );
  if (!open)
    return (
      <button
        type="button"
        className="link ml-auto text-xs whitespace-nowrap text-mute"
        aria-label={`Nature of ${words}`}
        onClick={() => setOpen(true)}
      >
        {cable.medium}
        {cable.lengthM !== null && `, ${cable.lengthM} m`}
        {cable.delayMs !== null && `, ${cable.delayMs} ms`}
      </button>
    );
  return (
    <span className="ml-auto grid justify-items-end gap-1 text-xs text-mute">
      <select
        aria-label="Medium"
        className="select select-xs w-24 border-line bg-base-100"
        value={cable.medium}
        onChange={(event) => write({ medium: event.target.value as show.Cable['medium'] })}
      >
        <option value="copper">copper</option>
        <option value="fibre">fibre</option>
        <option value="wireless">wireless</option>
      </select>
      {number('lengthM', 'm', core.limits.lengthM)}
      {number('delayMs', 'ms one way', core.limits.delayMs)}
    </span>
  );
}

function PlugIn({ device }: { device: show.Device }) {
  const show = useShow();
  const late = useDeferredValue(show);
  const { freeSockets: free } = useMemo(() => cabling.cablingFacts(late), [late]);
  const others = useDevices(
    useCallback((other: show.Device) => other.id !== device.id && free(other.id).length > 0, [device.id, free]),
  );
  const [farId, setFarId] = useState('');
  const [own] = free(device.id);
  const far = show.devices[farId];
  if (!own) return null;
  return (
    <div className="flex gap-2">
      <select
        aria-label="Plug into"
        className="select select-xs min-w-0 flex-1 border-line bg-base-100"
        value={farId}
        onChange={(event) => setFarId(event.target.value)}
      >
        <option value="">Plug into</option>
        <DeviceOptions devices={others} />
      </select>
      {far && <FarSocket from={{ deviceId: device.id, socket: own }} far={far} sockets={free(far.id)} />}
    </div>
  );
}

function FarSocket({
  from,
  far,
  sockets,
}: {
  readonly from: { readonly deviceId: string; readonly socket: string };
  readonly far: show.Device;
  readonly sockets: readonly string[];
}) {
  const show = useShow();
  const { save } = useWorkspace();
  const [socket, setSocket] = useState('');
  const wanted = sockets.includes(socket) ? socket : sockets[0];
  const labelOf = (key: string) => core.typeOf(show, far)?.sockets.find((one) => one.key === key)?.label ?? key;
  return (
    <>
      <select
        aria-label="Socket"
        className="select select-xs w-24 border-line bg-base-100"
        value={wanted}
        onChange={(event) => setSocket(event.target.value)}
      >
        {sockets.map((key) => (
          <option key={key} value={key}>
            {labelOf(key)}
          </option>
        ))}
      </select>
      <button
        type="button"
        className="act btn-xs"
        disabled={!wanted}
        onClick={() => void save(cabling.planCable(show, from, { deviceId: far.id, socket: wanted ?? '' }))}
      >
        Plug in
      </button>
    </>
  );
}
