import {
  byName,
  memoFor,
  rowsBy,
  rowsOf,
  typeOf,
  type Control,
  type Device,
  type DeviceKind,
  type Show,
  type TypeControl,
} from '../show/index.ts';

/** Something on a surface that a hand moves, wherever it is listed: in its type, or at the unit itself. */
export interface SurfaceControl extends TypeControl {
  /** The OSC address that it sends, or its MIDI message without the value; empty where its type knows how it is heard. */
  readonly address: string;
  readonly region: Control['region'];
  /** The row that lists it, where its type does not. */
  readonly listedBy: Control | undefined;
}

/** The controls of a unit in the order of their places: rows first, then columns. */
export function controlsOf(show: Show, device: Device): readonly SurfaceControl[] {
  const own = (rowsBy(show, 'controls', 'deviceId').get(device.id) ?? []).map((row): SurfaceControl => ({
    ...{
      rows: 1,
      screen: false,
      lamp: 'none',
      strip: null,
      odd: false,
      enabledFirst: false,
      listedBy: row,
      key: row.id,
    },
    ...{ label: row.label, kind: row.kind, row: row.row, column: row.column, address: row.address },
    ...{ least: row.least, greatest: row.greatest, region: row.region },
  }));
  const type = typeOf(show, device);
  return [...(type ? listed(type) : []), ...own].sort((a, b) => a.row - b.row || a.column - b.column);
}

const listed = memoFor(({ controls }: { readonly controls: readonly TypeControl[] }): readonly SurfaceControl[] =>
  controls.map((control) => ({ ...control, address: '', region: null, listedBy: undefined })),
);

/** What is there to be touched, whether or not anybody has said yet with which controls. */
const touched: ReadonlySet<DeviceKind> = new Set(['camera-remote', 'fader-bank', 'button-panel', 'tablet', 'phone']);

/** Units that have anything to be moved on, by name. */
export const surfacesOf = (show: Show): Device[] =>
  rowsOf(show, 'devices')
    .filter((device) => {
      const type = typeOf(show, device);
      if (!type) return false;
      return type.controls.length > 0 || hasOwn(show, device.id) || (touched.has(type.kind) && type.drives.length > 0);
    })
    .sort(byName);

const hasOwn = (show: Show, deviceId: string): boolean =>
  (rowsBy(show, 'controls', 'deviceId').get(deviceId) ?? []).length > 0;

/** The layers of a unit, counted from zero. */
export const layersOf = (show: Show, device: Device): number => typeOf(show, device)?.layers ?? 1;

/**
 * The control at a row and a column, counted from zero as remote protocols count them (C58); undefined outside the grid or
 * where nothing is.
 */
export const controlAt = (
  controls: readonly SurfaceControl[],
  row: number,
  column: number,
): SurfaceControl | undefined =>
  controls.find(
    (control) => control.column === column && control.row <= row && row < control.row + control.rows && !control.region,
  );

/** Rows and columns that a surface takes up. */
export const gridOf = (controls: readonly SurfaceControl[]): { rows: number; columns: number } => ({
  rows: Math.max(0, ...controls.map(({ row, rows }) => row + rows)),
  columns: Math.max(0, ...controls.map(({ column }) => column + 1)),
});

/** The region of a touch screen that a point falls into: the smallest, where several overlap (need 8.24). */
export function regionAt(
  controls: readonly SurfaceControl[],
  point: { readonly x: number; readonly y: number },
): SurfaceControl | undefined {
  const hit = controls.filter(
    ({ region }) =>
      region &&
      point.x >= region.x &&
      point.x < region.x + region.width &&
      point.y >= region.y &&
      point.y < region.y + region.height,
  );
  const area = ({ region }: SurfaceControl) => (region ? region.width * region.height : Infinity);
  return hit.sort((a, b) => area(a) - area(b))[0];
}
