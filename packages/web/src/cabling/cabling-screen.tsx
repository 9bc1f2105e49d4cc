import { cabling, findings, type show as core } from '@deep-patch/core';
import { lazy, Suspense, useCallback, useMemo, useState, type ReactNode } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { DataGrid, type Column } from '../parts/data-grid.tsx';
import { Empty, Loading } from '../parts/empty.tsx';
import { FirstSteps } from '../parts/first-steps.tsx';
import { NoHits } from '../parts/no-hits.tsx';
import { saveFile } from '../parts/save-file.ts';
import { ScreenHead } from '../parts/screen-head.tsx';
import { ViewChoice } from '../parts/view-choice.tsx';
import { hasWords } from '../parts/has-words.ts';
import { TableView, useTableView, type ViewOf } from '../parts/table-view.tsx';
import type { CellEdit, Cells } from '../parts/use-cells.ts';
import { JoinDialog } from './join-dialog.tsx';
import { ReadRunsDialog } from './read-runs-dialog.tsx';
import { RunEntry } from './run-entry.tsx';
import { RunFaults } from './run-faults.tsx';
import { RunPanel, SeveralRuns } from './run-panel.tsx';
import { useLosses } from './losses/use-losses.ts';
import { runColumns, runCsv, runRows, sumsOf, writtenOf, type RunRow } from './run-rows.ts';

// the picture brings its drawing with it: who works in the table does not wait for that
const PictureView = lazy(async () => ({ default: (await import('./picture/picture-view.tsx')).PictureView }));
const SocketsView = lazy(async () => ({ default: (await import('./sockets-view.tsx')).SocketsView }));
const VlansView = lazy(async () => ({ default: (await import('./vlans-view.tsx')).VlansView }));
const InputsView = lazy(async () => ({ default: (await import('./inputs-view.tsx')).InputsView }));
const ChangeoverView = lazy(async () => ({ default: (await import('./changeover-view.tsx')).ChangeoverView }));
const LossesView = lazy(async () => ({ default: (await import('./losses/losses-view.tsx')).LossesView }));

const viewOfRuns: ViewOf = {
  name: 'deep-patch-cabling-view',
  columns: runColumns,
  first: runColumns.flatMap(({ key }) => (key === 'stage' ? [] : [key])),
  groupings: [],
};

type Doing = 'add' | 'join' | 'read';

/** Every run of the show as a table that is typed into, with what it carries and how much cable that is. */
export function CablingScreen() {
  const show = useShow();
  const { analysis, showId } = useWorkspace();
  const { cableId } = useParams();
  const [query, setQuery] = useSearchParams();
  const [filter, setFilter] = useState('');
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const rows = useMemo(() => runRows(show, analysis?.addressing), [show, analysis]);
  const shown = useMemo(() => filtered(rows, filter), [rows, filter]);
  const view = useTableView(viewOfRuns);
  const columns = useMemo(() => runColumns.filter(({ key }) => view.columns.includes(key)), [view.columns]);
  const { cells, faults, forgive } = useRunCells(rows);
  const doing = query.get('do');
  const see = views.find(([key]) => key === query.get('see'))?.[0] ?? 'table';
  const seen = see === 'table' ? {} : { see };
  const begin = (what: Doing) => setQuery({ ...seen, do: what });
  const close = () => setQuery(seen);
  const row = rows.find(({ cable }) => cable.id === cableId);
  const known = useLosses(show, see === 'picture' || see === 'losses' || row !== undefined);
  const several = chosen.length > 1 ? rows.filter(({ cable }) => chosen.includes(cable.id)) : [];
  return (
    <>
      <Head rows={rows} onBegin={begin}>
        <TableView view={view} onSave={() => saveFile(`${showId}-cabling.csv`, runCsv(shown, columns), 'text/csv')} />
      </Head>
      {rows.length > 0 && (
        <div className="flex flex-wrap items-center gap-2 px-4.5 pb-2.5">
          <ViewChoice views={views} see={see} onSee={(next) => setQuery(next === 'table' ? {} : { see: next })} />
          <input
            type="search"
            value={filter}
            onChange={(event) => setFilter(event.target.value)}
            placeholder="Filter"
            aria-label="Filter runs"
            className="field w-36"
          />
        </div>
      )}
      {doing === 'add' && <RunEntry onClose={close} />}
      <RunFaults faults={faults} lineWord="Row" onClose={forgive} />
      <div className="beside border-t border-rule">
        <Body
          {...{ rows, shown, see, filter, known, columns, cells }}
          onBegin={begin}
          onFilter={setFilter}
          onChosen={setChosen}
        />
        {several.length > 1 ? (
          <SeveralRuns rows={several} />
        ) : (
          row && (see === 'table' || see === 'picture') && <RunPanel key={row.cable.id} row={row} known={known} />
        )}
      </div>
      {doing === 'join' && <JoinDialog onClose={close} />}
      {doing === 'read' && <ReadRunsDialog onClose={close} />}
    </>
  );
}

interface BodyProps {
  readonly rows: readonly RunRow[];
  readonly shown: readonly RunRow[];
  readonly see: See;
  readonly filter: string;
  readonly known: ReturnType<typeof useLosses>;
  readonly columns: readonly Column<RunRow>[];
  readonly cells: Cells<RunRow>;
  readonly onBegin: (what: Doing) => void;
  readonly onFilter: (filter: string) => void;
  readonly onChosen: (ids: readonly string[]) => void;
}

