import { surfaces, show as core, type Show } from '@deep-patch/core';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useState } from 'react';
import { newId } from '../live/identity.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { NumberField } from '../parts/kept-fields.tsx';

/** Which surfaces cover the channels of a mixer, in which order, and what their odd faders are. */
export function BanksDialog({ onClose }: { readonly onClose: () => void }) {
  const show = useShow();
  const mixers = mixersOf(show);
  const [chosen, setChosen] = useState(Object.values(show.banks)[0]?.targetId ?? mixers[0]?.target.id ?? '');
  const mixer = mixers.find(({ target }) => target.id === chosen);
  return (
    <Dialog title="Channels over surfaces" onClose={onClose} wide unsaved={false}>
      {mixer ? (
        <div className="grid gap-4">
          <label className="grid max-w-xs gap-1">
            Mixer
            <select className="field-select" value={chosen} onChange={(event) => setChosen(event.target.value)}>
              {mixers.map(({ target }) => (
                <option key={target.id} value={target.id}>
                  {target.name}
                </option>
              ))}
            </select>
          </label>
          <Order mixer={mixer} />
        </div>
      ) : (
        <p>No unit of the rig has a command that takes a channel and a level.</p>
      )}
    </Dialog>
  );
}

interface Mixer {
  readonly target: core.Device;
  readonly ways: readonly (Pick<core.Bank, 'serviceKey' | 'command' | 'channel' | 'level'> & {
    readonly protocol: string;
    readonly label: string;
  })[];
}

/** Units with a command of a whole number, the channel, and a value to move. */
function mixersOf(show: Show): Mixer[] {
  return Object.values(show.devices).flatMap((target): Mixer[] => {
    const type = core.typeOf(show, target);
    const ways = (type?.services ?? []).flatMap(({ key, protocol, commands }) =>
      commands.flatMap(({ key: command, args, label }) => {
        const [channel, level] = args;
        return args.length === 2 &&
          channel?.type === 'i' &&
          channel.max !== undefined &&
          level &&
          level.type !== 's' &&
          level.type !== 'T' &&
          level.min !== undefined
          ? [{ serviceKey: key, protocol, command, label, channel: channel.name, level: level.name }]
          : [];
      }),
    );
    return ways.length > 0 ? [{ target, ways }] : [];
  });
}

function Order({ mixer }: { readonly mixer: Mixer }) {
  const show = useShow();
  const { spans, put } = useOrder(mixer);
  const ids = spans.map(({ surface }) => surface.id);
  const free = surfaces
    .surfacesOf(show)
    .filter((device) => !ids.includes(device.id) && surfaces.stripsOf(surfaces.controlsOf(show, device)) > 0);
  const swap = (at: number, by: number) => {
    const next = [...ids];
    next.splice(at + by, 0, ...next.splice(at, 1));
    put(next);
  };
  return (
    <div className="grid gap-3">
      {spans.length > 0 && (
        <table className="table-sm table">
          <thead>
            <tr>
              <th>Surface</th>
              <th>Channels</th>
              <th>Before it</th>
              <th>By</th>
              <th>Odd fader</th>
              <th>
                <span className="sr-only">Order</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {spans.map((span, at) => (
              <BankRow key={span.bank.id} {...{ span, mixer }}>
                <Places {...{ span, at, last: spans.length - 1, swap }} />
                <button
                  type="button"
                  className="act-quiet"
                  onClick={() => put(ids.filter((id) => id !== span.surface.id))}
                >
                  Take off
                </button>
              </BankRow>
            ))}
          </tbody>
        </table>
      )}
      <div className="flex flex-wrap items-center gap-2">
        {spans.length === 0 &&
          (free.length > 0 ? 'No surface covers its channels yet.' : 'No surface of the rig has channel strips.')}
        {free.map((device) => (
          <button key={device.id} type="button" className="act" onClick={() => put([...ids, device.id], device.id)}>
            Add {device.name}
          </button>
        ))}
      </div>
    </div>
  );
}

