import { contract, rig, type Show, type show as core } from '@deep-patch/core';
import { useRef, useState } from 'react';
import type { DoOnBench } from '../bench/use-bench.ts';
import { useBenchPart } from '../live/bench-store.ts';
import { useWorkspace } from '../live/workspace.tsx';
import { saveFile } from '../parts/save-file.ts';
import { useNow } from '../parts/use-now.ts';

interface Props {
  readonly show: Show;
  /** Who loses something. */
  readonly device: core.Device;
  readonly wanted: rig.RiskyAct;
  readonly act: DoOnBench;
  readonly benchIsOn: boolean;
  readonly isAccepted: boolean;
  readonly onAccept: (accepted: boolean) => void;
}

const hourMs = 3_600_000;

/** May it be done: nothing is lost, a copy is there, or somebody said that it may go? */
export function useMayLose(show: Show, wanted: rig.RiskyAct | undefined) {
  const now = useNow(hourMs);
  const [accepted, setAccepted] = useState('');
  const key = JSON.stringify(wanted);
  const isAccepted = accepted === key;
  const verdict = wanted && rig.lossesOf(show, wanted, now).verdict;
  return {
    mayGo: verdict === 'nothing_lost' || verdict === 'with_copy' || (verdict === 'no_go' && isAccepted),
    isAccepted,
    onAccept: (yes: boolean) => setAccepted(yes ? key : ''),
  };
}

/** What is gone afterwards, in plain words, and a copy of it first: the bench makes one. */
export function WhatIsLost({ show, device, wanted, act, benchIsOn, isAccepted, onAccept }: Props) {
  const { losses, verdict } = rig.lossesOf(show, wanted, useNow(hourMs));
  if (losses.length === 0) return <p className="text-[13px] text-mute">{device.name} has nothing to lose.</p>;
  const what = losses.map((loss) => loss.what).join(', ');
  const day = losses[0]?.savedOn;
  return (
    <div className="grid gap-2 rounded-box border border-line p-3 text-[13px]">
      <p>
        <b className="font-semibold">{device.name} loses</b> {what}.{' '}
        {verdict === 'with_copy' ? (
          `A copy of ${day} can be loaded again.`
        ) : (
          <span className="font-semibold text-error">
            {day ? `The copy of ${day} is too old to count on.` : 'There is no copy of it.'}
          </span>
        )}
      </p>
      <CopyActs show={show} device={device} act={act} benchIsOn={benchIsOn} />
      {verdict === 'no_go' && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={isAccepted}
            onChange={(event) => onAccept(event.target.checked)}
          />
          It may go: nothing in it matters
        </label>
      )}
    </div>
  );
}

/** Keeps what is in a unit as a file, and puts such a file into it again. */
function CopyActs({ show, device, act, benchIsOn }: Pick<Props, 'show' | 'device' | 'act' | 'benchIsOn'>) {
  const { save } = useWorkspace();
  const copied = useBenchPart((bench) => (bench?.copied?.deviceId === device.id ? bench.copied.copy : undefined));
  const [fault, setFault] = useState<string>();
  const file = useRef<HTMLInputElement>(null);
  const noteCopy = async () => {
    // a copy that could not be made must not stand in the plan
    if (benchIsOn && !(await act({ act: 'keep_copy', deviceId: device.id }))) return;
    await save(rig.planEditDevice(show, device, { savedOn: new Date().toISOString().slice(0, 10) }));
  };
  const load = async (from: File | undefined) => {
    const read = from && contract.unitCopySchema.safeParse(jsonOf(await from.text()));
    if (!read) return;
    setFault(read.success ? undefined : `${from.name} is no copy of a unit. Choose a file that was saved here.`);
    if (read.success) await act({ act: 'load_copy', deviceId: device.id, copy: read.data });
  };
  return (
    <div className="flex flex-wrap items-center gap-2">
      <button type="button" className="act btn-xs" onClick={() => void noteCopy()}>
        {benchIsOn ? `Save a copy of ${device.name} first` : `I saved a copy of ${device.name}`}
      </button>
      {copied && (
        <button
          type="button"
          className="act-quiet btn-xs"
          onClick={() => saveFile(`${device.id}-copy.json`, JSON.stringify(copied, null, 2), 'application/json')}
        >
          Take the copy as a file
        </button>
      )}
      {benchIsOn && (
        <>
          <button type="button" className="act-quiet btn-xs" onClick={() => file.current?.click()}>
            Load a copy into it …
          </button>
          <input
            ref={file}
            type="file"
            accept="application/json,.json"
            aria-label={`Copy to load into ${device.name}`}
            className="hidden"
            onChange={(event) => {
              void load(event.target.files?.[0]);
              event.target.value = '';
            }}
          />
        </>
      )}
      {fault && (
        <p role="alert" className="w-full text-error">
          {fault}
        </p>
      )}
    </div>
  );
}

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
