import { contract, show as core } from '@deep-patch/core';
import { z } from 'zod';
import { jackSchema, powerSchema, soundSchema } from '../bench/routes.ts';
import {
  copySchema,
  demoSchema,
  editShowSchema,
  newSecretSchema,
  newShowSchema,
  saveChangeSchema,
  stepSchema,
} from '../shows/schemas.ts';
import { foundSchema } from '../found/schemas.ts';
import * as answers from './answers.ts';
import { failures, type FailureCode } from './failure.ts';

interface Route {
  readonly method: 'get' | 'post' | 'patch' | 'delete';
  readonly path: string;
  readonly summary: string;
  readonly body?: z.ZodType;
  /** What it answers when it was done; none for 204 and for bytes. */
  readonly answer?: z.ZodType;
  readonly query?: readonly string[];
  readonly refusals?: readonly FailureCode[];
}

export const apiRoutes: readonly Route[] = [
  {
    method: 'get',
    path: '/api/health',
    summary: 'Is the server up, and does its database answer?',
    answer: answers.healthAnswer,
  },
  { method: 'get', path: '/api/openapi.json', summary: 'This description', answer: answers.documentAnswer },
  { method: 'get', path: '/api/shows', summary: 'All shows, the last changed first', answer: answers.showsAnswer },
  {
    method: 'post',
    path: '/api/shows',
    summary: 'Makes a show with the type library that ships',
    answer: answers.madeAnswer,
    body: newShowSchema,
  },
  {
    method: 'get',
    path: '/api/shows/{id}',
    summary: 'The whole plan as one snapshot',
    answer: answers.showAnswer,
    refusals: ['SHOW_NOT_FOUND'],
  },
  {
    method: 'patch',
    path: '/api/shows/{id}',
    summary: 'Renames a show, puts it away or takes it out again',
    body: editShowSchema,
    refusals: ['SHOW_NOT_FOUND'],
  },
  {
    method: 'post',
    path: '/api/shows/{id}/copies',
    summary: 'A copy as a start for another show: without passwords, papers, ticks and what was keyed in',
    answer: answers.madeAnswer,
    body: copySchema,
    refusals: ['SHOW_NOT_FOUND'],
  },
  {
    method: 'get',
    path: '/api/shows/{id}/file',
    summary: 'The whole show with its papers as one JSON file, passwords only as “to be entered”',
    answer: answers.showFileAnswer,
    refusals: ['SHOW_NOT_FOUND'],
  },
  {
    method: 'post',
    path: '/api/shows/files',
    summary: 'Opens such a file (60 MB) as a new show, whole or not at all',
    answer: answers.madeAnswer,
    body: core.showFileSchema,
  },
  {
    method: 'post',
    path: '/api/shows/demo',
    summary: 'Makes the demo show anew',
    answer: answers.madeAnswer,
    body: demoSchema,
  },
  {
    method: 'get',
    path: '/api/schemas/show.json',
    summary: 'The JSON Schema of files with a show',
    answer: answers.schemaAnswer,
  },
  {
    method: 'delete',
    path: '/api/shows/{id}',
    summary: 'Removes a show with all that belongs to it',
    refusals: ['SHOW_NOT_FOUND'],
  },
  {
    method: 'post',
    path: '/api/shows/{id}/changes',
    summary: 'Saves a change whole or not at all (1 MB); answers what is in the log of it',
    answer: answers.loggedAnswer,
    body: saveChangeSchema,
    refusals: ['SHOW_CHANGED', 'ROW_EXISTS', 'DANGLING', 'TOO_LARGE'],
  },
  {
    method: 'post',
    path: '/api/shows/{id}/imports',
    summary: 'The same for a large change (10 MB)',
    answer: answers.savedAnswer,
    body: saveChangeSchema,
    refusals: ['SHOW_CHANGED', 'ROW_EXISTS', 'DANGLING', 'TOO_LARGE'],
  },
  {
    method: 'get',
    path: '/api/shows/{id}/changes',
    summary: 'Changes after a revision; null when the snapshot is the shorter way',
    answer: answers.changesAnswer,
    query: ['since'],
  },
  {
    method: 'post',
    path: '/api/shows/{id}/undo',
    summary: 'Takes the author’s last standing change back',
    answer: answers.stepAnswer,
    body: stepSchema,
    refusals: ['NOTHING_TO_UNDO', 'SHOW_CHANGED'],
  },
  {
    method: 'post',
    path: '/api/shows/{id}/redo',
    summary: 'Does the last change taken back again',
    answer: answers.stepAnswer,
    body: stepSchema,
    refusals: ['NOTHING_TO_REDO', 'SHOW_CHANGED'],
  },
  {
    method: 'get',
    path: '/api/shows/{id}/history',
    summary: 'What undo and redo would do for an author',
    answer: answers.historyAnswer,
    query: ['author'],
  },
  {
    method: 'post',
    path: '/api/shows/{id}/secrets',
    summary: 'Keeps a device password; answers with its id, never with its text',
    answer: answers.madeAnswer,
    body: newSecretSchema,
  },
  {
    method: 'post',
    path: '/api/shows/{id}/files',
    summary: 'Keeps the bytes of a paper (20 MB); answers with their SHA-256, by which a document row names them',
    answer: answers.fileAnswer,
    refusals: ['SHOW_NOT_FOUND', 'FILE_TOO_LARGE', 'FILE_EMPTY'],
  },
  {
    method: 'get',
    path: '/api/shows/{id}/documents/{documentId}',
    summary: 'The bytes of a paper, to be saved by the browser',
    refusals: ['NO_DOCUMENT'],
  },
  {
    method: 'get',
    path: '/api/shows/{id}/sheets.pdf',
    summary: 'The work of the bring-up as a PDF, one page a unit, with a code that opens its next step',
    refusals: ['SHOW_NOT_FOUND'],
  },
  { method: 'get', path: '/api/shows/{id}/seen', summary: 'What is known of reality', answer: answers.seenAnswer },
  {
    method: 'post',
    path: '/api/shows/{id}/captures',
    summary: 'Reads a packet capture (pcap or pcapng, 100 MB) and answers with the hosts in it; saves nothing',
    answer: answers.captureAnswer,
    refusals: ['SHOW_NOT_FOUND', 'CAPTURE_TOO_LARGE'],
  },
  {
    method: 'post',
    path: '/api/shows/{id}/found',
    summary: 'Takes hosts in as found (10 MB); a host found again replaces what was known of it',
    answer: answers.foundAnswer,
    body: foundSchema,
    refusals: ['SHOW_NOT_FOUND', 'TOO_LARGE'],
  },
  {
    method: 'delete',
    path: '/api/shows/{id}/found',
    summary: 'Forgets every host that was found',
    refusals: ['SHOW_NOT_FOUND'],
  },
  {
    method: 'get',
    path: '/api/schemas/device-types.json',
    summary: 'The JSON Schema of files with device types',
    answer: answers.schemaAnswer,
  },
  {
    method: 'get',
    path: '/api/shows/{id}/analysis',
    summary: 'Findings in words and the depth of every link',
    answer: answers.analysisAnswer,
  },
  {
    method: 'get',
    path: '/api/bench/{showId}',
    summary: 'Stand-ins, messages heard and jacks',
    answer: answers.benchAnswer,
    refusals: ['BENCH_AWAY'],
  },
  {
    method: 'post',
    path: '/api/bench/{showId}/power',
    summary: 'Switches stand-ins on or off',
    answer: answers.benchAnswer,
    body: powerSchema,
  },
  {
    method: 'post',
    path: '/api/bench/{showId}/sound',
    summary: 'Sounds one link with real bytes',
    answer: answers.soundingAnswer,
    body: soundSchema,
    refusals: ['LINK_NOT_FOUND'],
  },
  {
    method: 'post',
    path: '/api/bench/{showId}/acts',
    summary: 'Does something on the bench: keys in, breaks, mends, rehearses, scans',
    answer: answers.benchAnswer,
    body: contract.actSchema,
    refusals: ['BENCH_REFUSED'],
  },
  {
    method: 'get',
    path: '/api/bench/{showId}/addresses',
    summary: 'OSC addresses heard, with their range',
    answer: answers.addressesAnswer,
  },
  {
    method: 'get',
    path: '/api/bench/{showId}/units/{deviceId}/ways',
    summary: 'Which ways to a unit’s settings are open now, and from which computer',
    answer: answers.waysAnswer,
  },
  {
    method: 'get',
    path: '/api/bench/{showId}/frames/{number}',
    summary: 'The bytes of one frame that went over the network, and what each stands for',
    answer: answers.frameAnswer,
    refusals: ['FRAME_GONE'],
  },
  { method: 'get', path: '/api/bench/{showId}/capture.pcapng', summary: 'What went over the network, as pcapng' },
  {
    method: 'post',
    path: '/api/bench/{showId}/jacks',
    summary: 'Opens a stand-in’s service on loopback',
    answer: answers.benchAnswer,
    body: jackSchema,
    refusals: ['BENCH_REFUSED'],
  },
  { method: 'delete', path: '/api/bench/{showId}/jacks/{port}', summary: 'Closes a jack', answer: answers.benchAnswer },
];

