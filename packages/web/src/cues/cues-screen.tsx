import { cues as cueRoom, show as core, type Show } from '@deep-patch/core';
import { useMemo } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { useBench } from '../bench/use-bench.ts';
import { useBenchPart } from '../live/bench-store.ts';
import { newId } from '../live/identity.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Empty } from '../parts/empty.tsx';
import { ScreenHead } from '../parts/screen-head.tsx';
import { CueList } from './cue-list.tsx';
import { CuePanel } from './cue-panel.tsx';
import { ReplaceDialog } from './replace-dialog.tsx';
import { RunPanel } from './run-panel.tsx';
import { StructureStrip } from './structure-strip.tsx';
import { SeriesDialog } from './series-dialog.tsx';
import { useKeepProofs } from './use-keep-proofs.ts';

/** The running order: what is sent to whom, when, what starts it, and whether it was proved by its effect. */
export function CuesScreen() {
  const show = useShow();
  const { showId, save } = useWorkspace();
  const { act } = useBench();
  const { cueId } = useParams();
  const navigate = useNavigate();
  const [query, setQuery] = useSearchParams();
  const order = cueRoom.cuesInOrder(show);
  const run = useBenchPart((known) => known?.cueRun);
  const awaitProofs = useKeepProofs(run);
  const rehearse = () => {
    awaitProofs();
    void act({ act: 'rehearse_cues' });
  };
  const cue = cueId === undefined ? undefined : show.cues[cueId];
  const controllers = useMemo(() => controllersOf(show), [show]);
  const choose = (id: string) => void navigate(`/shows/${showId}/cues/${id}`, { replace: true });
  const add = () => {
    const id = newId();
    const controllerId = cue?.controllerId ?? order.at(-1)?.controllerId ?? controllers[0]?.id ?? '';
    void save(cueRoom.planAddCue(show, { id, name: 'New cue', controllerId }, cue?.id)).then(
      (done) => done && choose(id),
    );
  };
  const close = () => setQuery({});
  return (
    <>
      <Head
        onAdd={add}
        onDo={(what) => setQuery({ do: what })}
        isEmpty={order.length === 0}
        onRehearse={rehearse}
        hasController={controllers.length > 0}
      />
      <StructureStrip />
      {order.length === 0 ? (
        <NothingYet hasController={controllers.length > 0} onAdd={add} />
      ) : (
        <div className="beside border-t border-rule">
          <CueList order={order} chosen={cue?.id} run={run} onChoose={choose} />
          <aside className="panel-below w-96 p-4" aria-label="The cue">
            <RunPanel {...{ run, order, act }} />
            {cue && <CuePanel key={cue.id} cue={cue} {...{ act, controllers }} />}
          </aside>
        </div>
      )}
      {query.get('do') === 'series' && <SeriesDialog {...{ controllers }} onClose={close} />}
      {query.get('do') === 'replace' && <ReplaceDialog onClose={close} />}
    </>
  );
}

/** Whoever can send anything; those that control something already come first. */
function controllersOf(show: Show): core.Device[] {
  const busy = new Set(core.rowsOf(show, 'links').map(({ controllerId }) => controllerId));
  return core
    .rowsOf(show, 'devices')
    .filter((device) => (core.typeOf(show, device)?.drives.length ?? 0) > 0)
    .sort(
      (a, b) => Number(busy.has(b.id)) - Number(busy.has(a.id)) || rank(show, a) - rank(show, b) || core.byName(a, b),
    );
}

const rank = (show: Show, device: core.Device): number => Number(core.typeOf(show, device)?.kind !== 'show-host');

function Head({
  onAdd,
  onDo,
  onRehearse,
  isEmpty,
  hasController,
}: {
  readonly onAdd: () => void;
  readonly onDo: (what: string) => void;
  readonly onRehearse: () => void;
  readonly isEmpty: boolean;
  readonly hasController: boolean;
}) {
  const show = useShow();
  const { save, analysis } = useWorkspace();
  const { all, proved } = cueRoom.cueCounts(show);
  const toMend = new Set(
    (analysis?.findings ?? []).flatMap(({ room, grade, subjects }) =>
      room === 'cues' && grade !== 'note' ? subjects.map(({ id }) => id) : [],
    ),
  ).size;
  const summary = isEmpty ? '' : `${all} in order · ${proved} proved as they are · ${toMend} to mend`;
  return (
    <ScreenHead title="Cues" summary={summary}>
      {!isEmpty && (
        <>
          <button type="button" className="act" onClick={() => void save(cueRoom.planRenumber(show))}>
            Number anew
          </button>
          <button type="button" className="act" onClick={() => onDo('replace')}>
            Find and replace
          </button>
          <button type="button" className="act" onClick={onRehearse}>
            Rehearse all
          </button>
        </>
      )}
      {hasController && (
        <>
          <button type="button" className="act" onClick={() => onDo('series')}>
            A series
          </button>
          <button type="button" className="act-main" onClick={onAdd}>
            Add a cue
          </button>
        </>
      )}
    </ScreenHead>
  );
}

function NothingYet({ hasController, onAdd }: { readonly hasController: boolean; readonly onAdd: () => void }) {
  const { showId } = useWorkspace();
  return hasController ? (
    <Empty text="A cue sends one or several messages when its moment comes. Begin with the first one of the show.">
      <button type="button" className="act-main" onClick={onAdd}>
        Add a cue
      </button>
    </Empty>
  ) : (
    <Empty text="Cues are sent by a show host or another controller. Put one into the rig first.">
      <Link to={`/shows/${showId}/rig?do=add`} className="act-main">
        Add a controller
      </Link>
    </Empty>
  );
}
