import { onair, type show as core } from '@deep-patch/core';
import { useShow } from '../live/workspace.tsx';
import { HeadRow } from '../parts/head-row.tsx';
import { Mark } from '../parts/mark.tsx';

interface Props {
  readonly items: readonly core.Clip[];
  readonly player: core.Device;
  readonly playing: string | undefined;
  readonly chosen: string | undefined;
  readonly onChoose: (id: string) => void;
}

/** The items of a list in their order, with what is known of each file. */
export function ClipTable({ items, player, playing, chosen, onChoose }: Props) {
  const show = useShow();
  return (
    <div className="min-h-0 flex-1 overflow-auto" tabIndex={0} role="region" aria-label="Items">
      <table className="w-full text-[13px]">
        <HeadRow heads={['No.', 'Item', 'Length', 'Form', 'With it']} sticks />
        <tbody>
          {items.map((clip, at) => {
            const reason = onair.unplayable(show, player, clip);
            return (
              <tr
                key={clip.id}
                className={`border-t border-rule ${clip.id === chosen ? 'bg-base-300 shadow-[inset_3px_0_0_var(--color-primary)]' : ''}`}
              >
                <td className="key-num px-2.5 py-1.5 text-mute">{at + 1}</td>
                <td className="px-2.5 py-1.5">
                  <button
                    type="button"
                    className="text-left font-semibold hover:underline"
                    onClick={() => onChoose(clip.id)}
                  >
                    {clip.name}
                  </button>
                  {clip.name === playing && <span className="ml-2 text-success">plays</span>}
                </td>
                <td className="key-num px-2.5 py-1.5">
                  {clip.seconds === null ? '?' : onair.secondsWords(clip.seconds)}
                </td>
                <td className="px-2.5 py-1.5">
                  {reason === undefined ? (
                    <span className="text-mute">{formWords(clip)}</span>
                  ) : (
                    <span className="text-warning">
                      <Mark state="risky" size={12} /> {reason}
                    </span>
                  )}
                </td>
                <td className="px-2.5 py-1.5 text-mute">{withWords(clip)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

export function formWords({ form }: Pick<core.Clip, 'form'>): string {
  if (!form) return 'nobody has read its header';
  const size = form.width && form.height ? `${form.width} x ${form.height}` : '';
  const fps = form.fps ? `${Math.round(form.fps * 1000) / 1000}` : '';
  return [form.codec || form.container, size, fps && `at ${fps}`].filter(Boolean).join(' ');
}

function withWords({ title, actions }: core.Clip): string {
  const timed = actions.length === 0 ? '' : actions.length === 1 ? '1 at its time' : `${actions.length} at their times`;
  return [title && `“${title}”`, timed].filter(Boolean).join(' · ');
}
