import type { Sighting } from '../capture/sighting.ts';
import { readCsv } from '../csv.ts';
import { utf8Bytes, utf8Text, westernText } from '../text.ts';
import { readAdapters } from './read-adapters.ts';
import { readFoundTable } from './read-found-table.ts';
import { readNeighbours } from './read-neighbours.ts';

export type ListingKind = 'adapters' | 'neighbours' | 'table';

export type ListingRead =
  | { readonly ok: true; readonly kind: ListingKind; readonly sightings: readonly Sighting[]; readonly lines: number }
  | { readonly ok: false; readonly fault: 'empty' | 'binary' | 'too_long' | 'not_understood'; readonly lines: number };

const mostLines = 50_000;
const longestLine = 2_000;

/**
 * Reads a text that tells what is on a network: a computer's own adapters, a neighbour table, or a table with a
 * heading (comma, semicolon or tab). Says what it took it for. Never throws.
 */
export function readListing(bytes: Uint8Array): ListingRead {
  // the console of some systems saves UTF-16; its byte order mark tells
  const text = utf16Text(bytes) ?? utf8Text(bytes) ?? (bytes.includes(0) ? undefined : westernText(bytes));
  if (text === undefined) return { ok: false, fault: 'binary', lines: 0 };
  const lines = text.split(/\r\n|\n|\r/).map((line) => line.slice(0, longestLine));
  const about = { lines: lines.length };
  if (text.trim() === '') return { ok: false, fault: 'empty', ...about };
  if (lines.length > mostLines) return { ok: false, fault: 'too_long', ...about };
  for (const [kind, read] of readers) {
    const sightings = read(lines, text);
    if (sightings) return { ok: true, kind, sightings, ...about };
  }
  return { ok: false, fault: 'not_understood', ...about };
}

type Reader = (lines: readonly string[], text: string) => Sighting[] | undefined;

/** A table first, since its heading is certain; neighbours last, since any line with both addresses reads as one. */
const readers: readonly (readonly [ListingKind, Reader])[] = [
  ['table', (_, text) => readTable(text)],
  ['adapters', readAdapters],
  ['neighbours', readNeighbours],
];

function readTable(text: string): Sighting[] | undefined {
  if (!/[,;\t]/.test(text.slice(0, text.search(/[\r\n]|$/)))) return undefined;
  const read = readCsv(utf8Bytes(text));
  return read.ok ? readFoundTable(read.cells) : undefined;
}

function utf16Text(bytes: Uint8Array): string | undefined {
  if (bytes[0] !== 0xff || bytes[1] !== 0xfe) return undefined;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let text = '';
  for (let at = 2; at + 1 < bytes.length; at += 2) text += String.fromCharCode(view.getUint16(at, true));
  return text;
}
