import { readListing, type CaptureSummary } from '@deep-patch/codecs';
import { addressing, show as core, type show } from '@deep-patch/core';
import { useMemo, useRef, useState, type ClipboardEvent, type DragEvent } from 'react';
import { api, asProblem, upload } from '../live/api.ts';
import { useNotices } from '../live/notices.tsx';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { PlainTable } from '../parts/plain-table.tsx';
import { foundWords } from './found-words.ts';
import { NotUnderstood, type Unread } from './not-understood.tsx';

type State =
  | { readonly kind: 'waiting'; readonly fault?: string }
  | { readonly kind: 'reading'; readonly share: number }
  | {
      readonly kind: 'read';
      readonly hosts: readonly show.FoundHost[];
      readonly told: string;
      readonly warning?: string;
      readonly unread?: Unread;
    };

const listingFaults = {
  empty: 'There is nothing in it.',
  binary: 'This is neither text nor a capture. Packed files other than gzip have to be unpacked first.',
  too_long: 'More than 50,000 lines. Cut it to the part with the addresses.',
  not_understood:
    'No address was recognised. Paste what the adapter or neighbour listing of a computer prints, or a table with a heading.',
} as const;
const listingKinds = { adapters: 'a computer’s adapters', neighbours: 'a neighbour table', table: 'a table' } as const;
const captureFaults: Readonly<Record<NonNullable<CaptureSummary['fault']>['code'], string>> = {
  not_a_capture: 'This is no pcap or pcapng file.',
  ends_early: 'The file ends in the middle of a packet',
  length_impossible: 'A length in it cannot be',
  no_interface: 'A packet names an interface that is not described',
  version_unknown: 'Its version is not known',
  record_too_long: 'A packet claims to be longer than any can be',
  packing_damaged: 'The packed file is damaged or ends early',
};

