import { rig, show as core } from '@deep-patch/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, type CSSProperties } from 'react';
import { Mark } from '../parts/mark.tsx';
import { fieldWords, type Mend } from './gear-columns.ts';
import { GearProblems } from './gear-problems.tsx';
import type { CellPatch } from './gear.worker.ts';

interface Props {
  readonly list: rig.GearList;
  readonly cells: readonly (readonly string[])[];
  readonly onMend: (mend: Mend) => void;
  readonly onMakeType: (name: string) => void;
}

const rowHeight = 28;

/** The list as it was understood: what each column holds, every problem at its cell, and all of them in words above. */
export function GearPreview({ list, cells, onMend, onMakeType }: Props) {
  const { columns, problems } = list;
  const scroller = useRef<HTMLDivElement>(null);
  const byLine = useMemo(() => core.groupBy(problems, ({ line }) => String(line)), [problems]);
  const body = useMemo(
    () => cells.map((row, at) => ({ row, line: at + 1 })).slice(columns.header),
    [cells, columns.header],
  );
  // oxlint-disable-next-line react/incompatible-library -- the virtualizer is used within this component only
  const virtual = useVirtualizer({
    count: body.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 10,
  });
  const template = { gridTemplateColumns: `3.5rem repeat(${columns.fields.length}, minmax(7rem, 1fr))` };
  const counts = useMemo(() => core.groupBy(list.rows, ({ line }) => String(line)), [list]);
  return (
    <div className="grid gap-3">
      <Summary list={list} />
      {problems.length > 0 && (
        <GearProblems
          {...{ list, cells, onMend, onMakeType }}
          onGo={(line) => virtual.scrollToIndex(Math.max(0, line - columns.header - 1))}
        />
      )}
      <div
        ref={scroller}
        role="grid"
        aria-label="Preview of the gear list"
        aria-rowcount={body.length}
        tabIndex={0}
        className="h-72 overflow-auto rounded-box border border-rule bg-base-100"
      >
        <ColumnHeads columns={columns} template={template} onMend={onMend} />
        <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((item) => {
            const entry = body[item.index];
            return (
              entry && (
                <PreviewRow
                  key={item.key}
                  {...entry}
                  rowIndex={item.index + 1}
                  fields={columns.fields}
                  problems={byLine.get(String(entry.line)) ?? []}
                  units={counts.get(String(entry.line))?.length ?? 0}
                  style={{ ...template, height: rowHeight, transform: `translateY(${item.start}px)` }}
                  onCell={(patch) => onMend({ patches: [patch] })}
                />
              )
            );
          })}
        </div>
      </div>
    </div>
  );
}

const unitsOf = (count: number): string => `${count} ${count === 1 ? 'unit' : 'units'}`;
const headWords = (header: number): string => {
  if (header === 0) return ', no headings found';
  return header === 1 ? ', the first line has the headings' : `, the headings stand in line ${header}`;
};

function Summary({ list: { rows, columns, problems } }: Pick<Props, 'list'>) {
  const stopping = problems.filter(({ isBlocking }) => isBlocking).length;
  return (
    <p>
      {unitsOf(rows.length)} read{headWords(columns.header)}.{' '}
      {problems.length === 0 ? (
        <span className="text-success">
          <Mark state="pass" /> nothing to mend
        </span>
      ) : (
        <span className={stopping > 0 ? 'text-error' : 'text-warning'}>
          <Mark state={stopping > 0 ? 'fail' : 'risky'} /> {problems.length} to look at
          {stopping > 0 && `, ${stopping} must be mended or left out`}
        </span>
      )}
    </p>
  );
}

