import { addressing, findings as findingsRoom, rig, show as core, type show } from '@deep-patch/core';
import { Fragment, type ReactNode } from 'react';
import { Link } from 'react-router';
import { useSaveAndGo } from '../live/use-save-and-go.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { FindingCard } from '../parts/finding-card.tsx';
import { ScreenHead } from '../parts/screen-head.tsx';
import { DeviceAccounts } from './device-accounts.tsx';
import { DeviceAddresses } from './device-addresses.tsx';
import { DeviceCables } from './device-cables.tsx';
import { DeviceSockets } from './device-sockets.tsx';
import { DeviceLinks } from './device-links.tsx';
import { DeviceMore } from './device-more.tsx';
import { DeviceForm } from './device-panel.tsx';
import { DevicePapers } from './device-papers.tsx';
import { DeviceLosses, DeviceReach, DeviceWake } from './device-reach.tsx';
import { DeviceSwap } from './device-swap.tsx';
import { DeviceToSet } from './device-to-set.tsx';
import { ServiceEditor } from './service-editor.tsx';

/** Everything that concerns one unit, over the whole width: what it is, what it is set to, and what to do with it. */
export function DevicePage({ device }: { device: show.Device }) {
  const show = useShow();
  const { analysis, showId } = useWorkspace();
  const saveAndGo = useSaveAndGo();
  const type = core.typeOf(show, device);
  const services = core.rowsOf(show, 'services').filter((service) => service.deviceId === device.id);
  const findings = (analysis?.findings ?? []).filter((finding) => findingsRoom.isAboutDevice(show, finding, device.id));
  const remove = async () => {
    await saveAndGo(rig.planRemoveDevices(show, [device.id]), `/shows/${showId}/rig`);
  };
  return (
    <>
      <ScreenHead title={device.name} summary={[type?.name, device.place].filter(Boolean).join(' · ')}>
        <Link to={`/shows/${showId}/rig/${device.id}`} className="act">
          Back to the rig
        </Link>
        <button type="button" className="act-quiet text-error" onClick={() => void remove()}>
          Remove {device.name}
        </button>
      </ScreenHead>
      <div
        role="region"
        aria-label={`Page of ${device.name}`}
        tabIndex={0}
        className="grid min-h-0 flex-1 content-start gap-6 overflow-auto border-t border-rule p-5 md:grid-cols-2 xl:grid-cols-3"
      >
        <Column title="What it is">
          <DeviceForm device={device} />
          {type && <DeviceMore device={device} type={type} />}
          {type && <TypeFacts type={type} />}
        </Column>
        <Column title="What it is set to">
          {findings.map((finding) => (
            <FindingCard key={finding.key} finding={finding} />
          ))}
          {type && <DeviceToSet device={device} type={type} />}
          <DeviceAddresses device={device} />
          {services.map((service) => (
            <ServiceEditor key={service.id} service={service} />
          ))}
        </Column>
        <Column title="What it hangs on">
          {type && <DeviceSockets device={device} type={type} />}
          <DeviceCables device={device} />
          <DeviceLinks device={device} />
          <DeviceReach device={device} />
          <DeviceWake device={device} />
          <DeviceLosses device={device} />
          {type?.form === 'unit' && <DeviceSwap device={device} />}
          <DeviceAccounts device={device} />
          {type && <DevicePapers type={type} />}
        </Column>
      </div>
    </>
  );
}

const Column = ({ title, children }: { readonly title: string; readonly children: ReactNode }) => (
  <section className="grid min-w-0 content-start gap-4">
    <h2 className="border-b border-rule pb-1 text-[15px] font-bold">{title}</h2>
    {children}
  </section>
);

function TypeFacts({ type }: { type: show.DeviceType }) {
  return (
    <dl className="grid grid-cols-[7rem_1fr] gap-y-1 text-[13px]">
      <dt className="text-mute">As delivered</dt>
      <dd>
        <code>{addressing.deliveredWords(type)}</code>
      </dd>
      <dt className="text-mute">Set from</dt>
      <dd>{rig.waysWords(type) || 'nothing to set'}</dd>
      {type.commits.map(({ of }) => (
        <Fragment key={of}>
          <dt className="text-mute">{rig.settingTexts[of]}</dt>
          <dd>{rig.commitWords(type, of)}: it counts only afterwards</dd>
        </Fragment>
      ))}
    </dl>
  );
}
