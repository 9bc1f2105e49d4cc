import { links as linkRoom, show as core, type Analysis, type Seen, type show } from '@deep-patch/core';
import { useCallback, useEffect, useMemo, useRef } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { DataGrid, type Column } from '../parts/data-grid.tsx';
import { DepthGlyph } from '../parts/depth-glyph.tsx';
import { Empty } from '../parts/empty.tsx';
import { Mark } from '../parts/mark.tsx';
import { ScreenHead } from '../parts/screen-head.tsx';
import { AddLinkDialog } from './add-link-dialog.tsx';
import { PortsDialog } from './ports-dialog.tsx';
import { SoundingWell } from './sounding-well.tsx';
import { useSound } from './use-sound.ts';
import { WatchStrip } from './watch-strip.tsx';
import { useBenchPart } from '../live/bench-store.ts';
import { useBench } from '../bench/use-bench.ts';

/** Between two rounds, so that a watch does not fill the network. */
const watchEverySeconds = 15;

interface Row {
  readonly link: show.Link;
  readonly target: string;
  readonly over: string;
  readonly at: string;
  readonly sounding: linkRoom.Sounding | undefined;
  readonly depth: linkRoom.Depth | undefined;
  readonly measured: core.MeasuredSounding | undefined;
}

const columns: readonly Column<Row>[] = [
  {
    key: 'target',
    header: 'Controls',
    width: 'minmax(9.25rem,1.3fr)',
    sortBy: ({ target }) => target,
    cell: ({ target }) => target,
  },
  {
    key: 'over',
    header: 'Over',
    width: '7.1rem',
    from: 460,
    sortBy: ({ over }) => over,
    cell: ({ over }) => <span className="text-mute">{over}</span>,
  },
  { key: 'at', header: 'At', width: '7.4rem', from: 560, sortBy: ({ at }) => at, cell: ({ at }) => <code>{at}</code> },
  {
    key: 'depth',
    header: 'Depth',
    width: '7.75rem',
    sortBy: ({ depth }) => depth?.depth ?? 0,
    cell: ({ depth }) => depth && <DepthGlyph depth={depth} />,
  },
  { key: 'stops', header: 'Stops at', width: 'minmax(10rem,1.5fr)', cell: (row) => <StopsCell {...row} /> },
];

function StopsCell({ depth, sounding, measured }: Row) {
  if (!depth || !sounding) return null;
  const stop = sounding.stopsAt;
  if (depth.measured && !depth.stopsAt) {
    const unasked = measured?.layers.findIndex(({ code }) => code === 'not_asked') ?? -1;
    // a watch sends no command: what only that would tell is not called proved
    if (unasked > 0) return <Told state="waits" text={`watched: proved to ${measured?.layers[unasked - 1]?.layer}`} />;
    const silent = depth.proven ? 'did what it was told' : 'sent; no answer to prove it';
    return (
      <Told state="pass" text={depth.rttMs === null ? silent : `answers in ${linkRoom.milliseconds(depth.rttMs)}`} />
    );
  }
  if (depth.measured) {
    const seen = measured?.layers.find(({ layer }) => layer === depth.stopsAt);
    const isForecast = seen?.state === 'unseen' || seen?.state === 'pass';
    const between = stop ? linkRoom.layerWords(stop).between : '';
    const text = `${upper(depth.stopsAt ?? '')}: ${seen && !isForecast ? linkRoom.measuredWords(seen) : between}`;
    return <Told state={seen?.state === 'waits' ? 'waits' : 'fail'} text={text} />;
  }
  if (stop) return <Told state="fail" text={`${upper(stop.layer)}: ${linkRoom.layerWords(stop).between}`} />;
  const [risk] = sounding.risks;
  if (risk) return <Told state="risky" text={`${upper(risk.layer)}: ${linkRoom.layerWords(risk).between}`} />;
  return <Told state="waits" text={depth.stale ? 'changed since sounded' : 'not sounded yet'} />;
}

const upper = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
const Told = ({ state, text }: { state: 'pass' | 'risky' | 'fail' | 'waits'; text: string }) => (
  <span
    className={`text-xs ${{ pass: 'text-success', risky: 'text-warning', fail: 'text-error', waits: 'text-mute' }[state]}`}
    title={text}
  >
    <Mark state={state} size={11} /> {text}
  </span>
);

