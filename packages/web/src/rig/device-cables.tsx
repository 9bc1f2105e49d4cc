import { cabling, show as core, type show } from '@deep-patch/core';
import { X } from 'lucide-react';
import { useDeferredValue, useMemo, useState } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { DeviceOptions } from '../parts/device-options.tsx';

/** What is plugged in where, a line each, and where it may be plugged instead. */
export function DeviceCables({ device }: { device: show.Device }) {
  const show = useShow();
  const { save } = useWorkspace();
  const type = core.typeOf(show, device);
  const cables = core
    .rowsOf(show, 'cables')
    .filter((cable) => cable.fromDevice === device.id || cable.toDevice === device.id);
  const labelOf = (deviceId: string, key: string) => core.socketLabel(show, deviceId, key);
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
          <div key={cable.id} className="flex flex-wrap items-center gap-x-2">
            <code>{labelOf(device.id, own)}</code> <span aria-hidden>→</span>
            <span className="truncate">
              {show.devices[farId]?.name} <code>{labelOf(farId, far)}</code>
            </span>
            <CableNature cable={cable} words={words} />
            <MoveCable cable={cable} device={device} words={words} />
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
  const write = (patch: Partial<Pick<show.Cable, 'medium' | 'grade' | 'lengthM' | 'delayMs'>>) =>
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
  const nature = [
    cabling.kindWords(cable),
    ...(cable.lengthM === null ? [] : [`${cable.lengthM} m`]),
    ...(cable.delayMs === null ? [] : [`${cable.delayMs} ms`]),
  ].join(', ');
  if (!open)
    return (
      <button
        type="button"
        className="link ml-auto text-xs whitespace-nowrap text-mute"
        aria-label={`${nature}: ${words}`}
        onClick={() => setOpen(true)}
      >
        {nature}
      </button>
    );
  return (
    <span className="ml-auto grid justify-items-end gap-1 text-xs text-mute">
      <select
        aria-label="Medium"
        className="select select-xs w-24 border-line bg-base-100"
        value={cable.medium}
        onChange={(event) => write({ medium: event.target.value as show.Cable['medium'], grade: null })}
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

/** Own socket, unit and socket there: only what a cable fits into is offered. */
function PlugIn({ device }: { device: show.Device }) {
  const show = useShow();
  const late = useDeferredValue(show);
  const facts = useMemo(() => cabling.cablingFacts(late), [late]);
  const free = facts.freeSockets(device.id);
  const [socket, setSocket] = useState('');
  const [farId, setFarId] = useState('');
  const own = free.includes(socket) ? socket : free[0];
  const from = { deviceId: device.id, socket: own ?? '' };
  const fits = (other: show.Device) => cabling.fittingSockets(late, facts, from, other);
  const others = core.devicesByName(late).filter((other) => other.id !== device.id && fits(other).length > 0);
  const far = others.find(({ id }) => id === farId);
  if (!own) return null;
  return (
    <div className="flex flex-wrap gap-2">
      {free.length > 1 && (
        <SocketSelect label="Own socket" device={device} sockets={free} value={own} onChoose={setSocket} />
      )}
      <select
        aria-label="Plug into"
        className="select select-xs min-w-0 flex-1 border-line bg-base-100"
        value={far ? farId : ''}
        onChange={(event) => setFarId(event.target.value)}
      >
        <option value="">{others.length > 0 ? 'Plug into' : 'Nothing free that fits'}</option>
        <DeviceOptions devices={others} />
      </select>
      {far && <FarSocket from={from} far={far} sockets={fits(far)} />}
    </div>
  );
}

function SocketSelect({
  label,
  device,
  sockets,
  value,
  onChoose,
}: {
  readonly label: string;
  readonly device: show.Device;
  readonly sockets: readonly string[];
  readonly value: string | undefined;
  readonly onChoose: (socket: string) => void;
}) {
  const show = useShow();
  return (
    <select
      aria-label={label}
      className="select select-xs w-24 border-line bg-base-100"
      value={value}
      onChange={(event) => onChoose(event.target.value)}
    >
      {sockets.map((key) => (
        <option key={key} value={key}>
          {core.socketLabel(show, device.id, key)}
        </option>
      ))}
    </select>
  );
}

/** One end of a cable to another socket, here or at another unit, in one act. */
function MoveCable({ cable, device, words }: { cable: show.Cable; device: show.Device; words: string }) {
  const show = useShow();
  const { save } = useWorkspace();
  const [farId, setFarId] = useState('');
  const facts = useMemo(() => cabling.cablingFacts(show), [show]);
  const isFrom = cable.fromDevice === device.id;
  const own = { deviceId: device.id, socket: isFrom ? cable.fromSocket : cable.toSocket };
  const fits = (other: show.Device) => cabling.fittingSockets(show, facts, own, other);
  const others = core.devicesByName(show).filter((other) => other.id !== device.id && fits(other).length > 0);
  const far = others.find(({ id }) => id === farId);
  const move = (socket: string) =>
    void save(cabling.planMoveCable(show, cable, isFrom ? 'to' : 'from', { deviceId: farId, socket })).then(
      (done) => done && setFarId(''),
    );
  return (
    <span className="flex items-center gap-1">
      <select
        aria-label={`Move ${words} to`}
        className="select select-xs w-24 border-line bg-base-100"
        value={far ? farId : ''}
        onChange={(event) => setFarId(event.target.value)}
      >
        <option value="">Move to</option>
        <DeviceOptions devices={others} />
      </select>
      {far && (
        <select
          aria-label={`Socket for ${words}`}
          className="select select-xs w-20 border-line bg-base-100"
          value=""
          onChange={(event) => move(event.target.value)}
        >
          <option value="">socket</option>
          {fits(far).map((key) => (
            <option key={key} value={key}>
              {core.socketLabel(show, far.id, key)}
            </option>
          ))}
        </select>
      )}
    </span>
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
  return (
    <>
      <SocketSelect label="Socket" device={far} sockets={sockets} value={wanted} onChoose={setSocket} />
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
