import { useBench } from '../bench/use-bench.ts';
import { useBenchPart } from '../live/bench-store.ts';
import type { OwnStepProps } from './step-props.ts';

/** What a computer lists by bare numbers and nobody has named: right after a unit was switched on, that is the unit. */
export function NameStep({ show, step, sheet, benchIsOn, isShut, onDone }: OwnStepProps) {
  const { act } = useBench();
  const on = step.partnerId ?? '';
  const name = show.devices[step.deviceId]?.name ?? '';
  const listed = useBenchPart((bench) => bench?.standins.find(({ deviceId }) => deviceId === on)?.endpoints);
  const fresh = listed?.filter(({ called }) => called === null) ?? [];
  const finish = async () => {
    for (const { name: endpoint } of benchIsOn ? fresh : []) {
      const called = `${name}, ${endpoint.split(' ')[0]}`;
      if (!(await act({ act: 'name_endpoint', deviceId: on, endpoint, called }))) return;
    }
    if (await sheet.done(step)) onDone();
  };
  return (
    <div className="grid w-full max-w-2xl gap-2 text-[13px]">
      {benchIsOn &&
        (fresh.length > 0 ? (
          <p>
            New in the list:{' '}
            {fresh.map(({ name: endpoint }) => (
              <code key={endpoint} className="mr-2 text-base font-semibold">
                {endpoint}
              </code>
            ))}
          </p>
        ) : (
          <p className="text-mute">
            {listed && listed.length > 0
              ? 'Everything in the list has a name already.'
              : `${show.devices[on]?.name} lists nothing: are both switched on, and is the cable in?`}
          </p>
        ))}
      <button
        type="button"
        className="act-main justify-self-start"
        disabled={isShut || (benchIsOn && (listed?.length ?? 0) === 0)}
        onClick={() => void finish()}
      >
        {benchIsOn && fresh.length > 0 ? `Call them ${name}, next step` : 'It has a name, next step'}
      </button>
    </div>
  );
}
