import { DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { findings, surfaces, type contract, type show as core } from '@deep-patch/core';
import { useCallback, useMemo } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { useBench } from '../bench/use-bench.ts';
import { useBenchPart } from '../live/bench-store.ts';
import { newId } from '../live/identity.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Empty } from '../parts/empty.tsx';
import { ScreenHead } from '../parts/screen-head.tsx';
import { BankRuler } from './bank-ruler.tsx';
import { BanksDialog } from './banks-dialog.tsx';
import { ControlPanel } from './control-panel.tsx';
import { SeveralDialog } from './several-dialog.tsx';
import { SurfaceDrawing } from './surface-drawing.tsx';
import { SurfaceTabs } from './surface-tabs.tsx';
import { StructureStrip } from '../cues/structure-strip.tsx';
import { Question, useConfirmed } from './use-confirmed.tsx';

/** What each control does: one surface at a time, as it lies in front of whoever operates it. */
export function SurfacesScreen() {
  const show = useShow();
  const all = surfaces.surfacesOf(show);
  const { deviceId } = useParams();
  const device = all.find(({ id }) => id === deviceId) ?? all[0];
  const counts = useMemo(() => surfaces.countsOf(show), [show]);
  if (!device)
    return (
      <>
        <ScreenHead title="Surfaces" summary="" />
        <NoSurface />
      </>
    );
  return <OneSurface key={device.id} {...{ device, all, counts }} />;
}

function NoSurface() {
  const { showId } = useWorkspace();
  return (
    <Empty text="A fader bank, a button panel or a camera remote appears here as soon as it is in the rig; its type says which controls it has. An outside program becomes one by its messages.">
      <Link to={`/shows/${showId}/rig?do=add`} className="act-main">
        Add a surface to the rig
      </Link>
    </Empty>
  );
}

type Set = (patch: Readonly<Record<string, string | null>>) => void;

/** What is chosen, kept in the address: a control, a layer, and whether it is played. */
function useChoice(): { readonly query: URLSearchParams; readonly set: Set } {
  const [query, setQuery] = useSearchParams();
  const set = useCallback<Set>(
    (patch) =>
      setQuery(
        (before) => {
          const next = new URLSearchParams(before);
          for (const [key, value] of Object.entries(patch))
            if (value === null) next.delete(key);
            else next.set(key, value);
          return next;
        },
        { replace: true },
      ),
    [setQuery],
  );
  return { query, set };
}

function OneSurface({
  device,
  all,
  counts,
}: {
  readonly device: core.Device;
  readonly all: readonly core.Device[];
  readonly counts: ReturnType<typeof surfaces.countsOf>;
}) {
  const show = useShow();
  const { showId } = useWorkspace();
  const { act } = useBench();
  const navigate = useNavigate();
  const { query, set } = useChoice();
  const panel = useBenchPart((known) => known?.panels.find((own) => own.deviceId === device.id));
  const controls = surfaces.controlsOf(show, device);
  const playing = query.get('play') === 'yes';
  const wanted = playing ? (panel?.layer ?? 0) : Number(query.get('layer') ?? 0);
  const layer = Math.min(surfaces.layersOf(show, device) - 1, wanted);
  const control = controls.find(({ key }) => key === query.get('control'));
  const doing = query.get('do');
  const choose = (id: string) => void navigate(`/shows/${showId}/surfaces/${id}${playing ? '?play=yes' : ''}`);
  return (
    <Assigning {...{ device, layer, controls }}>
      <Head {...{ device, counts, playing, set }} />
      <SurfaceTabs all={all} chosen={device.id} onChoose={choose} />
      <StructureStrip />
      <div className="beside border-t border-rule">
        <Middle {...{ device, controls, layer, panel, playing, set }} chosen={control?.key} />
        <ControlPanel surface={device} {...{ control, layer, panel, act }} />
      </div>
      {doing === 'several' && <SeveralDialog {...{ device, layer }} onClose={() => set({ do: null })} />}
      {doing === 'banks' && <BanksDialog onClose={() => set({ do: null })} />}
    </Assigning>
  );
}

function Head({
  device,
  counts,
  playing,
  set,
}: {
  readonly device: core.Device;
  readonly counts: ReturnType<typeof surfaces.countsOf>;
  readonly playing: boolean;
  readonly set: Set;
}) {
  const { showId } = useWorkspace();
  return (
    <ScreenHead
      title="Surfaces"
      summary={`${findings.counted(counts.surfaces, 'surface')} · ${findings.counted(counts.controls, 'control')} · ${counts.used} ${findings.oneOr(counts.used, 'does', 'do')} something`}
    >
      <Link to={`/shows/${showId}/operate/${device.id}`} className="act">
        Operator page
      </Link>
      <button type="button" className="act" onClick={() => set({ do: 'banks' })}>
        Channels
      </button>
      <button type="button" className="act" onClick={() => set({ do: 'several' })}>
        Assign several
      </button>
      <button
        type="button"
        className={playing ? 'act-main' : 'act'}
        aria-pressed={playing}
        onClick={() => set({ play: playing ? null : 'yes' })}
      >
        {playing ? 'Playing: back to editing' : 'Play it on the bench'}
      </button>
    </ScreenHead>
  );
}

function Middle({
  device,
  controls,
  layer,
  panel,
  playing,
  chosen,
  set,
}: {
  readonly device: core.Device;
  readonly controls: readonly surfaces.SurfaceControl[];
  readonly layer: number;
  readonly panel: contract.PanelState | undefined;
  readonly playing: boolean;
  readonly chosen: string | undefined;
  readonly set: Set;
}) {
  const { touch, question, forget } = useConfirmed(device, layer);
  const moved = (key: string, part: core.Assignment['part'], value: number) => {
    const own = controls.find((control) => control.key === key);
    if (own) touch(own, part, value);
  };
  const select = (key: string) => set({ control: key });
  return (
    <div className="flex min-w-0 flex-1 flex-col overflow-auto">
      <Question {...{ question, forget }} />
      <div className="flex flex-wrap items-center gap-3 px-4 pt-3">
        <Layers {...{ device, layer, playing }} onLayer={(next) => set({ layer: String(next) })} />
        {playing && <PlayingWords device={device} />}
        <ChosenTarget panel={panel} />
        <Stepped />
      </div>
      <div className="p-4">
        <SurfaceDrawing {...{ device, layer, panel, playing }} selected={chosen} onMove={moved} onSelect={select} />
        <Uses device={device} onSelect={select} />
      </div>
      <div className="mt-auto">
        <BankRuler layer={layer} />
      </div>
    </div>
  );
}

/** What is moved now is sent: said in words, and by the frame round the surface. */
function PlayingWords({ device }: { readonly device: core.Device }) {
  const show = useShow();
  const { power, problem } = useBench();
  const isOff = useBenchPart((known) =>
    known?.standins.some((own) => own.deviceId === device.id && own.status !== 'up'),
  );
  if (problem) return <p className="text-error">The bench does not answer: {problem.message}</p>;
  return (
    <p className={isOff ? 'text-warning' : 'text-success'} role="status">
      {isOff ? `▲ ${device.name} has no power on the bench. ` : '● On the bench: whatever is moved here is sent.'}
      {isOff && (
        <button type="button" className="act" onClick={() => void power(Object.keys(show.devices), true)}>
          Switch everything on
        </button>
      )}
    </p>
  );
}

/** Two controllers moved one thing within a second, with the rule that the crew agreed on (need 8.21). */
function Stepped() {
  const show = useShow();
  const stepped = useBenchPart((known) => known?.stepped);
  if (!stepped) return null;
  const name = (id: string) => show.devices[id]?.name ?? 'a unit that is gone';
  const rule = show.devices[stepped.targetId]?.sharing;
  return (
    <p className="text-[13px] text-warning">
      ▲ {name(stepped.firstId)} and {name(stepped.secondId)} moved {name(stepped.targetId)} within {stepped.apartMs} ms.{' '}
      {rule ? `Agreed: ${rule}.` : 'Nothing is agreed about who may when.'}
    </p>
  );
}

/** What a target offers, dropped on a control, is what that does; with keys as with a pointer. */
function Assigning({
  device,
  layer,
  controls,
  children,
}: {
  readonly device: core.Device;
  readonly layer: number;
  readonly controls: readonly surfaces.SurfaceControl[];
  readonly children: React.ReactNode;
}) {
  const show = useShow();
  const { save } = useWorkspace();
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor),
  );
  const drop = ({ active, over }: DragEndEvent) => {
    const control = controls.find(({ key }) => key === over?.id);
    const { offer, args } = (active.data.current ?? {}) as {
      readonly offer?: surfaces.Offer;
      readonly args?: core.Assignment['args'];
    };
    if (!control || !offer) return;
    const part = control.kind === 'pad' ? 'x' : 'whole';
    const intent = {
      id: newId(),
      control,
      part,
      offer,
      args,
      instead: true,
    } as const;
    void save(
      surfaces.planAssign(show, device, { ...intent, layer: surfaces.layersOf(show, device) > 1 ? layer : null }),
    );
  };
  return (
    <DndContext sensors={sensors} onDragEnd={drop}>
      {children}
    </DndContext>
  );
}

