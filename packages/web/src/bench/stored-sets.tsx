import type { contract, show as core } from '@deep-patch/core';
import { useState } from 'react';
import type { DoOnBench } from './use-bench.ts';

interface Props {
  readonly deviceId: string;
  readonly type: core.DeviceType;
  readonly sets: contract.StandinState['sets'];
  readonly act: DoOnBench;
}

/** Sets of settings that a unit keeps by itself: stored at a free position, picked later. */
export function StoredSets({ deviceId, type, sets, act }: Props) {
  const positions = Array.from({ length: type.sets }, (_, at) => at + 1);
  const free = positions.find((position) => !sets.some((set) => set.position === position));
  const [label, setLabel] = useState('');
  return (
    <div className="grid gap-1.5">
      <h4 className="text-xs text-mute">
        Sets that it keeps, {sets.length} of {type.sets}
      </h4>
      {sets.map((set) => (
        <p key={set.position} className="flex items-center gap-2">
          <span className="font-mono text-mute">{set.position}</span>
          <span className={set.active ? 'mr-auto font-semibold' : 'mr-auto'}>
            {set.label}
            {set.active && (set.isAsStored ? ' · in use' : ' · was in use, changed since')}
          </span>
          {!(set.active && set.isAsStored) && (
            <button
              type="button"
              className="act btn-xs"
              aria-label={`Use the set ${set.label}`}
              onClick={() => void act({ act: 'take_set', deviceId, position: set.position })}
            >
              Use
            </button>
          )}
          <button
            type="button"
            className="act-quiet btn-xs"
            aria-label={`Delete the set ${set.label}`}
            onClick={() => void act({ act: 'drop_set', deviceId, position: set.position })}
          >
            Delete
          </button>
        </p>
      ))}
      {free !== undefined && (
        <form
          className="flex items-center gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void act({ act: 'store_set', deviceId, position: free, label: label.trim() });
            setLabel('');
          }}
        >
          <input
            className="field h-7"
            aria-label="Name of the new set"
            placeholder="such as Quay"
            value={label}
            onChange={(event) => setLabel(event.target.value)}
          />
          <button type="submit" className="act btn-xs" disabled={label.trim() === ''}>
            Store at {free}
          </button>
        </form>
      )}
    </div>
  );
}
