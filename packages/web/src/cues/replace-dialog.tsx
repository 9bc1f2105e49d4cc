import { cues as cueRoom } from '@deep-patch/core';
import { useState } from 'react';
import { useSaving, useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';

/** Finds a text in all messages, shows what would be, and replaces it as one change. */
export function ReplaceDialog({ onClose }: { readonly onClose: () => void }) {
  const show = useShow();
  const { save } = useWorkspace();
  const saving = useSaving();
  const [find, setFind] = useState('');
  const [by, setBy] = useState('');
  const [exact, setExact] = useState(false);
  const found = cueRoom.findInMessages(show, { find, by, exact });
  return (
    <Dialog title="Find and replace in messages" onClose={onClose} wide>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void save(cueRoom.planReplace(show, { find, by, exact })).then((done) => done && onClose());
        }}
      >
        <div className="grid grid-cols-2 gap-3">
          <label className="grid gap-1">
            Find
            <input className="field" value={find} onChange={(event) => setFind(event.target.value)} />
          </label>
          <label className="grid gap-1">
            Replace by
            <input className="field" value={by} onChange={(event) => setBy(event.target.value)} />
          </label>
        </div>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={exact}
            onChange={(event) => setExact(event.target.checked)}
          />
          capitals count
        </label>
        <p role="status" className="text-mute">
          {find === '' ? 'Type what to find.' : `${found.length} ${found.length === 1 ? 'message' : 'messages'}`}
        </p>
        <ul className="max-h-60 overflow-auto">
          {found.slice(0, 100).map(({ cue, at, before, after }) => (
            <li
              key={`${cue.id} ${at}`}
              className="grid grid-cols-[3rem_1fr_1fr] gap-2 border-b border-rule py-1 text-[13px]"
            >
              <span className="key-num">{cue.number}</span>
              <code className="truncate text-mute line-through">{before}</code>
              <code className="truncate">{after}</code>
            </li>
          ))}
        </ul>
        <button type="submit" className="act-main justify-self-start" disabled={saving || found.length === 0}>
          {saving ? 'Saving…' : `Replace in ${found.length}`}
        </button>
      </form>
    </Dialog>
  );
}
