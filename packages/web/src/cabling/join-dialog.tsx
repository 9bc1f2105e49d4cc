import { cabling, show as core } from '@deep-patch/core';
import { useMemo, useState } from 'react';
import { hasWords } from '../parts/has-words.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { Options } from '../parts/form-fields.tsx';
import { ChosenField, Tick, TypedField } from '../parts/typed-fields.tsx';
import { RunFaults } from './run-faults.tsx';
import { RunsPreview } from './runs-preview.tsx';

/** Several units into one switch, or one after the other: every run is shown before it is done. */
export function JoinDialog({ onClose }: { readonly onClose: () => void }) {
  const show = useShow();
  const { save } = useWorkspace();
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [shape, setShape] = useState<Shape>({ how: 'star', hubId: '', firstSocket: '', closes: false });
  // with the most free sockets first
  const hubs = cabling.cablingFacts(show).hubsIn('');
  const hubId = shape.hubId || (hubs[0]?.id ?? '');
  const plan = useMemo(() => {
    const { how, firstSocket, closes } = shape;
    if (chosen.length < (how === 'chain' ? 2 : 1)) return undefined;
    const joining = how === 'chain' ? ({ how, closes } as const) : ({ how, hubId, firstSocket } as const);
    return cabling.planRuns(show, cabling.joinRuns(show, chosen, joining));
  }, [show, chosen, shape, hubId]);
  const join = async () => {
    if (plan?.ok && (await save(plan.change))) onClose();
  };
  const count = plan?.ok ? plan.runs.length : 0;
  return (
    <Dialog title="Join several" onClose={onClose} wide unsaved={chosen.length > 0}>
      <div className="grid gap-3">
        <ShapeFields shape={{ ...shape, hubId }} hubs={hubs} onChange={setShape} />
        <UnitChoice chosen={chosen} without={shape.how === 'star' ? hubId : ''} onChoose={setChosen} />
        {plan && !plan.ok && <RunFaults faults={plan.faults} lineWord="Run" />}
        {plan?.ok && <RunsPreview runs={plan.runs} />}
        <button type="button" className="act-main justify-self-end" disabled={count === 0} onClick={() => void join()}>
          {count === 1 ? 'Add 1 run' : `Add ${count} runs`}
        </button>
      </div>
    </Dialog>
  );
}

interface Shape {
  readonly how: 'star' | 'chain';
  readonly hubId: string;
  readonly firstSocket: string;
  readonly closes: boolean;
}

function ShapeFields({
  shape,
  hubs,
  onChange,
}: {
  readonly shape: Shape;
  readonly hubs: readonly core.Device[];
  readonly onChange: (shape: Shape) => void;
}) {
  const show = useShow();
  const free = cabling.cablingFacts(show).freeSockets(shape.hubId);
  return (
    <div className="grid gap-x-3 sm:grid-cols-3">
      <ChosenField label="How" value={shape.how} onChoose={(how) => onChange({ ...shape, how: how as Shape['how'] })}>
        <option value="star">all into one switch</option>
        <option value="chain">one after the other</option>
      </ChosenField>
      {shape.how === 'star' ? (
        <>
          <ChosenField
            label="Switch"
            value={shape.hubId}
            hint={`${free.length} sockets free`}
            onChoose={(id) => onChange({ ...shape, hubId: id, firstSocket: '' })}
          >
            {hubs.length === 0 && <option value="">no switch in the rig</option>}
            <Options of={hubs.map(({ id, name }) => [id, name] as const)} />
          </ChosenField>
          <ChosenField
            label="First socket"
            value={shape.firstSocket || free[0]}
            onChoose={(socket) => onChange({ ...shape, firstSocket: socket })}
          >
            <Options of={free.map((key) => [key, core.socketLabel(show, shape.hubId, key)] as const)} />
          </ChosenField>
        </>
      ) : (
        <div className="col-span-2 self-center">
          <Tick checked={shape.closes} onTick={(closes) => onChange({ ...shape, closes })}>
            and a last run back to the first: a ring
          </Tick>
        </div>
      )}
    </div>
  );
}

/** Units in the order in which they are ticked: a chain follows it. */
function UnitChoice({
  chosen,
  without,
  onChoose,
}: {
  readonly chosen: readonly string[];
  readonly without: string;
  readonly onChoose: (ids: readonly string[]) => void;
}) {
  const show = useShow();
  const [filter, setFilter] = useState('');
  const facts = useMemo(() => cabling.cablingFacts(show), [show]);
  const isMeant = hasWords(filter);
  const listed = core
    .devicesByName(show)
    .filter(({ id, name }) => id !== without && isMeant(name))
    .filter(({ id }) => facts.freeSockets(id).length > 0 || chosen.includes(id));
  return (
    <div>
      <TypedField
        label="Units"
        hint={`${chosen.length} chosen`}
        value={filter}
        onType={setFilter}
        placeholder="Filter"
      />
      <ul className="grid max-h-48 gap-x-4 overflow-auto rounded-box border border-rule p-2 sm:grid-cols-3">
        {listed.map(({ id, name }) => {
          const at = chosen.indexOf(id);
          return (
            <li key={id} className="flex items-center gap-2">
              <Tick
                checked={at >= 0}
                onTick={(on) => onChoose(on ? [...chosen, id] : chosen.filter((other) => other !== id))}
              >
                {name}
              </Tick>
              {at >= 0 && <span className="text-xs text-mute">{at + 1}.</span>}
            </li>
          );
        })}
        {listed.length === 0 && <li className="text-mute">No unit with a free socket has this in its name.</li>}
      </ul>
    </div>
  );
}