/** The API in OpenAPI 3.1, made from the schemas that validate it. */
export function openApi(): unknown {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const route of apiRoutes) (paths[route.path] ??= {})[route.method] = operation(route);
  return {
    openapi: '3.1.0',
    info: {
      title: 'Deep Patch',
      version: '0.1.0',
      description: 'Errors are problem documents (RFC 9457) with a stable code.',
    },
    paths,
    components: { schemas: { Problem: problemSchema() } },
  };
}

function operation({ path, summary, body, answer, query = [], refusals = [] }: Route): unknown {
  const names = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
  const asked = query.map((name) => ({ name, in: 'query', required: true, schema: { type: 'string' } }));
  const refused = refusals.map(
    (code) =>
      [
        String(failures[code].status),
        {
          description: `${code}: ${failures[code].title}`,
          content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
        },
      ] as const,
  );
  return {
    summary,
    parameters: [...names, ...asked],
    ...(body && { requestBody: { required: true, ...content(body, 'input') } }),
    responses: {
      '2XX': { description: 'Done', ...(answer && content(answer, 'output')) },
      ...Object.fromEntries(refused),
    },
  };
}

const content = (schema: z.ZodType, io: 'input' | 'output') => ({
  content: { 'application/json': { schema: z.toJSONSchema(schema, { io, unrepresentable: 'any' }) } },
});

const problemSchema = () => ({
  type: 'object',
  required: ['type', 'title', 'status', 'code', 'detail'],
  properties: {
    type: { type: 'string' },
    title: { type: 'string' },
    status: { type: 'integer' },
    code: { type: 'string', enum: Object.keys(failures) },
    detail: { type: 'string' },
  },
});
