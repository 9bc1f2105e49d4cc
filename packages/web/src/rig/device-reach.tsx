import { addressing, rig, type show } from '@deep-patch/core';
import { useCallback, useState } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { DeviceOptions, useDevices } from '../parts/device-options.tsx';
import { useNow } from '../parts/use-now.ts';

const whys: Readonly<Record<addressing.ReachWay['why'], string>> = {
  planned: 'as planned',
  factory: 'as delivered, or after a reset',
  leased: 'given by a server',
  self_assigned: 'made up by itself',
  keyed_in: 'where it was keyed in before',
  link_local_6: 'by IPv6, needs no setting',
};

/** How to get at a unit that does not answer, the most harmless way first. */
export function DeviceReach({ device }: { device: show.Device }) {
  const show = useShow();
  const { analysis } = useWorkspace();
  const steps = analysis ? addressing.recoverSteps(show, analysis.addressing, device) : [];
  if (steps.length === 0) return null;
  return (
    <details className="border-t border-rule pt-3">
      <summary className="cursor-pointer text-[13px] font-semibold">If it cannot be found</summary>
      <ol className="grid list-inside list-decimal gap-2 pt-2 text-[13px] marker:text-mute">
        {steps.map((step) => (
          <li key={step.kind}>
            {recoverWords(step)}
            {step.kind === 'ranges' && <Ranges ways={step.ways} />}
          </li>
        ))}
      </ol>
    </details>
  );
}

function recoverWords(step: addressing.RecoverStep): string {
  switch (step.kind) {
    case 'display':
      return `Read its address at its own display${noted(step.note)}.`;
    case 'search':
      return `Search for it: that needs no address${noted(step.note)}.`;
    case 'ranges':
      return 'Look where it may be, with your adapter set to:';
    case 'usb':
      return `Join it by USB${noted(step.note)}.`;
    case 'local_screen':
      return `Put a screen and a keyboard to it${noted(step.note)}.`;
    case 'reset':
      return `Only then reset it. ${resetWords(step)}`;
    case 'key_in':
      return `Whichever way worked: key in ${step.ips.join(' and ')}, and look once more.`;
  }
}

const noted = (note: string): string => (note === '' ? '' : ` (${note})`);

function resetWords({ erases, savedOn }: Extract<addressing.RecoverStep, { kind: 'reset' }>): string {
  if (erases.length === 0) return 'It is where the factory puts it then.';
  const copy = savedOn === null ? 'of which there is no copy' : `last saved on ${savedOn}`;
  return `It loses ${erases.join(', ')}, ${copy}.`;
}

function Ranges({ ways }: { ways: readonly addressing.ReachWay[] }) {
  return (
    <ul className="grid gap-2 pt-1 pl-4">
      {ways.map(({ why, range, at, setting }) => (
        <li key={`${range} ${at}`} className="grid gap-0.5">
          <span>
            <code className={at ? '' : 'text-mute'}>{at ?? range}</code> <span className="text-mute">{whys[why]}</span>
          </span>
          {setting && (
            <span className="text-mute">
              Set your adapter to <code className="text-base-content">{setting.ip}</code>, mask{' '}
              <code>{addressing.formatIp(addressing.maskOf(setting.prefix))}</code>, gateway{' '}
              {setting.gateway ?? 'empty'}.
            </span>
          )}
        </li>
      ))}
    </ul>
  );
}

/** What it takes to wake a computer over the network, and who can. */
export function DeviceWake({ device }: { device: show.Device }) {
  const show = useShow();
  const { analysis } = useWorkspace();
  const plan = analysis && addressing.wakePlan(show, analysis.addressing, device.id);
  if (!plan) return null;
  return (
    <details className="border-t border-rule pt-3">
      <summary className="cursor-pointer text-[13px] font-semibold">Waking it over the network</summary>
      <div className="grid gap-1 pt-2 text-[13px]">
        <p>
          {plan.mac ? (
            <>
              A wake message for <code>{plan.mac}</code>
            </>
          ) : (
            'Its MAC address is not written down: the message repeats it sixteen times, so note it first'
          )}
          {plan.to && (
            <>
              , sent to <code>{plan.to.ip}</code>, UDP {plan.to.port}
            </>
          )}
          .
        </p>
        <p className="text-mute">
          {plan.senders.length === 0
            ? 'No other computer is planned in its network, and it cannot wake itself.'
            : `It has to come from another computer of its network: ${plan.senders.map(({ name }) => name).join(', ')}.`}
        </p>
      </div>
    </details>
  );
}

const verdicts: Readonly<Record<rig.LossReport['verdict'], string>> = {
  nothing_lost: 'Nothing of it is lost.',
  with_copy: 'A copy exists: it can be loaded again. Look at its day.',
  no_go: 'There is no copy. Save one first.',
};

/** What a reset erases, or another unit's settings would overwrite, before anybody presses the key. */
export function DeviceLosses({ device }: { device: show.Device }) {
  const show = useShow();
  const [from, setFrom] = useState('');
  const report = rig.lossesOf(
    show,
    from === '' ? { kind: 'reset', deviceId: device.id } : { kind: 'sync', fromId: from, toId: device.id },
    useNow(3_600_000),
  );
  const others = useDevices(useCallback((other, at) => rig.canSynchronise(at, other, device), [device]));
  if (report.losses.length === 0) return null;
  return (
    <details className="border-t border-rule pt-3">
      <summary className="cursor-pointer text-[13px] font-semibold">Before a reset or a first synchronisation</summary>
      <div className="grid gap-2 pt-2 text-[13px]">
        <label className="flex items-center gap-2">
          What happens
          <select className="field-select w-56" value={from} onChange={(event) => setFrom(event.target.value)}>
            <option value="">reset to factory state</option>
            {others.length > 0 && <DeviceOptions devices={others} after=" overwrites it" />}
          </select>
        </label>
        <ul>
          {report.losses.map(({ what, savedOn }) => (
            <li key={what}>
              loses {what} <span className="text-mute">{savedOn ? `copy of ${savedOn}` : 'no copy'}</span>
            </li>
          ))}
        </ul>
        <p className={report.verdict === 'no_go' ? 'font-semibold text-error' : ''}>{verdicts[report.verdict]}</p>
      </div>
    </details>
  );
}
