import { surfaces, type contract, type show as core, type Show } from '@deep-patch/core';
import { useState } from 'react';
import type { DoOnBench } from '../bench/use-bench.ts';
import { useBenchPart } from '../live/bench-store.ts';
import { newId } from '../live/identity.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { FindingCard } from '../parts/finding-card.tsx';
import { MeaningCard } from './meaning-card.tsx';
import { OffersList } from './offers-list.tsx';
import { AddRegion, RegionFields } from './region-fields.tsx';

interface Props {
  readonly surface: core.Device;
  readonly control: surfaces.SurfaceControl | undefined;
  readonly layer: number;
  readonly panel: contract.PanelState | undefined;
  readonly act: DoOnBench;
}

/** The control that is chosen: what it does, how its value is carried over, and what else it could do. */
export function ControlPanel({ surface, control, layer, panel, act }: Props) {
  const show = useShow();
  const { save } = useWorkspace();
  const [part, setPart] = useState<core.Assignment['part']>('whole');
  const [onLayer, setOnLayer] = useState(false);
  const parts = control ? partsOf(control) : [];
  const own = parts.find(([key]) => key === part)?.[0] ?? parts[0]?.[0] ?? 'whole';
  const only = onLayer ? layer : null;
  const assign = (offer: surfaces.Offer, args?: core.Assignment['args']) => {
    if (!control) return;
    const intent = {
      id: newId(),
      control,
      layer: only,
      part: own,
      offer,
      args,
      instead: true,
    };
    void save(surfaces.planAssign(show, surface, intent));
  };
  return (
    <aside className="panel-below w-96 p-4" aria-label={control ? control.label : 'A control'}>
      {control ? (
        <div className="grid gap-3">
          <ControlHead control={control} />
          <Findings surface={surface} control={control} />
          <Meanings {...{ surface, control, layer, panel }} />
          <PartChoice {...{ parts, own }} onPart={setPart} />
          {surfaces.layersOf(show, surface) > 1 && (
            <label className="flex items-center gap-2 text-[13px]">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={onLayer}
                onChange={(event) => setOnLayer(event.target.checked)}
              />
              only on layer {layer + 1}
            </label>
          )}
          <OtherDeeds key={control.key} {...{ surface, control }} layer={only} />
        </div>
      ) : (
        <p className="text-mute">Choose a control to see what it does, or drag a function onto one.</p>
      )}
      <div className="mt-4 grid gap-3">
        <Teach surface={surface} act={act} />
        <AddRegion surface={surface} />
        <OffersList surface={surface} onto={control} onPick={assign} />
      </div>
    </aside>
  );
}

function ControlHead({ control }: { readonly control: surfaces.SurfaceControl }) {
  const show = useShow();
  const { save } = useWorkspace();
  const { label, kind, address, listedBy, region } = control;
  return (
    <>
      <div className="flex items-baseline gap-2">
        <h2 className="text-base font-bold">{label}</h2>
        <span className="text-mute">{kinds[kind]}</span>
        {listedBy && (
          <button
            type="button"
            className="act-quiet ml-auto"
            onClick={() => void save(surfaces.planRemoveControl(show, listedBy))}
          >
            Remove
          </button>
        )}
      </div>
      {address !== '' && <code className="text-mute">{address}</code>}
      {control.enabledFirst && (
        <p className="text-[13px] text-mute">Enable it at the surface first: until then it sends nothing.</p>
      )}
      {region && listedBy && <RegionFields row={listedBy} />}
    </>
  );
}

function PartChoice({
  parts,
  own,
  onPart,
}: {
  readonly parts: readonly (readonly [core.Assignment['part'], string])[];
  readonly own: core.Assignment['part'];
  readonly onPart: (part: core.Assignment['part']) => void;
}) {
  if (parts.length < 2) return null;
  return (
    <div role="group" aria-label="Which movement" className="join">
      {parts.map(([key, label]) => (
        <button
          key={key}
          type="button"
          className={`act join-item ${key === own ? 'border-primary' : ''}`}
          aria-pressed={key === own}
          onClick={() => onPart(key)}
        >
          {label}
        </button>
      ))}
    </div>
  );
}

const kinds: Readonly<Record<surfaces.SurfaceControl['kind'], string>> = {
  key: 'key',
  switch: 'switch',
  fader: 'fader',
  encoder: 'encoder',
  pad: 'two axes',
  region: 'region of a screen',
};

function partsOf({ kind }: surfaces.SurfaceControl): (readonly [core.Assignment['part'], string])[] {
  if (kind === 'pad')
    return [
      ['x', 'Across'],
      ['y', 'Up and down'],
    ];
  if (kind === 'encoder')
    return [
      ['whole', 'Turned'],
      ['up', 'Up'],
      ['down', 'Down'],
    ];
  return [['whole', 'Moved']];
}

function Findings({ surface, control }: { readonly surface: core.Device; readonly control: surfaces.SurfaceControl }) {
  const show = useShow();
  const { analysis } = useWorkspace();
  const ids = new Set(surfaces.assignmentsOn(show, surface.id, control.key).map(({ id }) => id));
  const own = (analysis?.findings ?? []).filter(({ subjects }) =>
    subjects.some(({ table, id }) => table === 'assignments' && ids.has(id)),
  );
  return own.slice(0, 3).map((finding) => <FindingCard key={finding.key} finding={finding} />);
}