function Body({ rows, shown, see, filter, known, columns, cells, onBegin, onFilter, onChosen }: BodyProps) {
  if (rows.length === 0) return <NothingYet onBegin={onBegin} />;
  if (see === 'table')
    return shown.length === 0 ? (
      <NoHits filter={filter} what="run" onClear={() => onFilter('')} />
    ) : (
      <RunTable rows={shown} {...{ columns, cells, onChosen }} />
    );
  return (
    <Suspense fallback={<Loading />}>
      {see === 'picture' && <PictureView filter={filter} lost={known && { ...known, chosen: undefined }} />}
      {see === 'losses' && <LossesView filter={filter} known={known} />}
      {see === 'sockets' && <SocketsView filter={filter} />}
      {see === 'vlans' && <VlansView filter={filter} />}
      {see === 'pictures' && <InputsView filter={filter} />}
      {see === 'changeover' && <ChangeoverView />}
    </Suspense>
  );
}

const views = [
  ['table', 'Table'],
  ['picture', 'Picture'],
  ['losses', 'If this goes'],
  ['sockets', 'Sockets'],
  ['vlans', 'VLANs'],
  ['pictures', 'Inputs'],
  ['changeover', 'Changeover'],
] as const;
type See = (typeof views)[number][0];

function RunTable({
  rows,
  columns,
  cells,
  onChosen,
}: {
  readonly rows: readonly RunRow[];
  readonly columns: readonly Column<RunRow>[];
  readonly cells: Cells<RunRow>;
  readonly onChosen: (ids: readonly string[]) => void;
}) {
  const { showId } = useWorkspace();
  const { cableId } = useParams();
  const navigate = useNavigate();
  return (
    <div className="flex min-w-0 flex-1 flex-col">
      <DataGrid
        label="Runs"
        rows={rows}
        columns={columns}
        idOf={({ cable }) => cable.id}
        cells={cells}
        onChosen={onChosen}
        selected={cableId}
        onSelect={(id) => void navigate(`/shows/${showId}/cabling/${id}`, { replace: cableId !== undefined })}
      />
      <p className="border-t border-rule px-3 py-1.5 text-[13px] text-mute">{sumsOf(rows)}</p>
    </div>
  );
}

function filtered(rows: readonly RunRow[], filter: string): readonly RunRow[] {
  const isMeant = hasWords(filter);
  return rows.filter((row) => isMeant([...cabling.runFields, 'carries' as const].map((key) => row[key]).join(' ')));
}

/** Saves what was typed or pasted into cells, all of it or nothing, and keeps what was wrong with it. */
function useRunCells(rows: readonly RunRow[]) {
  const show = useShow();
  const { save } = useWorkspace();
  const [faults, setFaults] = useState<readonly cabling.RunFault[]>([]);
  const write = useCallback(
    async (edits: readonly CellEdit[]): Promise<boolean> => {
      const plan = cabling.planRuns(show, writtenOf(rows, edits));
      setFaults(plan.ok ? [] : plan.faults);
      return plan.ok && save(plan.change);
    },
    [rows, show, save],
  );
  const cells = useMemo<Cells<RunRow>>(
    () => ({
      canEdit: isField,
      // no column names a run: a block with headings is read as a list
      headings: new Map(),
      knownBy: 'from',
      textOf: (row, key) => (isField(key) ? row[key] : ''),
      save: write,
    }),
    [write],
  );
  return { cells, faults, forgive: () => setFaults([]) };
}

const isField = (key: string): key is cabling.RunField => cabling.runFields.some((field) => field === key);

function Head({
  rows,
  onBegin,
  children,
}: {
  readonly rows: readonly RunRow[];
  readonly onBegin: (what: Doing) => void;
  readonly children: ReactNode;
}) {
  const summary = summaryOf(useShow(), rows.length);
  return (
    <ScreenHead title="Cabling" summary={summary}>
      {rows.length > 0 && <>{children}</>}
      <button type="button" className="act" onClick={() => onBegin('read')}>
        Read a list
      </button>
      <button type="button" className="act" onClick={() => onBegin('join')}>
        Join several
      </button>
      <button type="button" className="act-main" onClick={() => onBegin('add')}>
        Add a run
      </button>
    </ScreenHead>
  );
}

/** How many runs there are, which circles nothing cuts, and how deep chains are. */
function summaryOf(show: core.Show, runs: number): string {
  if (runs === 0) return 'nothing yet';
  const loops = cabling.cablingFacts(show).domains().loops.length;
  const deep = cabling.chainsOf(show).filter(({ depth }) => depth > 1);
  return [
    findings.counted(runs, 'run'),
    ...(loops > 0 ? [`${findings.counted(loops, 'circle')} that nothing cuts`] : []),
    ...deep.map(({ worst, depth, delayMs }) => `chain of ${depth} to ${worst.name}, ${delayMs} ms`),
  ].join(' · ');
}

function NothingYet({ onBegin }: { readonly onBegin: (what: Doing) => void }) {
  return (
    <div className="flex-1">
      <Empty text="Write down what is plugged in where, and each link says which run it still lacks.">
        <button type="button" className="act-main" onClick={() => onBegin('join')}>
          Join several
        </button>
        <FirstSteps />
      </Empty>
    </div>
  );
}
