import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { cues as cueRoom, type contract, type show as core, type Show } from '@deep-patch/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { GripVertical } from 'lucide-react';
import { useEffect, useRef, type KeyboardEvent } from 'react';
import { useBenchPart } from '../live/bench-store.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Mark } from '../parts/mark.tsx';

interface Props {
  readonly order: readonly core.Cue[];
  readonly chosen: string | undefined;
  readonly run: contract.CueRunState | null | undefined;
  readonly onChoose: (id: string) => void;
}

const rowHeight = 33;
const tideHeight = 40;

/** The running order with a tide line that moves down through it: above it what was done, below it what comes. */
export function CueList({ order, chosen, run, onChoose }: Props) {
  const show = useShow();
  const { save } = useWorkspace();
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor),
  );
  const move = (id: string, to: number) => void save(cueRoom.planMoveCue(show, id, to));
  const drop = ({ active, over }: DragEndEvent) => {
    const to = order.findIndex(({ id }) => id === over?.id);
    if (to >= 0 && active.id !== over?.id) move(String(active.id), to);
  };
  return (
    <div className="flex min-w-0 flex-1 flex-col overflow-x-auto">
      <div className={`${columns} border-b border-rule py-2 text-xs text-mute`}>
        <span />
        <span>No.</span>
        <span>Name</span>
        <span>What it does</span>
        <span>Starts</span>
        <span>Proof</span>
      </div>
      <DndContext sensors={sensors} onDragEnd={drop}>
        <Rows {...{ order, chosen, run, onChoose }} onMove={move} />
      </DndContext>
    </div>
  );
}

const columns = 'grid min-w-[40rem] grid-cols-[1rem_3.5rem_minmax(6rem,1fr)_minmax(8rem,1.6fr)_8.5rem_6rem] gap-2 px-3';

function Rows({ order, chosen, run, onChoose, onMove }: Props & { readonly onMove: (id: string, to: number) => void }) {
  const box = useRef<HTMLDivElement>(null);
  const found = run ? order.findIndex(({ id }) => id === run.nextId) : -1;
  const tide = run && found < 0 ? order.length : found;
  // oxlint-disable-next-line react/incompatible-library -- the virtualizer is used within this component only
  const rows = useVirtualizer({
    count: order.length,
    getScrollElement: () => box.current,
    estimateSize: (at) => (at === tide ? rowHeight + tideHeight : rowHeight),
    overscan: 8,
  });
  useEffect(() => rows.measure(), [rows, tide]);
  const key = (event: KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const at = order.findIndex(({ id }) => id === chosen);
    const own = order[at];
    if (by === undefined) return;
    event.preventDefault();
    const to = Math.min(order.length - 1, Math.max(0, at + by));
    if (event.altKey && own && to !== at) onMove(own.id, to);
    else if (order[to]) onChoose(order[to].id);
    rows.scrollToIndex(to);
  };
  const end = tide === order.length && run ? tideHeight : 0;
  return (
    <div
      ref={box}
      role="grid"
      aria-label="Cues"
      tabIndex={0}
      className="min-h-0 min-w-[40rem] flex-1 overflow-y-auto"
      onKeyDown={key}
    >
      <div className="relative" style={{ height: rows.getTotalSize() + end }}>
        {rows.getVirtualItems().map(({ index, start }) => {
          const cue = order[index];
          return (
            cue && (
              <div key={cue.id} className="absolute top-0 w-full" style={{ transform: `translateY(${start}px)` }}>
                {index === tide && run && <Tide run={run} />}
                <CueRow {...{ cue, run, onChoose }} isChosen={cue.id === chosen} isPast={tide > index} />
              </div>
            )
          );
        })}
        {end > 0 && run && (
          <div className="absolute bottom-0 w-full">
            <Tide run={run} />
          </div>
        )}
      </div>
    </div>
  );
}

function Tide({ run }: { readonly run: contract.CueRunState }) {
  const show = useShow();
  const [first] = run.waiting;
  const number = first && show.cues[first.cueId]?.number;
  return (
    <div
      className="flex items-center gap-3 border-t-2 border-accent bg-accent/15 px-3 text-[13px]"
      style={{ height: tideHeight }}
      role="row"
    >
      <span role="gridcell" className="flex gap-3">
        <b className="text-accent">{run.rehearsing ? 'rehearsing' : run.running ? 'we are here' : 'stopped here'}</b>
        <span className="text-mute">
          {first
            ? `${number} by itself in ${Math.ceil(first.inMs / 1000)} s`
            : run.nextId === null
              ? 'the list is through'
              : 'none waits'}
        </span>
      </span>
    </div>
  );
}

