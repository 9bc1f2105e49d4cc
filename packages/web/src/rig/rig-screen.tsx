import { findings, rig, show as core } from '@deep-patch/core';
import { lazy, Suspense, useCallback, useEffect, useMemo, useState, type ReactNode } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { nothing } from '../live/nothing.ts';
import { hasWords } from '../parts/has-words.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { DataGrid, type Group } from '../parts/data-grid.tsx';
import { Empty, Loading } from '../parts/empty.tsx';
import { FirstSteps } from '../parts/first-steps.tsx';
import { NoHits } from '../parts/no-hits.tsx';
import { saveFile } from '../parts/save-file.ts';
import { TableView, useTableView, type ViewOf } from '../parts/table-view.tsx';
import { ScreenHead } from '../parts/screen-head.tsx';
import { tableCsv } from '../parts/table-csv.ts';
import type { CellEdit, Cells } from '../parts/use-cells.ts';
import { firstColumns, isCellField, rigColumns, rigHeadings, rigRows, rowText, type RigRow } from './rig-columns.tsx';
import { SeveralPanel } from './several-panel.tsx';

// what opens on demand loads on demand: the first screen stays small
const AddDeviceDialog = lazy(async () => ({ default: (await import('./add-device-dialog.tsx')).AddDeviceDialog }));
const BeforeSiteDialog = lazy(async () => ({ default: (await import('./before-site-dialog.tsx')).BeforeSiteDialog }));
const ImportDialog = lazy(async () => ({ default: (await import('./import-dialog.tsx')).ImportDialog }));
const loadPanel = () => import('./device-panel.tsx');
const DevicePanel = lazy(async () => ({ default: (await loadPanel()).DevicePanel }));
const DevicePage = lazy(async () => ({ default: (await import('./device-page.tsx')).DevicePage }));
const TypesDialog = lazy(async () => ({ default: (await import('./types-dialog.tsx')).TypesDialog }));

type Dialogue = 'import' | 'add' | 'types' | 'site';

/** The rig, or one unit of it over the whole width. */
export function RigScreen() {
  const { deviceId, view } = useParams();
  const device = useShow().devices[deviceId ?? ''];
  if (view !== 'page' || !device) return <RigTable />;
  return (
    <Suspense fallback={<Loading />}>
      <DevicePage key={device.id} device={device} />
    </Suspense>
  );
}

const viewOfRig: ViewOf = {
  name: 'deep-patch-rig-view',
  columns: rigColumns,
  first: firstColumns,
  groupings: [
    ['place', 'place'],
    ['type', 'type'],
    ['system', 'system'],
    ['none', 'nothing'],
  ],
};

function RigTable() {
  const show = useShow();
  const { analysis, showId } = useWorkspace();
  const { deviceId } = useParams();
  const navigate = useNavigate();
  const [query, setQuery] = useSearchParams();
  const [filter, setFilter] = useState('');
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const view = useTableView(viewOfRig);
  const rows = useMemo(() => rigRows(show, analysis?.findings ?? []), [show, analysis]);
  const table = useTable(rows, filter, view);
  const { cells, faults, write, forgive } = useCellWriting();
  const begin = (what: Dialogue) => setQuery({ do: what });
  // fetched while nobody waits for it: most people open a unit next
  useEffect(() => void loadPanel().catch(nothing), []);
  return (
    <>
      <Head rows={rows} onBegin={begin}>
        <input
          type="search"
          value={filter}
          onChange={(event) => setFilter(event.target.value)}
          placeholder="Filter"
          aria-label="Filter devices"
          className="field w-36"
        />
        <TableView
          view={view}
          onSave={() => saveFile(`${showId}-rig.csv`, tableCsv(table.columns, table.rows), 'text/csv')}
        />
      </Head>
      {faults.length > 0 && <CellFaults faults={faults} show={show} onClose={forgive} />}
      <div className="beside border-t border-rule">
        {rows.length === 0 ? (
          <NothingYet onBegin={begin} />
        ) : table.rows.length === 0 ? (
          <NoHits filter={filter} what="unit" onClear={() => setFilter('')} />
        ) : (
          <DataGrid
            label="Devices"
            {...table}
            idOf={idOf}
            cells={cells}
            onChosen={setChosen}
            selected={deviceId}
            onSelect={(id) => void navigate(`/shows/${showId}/rig/${id}`, { replace: deviceId !== undefined })}
          />
        )}
        {chosen.length > 1 ? <SeveralPanel ids={chosen} onWrite={write} /> : <ChosenDevice />}
      </div>
      <Dialogues doing={query.get('do')} type={query.get('type')} onClose={() => setQuery({})} />
    </>
  );
}

/** What the table shows of all rows: filtered, in groups, in the chosen columns. */
function useTable(
  rows: readonly RigRow[],
  filter: string,
  { group, columns: wanted }: ReturnType<typeof useTableView>,
) {
  const shown = useMemo(() => {
    const isMeant = hasWords(filter);
    const left = filter.trim() === '' ? rows : rows.filter((row) => isMeant(rowText(row)));
    return [...left].sort((a, b) => byText(groupText(a, group), groupText(b, group)));
  }, [rows, filter, group]);
  const counts = useMemo(() => core.groupBy(shown, (row) => groupText(row, group)), [shown, group]);
  const columns = useMemo(() => rigColumns.filter(({ key }) => wanted.includes(key)), [wanted]);
  const groupOf = useCallback(
    (row: RigRow): Group => {
      const text = groupText(row, group);
      return { id: text, label: text || `No ${group}`, detail: unitsOf(counts.get(text)?.length ?? 0) };
    },
    [group, counts],
  );
  return { rows: shown, columns, ...(group === 'none' ? {} : { groupOf }) };
}

