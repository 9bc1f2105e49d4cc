import { readCsv } from '../csv.ts';
import { utf16Text, utf8Bytes, utf8Text, westernText } from '../text.ts';
import type { Sighting } from '../capture/sighting.ts';
import type { Listed, UnreadLine } from './listed.ts';
import { readAdapters } from './read-adapters.ts';
import { readFoundTable } from './read-found-table.ts';
import { readIpJson } from './read-ip-json.ts';
import { readNeighbours } from './read-neighbours.ts';
import { ipPattern, macPattern } from './tidy.ts';

export type ListingKind = 'adapters' | 'neighbours' | 'table';

export type ListingRead =
  | {
      readonly ok: true;
      readonly kind: ListingKind;
      readonly sightings: readonly Sighting[];
      readonly lines: number;
      /** What said nothing to the reader, blank lines apart: those with an address first. */
      readonly unread: readonly UnreadLine[];
      /** How many more there are than are listed. */
      readonly unreadMore: number;
    }
  | { readonly ok: false; readonly fault: 'empty' | 'binary' | 'too_long' | 'not_understood'; readonly lines: number };

const mostLines = 50_000;
const longestLine = 2_000;
const [mostUnread, longestUnread] = [300, 200];

/**
 * Reads a text that tells what is on a network: a computer's own adapters, a neighbour table, or a table with a
 * heading (comma, semicolon or tab). Says what it took it for, and which lines it did not understand. Never throws.
 */
export function readListing(bytes: Uint8Array): ListingRead {
  const text = utf16Text(bytes) ?? utf8Text(bytes) ?? (bytes.includes(0) ? undefined : westernText(bytes));
  // a zero is a letter of no text: this is UTF-16 without its mark, or no text
  if (text === undefined || text.includes('\0')) return { ok: false, fault: 'binary', lines: 0 };
  const lines = text.split(/\r\n|\n|\r/).map((line) => line.slice(0, longestLine));
  // the end of the last line begins no other
  const about = { lines: lines.length - (lines.at(-1) === '' ? 1 : 0) };
  if (text.trim() === '') return { ok: false, fault: 'empty', ...about };
  if (lines.length > mostLines) return { ok: false, fault: 'too_long', ...about };
  for (const [kind, read] of readers) {
    const listed = read(lines, text);
    if (listed) return { ok: true, kind, sightings: listed.sightings, ...about, ...unreadOf(lines, listed) };
  }
  return { ok: false, fault: 'not_understood', ...about };
}

function unreadOf(lines: readonly string[], { understood }: Listed) {
  const unread = lines.flatMap((text, at): UnreadLine[] =>
    understood.has(at) || text.trim() === ''
      ? []
      : [
          {
            line: at + 1,
            text: text.trim().slice(0, longestUnread),
            hasAddress: ipPattern.test(text) || macPattern.test(text),
          },
        ],
  );
  const first = unread.sort((a, b) => Number(b.hasAddress) - Number(a.hasAddress)).slice(0, mostUnread);
  return { unread: first, unreadMore: unread.length - first.length };
}

type Reader = (lines: readonly string[], text: string) => Listed | undefined;

/** What is certain of its form first; neighbours last, since any line with both addresses reads as one. */
const readers: readonly (readonly [ListingKind, Reader])[] = [
  ['adapters', (lines, text) => readIpJson(lines, text, 'adapters')],
  ['neighbours', (lines, text) => readIpJson(lines, text, 'neighbours')],
  ['table', readTable],
  ['adapters', readAdapters],
  ['neighbours', readNeighbours],
];

function readTable(lines: readonly string[], text: string): Listed | undefined {
  if (!/[,;\t]/.test(text.slice(0, text.search(/[\r\n]|$/)))) return undefined;
  const read = readCsv(utf8Bytes(text));
  if (!read.ok) return undefined;
  const filled = read.cells.filter((row) => row.some((cell) => cell.trim() !== ''));
  return readFoundTable(filled, lines);
}