export function LinksScreen() {
  const show = useShow();
  const { analysis, seen, showId } = useWorkspace();
  const { linkId } = useParams();
  const navigate = useNavigate();
  const [query, setQuery] = useSearchParams();
  const doing = query.get('do');
  const rows = useMemo(() => rowsOf(show, analysis, seen), [show, analysis, seen]);
  const { sounding, soundAll, stop } = useSound();
  const { act } = useBench();
  const watch = useBenchPart((known) => known?.watch);
  const watched = watch?.everySeconds != null;
  const order = useMemo(() => rows.map(({ link }) => link.id), [rows]);
  const sound = useCallback(() => void soundAll(order), [soundAll, order]);

  const asked = useRef(false);
  useEffect(() => {
    if (doing !== 'sound' || asked.current || order.length === 0) return;
    asked.current = true;
    setQuery({});
    sound();
  }, [doing, order, setQuery, sound]);

  const groups = useMemo(() => core.groupBy(rows, ({ link }) => link.controllerId), [rows]);
  const groupOf = useCallback(
    ({ link }: Row) => {
      const own = groups.get(link.controllerId) ?? [];
      const controller = show.devices[link.controllerId];
      const deep = own.filter(({ depth }) => depth?.depth === 8).length;
      return {
        id: link.controllerId,
        label: `${controller?.name ?? ''}${controller?.place ? `, ${controller.place}` : ''}`,
        detail: `${own.length} ${own.length === 1 ? 'link' : 'links'} · ${deep} reach bottom`,
      };
    },
    [groups, show],
  );
  const link = linkId === undefined ? undefined : show.links[linkId];
  return (
    <>
      <ScreenHead title="Links" summary={summaryOf(rows)}>
        {rows.length > 0 && watch && (
          <button
            type="button"
            className="act"
            aria-pressed={watched}
            onClick={() => void act({ act: 'watch', everySeconds: watched ? null : watchEverySeconds })}
          >
            {watched ? 'Stop watching' : 'Watch'}
          </button>
        )}
        {rows.length > 0 && (
          <button type="button" className="act" onClick={() => setQuery({ do: 'ports' })}>
            Ports
          </button>
        )}
        <button
          type="button"
          className={rows.length === 0 ? 'act-main' : 'act'}
          onClick={() => setQuery({ do: 'add' })}
        >
          Add link
        </button>
        {rows.length > 0 &&
          (sounding ? (
            <button type="button" className="act-main" onClick={stop}>
              Stop, {sounding.done} of {sounding.total}
            </button>
          ) : (
            <button type="button" className="act-main" onClick={sound}>
              Sound all
            </button>
          ))}
      </ScreenHead>
      {sounding && (
        <progress
          className="progress progress-primary h-0.5 w-full shrink-0 rounded-none"
          value={sounding.done}
          max={sounding.total}
          aria-label="Sounding"
        />
      )}
      <div className="flex min-h-0 flex-1 border-t border-rule max-md:flex-col">
        {rows.length === 0 ? (
          <div className="flex-1">
            <Empty text="Say who controls what, such as the show host driving the lighting desk. Ports and a test message are filled in from both ends.">
              <button type="button" className="act-main" onClick={() => setQuery({ do: 'add' })}>
                Add link
              </button>
            </Empty>
          </div>
        ) : (
          <DataGrid
            label="Links"
            rows={rows}
            columns={columns}
            idOf={({ link: { id } }) => id}
            groupOf={groupOf}
            selected={linkId}
            onSelect={(id) => void navigate(`/shows/${showId}/links/${id}`, { replace: linkId !== undefined })}
          />
        )}
        {link && <SoundingWell key={link.id} link={link} />}
        {linkId !== undefined && !link && (
          <aside className="w-108 border-l border-rule bg-base-200">
            <Empty text="This link is no longer in the show. Taking the last change back may bring it back." />
          </aside>
        )}
      </div>
      {watch && <WatchStrip watch={watch} />}
      {doing === 'ports' && <PortsDialog onClose={() => setQuery({})} />}
      {doing === 'add' && <AddLinkDialog onClose={() => setQuery({})} />}
    </>
  );
}

function summaryOf(rows: readonly Row[]): string {
  if (rows.length === 0) return 'nothing yet';
  const measured = rows.filter(({ depth }) => depth?.measured);
  const bottom = rows.filter(({ depth }) => depth?.depth === 8).length;
  const short = rows.length - bottom;
  return `${rows.length} planned · ${bottom} reach bottom · ${short} ${short === 1 ? 'stops' : 'stop'} short · ${measured.length} sounded`;
}

function rowsOf(show: core.Show, analysis: Analysis | undefined, seen: Seen): Row[] {
  return core
    .rowsOf(show, 'links')
    .map((link) => {
      const target = show.devices[link.targetId];
      const type = core.serviceTypeOf(show, target, link.serviceKey);
      const planned = analysis?.addressing.byDevice.get(link.targetId)?.find(({ ip }) => ip !== null);
      const over = `${type?.protocol.toUpperCase() ?? '?'} · ${link.slot === null ? link.port : `slot ${link.slot}`}`;
      return {
        link,
        target: target?.name ?? '',
        over,
        at: link.host ?? planned?.address.ip ?? '—',
        sounding: analysis?.soundings.get(link.id),
        depth: analysis?.depths.get(link.id),
        measured: seen.soundings[link.id],
      };
    })
    .sort((a, b) => byController(show, a, b));
}

const byController = (show: core.Show, a: Row, b: Row): number =>
  core.byName(nameOf(show, a.link.controllerId), nameOf(show, b.link.controllerId)) ||
  (a.link.slot ?? 0) - (b.link.slot ?? 0) ||
  core.byName({ name: a.target }, { name: b.target });
const nameOf = (show: core.Show, id: string) => ({ name: show.devices[id]?.name ?? '' });