/** Saves what was typed or pasted into cells, all of it or nothing, and keeps what was wrong with it. */
function useCellWriting() {
  const show = useShow();
  const { save } = useWorkspace();
  const [faults, setFaults] = useState<readonly rig.CellFault[]>([]);
  const write = useCallback(
    async (cells: readonly rig.Cell[]): Promise<boolean> => {
      const plan = rig.planCells(show, cells);
      setFaults(plan.ok ? [] : plan.faults);
      return plan.ok && save(plan.change);
    },
    [show, save],
  );
  const cells = useMemo<Cells<RigRow>>(
    () => ({
      canEdit: isCellField,
      headings: rigHeadings,
      knownBy: 'name',
      textOf: (row, key) => (isCellField(key) ? row.texts[key] : ''),
      save: (edits: readonly CellEdit[]) =>
        write(edits.flatMap(({ id, key, text }) => (isCellField(key) ? [{ deviceId: id, field: key, text }] : []))),
    }),
    [write],
  );
  return { cells, faults, write, forgive: () => setFaults([]) };
}

function Head({
  rows,
  onBegin,
  children,
}: {
  readonly rows: readonly RigRow[];
  readonly onBegin: (what: Dialogue) => void;
  readonly children: ReactNode;
}) {
  const places = new Set(rows.flatMap(({ device }) => device.place || [])).size;
  const summary =
    rows.length === 0
      ? 'nothing yet'
      : `${findings.counted(rows.length, 'device')}${places > 0 ? ` in ${findings.counted(places, 'place')}` : ''}`;
  return (
    <ScreenHead title="Rig" summary={summary}>
      {rows.length > 0 && (
        <>
          {children}
          <button type="button" className="act" onClick={() => onBegin('site')}>
            Before the site
          </button>
        </>
      )}
      <button type="button" className="act" onClick={() => onBegin('types')}>
        Types
      </button>
      <button type="button" className="act" onClick={() => onBegin('add')}>
        Add device
      </button>
      <button type="button" className="act-main" onClick={() => onBegin('import')}>
        Read a gear list
      </button>
    </ScreenHead>
  );
}

function NothingYet({ onBegin }: { readonly onBegin: (what: Dialogue) => void }) {
  return (
    <div className="flex-1">
      <Empty text="Start with the list of what is in the cases: paste it from a spreadsheet or drop a workbook or CSV file.">
        <button type="button" className="act-main" onClick={() => onBegin('import')}>
          Read a gear list
        </button>
        <FirstSteps />
      </Empty>
    </div>
  );
}

/** The page of the unit that the address names. */
function ChosenDevice() {
  const { deviceId } = useParams();
  const { devices } = useShow();
  const device = deviceId === undefined ? undefined : devices[deviceId];
  if (device)
    return (
      <Suspense fallback={<aside aria-busy="true" className="panel w-95 md:max-lg:w-80" />}>
        <DevicePanel key={device.id} device={device} />
      </Suspense>
    );
  return (
    deviceId !== undefined && (
      <aside className="panel w-90">
        <Empty text="This device is no longer in the show. Taking the last change back may bring it back." />
      </aside>
    )
  );
}

function Dialogues({
  doing,
  type,
  onClose,
}: {
  readonly doing: string | null;
  readonly type: string | null;
  readonly onClose: () => void;
}) {
  return (
    <Suspense fallback={null}>
      {doing === 'import' && <ImportDialog onClose={onClose} />}
      {doing === 'add' && <AddDeviceDialog onClose={onClose} />}
      {doing === 'types' && <TypesDialog first={type} onClose={onClose} />}
      {doing === 'site' && <BeforeSiteDialog onClose={onClose} />}
    </Suspense>
  );
}

const idOf = ({ device: { id } }: RigRow): string => id;
const unitsOf = (count: number): string => (count === 1 ? '1 unit' : `${count} units`);
const byText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

function groupText(row: RigRow, group: string): string {
  if (group === 'type') return row.type;
  return isCellField(group) ? row.texts[group] : '';
}

function CellFaults({
  faults,
  show,
  onClose,
}: {
  faults: readonly rig.CellFault[];
  show: core.Show;
  onClose: () => void;
}) {
  return (
    <div
      role="alert"
      className="mx-4.5 mb-2 flex items-start gap-3 border-l-3 border-error bg-error/12 px-3 py-2 text-[13px]"
    >
      <div>
        <b>Nothing was changed.</b>
        <ul>
          {faults.slice(0, 5).map(({ deviceId, field, text, message }) => (
            <li key={`${deviceId} ${field}`}>
              {show.devices[deviceId]?.name}, {rigColumns.find(({ key }) => key === field)?.header}: “{text}”. {message}
              .
            </li>
          ))}
          {faults.length > 5 && <li>and {faults.length - 5} more</li>}
        </ul>
      </div>
      <button type="button" className="act-quiet ml-auto" onClick={onClose}>
        Close
      </button>
    </div>
  );
}
