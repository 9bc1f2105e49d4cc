import { addressing, type rig } from '@deep-patch/core';
import { lazy, Suspense, useMemo, useState, type ClipboardEvent, type DragEvent } from 'react';
import { useSteadyIds } from '../live/steady-ids.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { Tick } from '../parts/typed-fields.tsx';
import { UnderWay } from '../parts/under-way.tsx';
import { GearPreview } from './gear-preview.tsx';
import type { GearFault } from './gear.worker.ts';
import { useGearList } from './use-gear-list.ts';

const mostBytes = 10_000_000;
const example =
  'name,type,quantity,place,address\nCamera,Pan-tilt camera,3,Quay stage,\nDesk,Lighting desk,,Tower,10.61.20.60';

const TypesDialog = lazy(async () => ({ default: (await import('./types-dialog.tsx')).TypesDialog }));

const refusals: Readonly<Record<GearFault, string>> = {
  empty: 'There is nothing in it.',
  binary: 'This is no text and no workbook. Save the list as CSV or .xlsx and try again.',
  not_xlsx: 'The workbook cannot be read: it is damaged, or locked with a password. Save it again, or as CSV.',
  too_many_rows: 'More than 20,000 rows. Split the list.',
  not_utf8: 'The text is not UTF-8, so letters such as é may be misread.',
};

/**
 * Paste or drop, look at what was understood, take it in as one change. A list that was not taken in waits here until
 * somebody starts over.
 */
export function ImportDialog({ onClose }: { onClose: () => void }) {
  const { showId } = useWorkspace();
  const { state, read, readAgain, reset } = useGearList(useShow(), showId);
  const [making, setMaking] = useState<string>();
  if (making !== undefined)
    return (
      <Suspense fallback={null}>
        <TypesDialog first={null} making={making} onClose={() => setMaking(undefined)} />
      </Suspense>
    );
  return (
    <Dialog title="Read a gear list" onClose={onClose} wide unsaved={false}>
      {state.kind === 'waiting' && <Source onRead={read} />}
      {state.kind === 'reading' && <UnderWay label="Reading the list" share={state.share} onStop={reset} />}
      {state.kind === 'refused' && (
        <Refused fault={state.fault} onAgain={reset} onWestern={() => readAgain({ western: true })} />
      )}
      {state.kind === 'read' && (
        <div className="grid gap-3">
          {state.sheets.length > 1 && (
            <SheetChoice sheets={state.sheets} sheet={state.sheet} onChoose={(sheet) => readAgain({ sheet })} />
          )}
          <GearPreview list={state.list} cells={state.cells} onMend={readAgain} onMakeType={setMaking} />
          <TakeIn
            list={state.list}
            onAgain={reset}
            onDone={() => {
              reset();
              onClose();
            }}
          />
        </div>
      )}
    </Dialog>
  );
}

function Refused({
  fault,
  onAgain,
  onWestern,
}: {
  readonly fault: GearFault;
  readonly onAgain: () => void;
  readonly onWestern: () => void;
}) {
  return (
    <div role="alert" className="grid gap-3">
      <p className="text-error">{refusals[fault]}</p>
      <div className="flex gap-2">
        <button type="button" className="act-main" onClick={onAgain}>
          Try another
        </button>
        {fault === 'not_utf8' && (
          <button type="button" className="act" onClick={onWestern}>
            Read it as Western European
          </button>
        )}
      </div>
    </div>
  );
}

