import { addressing, show as core, type show } from '@deep-patch/core';
import { useMemo, type ClipboardEvent, type DragEvent } from 'react';
import { api, asProblem } from '../live/api.ts';
import { useNotices } from '../live/notices.tsx';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { PlainTable } from '../parts/plain-table.tsx';
import { UnderWay } from '../parts/under-way.tsx';
import { foundWords } from './found-words.ts';
import { NotUnderstood } from './not-understood.tsx';
import { useFoundReader, type Reading } from './use-found-reader.ts';

/** Looks at what is really there: a pasted listing, a table, or a packet capture. Nothing is kept until it is taken in. */
export function FoundDialog({ onClose }: { onClose: () => void }) {
  const { showId } = useWorkspace();
  const { tell } = useNotices();
  const reader = useFoundReader();
  const { reading } = reader;
  const takeIn = async (hosts: readonly show.FoundHost[]) => {
    try {
      await api.post(`/shows/${showId}/found`, { hosts });
      tell({ text: `Taken in: ${hosts.length} hosts found` });
      onClose();
    } catch (error) {
      tell({ problem: asProblem(error) });
    }
  };
  return (
    <Dialog title="As found" onClose={onClose} wide>
      {reading.kind === 'waiting' && <Source fault={reading.fault} reader={reader} onClose={onClose} />}
      {reading.kind === 'reading' && (
        <UnderWay label="Reading the capture" share={reading.share} onStop={reader.cancel} />
      )}
      {reading.kind === 'read' && (
        <WhatWasRead reading={reading} onAgain={reader.startOver} onTake={() => void takeIn(reading.hosts)} />
      )}
    </Dialog>
  );
}

type Reader = ReturnType<typeof useFoundReader>;

/** Where a listing is pasted and a file dropped. */
function Source({
  fault,
  reader: { readText, readFile },
  onClose,
}: {
  readonly fault: string | undefined;
  readonly reader: Reader;
  readonly onClose: () => void;
}) {
  return (
    <div
      className="grid gap-3"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event: DragEvent) => {
        event.preventDefault();
        void readFile(event.dataTransfer.files[0]);
      }}
    >
      <p>
        Paste what a computer prints about its adapters or neighbours (any of the usual systems, in English, German,
        French or Spanish), drop a table, or a packet capture up to 100 MB, packed with gzip or not.
      </p>
      <textarea
        aria-label="Paste the listing here"
        rows={8}
        className="textarea key-num w-full border-dashed border-line bg-base-100"
        placeholder={'? (10.61.20.31) at 2:1e:70:0:0:10 on en0\n? (10.61.20.32) at 2:1e:70:0:0:35 on en0'}
        onPaste={(event: ClipboardEvent) => {
          const text = event.clipboardData.getData('text');
          if (!text.trim()) return;
          event.preventDefault();
          readText(text);
        }}
        onChange={(event) => event.target.value.includes('\n') && readText(event.target.value)}
      />
      <div className="flex flex-wrap items-center gap-3">
        <label className="flex items-center gap-3 text-mute">
          or choose a file
          <input
            type="file"
            accept=".pcap,.pcapng,.cap,.gz,.csv,.tsv,.txt,.json"
            className="file-input file-input-sm border-line"
            onChange={(event) => void readFile(event.target.files?.[0])}
          />
        </label>
        <Forget onDone={onClose} />
      </div>
      {fault && (
        <p role="alert" className="text-error">
          {fault}
        </p>
      )}
    </div>
  );
}

function Forget({ onDone }: { readonly onDone: () => void }) {
  const { showId, seen } = useWorkspace();
  const { tell } = useNotices();
  const known = Object.keys(seen.found).length;
  if (known === 0) return null;
  const forget = async () => {
    await api.remove(`/shows/${showId}/found`).catch((error: unknown) => tell({ problem: asProblem(error) }));
    onDone();
  };
  return (
    <button type="button" className="act-quiet ml-auto text-error" onClick={() => void forget()}>
      Forget the {known} hosts found so far
    </button>
  );
}

function WhatWasRead({
  reading: { told, warning, unread, hosts },
  onAgain,
  onTake,
}: {
  readonly reading: Extract<Reading, { kind: 'read' }>;
  readonly onAgain: () => void;
  readonly onTake: () => void;
}) {
  return (
    <div className="grid gap-3">
      <p className="text-mute">{told}</p>
      {warning && (
        <p role="alert" className="border-l-3 border-warning bg-warning/10 px-3 py-2 text-[13px]">
          {warning}
        </p>
      )}
      {unread && <NotUnderstood {...unread} />}
      <Preview hosts={hosts} />
      <div className="flex justify-end gap-2">
        <button type="button" className="act" onClick={onAgain}>
          Start over
        </button>
        <button type="button" className="act-main" disabled={hosts.length === 0} onClick={onTake}>
          Take in {hosts.length} {hosts.length === 1 ? 'host' : 'hosts'}
        </button>
      </div>
    </div>
  );
}

/** Each host with the unit that it was recognised as, and whether it is where the plan has it. */
function Preview({ hosts }: { hosts: readonly show.FoundHost[] }) {
  const show = useShow();
  const rows = useMemo(() => {
    const found = Object.fromEntries(hosts.map((host) => [host.id, host]));
    const { items } = addressing.matchFound(show, addressing.addressingFacts(show), found);
    const of = core.groupBy(
      [...items.values()].filter((item) => item.host),
      (item) => item.host?.id ?? '',
    );
    return hosts.map((host) => ({ host, item: of.get(host.id)?.[0] }));
  }, [show, hosts]);
  const lines = rows.map(({ host, item }) => ({
    id: host.id,
    cells: [
      <code>{host.ips.map(({ ip }) => ip).join(', ') || '—'}</code>,
      <code className="text-mute">{host.mac ?? '—'}</code>,
      host.names[0] ?? '',
      item?.planned.device.name ?? <span className="text-mute">unknown</span>,
      <span className="text-mute">
        {item ? foundWords(item) : host.roles.length > 0 ? 'gateway or server' : 'not in the plan'}
      </span>,
    ],
  }));
  return (
    <PlainTable
      label="Hosts found"
      heads={['Address', 'MAC', 'Name', 'In the plan', 'State']}
      rows={lines}
      most={500}
    />
  );
}
