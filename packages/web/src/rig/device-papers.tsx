import { show as core, type show } from '@deep-patch/core';
import { FileUp, X } from 'lucide-react';
import { useRef, useState } from 'react';
import { useDraft } from '../parts/drafts.ts';
import { asProblem, upload } from '../live/api.ts';
import { useSteadyIds } from '../live/steady-ids.ts';
import { useNotices } from '../live/notices.tsx';
import { useShow, useWorkspace } from '../live/workspace.tsx';

/** Manuals and papers of one model, kept with the show so that they are there without a network. */
export function DevicePapers({ type }: { type: show.DeviceType }) {
  const show = useShow();
  const documents = core.rowsOf(show, 'documents').filter(({ model }) => model === type.model);
  const commands = type.services.flatMap((service) => service.commands.map((command) => ({ service, command })));
  return (
    <details className="border-t border-rule pt-3">
      <summary className="cursor-pointer text-[13px] font-semibold">
        Papers and commands{documents.length > 0 && ` · ${documents.length} kept`}
      </summary>
      <div className="grid gap-2 pt-2 text-[13px]">
        <ul>
          {documents.map((document) => (
            <PaperLine key={document.id} document={document} />
          ))}
        </ul>
        <KeepPaper type={type} />
        {commands.length > 0 && (
          <ul aria-label="Commands">
            {commands.map(({ service, command }) => (
              <li key={`${service.key} ${command.key}`} className="border-b border-rule py-1">
                {command.label} <span className="text-mute">{service.label}</span>
                <code className="block break-all">
                  {command.method && `${command.method} `}
                  {command.address} {command.args.map(({ name, type: kind }) => `${name}:${kind}`).join(' ')}
                </code>
              </li>
            ))}
          </ul>
        )}
      </div>
    </details>
  );
}

export function PaperLine({ document }: { document: core.Document }) {
  const show = useShow();
  const { save, showId } = useWorkspace();
  return (
    <li className="flex items-center gap-2 border-b border-rule py-1">
      <a className="link min-w-0 flex-1 truncate" href={`/api/shows/${showId}/documents/${document.id}`} download>
        {document.title}
      </a>
      <span className="text-mute">{sizeOf(document.bytes)}</span>
      <button
        type="button"
        className="btn btn-ghost btn-xs btn-square"
        aria-label={`Take out ${document.title}`}
        onClick={() => void save(core.planRemove(show, 'documents', [document.id], `Take out ${document.title}`))}
      >
        <X size={12} aria-hidden />
      </button>
    </li>
  );
}

const sizeOf = (bytes: number): string =>
  bytes < 1000 ? `${bytes} B` : bytes < 1_000_000 ? `${Math.round(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;

/** Sends a file, then names it in the plan; answers whether it is kept. `share` is set while it is on its way. */
function useKeeping(type: show.DeviceType) {
  const { save, showId } = useWorkspace();
  const { tell } = useNotices();
  const steady = useSteadyIds();
  const [share, setShare] = useState<number>();
  const keep = async (file: File, title: string): Promise<boolean> => {
    setShare(0);
    try {
      const sent = upload<{ fileId: string; bytes: number }>(`/shows/${showId}/files`, file, setShare);
      const { fileId, bytes } = await sent.done;
      const named = (title.trim() || file.name).slice(0, core.limits.name);
      const row = { id: steady.begin()(), model: type.model, title: named, fileId, bytes };
      const isIn = await save(core.changeOf(`Keep ${named}`, [core.insertRow('documents', row)]));
      if (isIn) steady.renew();
      return isIn;
    } catch (error) {
      tell({ problem: asProblem(error) });
      return false;
    } finally {
      setShare(undefined);
    }
  };
  return { share, keep };
}

function KeepPaper({ type }: { type: show.DeviceType }) {
  const { share, keep } = useKeeping(type);
  const [title, setTitle] = useDraft(`paper ${type.id}`, '');
  const input = useRef<HTMLInputElement>(null);
  const take = async (file: File) => {
    if (await keep(file, title)) setTitle('');
    if (input.current) input.current.value = '';
  };
  return (
    <div className="grid grid-cols-[1fr_auto] gap-1.5">
      <input
        aria-label="What the paper is"
        className="field"
        list={`papers-${type.model}`}
        placeholder="what it is"
        maxLength={core.limits.name}
        value={title}
        onChange={(event) => setTitle(event.target.value)}
      />
      <datalist id={`papers-${type.model}`}>
        {type.papers.map((paper) => (
          <option key={paper} value={paper} />
        ))}
      </datalist>
      <input
        ref={input}
        type="file"
        className="hidden"
        tabIndex={-1}
        aria-label={`A paper for ${type.name}`}
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          if (file) void take(file);
        }}
      />
      <button type="button" className="act" disabled={share !== undefined} onClick={() => input.current?.click()}>
        <FileUp size={14} aria-hidden /> {share === undefined ? 'Keep a file' : `${Math.round(share * 100)} %`}
      </button>
    </div>
  );
}
