import { type contract, show as core } from '@deep-patch/core';
import { useState, type ReactNode } from 'react';
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

const Line = ({ name, children }: { readonly name: string; readonly children: ReactNode }) => (
  <label className="flex items-center gap-2">
    <span className="w-24 text-mute">{name}</span>
    {children}
  </label>
);

const Toggle = ({ on, onTurn }: { readonly on: boolean; readonly onTurn: (on: boolean) => void }) => (
  <input type="checkbox" className="toggle toggle-sm" checked={on} onChange={(event) => onTurn(event.target.checked)} />
);

/** What runs on a unit: its application, a computer's firewall, and the version that is on it. */
export function ApplicationSection({ device, type, state, act }: Props) {
  const deviceId = device.id;
  const hasApplication = (core.isComputer(type) || type.form === 'program') && type.services.length > 0;
  return (
    <section className="grid gap-2">
      <h3 className="text-xs font-semibold text-mute">What runs on it</h3>
      {hasApplication && (
        <Line name="application">
          <select
            className="field-select h-7"
            value={state.application}
            onChange={({ target }) => {
              const wanted = states.find((one) => one === target.value);
              if (wanted) void act({ act: 'application', deviceId, state: wanted });
            }}
          >
            <option value="ready">open, with a show</option>
            <option value="no_show">open, no show</option>
            <option value="closed">closed</option>
          </select>
        </Line>
      )}
      {core.isComputer(type) && <ComputerLines deviceId={deviceId} state={state} act={act} />}
      {state.helper && (
        <Line name="beside it">
          <Toggle on={state.helper.runs} onTurn={(on) => void act({ act: 'helper', deviceId, on })} />
          <span>
            {state.helper.name}{' '}
            <span className="text-mute">{state.helper.runs ? 'runs: hide it, never quit it' : 'was quit'}</span>
          </span>
        </Line>
      )}
      <AllowedServices device={device} type={type} state={state} act={act} />
      {type.kind === 'playout' && <Folder device={device} state={state} act={act} />}
      {type.looksUpOnce && (
        <button
          type="button"
          className="act btn-xs justify-self-start"
          onClick={() => void act({ act: 'look_up_again', deviceId })}
        >
          Key its entries in again
        </button>
      )}
      <Version deviceId={deviceId} state={state} act={act} />
    </section>
  );
}

interface Part extends Pick<Props, 'state' | 'act'> {
  readonly deviceId: string;
}

function ComputerLines({ deviceId, state, act }: Part) {
  return (
    <>
      {!state.powered && (
        <button
          type="button"
          className="act btn-xs justify-self-start"
          onClick={() => void act({ act: 'wake', deviceId })}
        >
          Wake it over the network
        </button>
      )}
      <Line name="firewall">
        <Toggle on={state.firewall} onTurn={(on) => void act({ act: 'firewall', deviceId, on })} />
        <span className="text-mute">{state.firewall ? 'lets in what is ticked' : 'off'}</span>
      </Line>
    </>
  );
}

function AllowedServices({ device, type, state, act }: Props) {
  if (!state.firewall && type.form !== 'program') return null;
  const hears = type.drives.includes('osc') ? [{ key: 'replies', label: 'replies' }] : [];
  return [...type.services, ...hears].map(({ key, label }) => (
    <label key={key} className="flex items-center gap-2 pl-26">
      <input
        type="checkbox"
        className="checkbox checkbox-sm"
        checked={state.allowed.includes(key)}
        onChange={(event) => void act({ act: 'allow', deviceId: device.id, serviceKey: key, on: event.target.checked })}
      />
      {label} may come through the firewall
    </label>
  ));
}

function Version({ deviceId, state, act }: Part) {
  const [firmware, setFirmware] = useState('');
  return (
    <form
      className="flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void act({ act: 'update', deviceId, firmware });
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
  );
}
