import { onair, type Show, type show as core } from '@deep-patch/core';
import { useEffect, useRef, useState } from 'react';
import { newId } from '../live/identity.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { PlainTable } from '../parts/plain-table.tsx';
import { formWords } from './clip-table.tsx';
import type { MediaAnswer } from './read-media.worker.ts';

interface Props {
  readonly player: core.Device;
  readonly list: string;
  /** The item that plays just now: it stays. */
  readonly playing: string | undefined;
  readonly onClose: () => void;
  readonly onDone: (list: string) => void;
}

const kinds = 'video/*,audio/*,image/*,.mov,.mp4,.mxf,.wav,.png,.jpg,.jpeg';
const mostFiles = 500;

/** What is in a folder now, against a list: what would come, what would go, and what stays since it plays. */
export function FolderDialog({ player, list, playing, onClose, onDone }: Props) {
  const show = useShow();
  const { save } = useWorkspace();
  const { files, waiting, faults, read } = useHeaders();
  const items = onair.listsOf(show, player.id).get(list) ?? [];
  const news = onair.folderNews(items, files, playing);
  const plan = onair.planFollowFolder(show, { deviceId: player.id, list, ids: news.added.map(() => newId()) }, news);
  const keep = () =>
    void save(plan).then((done) => {
      if (!done) return;
      onDone(list);
      onClose();
    });
  const rows = newsRows(show, player, news);
  return (
    <Dialog title={`The folder of “${list}”, ${player.name}`} onClose={onClose} wide unsaved={false}>
      <div className="grid gap-4">
        <p className="text-mute">
          Pick every file of the folder. Their headers are read here in the browser; the files go nowhere.
        </p>
        <input
          type="file"
          multiple
          accept={kinds}
          aria-label="Files of the folder"
          className="file-input file-input-sm w-full border-line bg-base-100"
          onChange={(event) => read([...(event.target.files ?? [])].slice(0, mostFiles))}
        />
        {waiting > 0 && <p role="status">Reading headers, {waiting} to go…</p>}
        {faults.map((fault) => (
          <p key={fault} className="text-[13px] text-warning">
            {fault}
          </p>
        ))}
        {files.length > 0 && (
          <PlainTable
            label="What the folder changes"
            heads={['', 'Item', 'What it is']}
            rows={rows.map((cells, at) => ({ id: `${at} ${cells[1]}`, cells }))}
          />
        )}
        {files.length > 0 && waiting === 0 && (
          <button type="button" className="act-main justify-self-start" disabled={!plan} onClick={keep}>
            {plan
              ? `Take over: ${news.added.length} come, ${news.removed.length} go`
              : 'The list is the folder already'}
          </button>
        )}
      </div>
    </Dialog>
  );
}

/** What is new, a line each. */
function newsRows(show: Show, player: core.Device, news: onair.FolderNews): string[][] {
  return [
    ...news.added.map((file) => [
      'comes',
      file.name,
      `${file.seconds === null ? '?' : onair.secondsWords(file.seconds)} · ${onair.unplayable(show, player, file) ?? formWords(file)}`,
    ]),
    ...news.changed.map(({ clip, file }) => ['is another now', clip.name, formWords(file)]),
    ...news.held.map((clip) => ['plays, so it stays', clip.name, 'goes once it is over']),
    ...news.removed.map((clip) => ['goes', clip.name, 'not in the folder']),
  ];
}

/** Headers of files, read in a worker one after the other. */
function useHeaders() {
  const worker = useRef<Worker>(undefined);
  const [files, setFiles] = useState<onair.FolderFile[]>([]);
  const [faults, setFaults] = useState<string[]>([]);
  const [waiting, setWaiting] = useState(0);
  useEffect(() => () => worker.current?.terminate(), []);
  const read = (picked: readonly File[]) => {
    worker.current?.terminate();
    setFiles([]);
    setFaults([]);
    setWaiting(picked.length);
    if (picked.length === 0) return;
    const own = new Worker(new URL('./read-media.worker.ts', import.meta.url), { type: 'module' });
    worker.current = own;
    own.onmessage = ({ data }: MessageEvent<MediaAnswer>) => {
      setWaiting((left) => left - 1);
      const facts = 'facts' in data ? data.facts : { seconds: null, form: null };
      setFiles((known) => [...known, { name: data.name.slice(0, 80), ...facts }]);
      if ('fault' in data) setFaults((known) => [...known, `${data.name}: ${data.fault}`]);
    };
    own.onerror = () => {
      setFaults((known) => [...known, 'The reader of headers ended: load the page anew.']);
      setWaiting(0);
    };
    own.postMessage(picked);
  };
  return { files, waiting, faults, read };
}
