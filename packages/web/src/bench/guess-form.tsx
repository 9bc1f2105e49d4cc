import { show as core } from '@deep-patch/core';
import { useState } from 'react';
import { useShow } from '../live/workspace.tsx';
import { useNow } from '../parts/use-now.ts';
import type { DoOnBench } from './use-bench.ts';

interface Props {
  readonly act: 'guess' | 'script_guess';
  readonly onAct: DoOnBench;
  /** The unit to begin with; the first of the list where nothing points at one. */
  readonly deviceId: string | undefined;
  readonly giveUp: () => void;
  readonly giveUpLabel: string;
}

/** What somebody believes to be broken, and where. */
export function GuessForm({ act, onAct, deviceId: begin, giveUp, giveUpLabel }: Props) {
  const show = useShow();
  const [kind, setKind] = useState<core.FaultKind>();
  const devices = core.devicesByName(show);
  const [deviceId, setDeviceId] = useState(begin ?? devices[0]?.id ?? '');
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (kind) void onAct({ act, kind, deviceId });
      }}
    >
      <label className="grid gap-1 text-xs text-mute">
        What is wrong
        <select
          className="field-select h-8 w-48"
          value={kind ?? ''}
          onChange={({ target }) => setKind(core.faultKinds.find((one) => one === target.value))}
        >
          <option value="">choose</option>
          {core.faultKinds.map((each) => (
            <option key={each} value={each}>
              {core.faults[each].is}
            </option>
          ))}
        </select>
      </label>
      <label className="grid gap-1 text-xs text-mute">
        At which unit
        <select
          className="field-select h-8 w-44"
          value={deviceId}
          onChange={(event) => setDeviceId(event.target.value)}
        >
          {devices.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <button type="submit" className="act-main" disabled={!kind || deviceId === ''}>
        That is it
      </button>
      <button type="button" className="act-quiet" onClick={giveUp}>
        {giveUpLabel}
      </button>
    </form>
  );
}

export function Elapsed({ since }: { since: number }) {
  const now = useNow(1000);
  return <span className="text-mute">{timeWords(Math.max(0, now - since))} so far.</span>;
}

export function timeWords(ms: number): string {
  const seconds = Math.round(ms / 1000);
  return seconds < 60 ? `${seconds} s` : `${Math.floor(seconds / 60)} min ${seconds % 60} s`;
}
