import { type contract, show as core } from '@deep-patch/core';
import { lazy, Suspense, useMemo, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { useBenchState } from '../live/bench-store.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Empty, Loading } from '../parts/empty.tsx';
import { FirstSteps } from '../parts/first-steps.tsx';
import { ScreenHead } from '../parts/screen-head.tsx';
import { StandinCard } from './standin-card.tsx';
import { StandinPanel } from './standin-panel.tsx';
import { ScriptDialog } from './script-dialog.tsx';
import { ScriptStrip } from './script-strip.tsx';
import { TroubleStrip } from './trouble-strip.tsx';
import { RehearsalStrip } from './rehearsal-strip.tsx';
import { ScanStrip } from './scan-strip.tsx';
import { TapPanel } from './tap-panel.tsx';
import { AllUnitsDialog } from './all-units-dialog.tsx';
import { FaultsStrip } from './faults-strip.tsx';
import { useBench, type DoOnBench } from './use-bench.ts';

const BenchNetwork = lazy(async () => ({ default: (await import('./bench-network.tsx')).BenchNetwork }));

/** The simulated site: every unit as a stand-in that shows what it is doing, grouped by place. */
export function BenchScreen() {
  const show = useShow();
  const { deviceId } = useParams();
  const bench = useBenchState() ?? undefined;
  const doing = useBench();
  const { act } = doing;
  const [asking, setAsking] = useState<'script' | 'all'>();
  const devices = useMemo(() => core.devicesByName(show), [show]);
  const states = useMemo(() => new Map(bench?.standins.map((state) => [state.deviceId, state])), [bench]);
  const chosen = deviceId === undefined ? undefined : show.devices[deviceId];
  const state = deviceId === undefined ? undefined : states.get(deviceId);
  return (
    <>
      <Head bench={bench} doing={doing} devices={devices} states={states} onAsk={setAsking} />
      <div className="beside border-t border-rule">
        <div className="flex min-w-0 flex-1 flex-col">
          {bench && <Strips bench={bench} act={act} />}
          <Site bench={bench} doing={doing} devices={devices} states={states} chosenId={deviceId} />
          {bench && devices.length > 0 && <TapPanel heard={bench.heard} forget={() => act({ act: 'forget_heard' })} />}
        </div>
        {chosen && state && (
          <StandinPanel
            key={chosen.id}
            device={chosen}
            state={state}
            jacks={bench?.jacks.filter((jack) => jack.deviceId === chosen.id) ?? []}
            faults={bench?.faults ?? []}
            looking={bench?.looking ?? null}
            act={act}
            power={doing.power}
            openJack={doing.openJack}
            closeJack={doing.closeJack}
          />
        )}
      </div>
      {asking === 'script' && <ScriptDialog act={act} onClose={() => setAsking(undefined)} />}
      {asking === 'all' && bench && (
        <AllUnitsDialog
          deviceIds={devices.map(({ id }) => id)}
          bench={bench}
          act={act}
          onClose={() => setAsking(undefined)}
        />
      )}
    </>
  );
}

/** All stand-ins, as cards by place or as the network that they are. */
function Site(props: Part & { readonly chosenId: string | undefined }) {
  const { bench, devices, states } = props;
  const isNetwork = useSearchParams()[0].get('see') === 'network';
  return (
    <div
      className="flex min-h-0 flex-1 flex-col overflow-auto px-4.5 py-2"
      tabIndex={0}
      role="region"
      aria-label="Stand-ins"
    >
      {bench && devices.length > 0 && <SeeSwitch />}
      {isNetwork && bench ? (
        <Suspense fallback={<Loading />}>
          <BenchNetwork states={states} />
        </Suspense>
      ) : (
        <Standins {...props} />
      )}
    </div>
  );
}

/** Turns from the one to the other. */
function SeeSwitch() {
  const [query, setQuery] = useSearchParams();
  const isNetwork = query.get('see') === 'network';
  const turn = () => {
    const next = new URLSearchParams(query);
    if (isNetwork) next.delete('see');
    else next.set('see', 'network');
    setQuery(next);
  };
  return (
    <button type="button" className="act btn-xs relative z-1 -mb-5 self-end" onClick={turn}>
      {isNetwork ? 'As cards' : 'As the network'}
    </button>
  );
}

interface Part {
  readonly bench: contract.BenchState | undefined;
  readonly doing: ReturnType<typeof useBench>;
  readonly devices: readonly core.Device[];
  readonly states: ReadonlyMap<string, contract.StandinState>;
}

interface HeadProps extends Part {
  readonly onAsk: (what: 'script' | 'all') => void;
}

function Head({ bench, doing: { power, act }, devices, states, onAsk }: HeadProps) {
  const { showId } = useWorkspace();
  const all = devices.map(({ id }) => id);
  const up = [...states.values()].filter(({ powered }) => powered).length;
  const isAllUp = up === all.length;
  return (
    <ScreenHead title="Bench" summary={bench ? summaryOf(bench, all.length, up) : 'a simulated site of stand-ins'}>
      <ScanButton bench={bench} act={act} devices={devices} states={states} />
      {up > 0 && !bench?.rehearsal && !bench?.script && (
        <>
          <button type="button" className="act" onClick={() => void act({ act: 'rehearse' })}>
            Rehearse a fault
          </button>
          <button type="button" className="act" onClick={() => onAsk('script')}>
            From a script
          </button>
        </>
      )}
      {bench && all.length > 0 && (
        <button type="button" className="act" onClick={() => onAsk('all')}>
          All units
        </button>
      )}
      {up > 0 && (
        <button type="button" className="act" onClick={() => void power(all, false)}>
          All off
        </button>
      )}
      <button
        type="button"
        className={isAllUp ? 'act' : 'act-main'}
        disabled={!bench || all.length === 0 || isAllUp}
        onClick={() => void power(all, true)}
      >
        Power on
      </button>
      <Link to={`/shows/${showId}/links?do=sound`} className={isAllUp && up > 0 ? 'act-main' : 'act'}>
        Sound all links
      </Link>
    </ScreenHead>
  );
}

/** A scan starts at a computer that is up. */
function ScanButton({ bench, act, devices, states }: Omit<Part, 'doing'> & { readonly act: DoOnBench }) {
  const show = useShow();
  const computer = devices.find((device) => {
    const type = core.typeOf(show, device);
    return type?.kind === 'computer' && type.form === 'unit' && states.get(device.id)?.status === 'up';
  });
  return (
    computer && (
      <button
        type="button"
        className="act"
        disabled={bench?.scan?.running}
        title={`Looks from ${computer.name} at who is there`}
        onClick={() => void act({ act: 'scan', deviceId: computer.id })}
      >
        Scan
      </button>
    )
  );
}

function Strips({ bench, act }: { readonly bench: contract.BenchState; readonly act: DoOnBench }) {
  return (
    <>
      {bench.rehearsal && <RehearsalStrip rehearsal={bench.rehearsal} act={act} />}
      {bench.script && <ScriptStrip script={bench.script} act={act} />}
      <TroubleStrip states={bench.standins} />
      <FaultsStrip faults={bench.faults} act={act} />
      {bench.scan && (!bench.rehearsal || bench.scan.running) && (
        <ScanStrip key={String(bench.scan.running)} scan={bench.scan} act={act} />
      )}
    </>
  );
}

function Standins({
  bench,
  doing: { problem, load },
  devices,
  states,
  chosenId,
}: Part & { readonly chosenId: string | undefined }) {
  const { showId } = useWorkspace();
  const places = useMemo(
    () => [...core.groupBy(devices, ({ place }) => place)].sort(([a], [b]) => (a < b ? -1 : 1)),
    [devices],
  );
  return (
    <>
      {problem && (
        <Empty text={`${problem.message}. ${problem.detail}`}>
          <button type="button" className="act-main" onClick={() => void load()}>
            Try again
          </button>
        </Empty>
      )}
      {!bench && !problem && <Loading />}
      {bench && devices.length === 0 && (
        <Empty text="The bench has a stand-in for every device in the rig. Put something in the rig first.">
          <Link to={`/shows/${showId}/rig?do=import`} className="act-main">
            Read a gear list
          </Link>
          <FirstSteps />
        </Empty>
      )}
      {bench &&
        places.map(([place, units]) => (
          <section key={place} className="mb-3">
            <h2 className="mb-1.5 text-xs font-semibold text-mute">{place || 'No place'}</h2>
            <div className="grid grid-cols-[repeat(auto-fill,minmax(11rem,1fr))] gap-2">
              {units.map((device) => (
                <StandinCard
                  key={device.id}
                  device={device}
                  state={states.get(device.id)}
                  chosen={device.id === chosenId}
                />
              ))}
            </div>
          </section>
        ))}
    </>
  );
}

function summaryOf({ faults }: contract.BenchState, all: number, up: number): string {
  const set = faults.length === 0 ? '' : ` · ${faults.length} ${faults.length === 1 ? 'fault' : 'faults'} set by you`;
  return `${all} stand-ins · ${up} with power${set}`;
}
