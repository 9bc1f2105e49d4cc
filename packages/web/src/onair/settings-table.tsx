import type { onair } from '@deep-patch/core';
import { HeadRow } from '../parts/head-row.tsx';
import { Mark } from '../parts/mark.tsx';

interface Props {
  readonly delay: onair.TakeDelay;
  readonly frames: number;
  readonly onFrames: (frames: number) => void;
}

/** What the takes would have shown at each setting of the delay. */
export function SettingsTable({ delay, frames, onFrames }: Props) {
  const from = Math.max(0, Math.min(delay.frames - 3, frames));
  const rows = delay.settings.filter((setting) => setting.frames >= from).slice(0, 7);
  return (
    <table className="w-full text-[13px]">
      <HeadRow heads={['Take delay', `what ${delay.takes} takes show`]} />
      <tbody>
        {rows.map((setting) => (
          <tr
            key={setting.frames}
            className={`border-t border-rule ${setting.frames === frames ? 'bg-base-300 shadow-[inset_3px_0_0_var(--color-primary)]' : ''}`}
          >
            <td className="px-2.5 py-1.5">
              <button
                type="button"
                className="key-num w-8 text-left hover:underline"
                aria-label={`Look at ${setting.frames} frames`}
                aria-pressed={setting.frames === frames}
                onClick={() => onFrames(setting.frames)}
              >
                {setting.frames}
              </button>
            </td>
            <td className="px-2.5 py-1.5">
              <Outcome setting={setting} takes={delay.takes} best={delay.frames} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Outcome({
  setting: { frames, frozen, missing, missed, mostMissed },
  takes,
  best,
}: {
  readonly setting: onair.Setting;
  readonly takes: number;
  readonly best: number;
}) {
  if (frozen > 0) {
    const share = (100 * frozen) / takes;
    const state = share > 10 ? 'fail' : 'risky';
    return (
      <span className={state === 'fail' ? 'text-error' : 'text-warning'}>
        <Mark state={state} size={12} /> {frozen} of {takes} show the first frame frozen
      </span>
    );
  }
  const lost =
    missing === 0
      ? ''
      : mostMissed === missed
        ? ` · ${count(missed)} of the beginning pass unseen`
        : ` · ${missed} to ${count(mostMissed)} of the beginning pass unseen`;
  return (
    <span className="text-success">
      <Mark state="pass" size={12} /> none frozen
      <span className="text-mute">
        {frames > best ? ` · ${count(frames - best)} later than needed` : ''}
        {lost}
      </span>
    </span>
  );
}

const count = (frames: number): string => (frames === 1 ? '1 frame' : `${frames} frames`);
