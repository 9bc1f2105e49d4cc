import { type contract, show as core } from '@deep-patch/core';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import { hasWords } from '../parts/has-words.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { DeviceOptions } from '../parts/device-options.tsx';
import { Mark } from '../parts/mark.tsx';
import { foldLines, timesWords, type FoldedLine } from './fold-lines.ts';
import { FrameBytes } from './frame-bytes.tsx';
import { HeardAddresses } from './heard-addresses.tsx';
import { startTap, useTap } from '../live/tap-store.ts';

const mostShown = 60;

interface Filter {
  readonly text: string;
  readonly protocol: string;
  /** Units at either end; empty for any. */
  readonly from: string;
  readonly to: string;
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
    from: query.get('from') ?? '',
    to: query.get('to') ?? '',
    every: query.has('every'),
  }));
  const set = (wanted: Filter) => {
    setFilter(wanted);
    const { text, protocol, from, to, every } = wanted;
    const kept = { tap: text, protocol, from, to, every: every ? '1' : '' };
    const next = new URLSearchParams(query);
    for (const [key, value] of Object.entries(kept))
      if (value === '') next.delete(key);
      else next.set(key, value);
    setQuery(next, { replace: true });
  };
  return [filter, set] as const;
}

const single = (message: contract.HeardMessage): FoldedLine => ({ message, times: 1, perSecond: null });

interface TapProps {
  readonly heard: readonly contract.HeardMessage[];
  readonly forget: () => Promise<boolean>;
}

/** Everything that goes over the simulated network, as it goes; held still while somebody reads. */
export function TapPanel({ heard, forget }: TapProps) {
  const { showId } = useWorkspace();
  const tap = useTap(showId);
  const [held, setHeld] = useState<readonly contract.HeardMessage[]>();
  const [filter, setFilter] = useFilter();
  const [listed, setListed] = useState(false);
  /** The frame whose bytes are shown. */
  const [opened, setOpened] = useState<number>();
  useEffect(() => startTap(showId, heard), [showId, heard]);
  const lines = held ?? tap.lines;
  const passing = lines.filter((line) => passes(line, filter));
  const shown = (filter.every ? passing.toReversed().map(single) : foldLines(passing)).slice(0, mostShown);
  return (
    <section
      aria-label="Tap"
      className={`flex shrink-0 flex-col border-t border-rule bg-base-200 ${opened === undefined ? 'h-56 max-md:h-44' : 'h-[55vh]'}`}
    >
      <div className="flex flex-wrap items-center gap-1.5 border-b border-rule px-4.5 py-1.5">
        <h2 className="text-[13px] font-semibold">Tap</h2>
        <span className="mr-auto text-xs text-mute">{tap.perSecond > 0 ? `${tap.perSecond} a second` : 'quiet'}</span>
        <FilterFields filter={filter} lines={tap.lines} onChange={setFilter} />
        <button
          type="button"
          className="act btn-xs"
          aria-pressed={held !== undefined}
          onClick={() => {
            setHeld(held ? undefined : tap.lines);
            setOpened(undefined);
          }}
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
      <TapLines
        lines={shown}
        nothing={
          lines.length === 0
            ? 'Nothing yet. Switch units on and sound a link: every frame shows here.'
            : 'No line passes the filter.'
        }
        opened={opened}
        onOpen={(frame) => {
          setOpened(frame);
          // a line that is read stays where it is
          if (frame !== undefined) setHeld(lines);
        }}
      />
      {listed && <HeardAddresses onClose={() => setListed(false)} forget={forget} />}
    </section>
  );
}

function TapLines({
  lines,
  nothing,
  opened,
  onOpen,
}: {
  readonly lines: readonly FoldedLine[];
  /** Why there are none. */
  readonly nothing: string;
  readonly opened: number | undefined;
  readonly onOpen: (frame: number | undefined) => void;
}) {
  return (
    <ol className="min-h-0 flex-1 overflow-auto" tabIndex={0} aria-label="Lines of the tap, newest first">
      {lines.length === 0 && <li className="px-4.5 py-2 text-mute">{nothing}</li>}
      {lines.map((line, at) => (
        <TapLine
          key={`${line.message.at} ${lines.length - at}`}
          line={line}
          opened={opened !== undefined && opened === line.message.frame}
          onOpen={onOpen}
        />
      ))}
    </ol>
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
  const protocols = [...new Set(lines.map(({ protocol }) => protocol))].sort();
  return (
    <>
      <input
        className="field h-7 w-20"
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
      <UnitFilter label="From" value={filter.from} onChoose={(from) => onChange({ ...filter, from })} />
      <UnitFilter label="To" value={filter.to} onChoose={(to) => onChange({ ...filter, to })} />
      <label className="flex items-center gap-1.5 text-xs text-mute">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={filter.every}
          onChange={({ target }) => onChange({ ...filter, every: target.checked })}
        />
        every line
      </label>
    </>
  );
}

function UnitFilter({
  label,
  value,
  onChoose,
}: {
  readonly label: string;
  readonly value: string;
  readonly onChoose: (deviceId: string) => void;
}) {
  return (
    <select
      className="field-select h-7 w-18"
      aria-label={label}
      value={value}
      onChange={(event) => onChoose(event.target.value)}
    >
      <option value="">{label.toLowerCase()}</option>
      <DeviceOptions devices={core.devicesByName(useShow())} />
    </select>
  );
}

function TapLine({
  line,
  opened,
  onOpen,
}: {
  readonly line: FoldedLine;
  readonly opened: boolean;
  readonly onOpen: (frame: number | undefined) => void;
}) {
  const { message } = line;
  const { frame } = message;
  const often = timesWords(line);
  const time = new Date(message.at).toISOString().slice(11, 23);
  return (
    <li className="border-b border-rule px-4.5 py-0.5 text-[13px]">
      <div className="grid grid-cols-[7rem_0.9fr_0.9fr_3.25rem_2.5fr] items-baseline gap-2">
        {frame === undefined ? (
          <code className="text-mute">{time}</code>
        ) : (
          <button
            type="button"
            className="flex items-baseline gap-1 text-left font-mono text-mute hover:text-base-content"
            aria-expanded={opened}
            aria-label={`${time}, bytes`}
            title="What each byte stands for"
            onClick={() => onOpen(opened ? undefined : frame)}
          >
            {time} {opened ? <ChevronDown size={11} aria-hidden /> : <ChevronRight size={11} aria-hidden />}
          </button>
        )}
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
      </div>
      {opened && frame !== undefined && <FrameBytes frame={frame} />}
    </li>
  );
}

function passes({ protocol, text, from, to, fromId, toId }: contract.HeardMessage, filter: Filter): boolean {
  if (filter.protocol !== '' && protocol !== filter.protocol) return false;
  if (filter.from !== '' && fromId !== filter.from) return false;
  if (filter.to !== '' && toId !== filter.to) return false;
  return hasWords(filter.text)(`${from} ${to} ${text}`);
}
