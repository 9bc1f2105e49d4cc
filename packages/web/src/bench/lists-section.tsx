import type { show as core } from '@deep-patch/core';
import { useState } from 'react';
import type { DoOnBench } from './use-bench.ts';

interface Props {
  readonly device: core.Device;
  readonly type: core.DeviceType;
  readonly lists: Readonly<Record<string, readonly string[]>>;
  readonly act: DoOnBench;
}

/** The names that a unit keeps: somebody adds one there or takes one away, and whatever refers to it is marked. */
export function ListsSection({ device, type, lists, act }: Props) {
  return type.lists.map(({ key, label, names }) => (
    <NameList
      key={`${key} ${(lists[key] ?? names).join('\n')}`}
      label={label}
      names={lists[key] ?? names}
      onKeep={(next) => void act({ act: 'set_list', deviceId: device.id, list: key, names: next })}
    />
  ));
}

function NameList({
  label,
  names,
  onKeep,
}: {
  readonly label: string;
  readonly names: readonly string[];
  readonly onKeep: (names: string[]) => void;
}) {
  const [text, setText] = useState(names.join('\n'));
  const next = text
    .split('\n')
    .map((name) => name.trim())
    .filter((name) => name !== '');
  return (
    <form
      className="grid gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        onKeep(next);
      }}
    >
      <label className="grid gap-1 text-xs font-semibold text-mute">
        Its {label}, one a line
        <textarea
          className="textarea h-24 w-full border-line bg-base-100 font-normal"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <button type="submit" className="act btn-xs justify-self-start" disabled={next.join('\n') === names.join('\n')}>
        Put these in
      </button>
    </form>
  );
}
