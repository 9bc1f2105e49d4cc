import { rig } from '@deep-patch/core';
import { useMemo, useState, type ClipboardEvent, type DragEvent } from 'react';
import { useSteadyIds } from '../live/steady-ids.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { Tick } from '../parts/typed-fields.tsx';
import { UnderWay } from '../parts/under-way.tsx';
import { GearPreview } from './gear-preview.tsx';
import { useGearList } from './use-gear-list.ts';

const mostBytes = 10_000_000;
const example = 'name,type,unit,place,mac,firmware\nCamera 1,Pan-tilt camera,1,Quay stage,02:1e:70:00:00:01,2.1';

const refusals = {
  empty: 'There is nothing in it.',
  binary: 'This is no text. Save the list as CSV and try again.',
  too_many_rows: 'More than 20,000 rows. Split the list.',
  not_utf8: 'The text is not UTF-8, so letters such as é may be misread.',
} as const;

/** Paste or drop, look at what was understood, take it in as one change. */
export function ImportDialog({ onClose }: { onClose: () => void }) {
  const { state, read, readAgain, reset } = useGearList(useShow());
  return (
    <Dialog title="Read a gear list" onClose={onClose} wide>
      {state.kind === 'waiting' && <Source onRead={read} />}
      {state.kind === 'reading' && <UnderWay label="Reading the list" share={state.share} onStop={reset} />}
      {state.kind === 'refused' && (
        <div role="alert" className="grid gap-3">
          <p className="text-error">{refusals[state.fault]}</p>
          <div className="flex gap-2">
            <button type="button" className="act-main" onClick={reset}>
              Try another
            </button>
            {state.fault === 'not_utf8' && (
              <button type="button" className="act" onClick={() => readAgain({ western: true })}>
                Read it as Western European
              </button>
            )}
          </div>
        </div>
      )}
      {state.kind === 'read' && (
        <div className="grid gap-3">
          <GearPreview
            list={state.list}
            cells={state.cells}
            onColumns={(columns) => readAgain({ columns })}
            onCell={(patch) => readAgain({ patch })}
          />
          <TakeIn list={state.list} onAgain={reset} onDone={onClose} />
        </div>
      )}
    </Dialog>
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
      <p>Paste rows from a spreadsheet, or drop a CSV file here. Any order of columns will do; a header helps.</p>
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
          accept=".csv,.tsv,.txt,text/csv,text/plain"
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
  const good = list.rows.filter(({ line }) => !bad.has(line));
  const rows = leaveOut ? good : list.rows;
  const ready = rows.length > 0 && !noColumn && (leaveOut || bad.size === 0);
  const takeIn = async () => {
    setTaking(true);
    const done = await save(rig.planTakeIn(show, rows, steady.begin()));
    setTaking(false);
    if (done) onDone();
  };
  return (
    <div className="flex flex-wrap items-center gap-3">
      {bad.size > 0 && !noColumn && good.length > 0 && (
        <Tick checked={leaveOut} onTick={setLeaveOut}>
          Leave out the {bad.size} marked {bad.size === 1 ? 'row' : 'rows'}
        </Tick>
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