function SheetChoice({
  sheets,
  sheet,
  onChoose,
}: {
  readonly sheets: readonly string[];
  readonly sheet: number;
  readonly onChoose: (sheet: number) => void;
}) {
  return (
    <label className="flex items-center gap-3">
      Sheet
      <select className="field-select w-56" value={sheet} onChange={(event) => onChoose(Number(event.target.value))}>
        {sheets.map((name, at) => (
          <option key={name} value={at}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Where rows are pasted and a file dropped. */
function Source({ onRead }: { readonly onRead: (bytes: Uint8Array) => void }) {
  const [tooLarge, setTooLarge] = useState(false);
  const readText = (text: string) => onRead(new TextEncoder().encode(text));
  const readFile = async (file: File | undefined) => {
    if (!file) return;
    setTooLarge(file.size > mostBytes);
    if (file.size <= mostBytes) onRead(new Uint8Array(await file.arrayBuffer()));
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    void readFile(event.dataTransfer.files[0]);
  };
  const paste = (event: ClipboardEvent) => {
    const text = event.clipboardData.getData('text');
    if (!text.trim()) return;
    event.preventDefault();
    readText(text);
  };
  return (
    <div onDrop={drop} onDragOver={(event) => event.preventDefault()} className="grid gap-3">
      <p>
        Paste rows from a spreadsheet, or drop a workbook (.xlsx) or CSV file here. Any order of columns will do, in
        English, German, French, Spanish, Dutch or Italian. “Camera x 3” becomes three units.
      </p>
      <textarea
        aria-label="Paste the list here"
        onPaste={paste}
        onChange={(event) => event.target.value.includes('\n') && readText(event.target.value)}
        placeholder={example}
        rows={7}
        className="textarea key-num w-full border-dashed border-line bg-base-100"
      />
      <label className="flex items-center gap-3 text-mute">
        or choose a file
        <input
          type="file"
          accept=".xlsx,.csv,.tsv,.txt,text/csv,text/plain"
          className="file-input file-input-sm border-line"
          onChange={(event) => void readFile(event.target.files?.[0])}
        />
      </label>
      {tooLarge && (
        <p role="alert" className="text-error">
          The file is larger than 10 MB. Split the list.
        </p>
      )}
    </div>
  );
}

/** All rows as one change, or those without a mark. */
function TakeIn({
  list,
  onAgain,
  onDone,
}: {
  readonly list: rig.GearList;
  readonly onAgain: () => void;
  readonly onDone: () => void;
}) {
  const show = useShow();
  const { save } = useWorkspace();
  const steady = useSteadyIds();
  const [leaveOut, setLeaveOut] = useState(false);
  const [taking, setTaking] = useState(false);
  const bad = useMemo(
    () => new Set(list.problems.filter(({ isBlocking }) => isBlocking).map(({ line }) => line)),
    [list],
  );
  const noColumn = bad.has(0);
  const good = useMemo(() => list.rows.filter(({ line }) => !bad.has(line)), [list, bad]);
  const rows = leaveOut ? good : list.rows;
  const networks = useMemo(() => addressing.networksFor(show, rows, () => 'new'), [show, rows]);
  const ready = rows.length > 0 && !noColumn && (leaveOut || bad.size === 0);
  const takeIn = async () => {
    setTaking(true);
    const done = await save(addressing.planTakeIn(show, rows, steady.begin()));
    setTaking(false);
    if (done) onDone();
  };
  return (
    <div className="flex flex-wrap items-center gap-3">
      {bad.size > 0 && !noColumn && good.length > 0 && (
        <Tick checked={leaveOut} onTick={setLeaveOut}>
          Leave out the {bad.size} marked {bad.size === 1 ? 'line' : 'lines'}
        </Tick>
      )}
      {networks.length > 0 && (
        <span className="text-mute">
          Adds {networks.length === 1 ? 'the network' : 'the networks'}{' '}
          {networks.map(({ network, prefix }) => `${network}/${prefix}`).join(', ')}
        </span>
      )}
      <button type="button" className="act ml-auto" onClick={onAgain}>
        Start over
      </button>
      <button type="button" className="act-main" disabled={!ready || taking} onClick={() => void takeIn()}>
        {taking ? 'Taking in' : `Take in ${rows.length} ${rows.length === 1 ? 'unit' : 'units'}`}
      </button>
    </div>
  );
}
