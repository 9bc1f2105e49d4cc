import { surfaces, type show } from '@deep-patch/core';
import { useState } from 'react';
import { Tick } from '../../parts/typed-fields.tsx';
import { ControlShape } from '../../surfaces/control-shape.tsx';
import { freeKey, numberOf, textOf, type FormPart } from './form-part.ts';
import { ChoiceCell, faultsIn, LinesField, Rows, Section, TextCell } from './rows.tsx';

type Control = show.TypeControl;
type List = show.DeviceType['lists'][number];

const kinds = [
  ['key', 'key'],
  ['switch', 'switch'],
  ['fader', 'fader'],
  ['encoder', 'encoder'],
  ['pad', 'two axes'],
] as const;
const kindNames: Readonly<Record<string, string>> = { ...Object.fromEntries(kinds), pad: 'pad' };
const lamps = [
  ['none', 'no lamp'],
  ['lamp', 'a lamp'],
  ['colour', 'colours'],
] as const;
const mostInARow = 64;

/** What a hand moves on it, with where it is, what light it has and what it sends; and the lists of names that it keeps. */
export function ControlsPart(part: FormPart) {
  const { values, issues, patch } = part;
  const { controls, layers, lists } = values;
  const count = `${controls.length} ${controls.length === 1 ? 'control' : 'controls'}`;
  const names = lists.map(({ label }) => label).join(', ');
  return (
    <Section
      title="What a hand moves, what it lists"
      summary={[controls.length > 0 ? count : '', names].filter(Boolean).join(' · ') || 'nothing'}
      faults={faultsIn(issues, 'controls', 'layers', 'lists')}
    >
      <AddSeveral {...{ controls }} onAdd={(more) => patch({ controls: [...controls, ...more] })} />
      <Preview controls={controls} />
      {controls.length > 0 && (
        <TextCell
          label="Layers or pages"
          caption="Layers or pages"
          value={textOf(layers)}
          width="w-28"
          look="key"
          onType={(text) => patch({ layers: numberOf(text) ?? 1 })}
        />
      )}
      <Rows
        what="control"
        isBlock
        items={controls}
        path="controls"
        issues={issues}
        make={() => controlAt(controls, { kind: 'key', label: 'Key', row: rowsSoFar(controls), column: 0 })}
        onChange={(next) => patch({ controls: next })}
      >
        {(control, put, at) => <ControlCells {...{ control, put }} n={at + 1} />}
      </Rows>
      <Lists {...part} />
    </Section>
  );
}

/** What is half typed is nowhere yet. */
const isPlaced = ({ row, column, rows }: Control): boolean =>
  [row, column, rows].every((value) => Number.isInteger(value)) && rows > 0 && row <= 63;
const rowsSoFar = (controls: readonly Control[]): number =>
  Math.max(0, ...controls.filter(isPlaced).map(({ row, rows }) => row + rows));

type Place = Pick<Control, 'kind' | 'label' | 'row' | 'column'> & Partial<Control>;
const controlAt = (others: readonly Control[], place: Place): Control => ({
  ...{ key: freeKey(place.kind, others), rows: 1, screen: false, lamp: 'none', least: 0, greatest: 127 },
  ...{ strip: null, odd: false, enabledFirst: false },
  ...place,
});

/** A row of alike controls at once: most surfaces have eight of everything. */
function AddSeveral({
  controls,
  onAdd,
}: {
  readonly controls: readonly Control[];
  readonly onAdd: (more: Control[]) => void;
}) {
  const [kind, setKind] = useState<Control['kind']>('fader');
  const [count, setCount] = useState('8');
  const [inStrips, setInStrips] = useState(true);
  const many = Math.min(mostInARow, Math.max(0, Math.floor(Number(count)) || 0));
  const row = rowsSoFar(controls);
  const name = kindNames[kind] ?? kind;
  const add = () => {
    const more: Control[] = [];
    for (let column = 0; column < many; column += 1) {
      const label = `${name.charAt(0).toUpperCase()}${name.slice(1)} ${numberOfKind(controls, kind) + column + 1}`;
      const tall = kind === 'fader' ? { rows: 3 } : {};
      const place = { kind, label, row, column, strip: inStrips ? column + 1 : null, ...tall };
      more.push(controlAt([...controls, ...more], place));
    }
    onAdd(more);
  };
  return (
    <div className="flex flex-wrap items-end gap-2">
      <TextCell label="How many controls" caption="How many" value={count} width="w-20" look="key" onType={setCount} />
      <ChoiceCell
        label="What kind of controls"
        caption="Kind"
        value={kind}
        options={kinds}
        onChoose={(next) => setKind(next as Control['kind'])}
      />
      <Tick size="xs" checked={inStrips} onTick={setInStrips}>
        one a channel strip
      </Tick>
      <button type="button" className="act" disabled={many === 0 || row > 63} onClick={add}>
        Add {many} beside each other
      </button>
    </div>
  );
}

