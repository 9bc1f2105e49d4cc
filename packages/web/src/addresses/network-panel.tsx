import { addressing, show as core } from '@deep-patch/core';
import type { ReactNode } from 'react';
import { useWatch } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Field } from '../parts/field.tsx';
import { MovedOn } from '../parts/moved-on.tsx';
import { useRowForm } from '../parts/use-row-form.ts';
import { vlanRule } from '../parts/port-rule.ts';
import { BlockEditor } from './block-editor.tsx';
import { readRanges, writeRanges } from './granted-ranges.ts';

interface Props {
  readonly on: addressing.NetworkFacts;
  readonly cards: ReactNode;
}

interface Values {
  name: string;
  purpose: string;
  vlan: string;
  gateway: string;
  poolFrom: string;
  poolTo: string;
  carries: string;
  owner: string;
  contact: string;
  rules: string;
  granted: string;
  needsOutside: boolean;
  growth: string;
}

/** The network itself: what it is for, its gateway and automatic pool, its blocks. */
export function NetworkPanel({ on, cards }: Props) {
  const show = useShow();
  const { save, showId } = useWorkspace();
  const navigate = useNavigate();
  const { network } = on;
  const remove = async () => {
    const change = core.planRemove(show, 'networks', [network.id], `Remove network ${network.name}`);
    if (await save(change)) void navigate(`/shows/${showId}/addresses`);
  };
  return (
    <aside
      aria-label={`Network ${network.name}`}
      className="grid w-82 shrink-0 content-start gap-3.5 overflow-auto border-l border-rule bg-base-200 p-4"
    >
      <div>
        <h2 className="text-[15px] font-bold">{network.name}</h2>
        <p className="text-mute">
          <code>{addressing.formatIp(addressing.maskOf(network.prefix))}</code> · room for{' '}
          {addressing.hostCount(on.subnet)} units
        </p>
      </div>
      {cards}
      <NetworkForm on={on} />
      <BlockEditor on={on} />
      <button type="button" className="act-quiet justify-self-start text-error" onClick={() => void remove()}>
        Remove {network.name}
      </button>
    </aside>
  );
}

