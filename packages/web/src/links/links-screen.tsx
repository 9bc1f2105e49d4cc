import { show as core } from '@deep-patch/core';
import { useCallback, useEffect, useMemo, useRef, type ReactNode } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { useBench } from '../bench/use-bench.ts';
import { useBenchPart } from '../live/bench-store.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { DataGrid } from '../parts/data-grid.tsx';
import { Empty } from '../parts/empty.tsx';
import { FirstSteps } from '../parts/first-steps.tsx';
import { saveFile } from '../parts/save-file.ts';
import { ScreenHead } from '../parts/screen-head.tsx';
import { ViewChoice } from '../parts/view-choice.tsx';
import { TableView, useTableView, type ViewOf } from '../parts/table-view.tsx';
import { ChainsView } from './chains-view.tsx';
import { MatrixView } from './matrix-view.tsx';
import { SheetsView } from './sheets-view.tsx';
import { AddLinkDialog } from './add-link-dialog.tsx';
import { firstLinkColumns, linkColumns, linkCsv, linkRows, summaryOf, type LinkRow } from './link-rows.tsx';
import { PortsDialog } from './ports-dialog.tsx';
import { SoundingWell } from './sounding-well.tsx';
import { useSound } from './use-sound.ts';
import { WatchStrip } from './watch-strip.tsx';

/** Between two rounds, so that a watch does not fill the network. */
const watchEverySeconds = 15;

const viewOfLinks: ViewOf = {
  name: 'deep-patch-links-view',
  columns: linkColumns,
  first: firstLinkColumns,
  groupings: [
    ['controller', 'controller'],
    ['none', 'nothing'],
  ],
};

/** Who controls what, how deep each link reaches, and one of them layer by layer. */
export function LinksScreen() {
  const show = useShow();
  const { analysis, seen, showId } = useWorkspace();
  const { linkId } = useParams();
  const navigate = useNavigate();
  const [query, setQuery] = useSearchParams();
  const doing = query.get('do');
  const rows = useMemo(() => linkRows(show, analysis, seen), [show, analysis, seen]);
  const view = useTableView(viewOfLinks);
  const groupOf = useGroups(rows);
  const columns = useMemo(() => linkColumns.filter(({ key }) => view.columns.includes(key)), [view.columns]);
  const watch = useBenchPart((known) => known?.watch);
  const see = views.find(([key]) => key === query.get('see'))?.[0] ?? 'list';
  const kept = see === 'list' ? {} : { see };
  const close = () => setQuery(kept);
  const begin = (what: string) => setQuery({ ...kept, do: what });
  const link = linkId === undefined ? undefined : show.links[linkId];
  return (
    <>
      <Head rows={rows} onBegin={begin}>
        <TableView view={view} onSave={() => saveFile(`${showId}-links.csv`, linkCsv(rows, columns), 'text/csv')} />
      </Head>
      {rows.length > 0 && <Views see={see} onSee={(next) => setQuery(next === 'list' ? {} : { see: next })} />}
      <div className="beside border-t border-rule">
        {rows.length === 0 ? (
          <div className="flex-1">
            <Empty text="Say who controls what, such as the show host driving the lighting desk. Ports and a test message are filled in from both ends.">
              <button type="button" className="act-main" onClick={() => begin('add')}>
                Add link
              </button>
              <FirstSteps />
            </Empty>
          </div>
        ) : see !== 'list' ? (
          others[see](rows)
        ) : (
          <DataGrid
            label="Links"
            rows={rows}
            columns={columns}
            idOf={({ link: { id } }) => id}
            {...(view.group === 'none' ? {} : { groupOf })}
            selected={linkId}
            onSelect={(id) => void navigate(`/shows/${showId}/links/${id}`, { replace: linkId !== undefined })}
          />
        )}
        {link && <SoundingWell key={link.id} link={link} />}
        {linkId !== undefined && !link && (
          <aside className="panel w-108">
            <Empty text="This link is no longer in the show. Taking the last change back may bring it back." />
          </aside>
        )}
      </div>
      {watch && <WatchStrip watch={watch} />}
      {doing === 'ports' && <PortsDialog onClose={close} />}
      {doing === 'add' && <AddLinkDialog onClose={close} />}
    </>
  );
}

