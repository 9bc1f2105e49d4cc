import { links as linkRoom, type show as core } from '@deep-patch/core';
import { useState } from 'react';
import type { DoOnBench } from './use-bench.ts';

interface Props {
  readonly device: core.Device;
  readonly type: core.DeviceType;
  readonly act: DoOnBench;
}

/** Doing something at the unit itself, to see whether its remotes follow. */
export function TouchSection({ device, type, act }: Props) {
  const all = type.services.flatMap((service) =>
    service.commands.map((command) => ({ id: `${service.key} ${command.key}`, service, command })),
  );
  const [chosen, setChosen] = useState(all[0]?.id ?? '');
  const { service, command } = all.find(({ id }) => id === chosen) ?? {};
  const [texts, setTexts] = useState<Readonly<Record<string, string>>>({});
  if (!service || !command) return null;
  const examples = linkRoom.exampleArgs(command);
  const args = command.args.map((argument, at) => readArg(argument, texts[argument.name], examples[at]));
  return (
    <form
      className="grid gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        void act({ act: 'touch', deviceId: device.id, serviceKey: service.key, command: command.key, args });
      }}
    >
      <h3 className="text-xs font-semibold text-mute">Do something at it</h3>
      <select
        className="field-select h-8"
        aria-label="What to do at it"
        value={chosen}
        onChange={(event) => {
          setChosen(event.target.value);
          setTexts({});
        }}
      >
        {all.map((each) => (
          <option key={each.id} value={each.id}>
            {each.command.label}
            {type.services.length > 1 && ` (${each.service.label})`}
          </option>
        ))}
      </select>
      <div className="flex flex-wrap items-end gap-2">
        {command.args.map(({ name, unit }, at) => (
          <label key={name} className="grid gap-1 text-xs text-mute">
            {name}
            {unit && `, ${unit}`}
            <input
              className="field key-num h-7 w-24"
              value={texts[name] ?? String(examples[at] ?? '')}
              onChange={(event) => setTexts({ ...texts, [name]: event.target.value })}
            />
          </label>
        ))}
        <button type="submit" className="act btn-xs">
          Do it
        </button>
      </div>
    </form>
  );
}

type Arg = core.Link['args'][number];

function readArg({ type }: core.Command['args'][number], text: string | undefined, example: Arg | undefined): Arg {
  if (text === undefined) return example ?? '';
  if (type === 'T') return text === 'true';
  return type === 's' || Number.isNaN(Number(text)) || text.trim() === '' ? text : Number(text);
}