function Layers({
  device,
  layer,
  playing,
  onLayer,
}: {
  readonly device: core.Device;
  readonly layer: number;
  readonly playing: boolean;
  readonly onLayer: (layer: number) => void;
}) {
  const show = useShow();
  const count = surfaces.layersOf(show, device);
  if (count < 2) return null;
  if (playing)
    return (
      <p className="text-mute">
        Layer {layer + 1} of {count}
      </p>
    );
  return (
    <div role="group" aria-label="Layer" className="join">
      {Array.from({ length: count }, (_, at) => (
        <button
          key={at}
          type="button"
          className={`act join-item ${at === layer ? 'border-primary' : ''}`}
          aria-pressed={at === layer}
          onClick={() => onLayer(at)}
        >
          Layer {at + 1}
        </button>
      ))}
    </div>
  );
}

/** Of several targets the one that the panel drives just now (need 8.20). */
function ChosenTarget({
  panel,
}: {
  readonly panel: { readonly chosen: Readonly<Record<string, string>> } | undefined;
}) {
  const show = useShow();
  const names = Object.values(panel?.chosen ?? {}).flatMap((id) => show.devices[id]?.name ?? []);
  return names.length > 0 ? <p className="font-semibold">Drives {names.join(', ')}</p> : null;
}

/** Controls that do nothing, and those with two meanings. */
function Uses({ device, onSelect }: { readonly device: core.Device; readonly onSelect: (key: string) => void }) {
  const show = useShow();
  const { unused, doubled } = surfaces.usesOf(show, device);
  const list = (title: string, controls: readonly surfaces.SurfaceControl[]) =>
    controls.length > 0 && (
      <p className="mt-2 flex flex-wrap items-center gap-1.5 text-[13px] text-mute">
        {title}
        {controls.slice(0, 12).map(({ key, label }) => (
          <button key={key} type="button" className="link" onClick={() => onSelect(key)}>
            {label}
          </button>
        ))}
        {controls.length > 12 && `and ${controls.length - 12} more`}
      </p>
    );
  return (
    <>
      {list(
        'Two meanings:',
        doubled.map(({ control }) => control),
      )}
      {list('Nothing yet:', unused)}
    </>
  );
}
