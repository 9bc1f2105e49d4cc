import { type contract, show as core } from '@deep-patch/core';
import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Mark } from '../parts/mark.tsx';
import { foldLines, timesWords, type FoldedLine } from './fold-lines.ts';
import { HeardAddresses } from './heard-addresses.tsx';
import { startTap, useTap } from '../live/tap-store.ts';

const mostShown = 60;

interface Filter {
  readonly text: string;
  readonly protocol: string;
  readonly deviceId: string;
  /** Each line by itself, also where it repeats. */
  readonly every: boolean;
}

/** What the tap shows, kept in the address of the page: another unit, a reload or a link to it finds it again. */
function useFilter() {
  const [query, setQuery] = useSearchParams();
  // the address follows a moment later: letters typed quickly would be lost on the way through it
  const [filter, setFilter] = useState<Filter>(() => ({
    text: query.get('tap') ?? '',
    protocol: query.get('protocol') ?? '',
    deviceId: query.get('unit') ?? '',
    every: query.has('every'),
  }));
  const set = (wanted: Filter) => {
    setFilter(wanted);
    const { text, protocol, deviceId, every } = wanted;
    const kept = { tap: text, protocol, unit: deviceId, every: every ? '1' : '' };
    const next = new URLSearchParams(query);
    for (const [key, value] of Object.entries(kept))
      if (value === '') next.delete(key);
      else next.set(key, value);
    setQuery(next, { replace: true });
  };
  return [filter, set] as const;
}

const single = (message: contract.HeardMessage): FoldedLine => ({ message, times: 1, perSecond: null });

/** Everything that goes over the simulated network, as it goes; held still while somebody reads. */
export function TapPanel({ heard, forget }: { heard: readonly contract.HeardMessage[]; forget: () => Promise<void> }) {
  const { showId } = useWorkspace();
  const tap = useTap(showId);
  const [held, setHeld] = useState<readonly contract.HeardMessage[]>();
  const [filter, setFilter] = useFilter();
  const [listed, setListed] = useState(false);
  useEffect(() => startTap(showId, heard), [showId, heard]);
  const lines = held ?? tap.lines;
  const passing = lines.filter((line) => passes(line, filter));
  const shown = (filter.every ? passing.toReversed().map(single) : foldLines(passing)).slice(0, mostShown);
  return (
    <section aria-label="Tap" className="flex h-56 shrink-0 max-md:h-44 flex-col border-t border-rule bg-base-200">
      <div className="flex flex-wrap items-center gap-2 border-b border-rule px-4.5 py-1.5">
        <h2 className="text-[13px] font-semibold">Tap</h2>
        <span className="mr-auto text-xs text-mute">{tap.perSecond > 0 ? `${tap.perSecond} a second` : 'quiet'}</span>
        <FilterFields filter={filter} lines={tap.lines} onChange={setFilter} />
        <label className="flex items-center gap-1.5 text-xs text-mute">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={filter.every}
            onChange={({ target }) => setFilter({ ...filter, every: target.checked })}
          />
          every line
        </label>
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
        {shown.map((line, at) => (
          <TapLine key={`${line.message.at} ${shown.length - at}`} line={line} />
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

function TapLine({ line }: { line: FoldedLine }) {
  const { message } = line;
  const often = timesWords(line);
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
      <span className="flex min-w-0 items-baseline gap-2">
        <code className={`truncate ${message.ok ? '' : 'text-error'}`} title={message.text}>
          {!message.ok && <Mark state="fail" size={11} />} {message.text}
        </code>
        {often && <span className="ml-auto shrink-0 text-xs text-mute">{often}</span>}
      </span>
    </li>
  );
}

function passes({ protocol, text, from, to, fromId, toId }: contract.HeardMessage, filter: Filter): boolean {
  if (filter.protocol !== '' && protocol !== filter.protocol) return false;
  if (filter.deviceId !== '' && fromId !== filter.deviceId && toId !== filter.deviceId) return false;
  const words = filter.text.toLowerCase().split(/\s+/).filter(Boolean);
  const said = `${from} ${to} ${text}`.toLowerCase();
  return words.every((word) => said.includes(word));
}
