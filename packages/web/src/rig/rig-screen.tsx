import { rig, show as core } from '@deep-patch/core';
import { lazy, Suspense, useCallback, useEffect, useMemo, useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { nothing } from '../live/nothing.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { DataGrid, type Group } from '../parts/data-grid.tsx';
import { Empty } from '../parts/empty.tsx';
import { ScreenHead } from '../parts/screen-head.tsx';
import type { CellEdit, Cells } from '../parts/use-cells.ts';
import { isCellField, rigColumns, rigRows, rowText, type RigRow } from './rig-columns.tsx';
import { SeveralPanel } from './several-panel.tsx';
import { TableView, useTableView, type Grouping } from './table-view.tsx';

// what opens on demand loads on demand: the first screen stays small
const AddDeviceDialog = lazy(async () => ({ default: (await import('./add-device-dialog.tsx')).AddDeviceDialog }));
const BeforeSiteDialog = lazy(async () => ({ default: (await import('./before-site-dialog.tsx')).BeforeSiteDialog }));
const ImportDialog = lazy(async () => ({ default: (await import('./import-dialog.tsx')).ImportDialog }));
const loadPanel = () => import('./device-panel.tsx');
const DevicePanel = lazy(async () => ({ default: (await loadPanel()).DevicePanel }));
const TypesDialog = lazy(async () => ({ default: (await import('./types-dialog.tsx')).TypesDialog }));

export function RigScreen() {
  const show = useShow();
  const { analysis, showId, save } = useWorkspace();
  const { deviceId } = useParams();
  const navigate = useNavigate();
  const [query, setQuery] = useSearchParams();
  const [filter, setFilter] = useState('');
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [faults, setFaults] = useState<readonly rig.CellFault[]>([]);
  const view = useTableView();
  const doing = query.get('do');
  const rows = useMemo(() => rigRows(show, analysis?.findings ?? []), [show, analysis]);
  const shown = useMemo(() => {
    const words = filter.toLowerCase().split(/\s+/).filter(Boolean);
    const left = words.length === 0 ? rows : rows.filter((row) => words.every((word) => rowText(row).includes(word)));
    return [...left].sort((a, b) => byText(groupText(a, view.group), groupText(b, view.group)));
  }, [rows, filter, view.group]);
  const counts = useMemo(() => core.groupBy(shown, (row) => groupText(row, view.group)), [shown, view.group]);
  const columns = useMemo(() => rigColumns.filter(({ key }) => view.columns.includes(key)), [view.columns]);
  const device = deviceId === undefined ? undefined : show.devices[deviceId];
  const close = () => setQuery({});
  // fetched while nobody waits for it: most people open a unit next
  useEffect(() => void loadPanel().catch(nothing), []);

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
      textOf: (row, key) => (isCellField(key) ? row.texts[key] : ''),
      save: (edits: readonly CellEdit[]) =>
        write(edits.flatMap(({ id, key, text }) => (isCellField(key) ? [{ deviceId: id, field: key, text }] : []))),
    }),
    [write],
  );
  const groupOf = useCallback(
    (row: RigRow): Group => {
      const text = groupText(row, view.group);
      return { id: text, label: text || `No ${view.group}`, detail: unitsOf(counts.get(text)?.length ?? 0) };
    },
    [view.group, counts],
  );

  return (
    <>
      <ScreenHead
        title="Rig"
        summary={
          rows.length === 0
            ? 'nothing yet'
            : `${rows.length} devices in ${new Set(rows.map((row) => row.device.place)).size} places`
        }
      >
        {rows.length > 0 && (
          <>
            <input
              type="search"
              value={filter}
              onChange={(event) => setFilter(event.target.value)}
              placeholder="Filter"
              aria-label="Filter devices"
              className="field w-36"
            />
            <TableView view={view} />
            <button type="button" className="act" onClick={() => setQuery({ do: 'site' })}>
              Before the site
            </button>
          </>
        )}
        <button type="button" className="act" onClick={() => setQuery({ do: 'types' })}>
          Types
        </button>
        <button type="button" className="act" onClick={() => setQuery({ do: 'add' })}>
          Add device
        </button>
        <button type="button" className="act-main" onClick={() => setQuery({ do: 'import' })}>
          Read a gear list
        </button>
      </ScreenHead>
      {faults.length > 0 && <CellFaults faults={faults} show={show} onClose={() => setFaults([])} />}
      <div className="flex min-h-0 flex-1 border-t border-rule">
        {rows.length === 0 ? (
          <div className="flex-1">
            <Empty text="Start with the list of what is in the cases: paste it from a spreadsheet or drop a CSV file.">
              <button type="button" className="act-main" onClick={() => setQuery({ do: 'import' })}>
                Read a gear list
              </button>
            </Empty>
          </div>
        ) : (
          <DataGrid
            label="Devices"
            rows={shown}
            columns={columns}
            idOf={idOf}
            {...(view.group === 'none' ? {} : { groupOf })}
            cells={cells}
            onChosen={setChosen}
            selected={deviceId}
            onSelect={(id) => void navigate(`/shows/${showId}/rig/${id}`, { replace: deviceId !== undefined })}
          />
        )}
        {chosen.length > 1 ? (
          <SeveralPanel ids={chosen} onWrite={write} />
        ) : (
          device && (
            <Suspense
              fallback={
                <aside aria-busy="true" className="w-95 shrink-0 border-l border-rule bg-base-200 max-lg:w-80" />
              }
            >
              <DevicePanel key={device.id} device={device} />
            </Suspense>
          )
        )}
        {deviceId !== undefined && !device && chosen.length < 2 && (
          <aside className="w-90 border-l border-rule bg-base-200">
            <Empty text="This device is no longer in the show. Taking the last change back may bring it back." />
          </aside>
        )}
      </div>
      <Suspense fallback={null}>
        {doing === 'import' && <ImportDialog onClose={close} />}
        {doing === 'add' && <AddDeviceDialog onClose={close} />}
        {doing === 'types' && <TypesDialog first={query.get('type')} onClose={close} />}
        {doing === 'site' && <BeforeSiteDialog onClose={close} />}
      </Suspense>
    </>
  );
}

const idOf = ({ device: { id } }: RigRow): string => id;
const unitsOf = (count: number): string => (count === 1 ? '1 unit' : `${count} units`);
const byText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

function groupText(row: RigRow, group: Grouping): string {
  if (group === 'none') return '';
  return group === 'type' ? row.type : row.texts[group];
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