/** What each column holds, to be put right by hand: a field stands in one column only. */
function ColumnHeads({
  columns,
  template,
  onMend,
}: Pick<Props, 'onMend'> & { readonly columns: rig.GearColumns; readonly template: CSSProperties }) {
  const choose = (at: number, field: rig.GearField | null) =>
    onMend({
      columns: {
        ...columns,
        fields: columns.fields.map((held, column) => (column === at ? field : held === field ? null : held)),
      },
    });
  return (
    <div role="row" className="sticky top-0 z-1 grid bg-base-200" style={template}>
      <span role="columnheader" className="px-2 py-1.5 text-xs text-mute">
        Line
      </span>
      {columns.fields.map((field, at) => (
        <span key={at} role="columnheader" className="p-1">
          <select
            aria-label={`Column ${at + 1} holds`}
            className="select select-xs w-full border-line bg-base-100"
            value={field ?? ''}
            onChange={(event) => choose(at, (event.target.value || null) as rig.GearField | null)}
          >
            <option value="">left out</option>
            {rig.gearFields.map((name) => (
              <option key={name} value={name}>
                {fieldWords[name]}
              </option>
            ))}
          </select>
        </span>
      ))}
    </div>
  );
}

interface RowProps {
  readonly onCell: (patch: CellPatch) => void;
  /** How many units the line stands for; none where it is left out. */
  readonly units: number;
  readonly row: readonly string[];
  readonly line: number;
  readonly rowIndex: number;
  readonly fields: rig.GearColumns['fields'];
  readonly problems: readonly rig.GearProblem[];
  readonly style: CSSProperties;
}

function PreviewRow({ row, line, rowIndex, fields, problems, units, style, onCell }: RowProps) {
  const isBlank = row.every((cell) => cell.trim() === '');
  return (
    <div
      role="row"
      aria-rowindex={rowIndex}
      className={`absolute inset-x-0 grid items-center border-b border-rule ${units === 0 && !isBlank ? 'text-faint line-through' : ''}`}
      style={style}
    >
      <span role="gridcell" className="px-2 font-mono text-xs text-mute">
        {line}
        {units > 1 && ` ×${units}`}
        {units === 0 && !isBlank && <span className="sr-only"> left out</span>}
      </span>
      {fields.map((field, at) => (
        <PreviewCell
          key={at}
          text={row[at] ?? ''}
          line={line}
          field={field}
          fault={problems.find((problem) => problem.field === field)}
          onDone={(text) => onCell({ line, column: at, text })}
        />
      ))}
    </div>
  );
}

const inKeys: ReadonlySet<rig.GearField | null> = new Set([
  'mac',
  'firmware',
  'unit',
  'quantity',
  'address',
  'hostName',
  'serial',
]);

function PreviewCell({
  text,
  line,
  field,
  fault,
  onDone,
}: {
  readonly text: string;
  readonly line: number;
  readonly field: rig.GearField | null;
  readonly fault: rig.GearProblem | undefined;
  readonly onDone: (text: string) => void;
}) {
  const tone = fault && (fault.isBlocking ? 'bg-error/15 text-error' : 'bg-warning/15 text-warning');
  const look = [tone, inKeys.has(field) && 'font-mono', field === null && 'text-faint line-through'];
  return (
    <span
      role="gridcell"
      className={`flex items-center gap-1 truncate px-2 text-[13px] ${look.filter(Boolean).join(' ')}`}
    >
      {fault ? (
        <>
          <Mark state={fault.isBlocking ? 'fail' : 'risky'} size={11} />
          <CellInput text={text} label={`Line ${line}, ${fieldWords[fault.field]}`} onDone={onDone} />
        </>
      ) : (
        text
      )}
    </span>
  );
}

/** A cell that can be put right on the spot; Enter or leaving it reads the list again. */
function CellInput({ text, label, onDone }: { text: string; label: string; onDone: (text: string) => void }) {
  const done = (typed: string) => {
    if (typed !== text) onDone(typed);
  };
  return (
    <input
      key={text}
      aria-label={label}
      defaultValue={text}
      spellCheck={false}
      onBlur={(event) => done(event.target.value)}
      onKeyDown={(event) => {
        if (event.key === 'Enter') done(event.currentTarget.value);
      }}
      className="min-w-0 flex-1 bg-transparent outline-offset-0"
    />
  );
}
