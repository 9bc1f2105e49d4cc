import { readCsv } from '@deep-patch/codecs';
import { cabling } from '@deep-patch/core';
import { useMemo, useState } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { RunFaults } from './run-faults.tsx';
import { RunsPreview } from './runs-preview.tsx';

const example = 'From,Socket,To,Socket,Kind,Length\nCamera 1,,Switch quay,port 3,copper,12';
const refusals = {
  empty: 'There is nothing in it.',
  binary: 'This is no text. Save the list as CSV and try again.',
  too_many_rows: 'More than 20,000 rows. Split the list.',
  not_utf8: 'The text is not UTF-8. Save the list as CSV in UTF-8 and try again.',
} as const;

/** Runs by paste or from a file: all of them as one change, or every fault by its line. */
export function ReadRunsDialog({ onClose }: { readonly onClose: () => void }) {
  const show = useShow();
  const { save } = useWorkspace();
  const [text, setText] = useState('');
  const read = useMemo(() => (text.trim() === '' ? undefined : readCsv(new TextEncoder().encode(text))), [text]);
  const plan = useMemo(
    () => (read?.ok ? cabling.planRuns(show, cabling.readRuns(read.cells)) : undefined),
    [show, read],
  );
  const take = async () => {
    if (plan?.ok && (await save(plan.change))) onClose();
  };
  const count = plan?.ok ? plan.runs.length : 0;
  return (
    <Dialog title="Read a list of runs" onClose={onClose} wide unsaved={text.trim() !== ''}>
      <div className="grid gap-3">
        <label className="grid gap-1">
          Paste the list here
          <textarea
            className="field h-36 py-2 font-mono text-[13px]"
            value={text}
            placeholder={example}
            spellCheck={false}
            onChange={(event) => setText(event.target.value)}
          />
        </label>
        <label className="flex flex-wrap items-center gap-2 text-mute">
          or a CSV file
          <input
            type="file"
            accept=".csv,.tsv,.txt,text/csv"
            className="file-input file-input-sm border-line bg-base-100"
            onChange={(event) => void event.target.files?.[0]?.text().then(setText)}
          />
        </label>
        {read && !read.ok && (
          <p role="alert" className="text-error">
            {refusals[read.fault]}
          </p>
        )}
        {plan && !plan.ok && <RunFaults faults={plan.faults} lineWord="Line" />}
        {plan?.ok && <RunsPreview runs={plan.runs} />}
        <button type="button" className="act-main justify-self-end" disabled={count === 0} onClick={() => void take()}>
          {count === 1 ? 'Add 1 run' : `Add ${count} runs`}
        </button>
      </div>
    </Dialog>
  );
}
