import { surfaces, type show as core } from '@deep-patch/core';

/** What comes out at both end stops and in the middle, and how much of the whole that is (C50, C51). */
export function ReachWords({
  control,
  transfer,
  argument,
}: {
  readonly control: surfaces.SurfaceControl;
  readonly transfer: core.Transfer | null;
  readonly argument: core.Command['args'][number];
}) {
  const { least, middle, greatest, share } = surfaces.reached(transfer, control, argument);
  const unit = argument.unit ? ` ${argument.unit}` : '';
  const shown = (value: number) => `${Math.round(value * 100) / 100}${unit}`;
  return (
    <table className="w-full text-[13px]">
      <thead className="text-left text-xs text-mute">
        <tr>
          <th className="font-normal">control</th>
          <th className="font-normal">{control.least}</th>
          <th className="font-normal">middle</th>
          <th className="font-normal">{control.greatest}</th>
        </tr>
      </thead>
      <tbody className="key-num">
        <tr>
          <th className="text-left font-sans font-normal text-mute">{argument.name}</th>
          <td>{shown(least)}</td>
          <td>{shown(middle)}</td>
          <td>{shown(greatest)}</td>
        </tr>
      </tbody>
      {share !== null && (
        <caption className="caption-bottom pt-1 text-left text-xs text-mute">
          It reaches {Math.round(share * 100)} % of what {argument.name} could be.
        </caption>
      )}
    </table>
  );
}
