import type { show as core } from '@deep-patch/core';
import { useState } from 'react';
import { useBench } from '../bench/use-bench.ts';
import { useBenchPart } from '../live/bench-store.ts';
import { faceOf } from '../live/face-of.ts';
import { useShow } from '../live/workspace.tsx';
import { Mark } from '../parts/mark.tsx';

interface Props {
  readonly switcher: core.Device;
}

/** Everything that the switcher itself can be told, tried one by one, with what its own screen then says. */
export function SwitcherView({ switcher }: Props) {
  const show = useShow();
  const { power } = useBench();
  const isUp = useBenchPart(
    (known) => known?.standins.find(({ deviceId }) => deviceId === switcher.id)?.status === 'up',
  );
  const services = show.types[switcher.typeId]?.services ?? [];
  return (
    <div className="grid max-w-4xl gap-3">
      <p className="text-mute">
        Try each once before anybody counts on it: a cut, a change over some frames, a colour, a still. What it did is
        read off its own screen.
      </p>
      {!isUp && (
        <button
          type="button"
          className="act-main justify-self-start"
          onClick={() => void power(Object.keys(show.devices), true)}
        >
          Switch the bench on
        </button>
      )}
      <ul className="grid">
        {services.flatMap((service) =>
          service.commands
            .filter(({ sets }) => sets.length > 0)
            .map((command) => (
              <li key={`${service.key} ${command.key}`} className="border-t border-rule py-2">
                <Deed {...{ switcher, command }} serviceKey={service.key} isUp={isUp} />
              </li>
            )),
        )}
      </ul>
    </div>
  );
}

type Values = Readonly<Record<string, string>>;

function Deed({
  switcher,
  serviceKey,
  command,
  isUp,
}: Props & { readonly serviceKey: string; readonly command: core.Command; readonly isUp: boolean }) {
  const { act } = useBench();
  const [values, setValues] = useState<Values>(() =>
    Object.fromEntries(command.args.map(({ name, example }) => [name, String(example)])),
  );
  const [done, setDone] = useState<Values>();
  const args = command.args.map(({ name, type }) => (type === 's' ? (values[name] ?? '') : Number(values[name])));
  const isSound = args.every((value, at) => fits(value, command.args[at]));
  const tryIt = () => {
    setDone(values);
    void act({ act: 'touch', deviceId: switcher.id, serviceKey, command: command.key, args });
  };
  return (
    <div className="flex flex-wrap items-end gap-2">
      <b className="w-64 self-center">{command.label}</b>
      {command.args.map(({ name, unit }) => (
        <label key={name} className="grid gap-0.5 text-xs text-mute">
          {unit && unit !== name ? `${name}, ${unit}` : name}
          <input
            className="field key-num h-7 w-32"
            value={values[name] ?? ''}
            maxLength={80}
            onChange={(event) => setValues({ ...values, [name]: event.target.value })}
          />
        </label>
      ))}
      <button type="button" className="act" disabled={!isUp || !isSound} onClick={tryIt}>
        Do it
      </button>
      {done && <Effect {...{ switcher, command }} values={done} />}
    </div>
  );
}

/** Did what the command sets appear on the switcher's own screen? */
function Effect({ switcher, command, values }: Props & { readonly command: core.Command; readonly values: Values }) {
  const wanted = command.sets.map(
    ({ parameter, value }) => [filled(parameter, values), filled(value, values)] as const,
  );
  const shown = useBenchPart((known) =>
    wanted.map(([parameter]) => faceOf(known?.standins, switcher.id, parameter) ?? '?').join(', '),
  );
  const isDone = shown === wanted.map(([, value]) => value).join(', ');
  return (
    <span className="flex items-center gap-1.5 self-center text-[13px]" role="status">
      <Mark state={isDone ? 'pass' : 'waits'} size={12} /> {wanted.map(([parameter]) => parameter).join(', ')}: {shown}
    </span>
  );
}

const filled = (text: string, values: Values): string =>
  text.replace(/\{(\w+)\}/g, (whole, name: string) => values[name] ?? whole);

function fits(value: string | number, argument: core.Command['args'][number] | undefined): boolean {
  if (typeof value === 'string') return value.trim() !== '';
  return Number.isFinite(value) && value >= (argument?.min ?? -Infinity) && value <= (argument?.max ?? Infinity);
}
