import { bringup, type Show } from '@deep-patch/core';
import { useBench } from '../bench/use-bench.ts';
import { useWorkspace } from '../live/workspace.tsx';
import { useMayLose, WhatIsLost } from './what-is-lost.tsx';

interface Props {
  readonly show: Show;
  readonly deviceId: string;
  readonly benchIsOn: boolean;
  readonly name: string;
  readonly onReset: () => void;
}

/** Back to factory state, knowingly: what that erases stands there before anybody holds the key (need 4.10). */
export function ResetUnit({ show, deviceId, benchIsOn, name, onReset }: Props) {
  const { save } = useWorkspace();
  const { act } = useBench();
  const device = show.devices[deviceId];
  const wanted = { kind: 'reset', deviceId } as const;
  const { mayGo, ...accepting } = useMayLose(show, wanted);
  if (!device) return null;
  const reset = async () => {
    if (benchIsOn && !(await act({ act: 'factory', deviceIds: [deviceId] }))) return;
    if (await save(bringup.planReset(show, deviceId, { by: name, at: Date.now() }))) onReset();
  };
  return (
    <div className="grid max-w-2xl gap-2">
      <p className="text-[13px]">
        Only where nothing else helps: read its address with a monitor, or look for it over its other ways first.
      </p>
      <WhatIsLost {...{ show, device, wanted, act, benchIsOn, ...accepting }} />
      <button type="button" className="act justify-self-start" disabled={!mayGo} onClick={() => void reset()}>
        {benchIsOn ? `Reset ${device.name} on the bench` : `${device.name} is reset`}
      </button>
    </div>
  );
}