/** Looks at what is really there: a pasted listing, a table, or a packet capture. Nothing is kept until it is taken in. */
export function FoundDialog({ onClose }: { onClose: () => void }) {
  const { showId, seen } = useWorkspace();
  const { tell } = useNotices();
  const [state, setState] = useState<State>({ kind: 'waiting' });
  const running = useRef<{ cancel: () => void } | undefined>(undefined);
  const known = Object.keys(seen.found).length;

  const readText = (bytes: Uint8Array) => {
    const read = readListing(bytes);
    if (!read.ok) {
      setState({ kind: 'waiting', fault: listingFaults[read.fault] });
      return;
    }
    const source = read.kind === 'table' ? 'table' : 'listing';
    const { hosts } = addressing.gatherHosts(read.sightings, { source, at: Date.now() });
    setState({
      kind: 'read',
      hosts,
      told: `Read as ${listingKinds[read.kind]}, ${read.lines} lines.`,
      unread: { lines: read.unread, more: read.unreadMore },
    });
  };
  const readCapture = async (file: File) => {
    setState({ kind: 'reading', share: 0 });
    const job = upload<CaptureAnswer>(`/shows/${showId}/captures`, file, (share) =>
      setState({ kind: 'reading', share }),
    );
    running.current = job;
    try {
      const { hosts, summary, leftOut } = await job.done;
      const { fault } = summary;
      if (fault?.code === 'not_a_capture') {
        setState({ kind: 'waiting', fault: captureFaults.not_a_capture });
        return;
      }
      const warning = [
        fault &&
          `${captureFaults[fault.code]}, at byte ${fault.at.toLocaleString('en-GB')}. What came before was read.`,
        summary.skipped > 0 && skippedWords(summary),
        leftOut > 0 && 'There are more than 20,000 hosts in it; the first ones are shown.',
      ]
        .filter(Boolean)
        .join(' ');
      const told = `${summary.frames.toLocaleString('en-GB')} packets read.`;
      setState({ kind: 'read', hosts, told, ...(warning ? { warning } : {}) });
      return;
    } catch (error) {
      const problem = asProblem(error);
      setState({
        kind: 'waiting',
        ...(problem.code === 'STOPPED' ? {} : { fault: `${problem.message}. ${problem.detail}` }),
      });
      return;
    }
  };
  const readFile = async (file: File | undefined) => {
    if (!file) return;
    const head = new Uint8Array(await file.slice(0, 4).arrayBuffer());
    if (isCapture(head) || file.size > 10_000_000) await readCapture(file);
    else readText(new Uint8Array(await file.arrayBuffer()));
  };
  const takeIn = async () => {
    if (state.kind !== 'read') return;
    try {
      await api.post(`/shows/${showId}/found`, { hosts: state.hosts });
      tell({ text: `Taken in: ${state.hosts.length} hosts found` });
      onClose();
    } catch (error) {
      tell({ problem: asProblem(error) });
    }
  };
  const forget = async () => {
    await api.remove(`/shows/${showId}/found`).catch((error: unknown) => tell({ problem: asProblem(error) }));
    onClose();
  };

  return (
    <Dialog title="As found" onClose={onClose} wide>
      {state.kind === 'waiting' && (
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
              readText(new TextEncoder().encode(text));
            }}
            onChange={(event) =>
              event.target.value.includes('\n') && readText(new TextEncoder().encode(event.target.value))
            }
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
            {known > 0 && (
              <button type="button" className="act-quiet ml-auto text-error" onClick={() => void forget()}>
                Forget the {known} hosts found so far
              </button>
            )}
          </div>
          {state.fault && (
            <p role="alert" className="text-error">
              {state.fault}
            </p>
          )}
        </div>
      )}
      {state.kind === 'reading' && (
        <div className="grid gap-2 py-10">
          <progress
            className="progress progress-primary w-full"
            value={state.share}
            max={1}
            aria-label="Reading the capture"
          />
          <button type="button" className="act justify-self-center" onClick={() => running.current?.cancel()}>
            Stop
          </button>
        </div>
      )}
      {state.kind === 'read' && (
        <div className="grid gap-3">
          <p className="text-mute">{state.told}</p>
          {state.warning && (
            <p role="alert" className="border-l-3 border-warning bg-warning/10 px-3 py-2 text-[13px]">
              {state.warning}
            </p>
          )}
          {state.unread && <NotUnderstood {...state.unread} />}
          <Preview hosts={state.hosts} />
          <div className="flex justify-end gap-2">
            <button type="button" className="act" onClick={() => setState({ kind: 'waiting' })}>
              Start over
            </button>
            <button
              type="button"
              className="act-main"
              disabled={state.hosts.length === 0}
              onClick={() => void takeIn()}
            >
              Take in {state.hosts.length} {state.hosts.length === 1 ? 'host' : 'hosts'}
            </button>
          </div>
        </div>
      )}
    </Dialog>
  );
}

interface CaptureAnswer {
  readonly hosts: readonly show.FoundHost[];
  readonly summary: CaptureSummary;
  readonly leftOut: number;
}

const magics = ['d4c3b2a1', 'a1b2c3d4', '4d3cb2a1', 'a1b23c4d', '0a0d0d0a'];
const gzipMark = '1f8b';
const isCapture = (head: Uint8Array): boolean => {
  const hex = [...head].map((byte) => byte.toString(16).padStart(2, '0')).join('');
  return magics.includes(hex) || hex.startsWith(gzipMark);
};

const skippedWords = ({ skipped, frames, skippedLinks }: CaptureSummary): string => {
  const kinds = `link ${skippedLinks.length === 1 ? 'type' : 'types'} ${skippedLinks.join(', ')}`;
  return skipped === frames
    ? `None of them could be read: they are of ${kinds}. Capture at a wired adapter, or as Ethernet.`
    : `${skipped.toLocaleString('en-GB')} of them are of a kind that is not read here (${kinds}).`;
};

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
