import { findings as findingsRoom, rig, show as core, type show } from '@deep-patch/core';
import { Link } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { CloseLink } from '../parts/close-link.tsx';
import { FindingCard } from '../parts/finding-card.tsx';
import { SaveRow, TextField } from '../parts/form-fields.tsx';
import { useRowForm } from '../parts/use-row-form.ts';
import { DeviceFieldset } from './device-fields.tsx';
import { plain, rules, type DeviceFields } from './device-form.ts';
import { DeviceAddresses } from './device-addresses.tsx';
import { DeviceCables } from './device-cables.tsx';
import { DeviceLinks } from './device-links.tsx';
import { DeviceToSet } from './device-to-set.tsx';

/** What one glance at a unit needs: what is wrong with it, what to key in, its address, cables and links. */
export function DevicePanel({ device }: { device: show.Device }) {
  const show = useShow();
  const { analysis, showId } = useWorkspace();
  const type = core.typeOf(show, device);
  const findings = (analysis?.findings ?? []).filter(
    (finding) => finding.room !== 'links' && findingsRoom.isAboutDevice(show, finding, device.id),
  );
  return (
    <aside aria-label={device.name} className="panel grid w-95 content-start gap-4 p-4 md:max-lg:w-80">
      <div className="flex items-start gap-2">
        <div className="min-w-0">
          <h2 className="text-[15px] font-bold">{device.name}</h2>
          <p className="text-mute">
            {type?.name}
            {device.place && ` · ${device.place}`}
          </p>
        </div>
        <Link to={`/shows/${showId}/rig/${device.id}/page`} className="act-quiet ml-auto shrink-0" title="o">
          Its page
        </Link>
        <CloseLink to={`/shows/${showId}/rig`} name={device.name} />
      </div>
      {findings.map((finding) => (
        <FindingCard key={finding.key} finding={finding} />
      ))}
      <DeviceForm device={device} />
      {type && <DeviceToSet device={device} type={type} />}
      <DeviceAddresses device={device} />
      <DeviceCables device={device} />
      <DeviceLinks device={device} />
    </aside>
  );
}

export function DeviceForm({ device }: { device: show.Device }) {
  const show = useShow();
  const { save, showId } = useWorkspace();
  const mac = core.interfacesOf(show, device.id)[0]?.mac ?? '';
  const valuesOf = (row: show.Device): DeviceFields => ({
    name: row.name,
    unit: row.unit === null ? '' : String(row.unit),
    place: row.place,
    firmware: row.firmware ?? '',
    mac,
    note: row.note,
  });
  const form = useRowForm(device, valuesOf, `${showId} device ${device.id}`);
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