function Meanings({
  surface,
  control,
  layer,
  panel,
}: Required<Pick<Props, 'surface' | 'layer'>> & Pick<Props, 'panel'> & { readonly control: surfaces.SurfaceControl }) {
  const show = useShow();
  const meanings = surfaces.meaningsOf(show, surface, control, layer);
  if (meanings.length === 0) return <p className="text-mute">It does nothing yet. Pick a function below.</p>;
  return meanings.map((meaning, at) => (
    <MeaningCard
      key={meaning.assignment?.id ?? meaning.bank?.id ?? at}
      {...{ control, meaning }}
      state={panel?.controls.find((state) => state.control === control.key && state.part === meaning.part)}
      heard={control.address === '' ? undefined : control}
    />
  ));
}

/** What a control does that no target offers: choosing, layers, machines, stopping everything. */
function OtherDeeds({
  surface,
  control,
  layer,
}: {
  readonly surface: core.Device;
  readonly control: surfaces.SurfaceControl;
  readonly layer: number | null;
}) {
  const show = useShow();
  const { save } = useWorkspace();
  const [open, setOpen] = useState(false);
  const targets = [...new Map(surfaces.offersFor(show, surface).map(({ target }) => [target.id, target])).values()];
  const machines = targets.filter(({ id }) => show.devices[id]);
  const put = (does: core.Assignment['does'], patch: Partial<core.Content<'assignments'>> = {}) =>
    void save(surfaces.planDeed(show, surface, { id: newId(), control, layer, does }, patch));
  if (!open)
    return (
      <button type="button" className="act-quiet justify-self-start" onClick={() => setOpen(true)}>
        Something else…
      </button>
    );
  return (
    <div className="grid gap-2 rounded-sm border border-rule p-2">
      <div className="flex flex-wrap gap-2">
        <button type="button" className="act" onClick={() => put('show_layer')}>
          Next layer
        </button>
        <button type="button" className="act" onClick={() => put('stop_all', { label: 'Stop everything' })}>
          Stop everything
        </button>
      </div>
      {machines.length > 0 && (
        <select
          className="field-select"
          aria-label="A machine itself"
          value=""
          onChange={(event) => {
            const [targetId = '', machine = ''] = event.target.value.split(' ');
            put('machine', { targetId, machine: machine as NonNullable<core.Assignment['machine']> });
          }}
        >
          <option value="">A machine itself…</option>
          {machines.flatMap(({ id, name }) =>
            (['wake', 'save', 'close', 'restart', 'shut_down'] as const).map((machine) => (
              <option key={`${id} ${machine}`} value={`${id} ${machine}`}>
                {surfaces.machineQuestion(machine, name).replace('?', '')}
              </option>
            )),
          )}
        </select>
      )}
      <ChooseAmong
        {...{ targets }}
        onPut={(ids, number) => put('choose_target', { targetId: ids[0] ?? null, among: ids.slice(1), number })}
      />
    </div>
  );
}

/** Units of one model, of which the control chooses one. */
function ChooseAmong({
  targets,
  onPut,
}: {
  readonly targets: readonly core.Device[];
  readonly onPut: (ids: string[], number: number) => void;
}) {
  const show = useShow();
  const groups = [...new Set(targets.map(({ typeId }) => typeId))].flatMap((typeId) => {
    const own = targets
      .filter((target) => target.typeId === typeId)
      .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
    return own.length > 1 ? [{ typeId, own }] : [];
  });
  if (groups.length === 0) return null;
  return (
    <select
      className="field-select"
      aria-label="Choose a target"
      value=""
      onChange={(event) => {
        const [typeId, number] = event.target.value.split(' ');
        const group = groups.find((each) => each.typeId === typeId);
        if (group)
          onPut(
            group.own.map(({ id }) => id),
            Number(number),
          );
      }}
    >
      <option value="">Choose one of several…</option>
      {groups.flatMap(({ typeId, own }) =>
        own.map(({ id }, at) => (
          <option key={id} value={`${typeId} ${at}`}>
            Choose {show.devices[id]?.name} of {own.length}
          </option>
        )),
      )}
    </select>
  );
}

/** “Take the next control that moves”: on the bench, or an address of an outside program. */
function Teach({ surface, act }: { readonly surface: core.Device; readonly act: DoOnBench }) {
  const show = useShow();
  const { save } = useWorkspace();
  const teaching = useBenchPart((known) => known?.teaching);
  const own = teaching?.deviceId === surface.id ? teaching : undefined;
  const took = own?.took;
  const known =
    took?.kind === 'address' && surfaces.controlsOf(show, surface).some(({ address }) => address === took.address);
  return (
    <div className="grid gap-1.5">
      <button
        type="button"
        className="act justify-self-start"
        onClick={() => void act(own?.running ? { act: 'stop_teaching' } : { act: 'teach', deviceId: surface.id })}
      >
        {own?.running
          ? `Move it now… ${Math.ceil(own.endsInMs / 1000)} s, or stop`
          : 'Take the next control that moves'}
      </button>
      <p role="status" className="text-[13px] text-mute">
        {took?.kind === 'control' && `${controlName(show, took)} moved.`}
        {took?.kind === 'address' &&
          (known
            ? `${took.address} is a control of it.`
            : `Heard ${took.address}, from ${took.least} to ${took.greatest}.`)}
        {own && !own.running && !took && 'Nothing moved.'}
      </p>
      {took?.kind === 'address' && !known && (
        <button
          type="button"
          className="act-main justify-self-start"
          onClick={() => void save(surfaces.planControl(surface, surfaces.controlFrom(show, surface, newId(), took)))}
        >
          Make it a control of {surface.name}
        </button>
      )}
    </div>
  );
}

function controlName(
  show: Show,
  { deviceId, control }: { readonly deviceId: string; readonly control: string },
): string {
  const device = show.devices[deviceId];
  const own = device && surfaces.controlsOf(show, device).find(({ key }) => key === control);
  return `${own?.label ?? control} of ${device?.name ?? 'a unit'}`;
}
