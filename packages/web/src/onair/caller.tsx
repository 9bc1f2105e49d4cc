import { onair, type show as core } from '@deep-patch/core';
import { useState } from 'react';
import { useBench } from '../bench/use-bench.ts';
import { useBenchPart } from '../live/bench-store.ts';
import { faceOf } from '../live/face-of.ts';
import { useShow } from '../live/workspace.tsx';

interface Props {
  readonly input: onair.AirInput;
}

/** A caller on an input: a call is placed on the bench, and its input taken on air. */
export function Caller({ input }: Props) {
  const show = useShow();
  const { switcher, number, rule } = input;
  const gateway = onair.callerOn(show, input);
  const isUp = useBenchPart(
    (state) => state?.standins.find(({ deviceId }) => deviceId === gateway?.id)?.status === 'up',
  );
  const there = useBenchPart((state) => faceOf(state?.standins, gateway?.id ?? '', rule.channel)) ?? 'nobody';
  const seen = useBenchPart((state) =>
    faceOf(state?.standins, switcher.id, 'on air') === String(number)
      ? faceOf(state?.standins, switcher.id, 'caller')
      : undefined,
  );
  if (!gateway) return null;
  return (
    <section className="grid gap-2" aria-label="A call on the bench">
      <p>
        {rule.channel} of {gateway.name}: <b>{isUp ? there : 'not switched on, on the bench'}</b>
        {seen !== undefined && <span className="text-success"> · on air: {seen}</span>}
      </p>
      {isUp && (
        <div className="flex flex-wrap items-end gap-2">
          <Ring key={there} {...{ gateway, there }} channel={rule.channel} />
          <TakeIt input={input} />
        </div>
      )}
    </section>
  );
}

/** Somebody calls in, or hangs up. */
function Ring({
  gateway,
  channel,
  there,
}: {
  readonly gateway: core.Device;
  readonly channel: string;
  readonly there: string;
}) {
  const { act } = useBench();
  const names = onair.callerNames(useShow(), gateway);
  const [who, setWho] = useState(names[0] ?? '');
  const isOnCall = there !== 'nobody';
  const caller = isOnCall ? '' : who.trim();
  return (
    <>
      {!isOnCall && (
        <label className="grid gap-0.5 text-xs text-mute">
          Who calls in
          <input
            className="field h-8 w-48"
            list="callers"
            value={who}
            maxLength={80}
            onChange={(event) => setWho(event.target.value)}
          />
          <datalist id="callers">
            {names.map((name) => (
              <option key={name} value={name} />
            ))}
          </datalist>
        </label>
      )}
      <button
        type="button"
        className="act"
        disabled={!isOnCall && caller === ''}
        onClick={() => void act({ act: 'call', deviceId: gateway.id, channel, caller })}
      >
        {isOnCall ? 'Hang up' : 'Place the call'}
      </button>
    </>
  );
}

function TakeIt({ input: { switcher, number } }: Props) {
  const { act } = useBench();
  const type = useShow().types[switcher.typeId];
  const service = type?.services.find(({ commands }) => commands.some(({ key }) => key === 'cut'));
  if (!service) return null;
  const cut = { act: 'touch', deviceId: switcher.id, serviceKey: service.key, command: 'cut', args: [number] } as const;
  return (
    <button type="button" className="act" onClick={() => void act({ ...cut, args: [number] })}>
      Take it
    </button>
  );
}