const numberOfKind = (controls: readonly Control[], kind: Control['kind']): number =>
  controls.filter((control) => control.kind === kind).length;

/** How it will lie in front of whoever operates it; what has faults is left out. */
function Preview({ controls }: { readonly controls: readonly Control[] }) {
  const placed = controls.filter(isPlaced);
  if (placed.length === 0) return null;
  const shown = placed.map((control) => ({ ...control, address: '', region: null, listedBy: undefined }));
  const { columns } = surfaces.gridOf(shown);
  return (
    <div
      inert
      aria-hidden
      className="grid gap-2 overflow-x-auto rounded-box border-2 border-line bg-base-200 p-3"
      style={{
        gridTemplateColumns: `repeat(${columns}, minmax(3rem, 5rem))`,
        gridAutoRows: 'minmax(2.75rem, auto)',
      }}
    >
      {shown.map((control) => (
        <div
          key={control.key}
          className="grid min-w-0"
          style={{ gridColumn: control.column + 1, gridRow: `${control.row + 1} / span ${control.rows}` }}
        >
          <ControlShape
            {...{ control, words: control.label, states: [], playing: false, selected: false, trouble: false }}
            onMove={() => undefined}
            onSelect={() => undefined}
          />
        </div>
      ))}
    </div>
  );
}

interface Cells {
  readonly control: Control;
  readonly put: (change: Partial<Control>) => void;
  readonly n: number;
}

const flags = [
  ['screen', 'own screen'],
  ['enabledFirst', 'has to be enabled there'],
  ['odd', 'apart from the strips'],
] as const;

function ControlCells({ control, put, n }: Cells) {
  const number = (key: 'row' | 'column' | 'rows' | 'least' | 'greatest', caption: string, width = 'w-16') => (
    <TextCell
      label={`${caption} of control ${n}`}
      caption={caption}
      value={textOf(control[key])}
      width={width}
      look="key"
      onType={(text) => put({ [key]: numberOf(text) as number })}
    />
  );
  return (
    <div className="flex flex-1 flex-wrap items-end gap-1.5">
      <TextCell
        label={`Control ${n}`}
        caption="Called"
        value={textOf(control.label)}
        width="w-32"
        onType={(label) => put({ label })}
      />
      <ChoiceCell
        label={`Kind of control ${n}`}
        caption="Kind"
        value={control.kind}
        options={kinds}
        width="w-24"
        onChoose={(kind) => put({ kind: kind as Control['kind'] })}
      />
      {number('row', 'Row, from 0')}
      {number('column', 'Column, from 0', 'w-20')}
      {number('rows', 'Rows tall')}
      {number('least', 'Sends from')}
      {number('greatest', 'to')}
      <TextCell
        label={`Channel strip of control ${n}`}
        caption="Strip"
        value={textOf(control.strip)}
        width="w-14"
        look="key"
        onType={(text) => put({ strip: numberOf(text) })}
      />
      <ChoiceCell
        label={`Lamp of control ${n}`}
        caption="Lamp"
        value={control.lamp}
        options={lamps}
        width="w-24"
        onChoose={(lamp) => put({ lamp: lamp as Control['lamp'] })}
      />
      {flags.map(([key, text]) => (
        <Tick key={key} size="xs" checked={control[key]} onTick={(on) => put({ [key]: on })}>
          {text}
        </Tick>
      ))}
    </div>
  );
}

/** Names that it keeps, such as callers or clips; its stand-in has these to begin with. */
function Lists({ values: { lists }, issues, patch }: FormPart) {
  return (
    <>
      <h4 className="text-xs font-semibold text-mute">Lists of names that it keeps</h4>
      <Rows
        what="list"
        isBlock
        items={lists}
        path="lists"
        issues={issues}
        make={(): List => ({ key: freeKey('list', lists), label: `List ${lists.length + 1}`, names: [] })}
        onChange={(next) => patch({ lists: next })}
      >
        {(list, put, at) => (
          <div className="grid flex-1 gap-1 md:grid-cols-2">
            <TextCell
              label={`List ${at + 1}`}
              caption="Called"
              value={textOf(list.label)}
              onType={(label) => put({ label })}
            />
            <LinesField
              label={`Names in list ${at + 1}`}
              lines={list.names}
              onChange={(names) => put({ names: names.filter((name) => name.trim() !== '') })}
            />
          </div>
        )}
      </Rows>
    </>
  );
}