/** The surfaces over a mixer in their order, and how that is changed; `fresh` is one that comes to them. */
function useOrder(mixer: Mixer) {
  const show = useShow();
  const { save } = useWorkspace();
  const ruler = surfaces.rulersOf(show).find(({ target }) => target.id === mixer.target.id);
  const put = (next: readonly string[], fresh?: string) => {
    const drives: readonly string[] = fresh === undefined ? [] : (core.typeOf(show, show.devices[fresh])?.drives ?? []);
    const way = mixer.ways.find(({ protocol }) => drives.includes(protocol)) ?? mixer.ways[0];
    if (!way) return;
    const { protocol: _, label: __, ...aim } = way;
    void save(surfaces.planBanks(show, { targetId: mixer.target.id, ...aim }, next, newId));
  };
  return { spans: ruler?.spans ?? [], put };
}

function Places({
  span,
  at,
  last,
  swap,
}: {
  readonly span: surfaces.BankSpan;
  readonly at: number;
  readonly last: number;
  readonly swap: (at: number, by: number) => void;
}) {
  const { name } = span.surface;
  return (
    <>
      <button
        type="button"
        className="btn btn-ghost btn-xs"
        disabled={at === 0}
        aria-label={`${name} further up`}
        onClick={() => swap(at, -1)}
      >
        <ArrowUp size={14} aria-hidden />
      </button>
      <button
        type="button"
        className="btn btn-ghost btn-xs"
        disabled={at === last}
        aria-label={`${name} further down`}
        onClick={() => swap(at, 1)}
      >
        <ArrowDown size={14} aria-hidden />
      </button>
    </>
  );
}

const odds = [
  ['none', 'does nothing'],
  ['bus', 'a bus, assigned by itself'],
  ['channel', 'one more channel, fixed'],
  ['channel_of_layer', 'one more channel, with the layer'],
] as const;

function WayChoice({
  bank,
  mixer,
  surface,
  onEdit,
}: {
  readonly bank: core.Bank;
  readonly mixer: Mixer;
  readonly surface: core.Device;
  readonly onEdit: (patch: Partial<core.Content<'banks'>>) => void;
}) {
  return (
    <select
      className="field-select h-8"
      aria-label={`How ${surface.name} moves channels`}
      value={`${bank.serviceKey} ${bank.command}`}
      onChange={(event) => {
        const way = mixer.ways.find((own) => `${own.serviceKey} ${own.command}` === event.target.value);
        if (way) onEdit({ serviceKey: way.serviceKey, command: way.command, channel: way.channel, level: way.level });
      }}
    >
      {mixer.ways.map((way) => (
        <option key={`${way.serviceKey} ${way.command}`} value={`${way.serviceKey} ${way.command}`}>
          {way.label}, {way.protocol.toUpperCase()}
        </option>
      ))}
    </select>
  );
}

function BankRow({
  span,
  mixer,
  children,
}: {
  readonly span: surfaces.BankSpan;
  readonly mixer: Mixer;
  readonly children: React.ReactNode;
}) {
  const show = useShow();
  const { save } = useWorkspace();
  const { bank, surface } = span;
  const row = show.banks[bank.id];
  const edit = (patch: Partial<core.Content<'banks'>>) => row && void save(surfaces.planEditBank(show, row, patch));
  return (
    <tr>
      <th className="font-semibold">{surface.name}</th>
      <td className="key-num">
        {span.first}–{span.last}
        {span.odd !== null && ` and ${span.odd}`}
      </td>
      <td className="w-28">
        <NumberField
          label={bank.offset === null ? 'worked out' : 'typed'}
          value={span.offset}
          onKeep={(offset) => edit({ offset: offset === null ? null : Math.max(0, Math.round(offset)) })}
        />
      </td>
      <td>
        <WayChoice {...{ bank, mixer, surface }} onEdit={edit} />
      </td>
      <td>
        <select
          className="field-select h-8"
          aria-label={`Odd fader of ${surface.name}`}
          value={bank.odd}
          onChange={(event) => edit({ odd: event.target.value as core.Bank['odd'] })}
        >
          {odds.map(([key, label]) => (
            <option key={key} value={key}>
              {label}
            </option>
          ))}
        </select>
      </td>
      <td className="flex items-center gap-1">{children}</td>
    </tr>
  );
}
