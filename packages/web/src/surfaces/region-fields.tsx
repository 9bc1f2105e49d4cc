import { surfaces, show as core } from '@deep-patch/core';
import { newId } from '../live/identity.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { NumberField } from '../parts/kept-fields.tsx';

/** Units with a screen that is touched: there a region does what a key does elsewhere (need 8.24). */
const touched: ReadonlySet<core.DeviceKind> = new Set(['tablet', 'phone', 'computer', 'media-control', 'show-host']);

export function AddRegion({ surface }: { readonly surface: core.Device }) {
  const show = useShow();
  const { save } = useWorkspace();
  const kind = core.typeOf(show, surface)?.kind;
  if (!kind || !touched.has(kind)) return null;
  const own = surfaces.controlsOf(show, surface).filter(({ region }) => region !== null).length;
  return (
    <button
      type="button"
      className="act justify-self-start"
      onClick={() => void save(surfaces.planControl(surface, surfaces.regionFor(surface, newId(), own)))}
    >
      Add a region of its screen
    </button>
  );
}

const fields = [
  ['screenWidth', 'screen wide'],
  ['screenHeight', 'screen high'],
  ['x', 'from left'],
  ['y', 'from top'],
  ['width', 'wide'],
  ['height', 'high'],
] as const;

/** A region as numbers on a rectangle of the screen's size, in its points. */
export function RegionFields({ row }: { readonly row: core.Control }) {
  const { save } = useWorkspace();
  const { region } = row;
  if (!region) return null;
  const { screenWidth, screenHeight, x, y, width, height } = region;
  return (
    <div className="grid gap-2">
      <svg
        viewBox={`0 0 ${screenWidth} ${screenHeight}`}
        className="w-full border border-line"
        role="img"
        aria-label={`${width} by ${height} at ${x}, ${y}`}
      >
        <rect {...{ x, y, width, height }} className="fill-primary/40" />
      </svg>
      <div className="grid grid-cols-3 gap-2">
        {fields.map(([key, label]) => (
          <NumberField
            key={key}
            label={label}
            value={region[key]}
            onKeep={(value) =>
              value !== null &&
              void save(surfaces.planEditControl(row, { region: { ...region, [key]: Math.max(0, Math.round(value)) } }))
            }
          />
        ))}
      </div>
    </div>
  );
}