function NetworkForm({ on }: { on: addressing.NetworkFacts }) {
  const { save } = useWorkspace();
  const form = useRowForm(on.network, (row): Values => ({
    name: row.name,
    purpose: row.purpose,
    vlan: row.vlan === null ? '' : String(row.vlan),
    gateway: row.gateway ?? '',
    poolFrom: row.poolFrom ?? '',
    poolTo: row.poolTo ?? '',
    carries: row.carries,
    owner: row.owner,
    contact: row.contact,
    rules: row.rules,
    granted: writeRanges(row.granted),
    needsOutside: row.needsOutside,
    growth: String(row.growth),
  }));
  const { register, handleSubmit, opened, movedOn, settle, adopt } = form;
  const { errors, isDirty, isSubmitting } = form.formState;
  const owner = useWatch({ control: form.control, name: 'owner' });
  const read = (text: string): string | null => {
    const entry = addressing.readIpEntry(text, on.subnet);
    return entry.ok ? addressing.formatIp(entry.ip) : null;
  };
  const isAddress = (text: string) => {
    const entry = addressing.readIpEntry(text, on.subnet);
    return text.trim() === '' || entry.ok || addressing.entryWords(entry);
  };
  const isEnd = (text: string, { poolFrom }: Values) => {
    const [from, to] = [read(poolFrom), read(text)];
    if (isAddress(text) !== true) return isAddress(text);
    if ((from === null) !== (to === null)) return 'A pool needs both ends.';
    return (
      from === null ||
      to === null ||
      addressing.mustIp(from) <= addressing.mustIp(to) ||
      'The end comes before the start.'
    );
  };
  const submit = handleSubmit(async (values) => {
    const { name, purpose, vlan, gateway, poolFrom, poolTo } = values;
    const granted = readRanges(values.granted, on.subnet);
    const change = addressing.planNetworkEdit(opened, {
      name: name.trim(),
      purpose: purpose.trim(),
      vlan: vlan.trim() === '' ? null : Number(vlan),
      gateway: read(gateway),
      poolFrom: read(poolFrom),
      poolTo: read(poolTo),
      carries: values.carries as core.Network['carries'],
      owner: values.owner as core.Network['owner'],
      contact: values.contact.trim(),
      rules: values.rules.trim(),
      granted: granted.ok ? granted.ranges : [],
      needsOutside: values.needsOutside,
      growth: Number(values.growth),
    });
    if (await save(change)) settle(values);
  });
  return (
    <form onSubmit={(event) => void submit(event)} className="grid gap-x-3">
      <div className="grid grid-cols-[1fr_5rem] gap-x-3">
        <Field label="Name" error={errors.name?.message}>
          {(ids) => (
            <input
              {...ids}
              {...register('name', {
                required: 'Give it a name',
                maxLength: { value: 80, message: 'At most 80 characters' },
              })}
              className="field"
            />
          )}
        </Field>
        <Field label="VLAN" error={errors.vlan?.message}>
          {(ids) => <input {...ids} {...register('vlan', vlanRule)} className="field key-num" inputMode="numeric" />}
        </Field>
      </div>
      <Field label="For" error={errors.purpose?.message}>
        {(ids) => (
          <input
            {...ids}
            {...register('purpose', { maxLength: { value: 200, message: 'At most 200 characters' } })}
            className="field"
          />
        )}
      </Field>
      <div className="grid grid-cols-2 gap-x-3">
        <Field label="Carries">
          {(ids) => (
            <select {...ids} {...register('carries')} className="field-select">
              {core.networkPurposes.map((purpose) => (
                <option key={purpose}>{purpose}</option>
              ))}
            </select>
          )}
        </Field>
        <Field label="Room to grow" error={errors.growth?.message} hint="percent">
          {(ids) => (
            <input
              {...ids}
              {...register('growth', {
                validate: (text) => (/^\d{1,3}$/.test(text.trim()) && Number(text) <= 400) || 'From 0 to 400',
              })}
              className="field key-num"
              inputMode="numeric"
            />
          )}
        </Field>
      </div>
      <Field label="Gateway" error={errors.gateway?.message} hint="only where something outside is needed">
        {(ids) => <input {...ids} {...register('gateway', { validate: isAddress })} className="field key-num" />}
      </Field>
      <label className="mb-2 flex items-center gap-2 text-[13px]">
        <input type="checkbox" className="checkbox checkbox-xs" {...register('needsOutside')} />
        Something outside is needed
      </label>
      <div className="grid grid-cols-2 gap-x-3">
        <Field label="Automatic pool from" error={errors.poolFrom?.message}>
          {(ids) => <input {...ids} {...register('poolFrom', { validate: isAddress })} className="field key-num" />}
        </Field>
        <Field label="to" error={errors.poolTo?.message}>
          {(ids) => <input {...ids} {...register('poolTo', { validate: isEnd })} className="field key-num" />}
        </Field>
      </div>
      <Field label="Whose it is">
        {(ids) => (
          <select {...ids} {...register('owner')} className="field-select">
            <option value="ours">ours</option>
            <option value="house">the house’s, used by permission</option>
          </select>
        )}
      </Field>
      {owner === 'house' && (
        <>
          <Field label="Who runs it" error={errors.contact?.message}>
            {(ids) => (
              <input
                {...ids}
                {...register('contact', { maxLength: { value: 200, message: 'At most 200 characters' } })}
                className="field"
              />
            )}
          </Field>
          <Field label="Granted to us" error={errors.granted?.message} hint="one range a line, such as .60 – .69">
            {(ids) => (
              <textarea
                {...ids}
                {...register('granted', {
                  validate: (text) => {
                    const ranges = readRanges(text, on.subnet);
                    return ranges.ok || ranges.fault;
                  },
                })}
                rows={2}
                className="textarea textarea-sm key-num min-h-14 w-full border-line bg-base-100"
              />
            )}
          </Field>
          <Field label="Its rules" error={errors.rules?.message}>
            {(ids) => (
              <textarea
                {...ids}
                {...register('rules', { maxLength: { value: 2000, message: 'At most 2000 characters' } })}
                rows={3}
                className="textarea textarea-sm min-h-14 w-full border-line bg-base-100"
              />
            )}
          </Field>
        </>
      )}
      {movedOn && <MovedOn onAdopt={adopt} />}
      <button type="submit" className="act justify-self-start" disabled={!isDirty || isSubmitting}>
        Save network
      </button>
    </form>
  );
}