const views = [
  ['list', 'List'],
  ['matrix', 'Who controls whom'],
  ['chains', 'Chains'],
  ['sheets', 'Sheets'],
] as const;
type See = (typeof views)[number][0];

const Views = ({ see, onSee }: { readonly see: See; readonly onSee: (see: See) => void }) => (
  <div className="px-4.5 pb-2.5">
    <ViewChoice views={views} see={see} onSee={onSee} />
  </div>
);

const others: Readonly<Record<Exclude<See, 'list'>, (rows: readonly LinkRow[]) => ReactNode>> = {
  matrix: (rows) => <MatrixView rows={rows} />,
  chains: () => <ChainsView />,
  sheets: () => <SheetsView />,
};

/** Links of one controller stand together. */
function useGroups(rows: readonly LinkRow[]) {
  const { devices } = useShow();
  const groups = useMemo(() => core.groupBy(rows, ({ link }) => link.controllerId), [rows]);
  return useCallback(
    ({ link }: LinkRow) => {
      const own = groups.get(link.controllerId) ?? [];
      const controller = devices[link.controllerId];
      const deep = own.filter(({ depth }) => depth?.depth === 8).length;
      return {
        id: link.controllerId,
        label: `${controller?.name ?? ''}${controller?.place ? `, ${controller.place}` : ''}`,
        detail: `${own.length} ${own.length === 1 ? 'link' : 'links'} · ${deep} reach bottom`,
      };
    },
    [groups, devices],
  );
}

/** Sounds every link in the order of the table, at once where the address asks for it. */
function useSoundingAll(rows: readonly LinkRow[]) {
  const [query, setQuery] = useSearchParams();
  const { sounding, soundAll, stop } = useSound();
  const isAsked = query.get('do') === 'sound';
  const order = useMemo(() => rows.map(({ link }) => link.id), [rows]);
  const sound = useCallback(() => void soundAll(order), [soundAll, order]);
  const began = useRef(false);
  useEffect(() => {
    if (!isAsked || began.current || order.length === 0) return;
    began.current = true;
    setQuery({});
    sound();
  }, [isAsked, order, setQuery, sound]);
  return { sounding, sound, stop };
}

function Head({
  rows,
  onBegin,
  children,
}: {
  readonly rows: readonly LinkRow[];
  readonly onBegin: (what: string) => void;
  readonly children: ReactNode;
}) {
  const { sounding, sound, stop } = useSoundingAll(rows);
  const isEmpty = rows.length === 0;
  return (
    <>
      <ScreenHead title="Links" summary={summaryOf(rows)}>
        {!isEmpty && (
          <>
            <WatchButton />
            <button type="button" className="act" onClick={() => onBegin('ports')}>
              Ports
            </button>
            {children}
          </>
        )}
        <button type="button" className={isEmpty ? 'act-main' : 'act'} onClick={() => onBegin('add')}>
          Add link
        </button>
        {!isEmpty && (
          <button type="button" className="act-main" onClick={sounding ? stop : sound}>
            {sounding ? `Stop, ${sounding.done} of ${sounding.total}` : 'Sound all'}
          </button>
        )}
      </ScreenHead>
      {sounding && (
        <progress
          className="progress progress-primary h-0.5 w-full shrink-0 rounded-none"
          value={sounding.done}
          max={sounding.total}
          aria-label="Sounding"
        />
      )}
    </>
  );
}

function WatchButton() {
  const { act } = useBench();
  const watch = useBenchPart((known) => known?.watch);
  if (!watch) return null;
  const watched = watch.everySeconds != null;
  return (
    <button
      type="button"
      className="act"
      aria-pressed={watched}
      onClick={() => void act({ act: 'watch', everySeconds: watched ? null : watchEverySeconds })}
    >
      {watched ? 'Stop watching' : 'Watch'}
    </button>
  );
}
