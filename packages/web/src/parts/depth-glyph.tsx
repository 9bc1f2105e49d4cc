import type { links } from '@deep-patch/core';
import { markName, type MarkState } from './mark.tsx';

const shapes: Readonly<Record<MarkState, string>> = {
  pass: 'rounded-[2px] bg-success/75',
  risky: 'rounded-full bg-warning',
  fail: 'bg-error [clip-path:polygon(0_0,100%_0,50%_100%)]',
  waits: 'rounded-[2px] border border-dashed border-line',
};

/** Eight marks, one a layer: how deep a link reaches. Forecast marks are outlined less than measured ones. */
export function DepthGlyph({ depth }: { depth: links.Depth }) {
  const stop = depth.marks.find(({ state }) => state === 'fail');
  const told = `${depth.depth} of 8${stop ? `, ${markName('fail')}: ${stop.layer}` : ''}${depth.measured ? ', measured' : ', forecast'}`;
  return (
    <span
      role="img"
      aria-label={told}
      title={told}
      className={`inline-grid grid-cols-8 gap-0.5 align-middle ${depth.measured ? '' : 'opacity-80'}`}
    >
      {depth.marks.map(({ layer, state }) => (
        <i key={layer} className={`size-[11px] ${shapes[state]}`} />
      ))}
    </span>
  );
}
