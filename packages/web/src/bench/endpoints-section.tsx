import { type contract, links as linkRoom, type show as core } from '@deep-patch/core';
import { useState } from 'react';
import type { DoOnBench } from './use-bench.ts';

interface Props {
  readonly device: core.Device;
  readonly endpoints: contract.StandinState['endpoints'];
  readonly act: DoOnBench;
}

/** What a computer's system lists under bare numbers: note the list, connect one unit, and name what is new. */
export function EndpointsSection({ device, endpoints, act }: Props) {
  const [before, setBefore] = useState<readonly string[]>();
  const now = endpoints.map(({ name }) => name);
  const difference = before && linkRoom.endpointDifference(before, now);
  const fresh = difference ? [...difference.newInputs, ...difference.newOutputs] : [];
  return (
    <section className="grid gap-1.5">
      <h3 className="text-xs font-semibold text-mute">MIDI endpoints that it lists</h3>
      {endpoints.length === 0 && <p className="text-mute">None: no MIDI unit is switched on.</p>}
      <ul className="grid gap-1">
        {endpoints.map(({ name, called }) => (
          <li key={name} className="flex items-center gap-2">
            <code>{name}</code>
            {fresh.includes(name) && <span className="badge badge-sm badge-primary">new</span>}
            <NameField key={called ?? ''} device={device} name={name} called={called ?? ''} act={act} />
          </li>
        ))}
      </ul>
      {difference && (
        <p className="text-mute">
          {fresh.length === 0 && difference.vanished.length === 0
            ? 'Noted. Connect or switch on one unit now: what is new is marked.'
            : `${fresh.length} new${difference.vanished.length > 0 ? `, gone: ${difference.vanished.join(', ')}` : ''}.`}
        </p>
      )}
      <button type="button" className="act btn-xs justify-self-start" onClick={() => setBefore(now)}>
        {before ? 'Note the list anew' : 'Note the list as it is'}
      </button>
    </section>
  );
}

function NameField({
  device,
  name,
  called,
  act,
}: {
  device: core.Device;
  name: string;
  called: string;
  act: DoOnBench;
}) {
  const [text, setText] = useState(called);
  const save = () => {
    if (text.trim() !== called)
      void act({ act: 'name_endpoint', deviceId: device.id, endpoint: name, called: text.trim() });
  };
  return (
    <form
      className="ml-auto"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <input
        className="field h-7 w-36"
        aria-label={`What ${name} is`}
        placeholder="which unit is it?"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={save}
      />
    </form>
  );
}
