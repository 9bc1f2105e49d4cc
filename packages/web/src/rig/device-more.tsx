import { rig, show as core, type show } from '@deep-patch/core';
import { useCallback } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { useDevices } from '../parts/device-options.tsx';
import { Field } from '../parts/field.tsx';
import { MovedOn } from '../parts/moved-on.tsx';
import { useRowForm } from '../parts/use-row-form.ts';

interface Values {
  serial: string;
  variant: string;
  runsOn: string;
  adapter: string;
  system: string;
  systemVersion: string;
  sources: string;
  feed: string;
  savedOn: string;
  ipv6: show.Device['ipv6'];
  features: string[];
  packed: string[];
}

const short = { maxLength: { value: 80, message: 'At most 80 characters' } };

/** What the rest of a unit's life asks for: variant, computer and system, functions in use, power, copies. */
export function DeviceMore({ device, type }: { device: show.Device; type: show.DeviceType }) {
  const show = useShow();
  const { save } = useWorkspace();
  const form = useRowForm(device, (row): Values => ({
    serial: row.serial,
    variant: row.variant ?? '',
    runsOn: row.runsOn ?? '',
    adapter: row.adapter ?? '',
    system: row.system ?? '',
    systemVersion: row.systemVersion ?? '',
    sources: row.sources === null ? '' : String(row.sources),
    feed: row.feed ?? '',
    savedOn: row.savedOn ?? '',
    ipv6: row.ipv6,
    features: [...row.features],
    packed: [...row.packed],
  }));
  const { register, handleSubmit, opened, movedOn, settle, adopt } = form;
  const { errors, isDirty, isSubmitting } = form.formState;
  const computers = useDevices(
    useCallback((other, all) => other.id !== device.id && core.isComputer(core.typeOf(all, other)), [device.id]),
  );
  const host = core.hostOf(show, device);
  const adapters = core.typeOf(show, host)?.adapters ?? [];
  const isProgram = type.form === 'program';
  const isComputer = core.isComputer(type);
  const drives = type.drives.length > 0;
  const submit = handleSubmit(async (values) => {
    const change = rig.planEditDevice(show, opened, {
      serial: values.serial.trim(),
      variant: values.variant || null,
      runsOn: values.runsOn || null,
      adapter: values.adapter || null,
      system: (values.system || null) as show.Device['system'],
      systemVersion: values.systemVersion.trim() || null,
      sources: values.sources.trim() === '' ? null : Number(values.sources),
      feed: (values.feed || null) as show.Device['feed'],
      savedOn: values.savedOn || null,
      ipv6: values.ipv6,
      features: values.features || [],
      packed: values.packed || [],
    });
    if (await save(change)) settle(values);
  });
  return (
    <details className="border-t border-rule pt-3" open={isProgram}>
      <summary className="cursor-pointer text-[13px] font-semibold">More about it</summary>
      <form onSubmit={(event) => void submit(event)} className="grid pt-2">
        <div className="grid grid-cols-2 gap-x-3">
          {isProgram && (
            <Field label="Runs on">
              {(ids) => (
                <select {...ids} {...register('runsOn')} className="field-select">
                  <option value="">no computer yet</option>
                  {computers.map((other) => (
                    <option key={other.id} value={other.id}>
                      {other.name} {fitWords[rig.platformFit(type, other)]}
                    </option>
                  ))}
                </select>
              )}
            </Field>
          )}
          {(drives || isProgram) && adapters.length > 1 && (
            <Field label="Sends through" hint="the adapter it was told">
              {(ids) => (
                <select {...ids} {...register('adapter')} className="field-select">
                  <option value="">whichever fits</option>
                  {adapters.map(({ key, label }) => (
                    <option key={key} value={key}>
                      {label}
                    </option>
                  ))}
                </select>
              )}
            </Field>
          )}
          {type.variants.length > 0 && (
            <Field label="Variant or mode">
              {(ids) => (
                <select {...ids} {...register('variant')} className="field-select">
                  <option value="">as usual</option>
                  {type.variants.map(({ key, label }) => (
                    <option key={key} value={key}>
                      {label}
                    </option>
                  ))}
                </select>
              )}
            </Field>
          )}
          {isComputer && (
            <>
              <Field label="System">
                {(ids) => (
                  <select {...ids} {...register('system')} className="field-select">
                    <option value="">not written down</option>
                    {Object.entries(rig.systemTexts).map(([key, label]) => (
                      <option key={key} value={key}>
                        {label}
                      </option>
                    ))}
                  </select>
                )}
              </Field>
              <Field label="System version" error={errors.systemVersion?.message}>
                {(ids) => <input {...ids} {...register('systemVersion', short)} className="field key-num" />}
              </Field>
            </>
          )}
          {!isProgram && (
            <Field label="Serial number" error={errors.serial?.message}>
              {(ids) => <input {...ids} {...register('serial', short)} className="field key-num" />}
            </Field>
          )}
          {type.most.sources !== null && (
            <Field label="Sources to take" error={errors.sources?.message} hint={`it takes ${type.most.sources}`}>
              {(ids) => (
                <input
                  {...ids}
                  {...register('sources', { validate: (text) => /^\d{0,5}$/.test(text.trim()) || 'A whole number' })}
                  className="field key-num"
                  inputMode="numeric"
                />
              )}
            </Field>
          )}
          {type.power.length > 1 && (
            <Field label="Fed by">
              {(ids) => (
                <select {...ids} {...register('feed')} className="field-select">
                  <option value="">as usual: {rig.feedTexts[type.power[0]?.feed ?? 'mains']}</option>
                  {type.power.map(({ feed }) => (
                    <option key={feed} value={feed}>
                      {rig.feedTexts[feed]}
                    </option>
                  ))}
                </select>
              )}
            </Field>
          )}
          {type.factory.linkLocal6 && (
            <Field label="IPv6" hint="it forms an address by itself">
              {(ids) => (
                <select {...ids} {...register('ipv6')} className="field-select">
                  <option value="as_delivered">on, as delivered</option>
                  <option value="off">off after first contact</option>
                </select>
              )}
            </Field>
          )}
          {type.erases.length > 0 && (
            <Field label="Last copy kept" hint={`of ${type.erases.join(', ')}`}>
              {(ids) => <input {...ids} {...register('savedOn')} type="date" className="field key-num" />}
            </Field>
          )}
        </div>
        <Ticks title="The show uses" items={type.features} register={register('features')} />
        <Ticks title="Packed with it" items={type.accessories} register={register('packed')} />
        {movedOn && <MovedOn onAdopt={adopt} />}
        <button type="submit" className="act justify-self-start" disabled={!isDirty || isSubmitting}>
          Save these
        </button>
      </form>
    </details>
  );
}

const fitWords = {
  usable: '',
  too_old: '(too old)',
  other_system: '(other system)',
  unknown: '(system unknown)',
} as const;

function Ticks({
  title,
  items,
  register,
}: {
  title: string;
  items: readonly { key: string; label: string }[];
  register: ReturnType<ReturnType<typeof useRowForm<show.Device, Values>>['register']>;
}) {
  if (items.length === 0) return null;
  return (
    <fieldset className="mb-2 grid gap-1 text-[13px]">
      <legend className="pb-1 text-xs font-semibold text-mute">{title}</legend>
      {items.map(({ key, label }) => (
        <label key={key} className="flex items-center gap-2">
          <input type="checkbox" className="checkbox checkbox-xs" value={key} {...register} />
          {label}
        </label>
      ))}
    </fieldset>
  );
}
