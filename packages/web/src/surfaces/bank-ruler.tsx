import { surfaces } from '@deep-patch/core';
import { scaleLinear, type ScaleLinear } from 'd3-scale';
import { useShow } from '../live/workspace.tsx';
import { useWidth } from '../parts/use-width.ts';

const row = 26;
const edge = 12;

/** The channels of a mixer as one ruler, with the surfaces that cover them on the layer that is shown. */
export function BankRuler({ layer }: { readonly layer: number }) {
  const show = useShow();
  const rulers = surfaces.rulersOf(show, layer);
  const [width, box] = useWidth<HTMLDivElement>(900);
  if (rulers.length === 0) return null;
  return (
    <div ref={box} className="border-t border-rule px-4 py-3">
      {rulers.map((ruler) => (
        <Ruler key={ruler.target.id} ruler={ruler} width={width} layer={layer} />
      ))}
    </div>
  );
}

function Ruler({
  ruler,
  width,
  layer,
}: {
  readonly ruler: surfaces.Ruler;
  readonly width: number;
  readonly layer: number;
}) {
  const { spans, channels, target } = ruler;
  const last = Math.max(8, channels ?? 0, ...spans.map((span) => Math.max(span.last, span.odd ?? 0)));
  const x = scaleLinear([1, last + 1], [edge, Math.max(200, width) - edge]);
  const height = spans.length * row + 30;
  const words = spans
    .map(
      (span) =>
        `${span.surface.name} ${span.first} to ${span.last}${span.odd === null ? '' : `, its odd fader ${span.odd}`}`,
    )
    .join('; ');
  return (
    <figure>
      <figcaption className="mb-1 text-xs text-mute">
        Channels of {target.name}
        {ruler.layers > 1 && `, layer ${layer + 1}`}
      </figcaption>
      <svg width="100%" height={height} role="img" aria-label={`Channels of ${target.name}: ${words}`}>
        {spans.map((span, at) => (
          <Span key={span.bank.id} {...{ span, at, x }} />
        ))}
        <Ticks x={x} count={Math.min(last, Math.floor(width / 60))} top={spans.length * row} />
        {channels !== null && (
          <line
            x1={x(channels + 1)}
            x2={x(channels + 1)}
            y1={0}
            y2={spans.length * row + 10}
            strokeDasharray="3 3"
            className="stroke-warning"
          />
        )}
      </svg>
    </figure>
  );
}

type Scale = ScaleLinear<number, number>;

function Span({ span, at, x }: { readonly span: surfaces.BankSpan; readonly at: number; readonly x: Scale }) {
  const isBeyond = span.channels !== null && span.last > span.channels;
  return (
    <g>
      <rect
        x={x(span.first)}
        y={at * row + 2}
        width={Math.max(2, x(span.last + 1) - x(span.first) - 2)}
        height={row - 6}
        rx={3}
        className={isBeyond ? 'fill-warning/40' : 'fill-accent/40'}
      />
      <text x={x(span.first) + 6} y={at * row + 16} className="fill-base-content text-xs">
        {`${span.surface.name} ${span.first}–${span.last}`}
      </text>
      {span.odd !== null && (
        <rect
          x={x(span.odd)}
          y={at * row + 2}
          width={x(span.odd + 1) - x(span.odd) - 2}
          height={row - 6}
          rx={3}
          className="fill-primary/70"
        />
      )}
    </g>
  );
}

function Ticks({ x, count, top }: { readonly x: Scale; readonly count: number; readonly top: number }) {
  return x.ticks(count).map((tick) => (
    <g key={tick}>
      <line x1={x(tick)} x2={x(tick)} y1={top + 2} y2={top + 10} className="stroke-line" />
      <text x={x(tick)} y={top + 23} className="fill-faint font-mono text-[11px]">
        {tick}
      </text>
    </g>
  ));
}
