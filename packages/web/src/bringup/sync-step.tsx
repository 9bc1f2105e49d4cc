import type { contract, Show, show as core } from '@deep-patch/core';
import { useState } from 'react';
import { useBench, type DoOnBench } from '../bench/use-bench.ts';
import { useBenchPart } from '../live/bench-store.ts';
import type { OwnStepProps } from './step-props.ts';
import { useMayLose, WhatIsLost } from './what-is-lost.tsx';

/** Two partners beside each other: what is in both, which of them overwrites the other, and whether they agree then. */
export function SyncStep({ show, step, sheet, benchIsOn, isShut, onDone }: OwnStepProps) {
  const { act } = useBench();
  const [one, other] = [show.devices[step.deviceId], show.devices[step.partnerId ?? '']];
  const [from, setFrom] = useState<{ of: string; id: string }>();
  const known = useBenchPart((bench) =>
    one && other && isOf(bench?.partners, one, other) ? bench?.partners : undefined,
  );
  const chosen = from?.of === step.key ? from.id : undefined;
  const source = chosen === undefined ? undefined : chosen === one?.id ? one : other;
  const target = source === one ? other : one;
  const wanted = source && target && ({ kind: 'sync', fromId: source.id, toId: target.id } as const);
  const { mayGo, ...accepting } = useMayLose(show, wanted);
  if (!one || !other) return null;
  const finish = () => void sheet.done(step).then((ok) => ok && onDone());
  return (
    <div className="grid w-full max-w-2xl gap-3">
      {known ? (
        <BothSides {...{ known, one, other }} />
      ) : (
        <p className="text-[13px] text-mute">
          {benchIsOn
            ? 'Look at both sides first: a program may still hold an earlier job.'
            : 'Look at a feature that you know, on both sides: which one has it?'}
        </p>
      )}
      <WhichSide {...{ one, other, chosen }} onChoose={(id) => setFrom({ of: step.key, id })} />
      {wanted && target && <WhatIsLost {...{ show, device: target, wanted, act, benchIsOn, ...accepting }} />}
      {known?.done != null && <Progress known={known} />}
      <SyncActs {...{ show, known, one, other, wanted, mayGo, act, benchIsOn, isShut }} onAgreed={finish} />
    </div>
  );
}

const isOf = (known: contract.PartnersState | null | undefined, one: core.Device, other: core.Device): boolean =>
  known != null && [known.fromId, known.toId].sort().join() === [one.id, other.id].sort().join();

interface ActsProps extends Pick<OwnStepProps, 'show' | 'benchIsOn' | 'isShut'> {
  readonly known: contract.PartnersState | null | undefined;
  readonly one: core.Device;
  readonly other: core.Device;
  readonly wanted: { readonly fromId: string; readonly toId: string } | undefined;
  readonly mayGo: boolean;
  readonly act: DoOnBench;
  readonly onAgreed: () => void;
}

/** Look, overwrite, store, and on: each only when it makes sense. */
function SyncActs({ show, known, one, other, wanted, mayGo, act, benchIsOn, isShut, onAgreed }: ActsProps) {
  const isRunning = known?.done != null;
  return (
    <div className="flex flex-wrap gap-2">
      {benchIsOn && (
        <button
          type="button"
          className="act"
          disabled={isRunning}
          onClick={() => void act({ act: 'compare', fromId: one.id, toId: other.id })}
        >
          Look at both sides
        </button>
      )}
      {benchIsOn && wanted && (
        <button
          type="button"
          className="act-main"
          disabled={isShut || !mayGo || isRunning}
          onClick={() => void act({ act: 'synchronise', fromId: wanted.fromId, toId: wanted.toId })}
        >
          {isRunning ? 'On its way …' : 'Overwrite it on the bench'}
        </button>
      )}
      {known?.unstored && !isRunning && <Store known={known} show={show} act={act} />}
      <button
        type="button"
        className={benchIsOn && !isInStep(known) ? 'act' : 'act-main'}
        disabled={isShut || isRunning || (benchIsOn ? !isInStep(known) : !mayGo)}
        onClick={onAgreed}
      >
        They agree, next step
      </button>
    </div>
  );
}

function WhichSide({
  one,
  other,
  chosen,
  onChoose,
}: {
  readonly one: core.Device;
  readonly other: core.Device;
  readonly chosen: string | undefined;
  readonly onChoose: (id: string) => void;
}) {
  return (
    <fieldset className="grid gap-1.5 text-[13px]">
      <legend className="pb-1 font-semibold">Which side is right?</legend>
      {[one, other].map((device) => (
        <label key={device.id} className="flex items-center gap-2">
          <input
            type="radio"
            name="right-side"
            className="radio radio-xs"
            checked={chosen === device.id}
            onChange={() => onChoose(device.id)}
          />
          {device.name} overwrites {(device === one ? other : one).name}
        </label>
      ))}
    </fieldset>
  );
}

/** Seen to be the same on both sides, and stored where that is needed. */
const isInStep = (known: contract.PartnersState | null | undefined): boolean =>
  known != null && known.done === null && !known.unstored && known.items.every(({ from, to }) => from === to);

function BothSides({
  known,
  one,
  other,
}: {
  readonly known: contract.PartnersState;
  readonly one: core.Device;
  readonly other: core.Device;
}) {
  const isTurned = known.fromId !== one.id;
  const differ = known.items.filter(({ from, to }) => from !== to).length;
  return (
    <div className="overflow-x-auto">
      <table className="table table-xs rounded-box border border-line">
        <caption className="pb-1 text-left text-[13px] text-mute">
          {known.items.length === 0
            ? 'Neither shows anything that could be compared.'
            : differ === 0
              ? 'The same on both sides: nothing has to overwrite anything.'
              : `${differ} of ${known.items.length} differ.`}
        </caption>
        <thead>
          <tr>
            <th scope="col">What</th>
            <th scope="col">{one.name}</th>
            <th scope="col">{other.name}</th>
          </tr>
        </thead>
        <tbody>
          {known.items.map(({ what, from, to }) => (
            <tr key={what}>
              <th scope="row" className="font-normal">
                {what}
              </th>
              <td className="font-mono">{isTurned ? to : from}</td>
              <td className="font-mono">
                {isTurned ? from : to}{' '}
                {from !== to && <span className="font-sans font-semibold text-warning">≠ differs</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Progress({ known }: { readonly known: contract.PartnersState }) {
  const done = known.done ?? 0;
  return (
    <p className="flex items-center gap-2 text-[13px]" role="status">
      <progress className="progress w-40" max={known.items.length} value={done} />
      {done} of {known.items.length} are over there. Leave both on and touch nothing.
    </p>
  );
}

/** What only runs there is gone with the power. */
function Store({
  known,
  show,
  act,
}: {
  readonly known: contract.PartnersState;
  readonly show: Show;
  readonly act: DoOnBench;
}) {
  const name = show.devices[known.toId]?.name ?? 'it';
  return (
    <>
      <button type="button" className="act-main" onClick={() => void act({ act: 'store', deviceId: known.toId })}>
        Store it in {name}
      </button>
      <p className="w-full text-[13px] text-warning">
        It only runs in {name} so far: a restart loses it until it is stored.
      </p>
    </>
  );
}
