import { rig, show as core } from '@deep-patch/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, type CSSProperties } from 'react';
import { Mark } from '../parts/mark.tsx';
import type { CellPatch } from './gear.worker.ts';

interface Props {
  readonly list: rig.GearList;
  readonly cells: readonly (readonly string[])[];
  readonly onColumns: (columns: rig.GearColumns) => void;
  readonly onCell: (patch: CellPatch) => void;
}

const rowHeight = 28;
const fieldWords: Readonly<Record<rig.GearField, string>> = {
  name: 'Name',
  type: 'Type',
  unit: 'Unit',
  place: 'Place',
  mac: 'MAC',
  firmware: 'Firmware',
};

/** The list as it was understood: what each column holds, every problem at its cell, and all of them in words above. */
export function GearPreview({ list, cells, onColumns, onCell }: Props) {
  const { columns, problems } = list;
  const scroller = useRef<HTMLDivElement>(null);
  const byLine = useMemo(() => core.groupBy(problems, ({ line }) => String(line)), [problems]);
  const body = useMemo(
    () => cells.map((row, at) => ({ row, line: at + 1 })).slice(columns.header ? 1 : 0),
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
  const firstLine = columns.header ? 2 : 1;
  return (
    <div className="grid gap-3">
      <Summary list={list} />
      {problems.length > 0 && (
        <Problems list={list} onCell={onCell} onGo={(line) => virtual.scrollToIndex(Math.max(0, line - firstLine))} />
      )}
      <div
        ref={scroller}
        role="grid"
        aria-label="Preview of the gear list"
        aria-rowcount={body.length}
        tabIndex={0}
        className="h-72 overflow-auto rounded-box border border-rule bg-base-100"
      >
        <ColumnHeads columns={columns} template={template} onColumns={onColumns} />
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
                  style={{ ...template, height: rowHeight, transform: `translateY(${item.start}px)` }}
                  onCell={onCell}
                />
              )
            );
          })}
        </div>
      </div>
    </div>
  );
}

function Summary({ list: { rows, columns, problems } }: Pick<Props, 'list'>) {
  const stopping = problems.filter(({ isBlocking }) => isBlocking).length;
  return (
    <p>
      {rows.length} rows read{columns.header ? ', the first line is a header' : ', no header found'}.{' '}
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

function Problems({
  list: { columns, problems },
  onCell,
  onGo,
}: Pick<Props, 'list' | 'onCell'> & { readonly onGo: (line: number) => void }) {
  const most = 200;
  return (
    <ul
      className="max-h-24 overflow-auto rounded-box border border-rule bg-base-100 p-2 text-[13px]"
      tabIndex={0}
      aria-label="Problems"
    >
      {problems.slice(0, most).map((problem) => (
        <li key={`${problem.line} ${problem.field} ${problem.code}`}>
          <button type="button" className="text-left hover:underline" onClick={() => onGo(problem.line)}>
            <Mark state={problem.isBlocking ? 'fail' : 'risky'} size={12} />{' '}
            {problem.line > 0 && <code>line {problem.line}</code>} <b>{fieldWords[problem.field]}</b>{' '}
            {rig.gearWords(problem)}
          </button>{' '}
          {problem.code === 'unknown_type' && problem.hint && (
            <button
              type="button"
              className="link font-semibold text-primary"
              onClick={() => onCell({ line: problem.line, column: columns.fields.indexOf('type'), text: problem.hint })}
            >
              Use {problem.hint}
            </button>
          )}
        </li>
      ))}
      {problems.length > most && <li className="text-mute">and {problems.length - most} more</li>}
    </ul>
  );
}

/** What each column holds, to be put right by hand: a field stands in one column only. */
function ColumnHeads({
  columns,
  template,
  onColumns,
}: Pick<Props, 'onColumns'> & { readonly columns: rig.GearColumns; readonly template: CSSProperties }) {
  const choose = (at: number, field: rig.GearField | null) =>
    onColumns({
      ...columns,
      fields: columns.fields.map((held, column) => (column === at ? field : held === field ? null : held)),
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

interface RowProps extends Pick<Props, 'onCell'> {
  readonly row: readonly string[];
  readonly line: number;
  readonly rowIndex: number;
  readonly fields: rig.GearColumns['fields'];
  readonly problems: readonly rig.GearProblem[];
  readonly style: CSSProperties;
}

function PreviewRow({ row, line, rowIndex, fields, problems, style, onCell }: RowProps) {
  return (
    <div
      role="row"
      aria-rowindex={rowIndex}
      className="absolute inset-x-0 grid items-center border-b border-rule"
      style={style}
    >
      <span role="gridcell" className="px-2 font-mono text-xs text-mute">
        {line}
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

const inKeys: ReadonlySet<rig.GearField | null> = new Set(['mac', 'firmware', 'unit']);

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
