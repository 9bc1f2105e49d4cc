import { wall as walls } from '@deep-patch/core';
import { useWorkspace } from '../live/workspace.tsx';

/** A string drawn by hand, along the arrows on the panels: pressed one after the other, or by the arrow keys and Enter. */
export function DrawString({
  own: { wall },
  drawn,
  onDraw,
}: {
  readonly own: walls.KnownWall;
  readonly drawn: walls.DrawnString | undefined;
  readonly onDraw: (drawn: walls.DrawnString | undefined) => void;
}) {
  const { save } = useWorkspace();
  if (!drawn)
    return (
      <label className="flex items-center gap-2 pt-1 text-[13px] text-mute">
        Draw the string of
        <select
          className="field-select h-7 w-32"
          value=""
          onChange={(event) => onDraw({ output: Number(event.target.value), path: [] })}
        >
          <option value="">output…</option>
          {wall.parts.map(({ output }) => (
            <option key={output} value={output}>
              output {output}
            </option>
          ))}
        </select>
      </label>
    );
  const { output, path } = drawn;
  const planned = walls.panelsIn(wall, wall.parts.find((part) => part.output === output) ?? noPart).length;
  const keep = () => {
    const others = wall.strings.filter((one) => one.output !== output);
    const own = { output, path: path.map(([column, row]): [number, number] => [column, row]) };
    const strings = [...others, own].sort((a, b) => a.output - b.output);
    void save(walls.planWall(wall, `string ${output}`, { strings })).then((done) => done && onDraw(undefined));
  };
  return (
    <p className="flex flex-wrap items-center gap-2 pt-1 text-[13px]">
      <span>
        Press the panels of output {output} in the order of the data, or go there by the arrow keys and press Enter.{' '}
        <b className="key-num">
          {path.length} of {planned}
        </b>
      </span>
      <button type="button" className="act-main" disabled={path.length === 0} onClick={keep}>
        Keep the string
      </button>
      <button type="button" className="act-quiet" onClick={() => onDraw({ output, path: path.slice(0, -1) })}>
        Take the last back
      </button>
      <button type="button" className="act-quiet" onClick={() => onDraw(undefined)}>
        Leave it
      </button>
    </p>
  );
}

const noPart = { output: 0, x: 0, y: 0, width: 0, height: 0 };
