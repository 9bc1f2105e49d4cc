import { onair, show as core } from '@deep-patch/core';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { NumberField, TextField } from '../parts/kept-fields.tsx';
import { formWords } from './clip-table.tsx';

/** One item of a list: its name and length, its title, and what comes at a time within it. */
export function ClipPanel({ clip }: { readonly clip: core.Clip }) {
  const { save } = useWorkspace();
  const edit = (patch: Partial<core.Content<'clips'>>) =>
    void save(core.changeOf(`“${clip.name}”`, [core.updateRow('clips', clip, patch)]));
  const { actions } = clip;
  const put = (at: number, patch: Partial<(typeof actions)[number]>) =>
    edit({ actions: actions.map((one, n) => (n === at ? { ...one, ...patch } : one)) });
  const faults = onair.actionFaults(clip);
  return (
    <div className="grid gap-3">
      <TextField
        label="File"
        value={clip.name}
        onKeep={(name) => name.trim() !== '' && edit({ name: name.trim().slice(0, 80) })}
      />
      <div className="grid grid-cols-[8rem_1fr] gap-2">
        <NumberField
          label="Length in seconds"
          value={clip.seconds}
          refuse={(value) => value < 0 || value > 86_400}
          wrong="0 to 86400"
          onKeep={(seconds) => edit({ seconds })}
        />
        <p className="self-end pb-1 text-[13px] text-mute">{formWords(clip)}</p>
      </div>
      <TextField label="Title over it" value={clip.title} onKeep={(title) => edit({ title })} />
      <div className="grid gap-2">
        <h3 className="text-[13px] font-bold">At a time within it</h3>
        {actions.map((action, at) => (
          <ActionRow
            key={at}
            action={action}
            isWrong={faults.some((fault) => fault.at === action.at)}
            onPut={(patch) => put(at, patch)}
            onRemove={() => edit({ actions: actions.filter((_, n) => n !== at) })}
          />
        ))}
        <button
          type="button"
          className="act justify-self-start"
          onClick={() => edit({ actions: [...actions, { at: 2, text: clip.title || 'Name', lasts: 5 }] })}
        >
          Add one
        </button>
      </div>
      <Deeds clip={clip} />
    </div>
  );
}

function ActionRow({
  action,
  isWrong,
  onPut,
  onRemove,
}: {
  readonly action: core.Clip['actions'][number];
  readonly isWrong: boolean;
  readonly onPut: (patch: Partial<core.Clip['actions'][number]>) => void;
  readonly onRemove: () => void;
}) {
  const isBefore = (value: number) => value < 0;
  return (
    <div className="grid grid-cols-[4.5rem_1fr_4.5rem_auto] items-end gap-2">
      <NumberField
        label="Second"
        value={action.at}
        refuse={isBefore}
        wrong="from 0"
        onKeep={(value) => value !== null && onPut({ at: value })}
      />
      <TextField label="Shows" value={action.text} onKeep={(text) => onPut({ text })} />
      <NumberField
        label="Lasts"
        value={action.lasts}
        refuse={isBefore}
        wrong="from 0"
        onKeep={(lasts) => onPut({ lasts })}
      />
      <button type="button" className="act-quiet" aria-label={`Remove what comes at ${action.at} s`} onClick={onRemove}>
        Remove
      </button>
      {isWrong && <span className="col-span-4 text-xs text-warning">See below what is wrong with it.</span>}
    </div>
  );
}

function Deeds({ clip }: { readonly clip: core.Clip }) {
  const show = useShow();
  const { save } = useWorkspace();
  const move = (by: number) => void save(onair.planMoveClip(show, clip, by));
  return (
    <div className="flex flex-wrap gap-2 border-t border-rule pt-3">
      <button type="button" className="act-quiet" onClick={() => move(-1)}>
        Earlier
      </button>
      <button type="button" className="act-quiet" onClick={() => move(1)}>
        Later
      </button>
      <button
        type="button"
        className="act-quiet"
        onClick={() => void save(core.changeOf(`Remove “${clip.name}”`, [core.removeRow('clips', clip)]))}
      >
        Remove
      </button>
    </div>
  );
}
