import { CaptureReader, readFrame, type CaptureSummary } from '@deep-patch/codecs';
import { addressing, type show as core } from '@deep-patch/core';
import { Failure } from '../http/failure.ts';
import { unpacked, type Packing } from './unpacked.ts';

export const mostCaptureBytes = 100_000_000;
/** What a packed capture may hold; packets pack to about a quarter. */
export const mostUnpackedBytes = 500_000_000;

export interface CaptureRead {
  readonly summary: CaptureSummary;
  readonly hosts: readonly core.FoundHost[];
  /** Hosts beyond the limit, counted and left out. */
  readonly leftOut: number;
}

/**
 * Reads a packet capture as it arrives, chunk by chunk, so that neither its length nor its content can hold the
 * server up. Saves nothing. A damaged file gives what was read before the damage, with where it ended.
 */
export async function readCapture(
  chunks: AsyncIterable<Uint8Array>,
  at: number,
  mostBytes = mostUnpackedBytes,
): Promise<CaptureRead> {
  const gatherer = new addressing.Gatherer();
  const reader = new CaptureReader((frame) => {
    for (const sighting of readFrame(frame)) gatherer.add(sighting);
  });
  const packing: Packing = { damaged: false };
  let bytes = 0;
  for await (const chunk of unpacked(bounded(chunks, mostCaptureBytes), packing)) {
    bytes += chunk.length;
    if (bytes > mostBytes) throw new Failure('CAPTURE_TOO_LARGE');
    reader.push(chunk);
  }
  const summary = reader.end();
  const fault = packing.damaged ? ({ code: 'packing_damaged', at: bytes } as const) : summary.fault;
  return { summary: { ...summary, fault }, ...gatherer.hosts({ source: 'capture', at }) };
}

async function* bounded(chunks: AsyncIterable<Uint8Array>, most: number): AsyncGenerator<Uint8Array> {
  let bytes = 0;
  for await (const chunk of chunks) {
    bytes += chunk.length;
    if (bytes > most) throw new Failure('CAPTURE_TOO_LARGE');
    yield chunk;
  }
}
