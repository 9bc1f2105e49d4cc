import { surfaces, type contract, type show as core } from '@deep-patch/core';
import { OctagonX } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import { useBench } from '../bench/use-bench.ts';
import { useBenchPart } from '../live/bench-store.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { ControlShape } from './control-shape.tsx';
import { Question, useConfirmed, type Touch } from './use-confirmed.tsx';

/** So often a page asks whether anybody is there, and so long it believes an answer (milliseconds). */
const asksEveryMs = 500;
const believesMs = 1500;

/**
 * A surface as a page for whoever operates the show: its controls, big and with names, their states, and a stop that is
 * always there. Nothing is edited here. As soon as the server is away it says so, and nothing on it can be touched.
 */
export function OperatorPage() {
  const show = useShow();
  const { deviceId = '' } = useParams();
  const device = show.devices[deviceId];
  if (!device) return <p className="p-6">There is no such surface any more.</p>;
  return <Page device={device} />;
}

function Page({ device }: { readonly device: core.Device }) {
  const show = useShow();
  const { act } = useBench();
  const isLive = useIsLive();
  const panel = useBenchPart((known) => known?.panels.find((own) => own.deviceId === device.id));
  const isUp = useBenchPart((known) => known?.standins.find((own) => own.deviceId === device.id)?.status === 'up');
  const works = isLive && isUp;
  const shown = surfaces.controlsOf(show, device).flatMap((control): Shown[] => {
    const meanings = surfaces.meaningsOf(show, device, control, panel?.layer ?? 0);
    return meanings.length > 0 ? [{ control, meanings }] : [];
  });
  const { question, touch, forget } = useConfirmed(device, panel?.layer ?? 0);
  return (
    <main className="flex h-dvh flex-col bg-base-100">
      <Top device={device} isLive={isLive} isUp={isUp} />
      <Question {...{ question, forget }} />
      <fieldset
        disabled={!works}
        className={`grid min-h-0 flex-1 auto-rows-[minmax(min-content,1fr)] gap-4 overflow-auto p-4 pb-28 ${works ? '' : 'opacity-40 grayscale'}`}
        aria-label="Controls"
      >
        {rowsOf(shown).map((row) => (
          <Row key={row[0]?.control.row} {...{ row, panel, works, touch }} />
        ))}
        {shown.length === 0 && <p className="text-mute">Nothing is assigned on this surface yet.</p>}
      </fieldset>
      <button
        type="button"
        className="fixed inset-x-3 bottom-3 z-50 flex h-20 items-center justify-center gap-3 rounded-box border-2 border-error-content bg-error text-2xl font-bold text-error-content disabled:opacity-50"
        disabled={!isLive}
        onClick={() => void act({ act: 'stop_all', deviceId: null })}
      >
        <OctagonX size={30} aria-hidden /> Stop everything
      </button>
    </main>
  );
}

function Top({
  device,
  isLive,
  isUp,
}: {
  readonly device: core.Device;
  readonly isLive: boolean;
  readonly isUp: boolean;
}) {
  const { showId } = useWorkspace();
  const works = isLive && isUp;
  const why = isLive
    ? `${device.name} has no power on the bench. Nothing here does anything.`
    : 'Not connected. Nothing here does anything; it comes back by itself.';
  return (
    <>
      <header className="flex items-center gap-3 border-b border-rule px-4 py-2">
        <h1 className="min-w-0 flex-1 truncate text-lg font-bold">{device.name}</h1>
        <p role="status" className={works ? 'text-success' : 'font-semibold text-error'}>
          {works ? '● Live' : isLive ? '✕ Switched off' : '✕ Not connected'}
        </p>
        <Link to={`/shows/${showId}/surfaces/${device.id}`} className="link text-xs text-faint">
          Edit
        </Link>
      </header>
      {!works && <p className="bg-error px-4 py-3 text-center text-lg font-bold text-error-content">{why}</p>}
    </>
  );
}

function Row({
  row,
  panel,
  works,
  touch,
}: {
  readonly row: readonly Shown[];
  readonly panel: contract.PanelState | undefined;
  readonly works: boolean;
  readonly touch: Touch;
}) {
  const show = useShow();
  return (
    <div className="grid grid-cols-[repeat(auto-fit,minmax(8.5rem,1fr))] gap-3">
      {row.map(({ control, meanings }) => (
        <ControlShape
          key={control.key}
          control={control}
          words={meanings.map((meaning) => surfaces.meaningWords(show, meaning)).join(' · ')}
          states={(panel?.controls ?? []).filter((state) => state.control === control.key)}
          playing={works}
          selected={false}
          trouble={false}
          big
          onMove={(part, value) => touch(control, part, value)}
          onSelect={() => undefined}
        />
      ))}
    </div>
  );
}

interface Shown {
  readonly control: surfaces.SurfaceControl;
  readonly meanings: readonly surfaces.Meaning[];
}

/** As the surface has them in front of whoever operates it: row by row. */
function rowsOf(shown: readonly Shown[]): Shown[][] {
  const rows = new Map<number, Shown[]>();
  for (const own of shown) rows.set(own.control.row, [...(rows.get(own.control.row) ?? []), own]);
  return [...rows.values()];
}

/** Does the server answer? A line that is open proves nothing: somebody has to say something on it. */
function useIsLive(): boolean {
  const { connection } = useWorkspace();
  const { load } = useBench();
  const [isFresh, setFresh] = useState(false);
  // what was known of the bench before the line broke is not of now
  useEffect(() => {
    if (connection !== 'open') return undefined;
    let isOver = false;
    void load().then(() => !isOver && setFresh(true));
    return () => {
      isOver = true;
      setFresh(false);
    };
  }, [connection, load]);
  const [heardAt, setHeardAt] = useState(() => performance.now());
  const [now, setNow] = useState(() => performance.now());
  useEffect(() => {
    let isOver = false;
    const ask = () => {
      const stop = AbortSignal.timeout(asksEveryMs * 2);
      fetch('/api/health', { signal: stop, cache: 'no-store' }).then(
        (answer) => {
          if (!isOver && answer.ok) setHeardAt(performance.now());
        },
        () => undefined,
      );
      setNow(performance.now());
    };
    ask();
    const timer = setInterval(ask, asksEveryMs);
    return () => {
      isOver = true;
      clearInterval(timer);
    };
  }, []);
  return connection === 'open' && isFresh && now - heardAt < believesMs;
}
