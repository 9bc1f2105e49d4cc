import { cabling, show as core, type show } from '@deep-patch/core';
import { Link, useLocation } from 'react-router';
import { useNotices } from '../live/notices.tsx';
import { useSaveAndGo } from '../live/use-save-and-go.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { CloseLink } from '../parts/close-link.tsx';
import { FindingCard } from '../parts/finding-card.tsx';
import { WithoutIt } from './losses/losses-view.tsx';
import type { LossAnswers } from './losses/losses.worker.ts';
import { runBlock, sumsOf, type RunRow } from './run-rows.ts';

interface RunPanelProps {
  readonly row: RunRow;
  readonly known: LossAnswers['each'] | undefined;
}

/** One run: both ends, what it carries, what is wrong with it. */
export function RunPanel({ row, known }: RunPanelProps) {
  const show = useShow();
  const { analysis, showId } = useWorkspace();
  const saveAndGo = useSaveAndGo();
  const { search } = useLocation();
  const { cable } = row;
  const words = cabling.runWords(show, cable);
  const found = (analysis?.findings ?? []).filter(
    ({ room, subjects }) => room === 'cabling' && isAbout(subjects, cable),
  );
  const unplug = async () => {
    const change = core.planRemove(show, 'cables', [cable.id], `Unplug ${words}`.slice(0, 200));
    await saveAndGo(change, { pathname: `/shows/${showId}/cabling`, search });
  };
  return (
    <aside aria-label={words} className="panel grid w-86 content-start gap-4 p-4">
      <div className="flex items-start gap-2">
        <h2 className="text-[15px] font-bold">{words}</h2>
        <CloseLink to={{ pathname: `/shows/${showId}/cabling`, search }} name={words} />
      </div>
      {found.map((finding) => (
        <FindingCard key={finding.key} finding={finding} />
      ))}
      <RunFacts row={row} />
      <WithoutIt runId={cable.id} known={known} />
      <p className="text-[13px] text-mute">
        In the table: Enter types into a cell. Another unit or socket moves that end, in one act.
      </p>
      <button type="button" className="act-quiet justify-self-start text-error" onClick={() => void unplug()}>
        Unplug it
      </button>
    </aside>
  );
}

function RunFacts({ row }: { readonly row: RunRow }) {
  const { cable } = row;
  return (
    <dl className="grid grid-cols-[5rem_1fr] gap-x-3 gap-y-1">
      <dt className="text-mute">From</dt>
      <dd>
        <UnitLink id={cable.fromDevice} /> {row.fromSocket}
      </dd>
      <dt className="text-mute">To</dt>
      <dd>
        <UnitLink id={cable.toDevice} /> {row.toSocket}
      </dd>
      <dt className="text-mute">Kind</dt>
      <dd>{row.medium}</dd>
      <dt className="text-mute">Length</dt>
      <dd>{cable.lengthM === null ? 'not written down' : `${cable.lengthM} m`}</dd>
      {cable.stage !== 'both' && (
        <>
          <dt className="text-mute">When</dt>
          <dd>{row.stage}</dd>
        </>
      )}
      <dt className="text-mute">Carries</dt>
      <dd>{row.carries || 'no network'}</dd>
      {cable.delayMs !== null && (
        <>
          <dt className="text-mute">Delay</dt>
          <dd>{cable.delayMs} ms one way</dd>
        </>
      )}
    </dl>
  );
}

/** Several runs: how much cable that is, and out with them. */
export function SeveralRuns({ rows }: { readonly rows: readonly RunRow[] }) {
  const show = useShow();
  const { save } = useWorkspace();
  const { tell } = useNotices();
  const ids = rows.map(({ cable }) => cable.id);
  return (
    <aside aria-label={`${rows.length} runs`} className="panel grid w-86 content-start gap-4 p-4">
      <h2 className="text-[15px] font-bold">{sumsOf(rows)}</h2>
      <p className="text-[13px] text-mute">
        Ctrl D fills the column of the cursor down from the first of them; what you paste from a spreadsheet lies over
        the cells from there.
      </p>
      <button
        type="button"
        className="act-quiet justify-self-start"
        onClick={() =>
          void navigator.clipboard
            .writeText(runBlock(rows))
            .then(() =>
              tell({ text: `${rows.length} runs are copied. Paste them into a spreadsheet, or into “Read a list”.` }),
            )
        }
      >
        Copy with headings
      </button>
      <button
        type="button"
        className="act-quiet justify-self-start text-error"
        onClick={() => void save(core.planRemove(show, 'cables', ids, `Unplug ${ids.length} runs`))}
      >
        Unplug {rows.length} runs
      </button>
    </aside>
  );
}

function UnitLink({ id }: { readonly id: string }) {
  const show = useShow();
  const { showId } = useWorkspace();
  return (
    <Link className="font-medium hover:underline" to={`/shows/${showId}/rig/${id}`}>
      {show.devices[id]?.name}
    </Link>
  );
}

const isAbout = (
  subjects: readonly { readonly table: string; readonly id: string }[],
  { id, fromDevice, toDevice }: show.Cable,
): boolean => {
  const named = new Set(subjects.map((subject) => `${subject.table} ${subject.id}`));
  return named.has(`cables ${id}`) || (named.has(`devices ${fromDevice}`) && named.has(`devices ${toDevice}`));
};
