// Reads and checks large changes in a thread of its own: 60,000 rows take seconds, in which the server answers others.
import { parentPort } from 'node:worker_threads';
import { Failure } from '../http/failure.ts';
import { readInput } from '../http/read-input.ts';
import type { ReadAnswer, ReadRequest } from './change-reader.ts';
import { saveChangeSchema } from './schemas.ts';

function read(text: string): Omit<ReadAnswer, 'id'> {
  try {
    return { value: readInput(saveChangeSchema, JSON.parse(text)) };
  } catch (error) {
    if (error instanceof SyntaxError) return { refused: { code: 'NOT_JSON', facts: {} } };
    if (error instanceof Failure) return { refused: { code: error.code, facts: error.facts } };
    throw error;
  }
}

parentPort?.on('message', ({ id, text }: ReadRequest) => parentPort?.postMessage({ id, ...read(text) }));
