import { wall as walls, type show as core } from '@deep-patch/core';
import { useState } from 'react';
import { ChoiceField } from '../parts/kept-fields.tsx';
import { useEdit, type PartProps } from './use-edit.ts';

interface Props extends Pick<PartProps, 'own'> {
  readonly load: walls.WallLoad | undefined;
}

/** Parts and strings: worked out, or by hand as widths. */
export function Dividing({ own, load }: Props) {
  const edit = useEdit(own);
  const { wall, panel, capacity } = own;
  const fewest = capacity && walls.fewestParts(wall, panel, capacity);
  const divide = (parts: walls.Part[]) => edit('parts', { parts, strings: [] });
  return (
    <section className="grid content-start gap-2" aria-label="Parts and strings">
      <h2 className="font-bold">Parts and strings</h2>
      <Widths key={wall.parts.map(({ width }) => width).join()} wall={wall} onDivide={divide} />
      <div className="flex flex-wrap gap-2">
        {fewest && (
          <button type="button" className="act" onClick={() => divide(fewest)}>
            Fewest outputs: {fewest.length}
          </button>
        )}
        <button
          type="button"
          className="act"
          disabled={wall.parts.length === 0}
          onClick={() => divide(walls.equalParts(wall, wall.parts.length))}
        >
          Equal parts
        </button>
        <button
          type="button"
          className="act"
          disabled={wall.parts.length === 0}
          onClick={() => edit('strings', { strings: wall.parts.map((part) => walls.stringOf(wall, part)) })}
        >
          Cheapest strings
        </button>
      </div>
      <Patterns own={own} />
      <Surfaces own={own} />
      {load && <p className="text-[13px] text-mute">{loadWords(load, wall.loop)}</p>}
    </section>
  );
}

function loadWords({ wanted, processors, wantedWithLoop, processorsWithLoop }: walls.WallLoad, loop: boolean): string {
  const on = (count: number) => (count === 1 ? 'one processor' : `${count} processors`);
  const pairs = loop ? ` Output 1 comes back to output ${wanted + 1}, and so on.` : '';
  return `${wanted === 1 ? 'One output' : `${wanted} outputs`} on ${on(processors)}; with a loop ${wantedWithLoop} on ${on(processorsWithLoop)}.${pairs}`;
}

/** Columns of each output, typed one after the other: their sum has to be the wall. */
function Widths({ wall, onDivide }: { readonly wall: core.Wall; readonly onDivide: (parts: walls.Part[]) => void }) {
  const [typed, setTyped] = useState<string>();
  const text = typed ?? wall.parts.map(({ width }) => width).join(', ');
  const widths = text
    .split(/[\s,]+/)
    .filter(Boolean)
    .map(Number);
  const sum = widths.reduce((all, width) => all + width, 0);
  const isWhole = widths.length > 0 && widths.every((width) => Number.isInteger(width) && width > 0);
  const isWrong = typed !== undefined && !(isWhole && sum === wall.columns.length);
  const keep = () => {
    if (typed === undefined || isWrong) return;
    setTyped(undefined);
    // the same parts once more would take the strings away
    if (widths.join() !== wall.parts.map(({ width }) => width).join()) onDivide(walls.partsOf(wall, widths));
  };
  return (
    <label className="grid gap-0.5 text-xs text-mute">
      Columns of each output, from the left
      <input
        className={`field key-num h-8 ${isWrong ? 'border-error' : ''}`}
        value={text}
        maxLength={300}
        aria-invalid={isWrong}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => event.key === 'Enter' && keep()}
        onBlur={keep}
      />
      {isWrong && (
        <span className="text-error">
          {isWhole ? `${sum} of ${wall.columns.length} columns` : 'whole numbers, one for each output'}
        </span>
      )}
    </label>
  );
}

/** One picture over all of it, whatever drives it, unless somebody wants several (need 10.3). */
function Surfaces({ own }: Pick<PartProps, 'own'>) {
  const edit = useEdit(own);
  const { wall, panel } = own;
  const surfaces = walls.surfacesOf(wall, panel);
  const sizes = surfaces.map(({ width, height }) => `${width} x ${height}`).join(', ');
  return (
    <ChoiceField
      label={`Declared as ${surfaces.length === 1 ? 'one surface' : `${surfaces.length} surfaces`}: ${sizes}`}
      value={wall.surfaces.length === 0 ? 'one' : 'parts'}
      options={[
        ['one', 'one surface over all outputs'],
        ['parts', 'a surface for each output'],
      ]}
      onKeep={(how) =>
        edit('surfaces', { surfaces: how === 'one' ? [] : wall.parts.map(({ x }) => x).filter((x) => x > 0) })
      }
    />
  );
}

const cornerWords = {
  top_left: 'top left',
  top_right: 'top right',
  bottom_left: 'bottom left',
  bottom_right: 'bottom right',
} as const;

/** Strings by a pattern, as most walls are wired. */
function Patterns({ own }: Pick<PartProps, 'own'>) {
  const edit = useEdit(own);
  const { wall } = own;
  if (wall.parts.length === 0) return null;
  const draw = (at: number) => {
    const pattern = walls.patterns[at];
    if (!pattern) return;
    const strings = wall.parts.map((part) => ({
      output: part.output,
      path: walls.snake(walls.panelsIn(wall, part), pattern).map(([column, row]): [number, number] => [column, row]),
    }));
    edit('strings', { strings });
  };
  return (
    <ChoiceField
      label="Or to and fro"
      value=""
      options={[
        ['', 'choose how'],
        ...walls.patterns.map(({ by, from }, at) => [String(at), `by ${by}, from ${cornerWords[from]}`] as const),
      ]}
      onKeep={(at) => at !== '' && draw(Number(at))}
    />
  );
}
