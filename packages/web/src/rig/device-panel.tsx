import { addressing, findings as findingsRoom, rig, show as core, type show } from '@deep-patch/core';
import { Fragment } from 'react';
import { useNavigate } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { FindingCard } from '../parts/finding-card.tsx';
import { SaveRow, TextField } from '../parts/form-fields.tsx';
import { useRowForm } from '../parts/use-row-form.ts';
import { DeviceFieldset } from './device-fields.tsx';
import { plain, rules, type DeviceFields } from './device-form.ts';
import { DeviceAccounts } from './device-accounts.tsx';
import { DeviceAddresses } from './device-addresses.tsx';
import { DeviceCables } from './device-cables.tsx';
import { DeviceLinks } from './device-links.tsx';
import { DeviceMore } from './device-more.tsx';
import { DevicePapers } from './device-papers.tsx';
import { DeviceLosses, DeviceReach, DeviceWake } from './device-reach.tsx';
import { DeviceToSet } from './device-to-set.tsx';
import { ServiceEditor } from './service-editor.tsx';

/** One unit's page: all that concerns it. */
export function DevicePanel({ device }: { device: show.Device }) {
  const show = useShow();
  const { analysis, save, showId } = useWorkspace();
  const navigate = useNavigate();
  const type = core.typeOf(show, device);
  const services = core.rowsOf(show, 'services').filter((service) => service.deviceId === device.id);
  const findings = (analysis?.findings ?? []).filter(
    (finding) => finding.room !== 'links' && findingsRoom.isAboutDevice(show, finding, device.id),
  );
  const remove = async () => {
    if (await save(rig.planRemoveDevices(show, [device.id]))) void navigate(`/shows/${showId}/rig`);
  };
  return (
    <aside
      aria-label={device.name}
      className="grid w-95 shrink-0 content-start gap-4 overflow-auto border-l border-rule bg-base-200 p-4 max-lg:w-80"
    >
      <div>
        <h2 className="text-[15px] font-bold">{device.name}</h2>
        <p className="text-mute">
          {type?.name}
          {device.place && ` · ${device.place}`}
        </p>
      </div>
      {findings.map((finding) => (
        <FindingCard key={finding.key} finding={finding} />
      ))}
      <DeviceForm device={device} />
      {type && <DeviceToSet device={device} type={type} />}
      <DeviceAddresses device={device} />
      {services.map((service) => (
        <ServiceEditor key={service.id} service={service} />
      ))}
      <DeviceCables device={device} />
      <DeviceLinks device={device} />
      {type && <DeviceMore device={device} type={type} />}
      <DeviceAccounts device={device} />
      {type && <DevicePapers type={type} />}
      <DeviceReach device={device} />
      <DeviceWake device={device} />
      <DeviceLosses device={device} />
      {type && <TypeFacts type={type} />}
      <button type="button" className="act-quiet justify-self-start text-error" onClick={() => void remove()}>
        Remove {device.name}
      </button>
    </aside>
  );
}

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

function DeviceForm({ device }: { device: show.Device }) {
  const show = useShow();
  const { save } = useWorkspace();
  const mac = core.interfacesOf(show, device.id)[0]?.mac ?? '';
  const form = useRowForm(device, (row): DeviceFields => ({
    name: row.name,
    unit: row.unit === null ? '' : String(row.unit),
    place: row.place,
    firmware: row.firmware ?? '',
    mac,
    note: row.note,
  }));
  const { register, handleSubmit, opened, settle } = form;
  const { errors, dirtyFields } = form.formState;
  const submit = handleSubmit(async (fields) => {
    const { mac: typedMac, ...patch } = plain(fields);
    const change = rig.planEditDevice(show, opened, dirtyFields.mac ? { ...patch, mac: typedMac } : patch);
    if (await save(change)) settle(fields);
  });
  return (
    <form onSubmit={(event) => void submit(event)} className="grid">
      <DeviceFieldset register={register} errors={errors} />
      <TextField form={form} name="note" label="Note" rule={rules.note} rows={2} />
      <SaveRow form={form} label="Save" look="act-main" />
    </form>
  );
}
