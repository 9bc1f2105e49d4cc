import { addressing, show as core } from '@deep-patch/core';
import { useMemo } from 'react';
import { useWatch } from 'react-hook-form';
import { useWorkspace } from '../live/workspace.tsx';
import { Options, SaveRow, SelectField, TextField } from '../parts/form-fields.tsx';
import { useRowForm, type RowForm } from '../parts/use-row-form.ts';
import { fieldsOf, networkRules, patchOf, type NetworkFields } from './network-fields.ts';

interface Part {
  readonly form: RowForm<core.Network, NetworkFields>;
  readonly rules: ReturnType<typeof networkRules>;
}

/** What a network is for, its gateway, its automatic pool, and whose it is. */
export function NetworkForm({ on: { network, subnet } }: { on: addressing.NetworkFacts }) {
  const { save, showId } = useWorkspace();
  const form = useRowForm(network, fieldsOf, `${showId} network ${network.id}`);
  const rules = useMemo(() => networkRules(subnet), [subnet]);
  const owner = useWatch({ control: form.control, name: 'owner' });
  const submit = form.handleSubmit(async (values) => {
    const change = addressing.planNetworkEdit(form.opened, patchOf(values, subnet));
    if (await save(change)) form.settle(values);
  });
  return (
    <form onSubmit={(event) => void submit(event)} className="grid gap-x-3">
      <AboutFields form={form} rules={rules} />
      <AddressFields form={form} rules={rules} />
      <SelectField form={form} name="owner" label="Whose it is">
        <option value="ours">ours</option>
        <option value="house">the house’s, used by permission</option>
      </SelectField>
      {owner === 'house' && <HouseFields form={form} rules={rules} />}
      <SaveRow form={form} label="Save network" />
    </form>
  );
}

function AboutFields({ form, rules }: Part) {
  return (
    <>
      <div className="grid grid-cols-[1fr_5rem] gap-x-3">
        <TextField form={form} name="name" label="Name" rule={rules.name} />
        <TextField form={form} name="vlan" label="VLAN" rule={rules.vlan} look="number" />
      </div>
      <TextField form={form} name="purpose" label="For" rule={rules.purpose} />
      <div className="grid grid-cols-2 gap-x-3">
        <SelectField form={form} name="carries" label="Carries">
          <Options of={core.networkPurposes.map((purpose) => [purpose, purpose] as const)} />
        </SelectField>
        <TextField form={form} name="growth" label="Room to grow" hint="percent" rule={rules.growth} look="number" />
      </div>
    </>
  );
}

function AddressFields({ form, rules }: Part) {
  return (
    <>
      <TextField
        form={form}
        name="gateway"
        label="Gateway"
        hint="only where something outside is needed"
        rule={rules.address}
        look="key"
      />
      <label className="mb-2 flex items-center gap-2 text-[13px]">
        <input type="checkbox" className="checkbox checkbox-xs" {...form.register('needsOutside')} />
        Something outside is needed
      </label>
      <div className="grid grid-cols-2 gap-x-3">
        <TextField form={form} name="poolFrom" label="Automatic pool from" rule={rules.address} look="key" />
        <TextField form={form} name="poolTo" label="to" rule={rules.poolTo} look="key" />
      </div>
    </>
  );
}

/** By whose leave, and where in it. */
function HouseFields({ form, rules }: Part) {
  return (
    <>
      <TextField form={form} name="contact" label="Who runs it" rule={rules.contact} />
      <TextField
        form={form}
        name="granted"
        label="Granted to us"
        hint="one range a line, such as .60 – .69"
        rule={rules.granted}
        look="key"
        rows={2}
      />
      <TextField form={form} name="rules" label="Its rules" rule={rules.rules} rows={3} />
    </>
  );
}
