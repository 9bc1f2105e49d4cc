import { show as core, wall as walls, type contract } from '@deep-patch/core';
import { useState } from 'react';
import type { DoOnBench } from '../bench/use-bench.ts';
import { ChoiceField, TextField } from '../parts/kept-fields.tsx';
import { realWords } from './real-words.ts';

interface Props {
  readonly own: walls.KnownWall;
  readonly there: contract.WallOnBench;
  readonly act: DoOnBench;
}

/** Whoever practises lets something be hidden; whoever knows what is wrong says so. */
export function Otherwise({ own, there, act }: Props) {
  const [open, setOpen] = useState(false);
  const hide = (wrongs: number) => void act({ act: 'wall_hide', wallId: own.wall.id, wrongs });
  const isOther = walls.wrongCount(there.real) > 0;
  return (
    <div className="grid gap-2">
      <div className="flex flex-wrap gap-2">
        <button type="button" className="act" onClick={() => hide(1)}>
          Hide one thing that is wrong
        </button>
        <button type="button" className="act" onClick={() => hide(2)}>
          Hide two
        </button>
        <button type="button" className="act-quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
          {there.hides ? 'Show what is hidden' : 'How it really is'}
        </button>
        {isOther && (
          <button
            type="button"
            className="act-quiet"
            onClick={() => void act({ act: 'wall_real', wallId: own.wall.id, real: walls.asEntered })}
          >
            As it is planned
          </button>
        )}
      </div>
      {open && <Really {...{ own, there, act }} />}
    </div>
  );
}

const asTyped: readonly [string, string] = ['', 'as its type says'];

function Really({ own: { wall, panel }, there: { real }, act }: Props) {
  const put = (patch: Partial<core.RealWall>) =>
    void act({ act: 'wall_real', wallId: wall.id, real: { ...real, ...patch } });
  const rows = walls.moduleSize(panel).height;
  const words = realWords(real);
  return (
    <>
      <p className="text-[13px] text-mute">
        {words.length === 0
          ? 'It hangs as it is planned, and is built as its type says.'
          : `Really, ${words.join(', and ')}.`}
      </p>
      <div className="grid max-w-3xl grid-cols-[repeat(auto-fit,minmax(10rem,1fr))] gap-2">
        <ChoiceField
          label="Built with scan"
          value={String(real.scan ?? '')}
          options={[
            asTyped,
            ...walls.scans.filter((scan) => rows % scan === 0).map((scan) => [String(scan), `1/${scan}`] as const),
          ]}
          onKeep={(scan) => put({ scan: scan === '' ? null : Number(scan) })}
        />
        <ChoiceField
          label="Built with colour order"
          value={real.colours ?? ''}
          options={[asTyped, ...core.colourOrders.map((order) => [order, order] as const)]}
          onKeep={(order) => put({ colours: (order || null) as core.RealWall['colours'] })}
        />
        <ChoiceField
          label="Data really comes in from the"
          value={real.dataFrom ?? ''}
          options={[asTyped, ...core.dataSides.map((side) => [side, side] as const)]}
          onKeep={(side) => put({ dataFrom: (side || null) as core.RealWall['dataFrom'] })}
        />
        <Order parts={wall.parts} order={real.order} onKeep={(order) => put({ order })} />
      </div>
    </>
  );
}

/** Which output really hangs where. */
function Order({
  parts,
  order,
  onKeep,
}: {
  readonly parts: core.Wall['parts'];
  readonly order: core.RealWall['order'];
  readonly onKeep: (order: number[]) => void;
}) {
  const [refused, setRefused] = useState(false);
  const own = walls.inPlace(parts).map(({ output }) => output);
  const keep = (text: string) => {
    const typed = text
      .split(/[,;\s]+/)
      .filter(Boolean)
      .map(Number);
    const isWhole = typed.length === own.length && own.every((output) => typed.includes(output));
    setRefused(!isWhole);
    if (isWhole) onKeep(typed);
  };
  return (
    <div>
      <TextField label="Outputs as they hang, from the left" value={(order ?? own).join(', ')} onKeep={keep} />
      {refused && (
        <p className="text-[13px] text-error">
          Each of {own.join(', ')} once, such as {own.toReversed().join(', ')}.
        </p>
      )}
    </div>
  );
}
