import { rig, show as core, type show } from '@deep-patch/core';
import { useCallback } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { useDevices } from '../parts/device-options.tsx';
import { Options, SaveRow, SelectField, TextField } from '../parts/form-fields.tsx';
import { hostNameRule, textRule, wholeRule } from '../parts/rules.ts';
import { useRowForm, type RowForm } from '../parts/use-row-form.ts';

interface Values {
  serial: string;
  hostName: string;
  variant: string;
  runsOn: string;
  adapter: string;
  system: string;
  systemVersion: string;
  sources: string;
  feed: string;
  circuit: string;
  sharing: string;
  peers: string;
  savedOn: string;
  ipv6: show.Device['ipv6'];
  features: string[];
  packed: string[];
}

const valuesOf = (row: show.Device): Values => ({
  serial: row.serial,
  hostName: row.hostName,
  variant: row.variant ?? '',
  runsOn: row.runsOn ?? '',
  adapter: row.adapter ?? '',
  system: row.system ?? '',
  systemVersion: row.systemVersion ?? '',
  sources: row.sources === null ? '' : String(row.sources),
  feed: row.feed ?? '',
  circuit: row.circuit,
  sharing: row.sharing,
  peers: row.peers,
  savedOn: row.savedOn ?? '',
  ipv6: row.ipv6,
  features: [...row.features],
  packed: [...row.packed],
});

const patchOf = (values: Values) => ({
  serial: values.serial.trim(),
  hostName: values.hostName.trim(),
  variant: values.variant || null,
  runsOn: values.runsOn || null,
  adapter: values.adapter || null,
  system: (values.system || null) as show.Device['system'],
  systemVersion: values.systemVersion.trim() || null,
  sources: values.sources.trim() === '' ? null : Number(values.sources),
  circuit: values.circuit.trim(),
  sharing: values.sharing.trim(),
  peers: values.peers.trim(),
  feed: (values.feed || null) as show.Device['feed'],
  savedOn: values.savedOn || null,
  ipv6: values.ipv6,
  features: values.features || [],
  packed: values.packed || [],
});

interface Part {
  readonly form: RowForm<show.Device, Values>;
  readonly device: show.Device;
  readonly type: show.DeviceType;
}

/** What the rest of a unit's life asks for: variant, computer and system, functions in use, power, copies. */
export function DeviceMore({ device, type }: { device: show.Device; type: show.DeviceType }) {
  const show = useShow();
  const { save, showId } = useWorkspace();
  const form = useRowForm(device, valuesOf, `${showId} more ${device.id}`);
  const submit = form.handleSubmit(async (values) => {
    if (await save(rig.planEditDevice(show, form.opened, patchOf(values)))) form.settle(values);
  });
  return (
    <form onSubmit={(event) => void submit(event)} className="grid pt-2">
      <div className="grid grid-cols-2 gap-x-3">
        <ComputerFields form={form} device={device} type={type} />
        <UnitFields form={form} device={device} type={type} />
      </div>
      <Ticks title="The show uses" items={type.features} register={form.register('features')} />
      <Ticks title="Packed with it" items={type.accessories} register={form.register('packed')} />
      <SaveRow form={form} label="Save these" />
    </form>
  );
}

/** Which computer and adapter a program uses, and what a computer runs. */
function ComputerFields({ form, device, type }: Part) {
  const show = useShow();
  const computers = useDevices(
    useCallback((other, all) => other.id !== device.id && core.isComputer(core.typeOf(all, other)), [device.id]),
  );
  const adapters = core.typeOf(show, core.hostOf(show, device))?.adapters ?? [];
  const isProgram = type.form === 'program';
  const chooses = (type.drives.length > 0 || isProgram) && adapters.length > 1;
  return (
    <>
      {isProgram && (
        <SelectField form={form} name="runsOn" label="Runs on">
          <option value="">no computer yet</option>
          <Options
            of={computers.map((one) => [one.id, `${one.name} ${fitWords[rig.platformFit(type, one)]}`] as const)}
          />
        </SelectField>
      )}
      {chooses && (
        <SelectField form={form} name="adapter" label="Sends through" hint="the adapter it was told">
          <option value="">whichever fits</option>
          <Options of={labelled(adapters)} />
        </SelectField>
      )}
      {type.variants.length > 0 && (
        <SelectField form={form} name="variant" label="Variant or mode">
          <option value="">as usual</option>
          <Options of={labelled(type.variants)} />
        </SelectField>
      )}
      {core.isComputer(type) && (
        <>
          <SelectField form={form} name="system" label="System">
            <option value="">not written down</option>
            <Options of={Object.entries(rig.systemTexts)} />
          </SelectField>
          <TextField form={form} name="systemVersion" label="System version" rule={short} look="key" />
        </>
      )}
    </>
  );
}

/** Who else drives it, and with whom it moves. */
function WhoElse({ form, type }: Pick<Part, 'form' | 'type'>) {
  return (
    <>
      {type.services.length > 0 && (
        <TextField
          form={form}
          name="sharing"
          label="Who may when"
          hint="where several controllers drive it"
          rule={short}
          look="key"
        />
      )}
      {type.features.some(({ key }) => key === 'linked') && (
        <TextField
          form={form}
          name="peers"
          label="Group of peers"
          hint="those of one name move together"
          rule={short}
          look="key"
        />
      )}
    </>
  );
}

function UnitFields({ form, type }: Part) {
  return (
    <>
      {type.form !== 'program' && (
        <>
          <TextField form={form} name="serial" label="Serial number" rule={short} look="key" />
          <TextField
            form={form}
            name="hostName"
            label="Host name"
            hint="where it differs from the name above"
            rule={hostNameRule}
            look="key"
          />
        </>
      )}
      <WhoElse form={form} type={type} />
      {type.most.sources !== null && (
        <TextField
          form={form}
          name="sources"
          label="Sources to take"
          hint={`it takes ${type.most.sources}`}
          rule={wholeRule(0, core.limits.sources)}
          look="number"
        />
      )}
      {type.form !== 'program' && <PowerFields form={form} type={type} />}
      {type.factory.linkLocal6 && (
        <SelectField form={form} name="ipv6" label="IPv6" hint="it forms an address by itself">
          <option value="as_delivered">on, as delivered</option>
          <option value="off">off after first contact</option>
        </SelectField>
      )}
      {type.erases.length > 0 && (
        <TextField
          form={form}
          name="savedOn"
          label="Last copy kept"
          hint={`of ${type.erases.join(', ')}`}
          type="date"
          look="key"
        />
      )}
    </>
  );
}

function PowerFields({ form, type }: Omit<Part, 'device'>) {
  const usual = rig.feedTexts[type.power[0]?.feed ?? 'mains'];
  return (
    <>
      <TextField
        form={form}
        name="circuit"
        label="Circuit"
        hint="its power comes from, such as Quay B"
        rule={short}
        look="key"
      />
      {type.power.length > 1 && (
        <SelectField form={form} name="feed" label="Fed by">
          <option value="">as usual: {usual}</option>
          <Options of={type.power.map(({ feed }) => [feed, rig.feedTexts[feed]] as const)} />
        </SelectField>
      )}
    </>
  );
}

const short = textRule(core.limits.text);
const labelled = (items: readonly { readonly key: string; readonly label: string }[]) =>
  items.map(({ key, label }) => [key, label] as const);

const fitWords = {
  usable: '',
  too_old: '(too old)',
  other_system: '(other system)',
  too_new: '(too new)',
  unknown: '(system unknown)',
  unsaid: '',
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
