import { type contract, show as core } from '@deep-patch/core';
import { useEffect, useState } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Mark } from '../parts/mark.tsx';
import { HeardAddresses } from './heard-addresses.tsx';
import { startTap, useTap } from '../live/tap-store.ts';

const mostShown = 60;

interface Filter {
  readonly text: string;
  readonly protocol: string;
  readonly deviceId: string;
}

/** Everything that goes over the simulated network, as it goes; held still while somebody reads. */
export function TapPanel({ heard, forget }: { heard: readonly contract.HeardMessage[]; forget: () => Promise<void> }) {
  const { showId } = useWorkspace();
  const tap = useTap(showId);
  const [held, setHeld] = useState<readonly contract.HeardMessage[]>();
  const [filter, setFilter] = useState<Filter>({ text: '', protocol: '', deviceId: '' });
  const [listed, setListed] = useState(false);
  useEffect(() => startTap(showId, heard), [showId, heard]);
  const lines = held ?? tap.lines;
  const shown = lines
    .filter((line) => passes(line, filter))
    .slice(-mostShown)
    .reverse();
  return (
    <section aria-label="Tap" className="flex h-56 shrink-0 max-md:h-44 flex-col border-t border-rule bg-base-200">
      <div className="flex flex-wrap items-center gap-2 border-b border-rule px-4.5 py-1.5">
        <h2 className="text-[13px] font-semibold">Tap</h2>
        <span className="mr-auto text-xs text-mute">{tap.perSecond > 0 ? `${tap.perSecond} a second` : 'quiet'}</span>
        <FilterFields filter={filter} lines={tap.lines} onChange={setFilter} />
        <button
          type="button"
          className="act btn-xs"
          aria-pressed={held !== undefined}
          onClick={() => setHeld(held ? undefined : tap.lines)}
        >
          {held ? 'Go on' : 'Hold'}
        </button>
        <button type="button" className="act btn-xs" onClick={() => setListed(true)}>
          Addresses {tap.addresses > 0 ? tap.addresses : 'heard'}
        </button>
        <a className="act btn-xs" href={`/api/bench/${showId}/capture.pcapng`} download>
          Save capture
        </a>
      </div>
      <ol className="min-h-0 flex-1 overflow-auto" tabIndex={0} aria-label="Lines of the tap, newest first">
        {shown.length === 0 && (
          <li className="px-4.5 py-2 text-mute">
            {lines.length === 0
              ? 'Nothing yet. Switch units on and sound a link: every frame shows here.'
              : 'No line passes the filter.'}
          </li>
        )}
        {shown.map((message, at) => (
          <TapLine key={`${message.at} ${shown.length - at}`} message={message} />
        ))}
      </ol>
      {listed && <HeardAddresses onClose={() => setListed(false)} forget={forget} />}
    </section>
  );
}

function FilterFields({
  filter,
  lines,
  onChange,
}: {
  readonly filter: Filter;
  readonly lines: readonly contract.HeardMessage[];
  readonly onChange: (filter: Filter) => void;
}) {
  const devices = core.devicesByName(useShow());
  const protocols = [...new Set(lines.map(({ protocol }) => protocol))].sort();
  return (
    <>
      <input
        className="field h-7 w-28"
        aria-label="Show only lines with"
        placeholder="filter"
        value={filter.text}
        onChange={(event) => onChange({ ...filter, text: event.target.value })}
      />
      <select
        className="field-select h-7 w-24"
        aria-label="Protocol"
        value={filter.protocol}
        onChange={(event) => onChange({ ...filter, protocol: event.target.value })}
      >
        <option value="">protocols</option>
        {protocols.map((name) => (
          <option key={name}>{name}</option>
        ))}
      </select>
      <select
        className="field-select h-7 w-28"
        aria-label="Unit"
        value={filter.deviceId}
        onChange={(event) => onChange({ ...filter, deviceId: event.target.value })}
      >
        <option value="">units</option>
        {devices.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </>
  );
}

function TapLine({ message }: { message: contract.HeardMessage }) {
  return (
    <li className="grid grid-cols-[6.5rem_1fr_1fr_3.75rem_2.2fr] items-baseline gap-2 border-b border-rule px-4.5 py-0.5 text-[13px]">
      <code className="text-mute">{new Date(message.at).toISOString().slice(11, 23)}</code>
      <span className="truncate" title={message.from}>
        {message.from}
      </span>
      <span className="truncate" title={message.to}>
        <span className="text-mute">to</span> {message.to}
      </span>
      <span className="text-xs text-primary">{message.protocol}</span>
      <code className={`truncate ${message.ok ? '' : 'text-error'}`} title={message.text}>
        {!message.ok && <Mark state="fail" size={11} />} {message.text}
      </code>
    </li>
  );
}

function passes({ protocol, text, from, to, fromId, toId }: contract.HeardMessage, filter: Filter): boolean {
  if (filter.protocol !== '' && protocol !== filter.protocol) return false;
  if (filter.deviceId !== '' && fromId !== filter.deviceId && toId !== filter.deviceId) return false;
  const wanted = filter.text.trim().toLowerCase();
  return wanted === '' || `${from} ${to} ${text}`.toLowerCase().includes(wanted);
}