function CueRow({
  cue,
  isChosen,
  isPast,
  run,
  onChoose,
}: {
  readonly cue: core.Cue;
  readonly isChosen: boolean;
  readonly isPast: boolean;
  readonly run: contract.CueRunState | null | undefined;
  readonly onChoose: (id: string) => void;
}) {
  const show = useShow();
  const { setNodeRef: setDrag, listeners, attributes } = useDraggable({ id: cue.id });
  const { setNodeRef: setDrop, isOver } = useDroppable({ id: cue.id });
  const does = cue.messages.map((message) => cueRoom.messageWords(show, message)).join(' · ');
  const look = `${isChosen ? 'bg-base-300 shadow-[inset_3px_0_0_var(--color-primary)]' : ''} ${isOver ? 'border-t-2 border-t-accent' : ''}`;
  return (
    <div
      ref={setDrop}
      role="row"
      aria-selected={isChosen}
      className={`${columns} h-[33px] cursor-pointer items-center border-b border-rule ${look} ${cue.enabled ? '' : 'opacity-50'} ${isPast ? 'text-mute' : ''}`}
      onClick={() => onChoose(cue.id)}
    >
      <span role="gridcell">
        <button
          ref={setDrag}
          type="button"
          className="cursor-grab text-faint"
          {...listeners}
          {...attributes}
          aria-label={`Move cue ${cue.number}`}
        >
          <GripVertical size={13} aria-hidden />
        </button>
      </span>
      <span role="gridcell" className="key-num">
        {cue.number}
      </span>
      <span role="gridcell" className="truncate font-semibold">
        {cue.name}
      </span>
      <span role="gridcell" className="truncate text-mute" title={does}>
        {does || 'nothing yet'}
      </span>
      <span role="gridcell" className="truncate text-[13px] text-mute">
        {cueRoom.startWords(show, cue)}
      </span>
      <span role="gridcell" className="truncate">
        <Proof cue={cue} run={run} />
      </span>
    </div>
  );
}

/** A name in a cue's messages that its target does not have now, as it is on the bench (need 6.11). */
function missingName(show: Show, cue: core.Cue, standins: readonly contract.StandinState[]): string | undefined {
  const lists = (id: string, list: string) => standins.find(({ deviceId }) => deviceId === id)?.lists[list];
  for (const message of cue.messages) {
    const { target, command, args } = cueRoom.aimedAt(show, message);
    const found = cueRoom.namesIn(target, command, args, lists).find(({ check }) => check.state === 'unknown');
    if (found) return found.given;
  }
  return undefined;
}

function Proof({ cue, run }: { readonly cue: core.Cue; readonly run: contract.CueRunState | null | undefined }) {
  const show = useShow();
  const { analysis } = useWorkspace();
  const gone = useBenchPart((known) => (known ? missingName(show, cue, known.standins) : undefined));
  const last = run?.done.findLast(({ cueId }) => cueId === cue.id);
  const wrong = analysis?.findings.find(
    ({ room, subjects }) => room === 'cues' && subjects.some(({ id }) => id === cue.id),
  );
  if (gone !== undefined)
    return (
      <span className="text-xs text-warning" title={`Nobody there is called “${gone}” now`}>
        <Mark state="risky" size={12} /> no such name
      </span>
    );
  if (last) {
    const isDone = last.deliveries.every(({ outcome }) => outcome === 'done');
    return (
      <span className="text-xs">
        <Mark state={isDone ? 'pass' : 'fail'} size={12} />{' '}
        {isDone ? (last.tookMs < 1000 ? `${last.tookMs} ms` : `${Math.round(last.tookMs / 100) / 10} s`) : 'no effect'}
      </span>
    );
  }
  if (wrong)
    return (
      <span className="truncate text-xs text-warning">
        <Mark state={wrong.grade === 'stops' ? 'fail' : 'risky'} size={12} /> to mend
      </span>
    );
  const proof = cueRoom.proofOf(show, cue);
  return (
    <span className="text-xs text-mute">
      <Mark state={proof === 'done' ? 'pass' : proof === 'failed' ? 'fail' : 'waits'} size={12} />{' '}
      {{ done: 'proved', failed: 'failed', stale: 'changed since', none: '' }[proof]}
    </span>
  );
}
