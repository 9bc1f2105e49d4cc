import { type contract, show as core } from '@deep-patch/core';
import { useState } from 'react';
import type { DoOnBench } from './use-bench.ts';

interface Props {
  readonly device: core.Device;
  readonly type: core.DeviceType;
  readonly state: contract.StandinState;
  readonly act: DoOnBench;
}

const states = ['ready', 'no_show', 'closed'] as const;

/** The watched folder of a playout machine: its list follows, but what is on air stays. */
function Folder({ device, state, act }: Omit<Props, 'type'>) {
  const now = state.menu.flatMap(([label, name]) => (label === 'clip' ? [name] : []));
  const [text, setText] = useState(now.join(', '));
  return (
    <form
      className="flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        const clips = text.split(',').map((name) => name.trim());
        void act({ act: 'folder', deviceId: device.id, clips: clips.filter((name) => name !== '') });
      }}
    >
      <span className="w-24 text-mute">folder</span>
      <input
        className="field h-7"
        aria-label="Clips in its folder, with commas between"
        placeholder="1, 2, 3"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <button type="submit" className="act btn-xs">
        Put in
      </button>
    </form>
  );
}

/** What runs on a unit: its application, a computer's firewall, and the version that is on it. */
export function ApplicationSection({ device, type, state, act }: Props) {
  const isComputer = core.isComputer(type);
  const hasApplication = (isComputer || type.form === 'program') && type.services.length > 0;
  const [firmware, setFirmware] = useState('');
  return (
    <section className="grid gap-2">
      <h3 className="text-xs font-semibold text-mute">What runs on it</h3>
      {hasApplication && (
        <label className="flex items-center gap-2">
          <span className="w-24 text-mute">application</span>
          <select
            className="field-select h-7"
            value={state.application}
            onChange={({ target }) => {
              const wanted = states.find((one) => one === target.value);
              if (wanted) void act({ act: 'application', deviceId: device.id, state: wanted });
            }}
          >
            <option value="ready">open, with a show</option>
            <option value="no_show">open, no show</option>
            <option value="closed">closed</option>
          </select>
        </label>
      )}
      {isComputer && !state.powered && (
        <button
          type="button"
          className="act btn-xs justify-self-start"
          onClick={() => void act({ act: 'wake', deviceId: device.id })}
        >
          Wake it over the network
        </button>
      )}
      {isComputer && (
        <label className="flex items-center gap-2">
          <span className="w-24 text-mute">firewall</span>
          <input
            type="checkbox"
            className="toggle toggle-sm"
            checked={state.firewall}
            onChange={(event) => void act({ act: 'firewall', deviceId: device.id, on: event.target.checked })}
          />
          <span className="text-mute">{state.firewall ? 'lets in what is ticked' : 'off'}</span>
        </label>
      )}
      {state.helper && (
        <label className="flex items-center gap-2">
          <span className="w-24 text-mute">beside it</span>
          <input
            type="checkbox"
            className="toggle toggle-sm"
            checked={state.helper.runs}
            onChange={(event) => void act({ act: 'helper', deviceId: device.id, on: event.target.checked })}
          />
          <span>
            {state.helper.name}{' '}
            <span className="text-mute">{state.helper.runs ? 'runs: hide it, never quit it' : 'was quit'}</span>
          </span>
        </label>
      )}
      {(state.firewall || type.form === 'program') &&
        type.services.map(({ key, label }) => (
          <label key={key} className="flex items-center gap-2 pl-26">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={state.allowed.includes(key)}
              onChange={(event) =>
                void act({ act: 'allow', deviceId: device.id, serviceKey: key, on: event.target.checked })
              }
            />
            {label} may come through the firewall
          </label>
        ))}
      {type.kind === 'playout' && <Folder device={device} state={state} act={act} />}
      {type.looksUpOnce && (
        <button
          type="button"
          className="act btn-xs justify-self-start"
          onClick={() => void act({ act: 'look_up_again', deviceId: device.id })}
        >
          Key its entries in again
        </button>
      )}
      <form
        className="flex items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void act({ act: 'update', deviceId: device.id, firmware });
          setFirmware('');
        }}
      >
        <span className="w-24 text-mute">version</span>
        <code>{state.settings.firmware ?? 'not known'}</code>
        <input
          className="field key-num ml-auto h-7 w-20"
          aria-label="Version to put on"
          placeholder="2.1"
          value={firmware}
          onChange={(event) => setFirmware(event.target.value)}
        />
        <button type="submit" className="act btn-xs" disabled={!/^\d+(\.\d+){0,3}$/.test(firmware)}>
          Put on
        </button>
      </form>
    </section>
  );
}
