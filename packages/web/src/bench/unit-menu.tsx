import { rig, type contract, type show as core } from '@deep-patch/core';
import { useState } from 'react';
import { AddressForm } from './address-form.tsx';
import { ModeForm } from './mode-form.tsx';
import { ServiceForm } from './service-form.tsx';
import { StoredSets } from './stored-sets.tsx';
import type { DoOnBench } from './use-bench.ts';
import { WaysIn } from './ways-in.tsx';

interface Props {
  readonly device: core.Device;
  readonly type: core.DeviceType;
  readonly state: contract.StandinState;
  readonly act: DoOnBench;
}

/** A unit's own menu on the bench: what stands in it, keying something in, and the acts that make it count. */
export function UnitMenu({ device, type, state, act }: Props) {
  const [open, setOpen] = useState(false);
  const canKey = state.status !== 'no power' && state.status !== 'fault' && state.status !== 'starting';
  return (
    <section className="grid gap-2">
      <h3 className="text-xs font-semibold text-mute">
        Its own menu{' '}
        <span className="font-normal">{state.settings.followsPlan ? 'as planned' : 'keyed in at the unit'}</span>
      </h3>
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5 rounded-box border border-line bg-base-100 px-3 py-2 font-mono text-[13px]">
        {state.menu.map(([label, value], at) => (
          <div key={`${label} ${at}`} className="contents">
            <dt className="text-mute">{label}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      {state.pending.map((pending) => (
        <PendingActs key={`${pending.of} ${pending.what}`} deviceId={device.id} pending={pending} act={act} />
      ))}
      <div className="flex flex-wrap gap-1.5">
        <button
          type="button"
          className="act btn-xs"
          aria-expanded={open}
          disabled={!canKey}
          onClick={() => setOpen(!open)}
        >
          {open ? 'Leave the menu' : 'Key something in'}
        </button>
        <WaysBack deviceId={device.id} state={state} act={act} />
      </div>
      {open && canKey && <WaysIn device={device} type={type} />}
      {open && canKey && <Pages device={device} type={type} state={state} act={act} />}
      {canKey && type.sets > 0 && <StoredSets deviceId={device.id} type={type} sets={state.sets} act={act} />}
    </section>
  );
}

/** To the plan, to what was set before, and off and on again. */
function WaysBack({ deviceId, state, act }: Pick<Props, 'state' | 'act'> & { readonly deviceId: string }) {
  return (
    <>
      {!state.settings.followsPlan && (
        <button
          type="button"
          className="act btn-xs"
          onClick={() => void act({ act: 'follow_plan', deviceIds: [deviceId] })}
        >
          As planned again
        </button>
      )}
      {state.menu.some(([label]) => label === 'sign-in') && (
        <button type="button" className="act btn-xs" onClick={() => void act({ act: 'make_administrator', deviceId })}>
          Make the administrator
        </button>
      )}
      {state.unstored && (
        <button
          type="button"
          className="act btn-xs h-auto min-h-6 whitespace-normal"
          onClick={() => void act({ act: 'store', deviceId })}
        >
          Store what it was given: a restart loses it
        </button>
      )}
      {state.earlier !== null && (
        <button
          type="button"
          className="act btn-xs h-auto min-h-6 whitespace-normal"
          onClick={() => void act({ act: 'put_back', deviceId })}
        >
          Put {state.earlier} back
        </button>
      )}
      {state.powered && (
        <button
          type="button"
          className="act btn-xs"
          onClick={() => void act({ act: 'restart', deviceIds: [deviceId] })}
        >
          Restart
        </button>
      )}
    </>
  );
}

function Pages({ device, type, state, act }: Props) {
  return (
    <>
      {state.settings.addresses.length + type.adapters.length > 0 && (
        <AddressForm device={device} type={type} state={state} act={act} />
      )}
      {type.variants.length > 0 && <ModeForm deviceId={device.id} type={type} now={state.settings.variant} act={act} />}
      {state.settings.services.map((service) => (
        <ServiceForm
          key={JSON.stringify(service)}
          deviceId={device.id}
          type={type.services.find(({ key }) => key === service.key)}
          service={service}
          act={act}
        />
      ))}
    </>
  );
}

function PendingActs({
  deviceId,
  pending,
  act,
}: {
  deviceId: string;
  pending: contract.PendingSetting;
  act: DoOnBench;
}) {
  const [next, ...rest] = pending.acts;
  if (!next) return null;
  return (
    <div className="grid gap-1.5 rounded-field border border-warning px-2.5 py-2">
      <p className="font-mono text-[13px]">{pending.what}</p>
      <p>{stageWords[pending.stage](`${actWord(next)}${rest.map((act) => `, then ${actWord(act)}`).join('')}`)}</p>
      <button
        type="button"
        className="act-main btn-xs justify-self-start"
        onClick={() => void act({ act: 'commit', deviceId, step: next, of: pending.of })}
      >
        {capital(actWord(next))}
      </button>
    </div>
  );
}

/** What it means that a setting has come so far, and what is still due. */
const stageWords: Readonly<Record<contract.PendingSetting['stage'], (due: string) => string>> = {
  typed: (due) => `Keyed in, not in force yet. First ${due}. Without power it is lost.`,
  stored: (due) => `Stored, not in force yet: ${due}. Off and on again does it too.`,
  in_force: (due) => `In force now, and gone when the power goes: ${due}.`,
};

const actWord = (act: core.CommitAct): string => rig.actWords([{ act, seconds: null }]);
const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
