import { readListing, type CaptureSummary } from '@deep-patch/codecs';
import { addressing, type show } from '@deep-patch/core';
import { useRef, useState } from 'react';
import { asProblem, upload } from '../live/api.ts';
import { useWorkspace } from '../live/workspace.tsx';
import type { Unread } from './not-understood.tsx';

export type Reading =
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

/** Reads a pasted listing or a table here, a capture on the server. */
export function useFoundReader() {
  const { showId } = useWorkspace();
  const [reading, setReading] = useState<Reading>({ kind: 'waiting' });
  const running = useRef<{ cancel: () => void } | undefined>(undefined);
  const readCapture = async (file: File) => {
    const tellShare = (share: number) => setReading({ kind: 'reading', share });
    tellShare(0);
    const job = upload<CaptureAnswer>(`/shows/${showId}/captures`, file, tellShare);
    running.current = job;
    setReading(await job.done.then(readOfCapture, refusalOf));
  };
  return {
    reading,
    startOver: () => setReading({ kind: 'waiting' }),
    cancel: () => running.current?.cancel(),
    readText: (text: string) => setReading(readOfListing(new TextEncoder().encode(text))),
    readFile: async (file: File | undefined) => {
      if (!file) return;
      const head = new Uint8Array(await file.slice(0, 4).arrayBuffer());
      if (isCapture(head) || file.size > 10_000_000) await readCapture(file);
      else setReading(readOfListing(new Uint8Array(await file.arrayBuffer())));
    },
  };
}

function readOfListing(bytes: Uint8Array): Reading {
  const read = readListing(bytes);
  if (!read.ok) return { kind: 'waiting', fault: listingFaults[read.fault] };
  const source = read.kind === 'table' ? 'table' : 'listing';
  const { hosts } = addressing.gatherHosts(read.sightings, { source, at: Date.now() });
  return {
    kind: 'read',
    hosts,
    told: `Read as ${listingKinds[read.kind]}, ${read.lines} lines.`,
    unread: { lines: read.unread, more: read.unreadMore },
  };
}

function readOfCapture({ hosts, summary, leftOut }: CaptureAnswer): Reading {
  const { fault } = summary;
  if (fault?.code === 'not_a_capture') return { kind: 'waiting', fault: captureFaults.not_a_capture };
  const warning = [
    fault && `${captureFaults[fault.code]}, at byte ${fault.at.toLocaleString('en-GB')}. What came before was read.`,
    summary.skipped > 0 && skippedWords(summary),
    leftOut > 0 && 'There are more than 20,000 hosts in it; the first ones are shown.',
  ]
    .filter(Boolean)
    .join(' ');
  const told = `${summary.frames.toLocaleString('en-GB')} packets read.`;
  return { kind: 'read', hosts, told, ...(warning ? { warning } : {}) };
}

function refusalOf(error: unknown): Reading {
  const problem = asProblem(error);
  return problem.code === 'STOPPED'
    ? { kind: 'waiting' }
    : { kind: 'waiting', fault: `${problem.message}. ${problem.detail}` };
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
