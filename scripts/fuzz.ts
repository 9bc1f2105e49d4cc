import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import { Fuzzer, type Description, type FuzzRequest, type KnownRow } from './fuzzer.ts';

export interface FuzzReport {
  readonly requests: number;
  /** How often each status was answered, by the operation. */
  readonly statuses: Readonly<Record<string, number>>;
  /** Requests that were answered with 5xx, or with what the description does not say. */
  readonly faults: readonly { readonly request: FuzzRequest; readonly status: number; readonly answer: string }[];
}

type Json = Record<string, unknown>;

/** Sends requests from a seed to a server, and holds what it answers against what it says of itself. */
export async function fuzz(base: string, count: number, seed: number): Promise<FuzzReport> {
  const get = async (path: string) => (await fetch(`${base}${path}`)).json() as Promise<Json>;
  const description = (await get('/api/openapi.json')) as unknown as Description;
  const demo = await get('/api/shows/harbour-finals');
  const rows = Object.entries(demo).flatMap(([table, there]) =>
    typeof there === 'object' && there !== null
      ? Object.values(there as Record<string, KnownRow['row']>)
          .slice(0, 12)
          .map((row) => ({ table, row }))
      : [],
  );
  const made = await fetch(`${base}/api/shows`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: '{"name":"Fuzz"}',
  });
  const shows = ['harbour-finals', ((await made.json()) as { id: string }).id, 'no-such-show'];
  const ids = [...rows.map(({ row }) => row.id), 'lan', 'osc', 'web'];
  const fuzzer = new Fuzzer(description, { shows, ids, rows }, seed);
  const answers = answersOf(description);
  const statuses: Record<string, number> = {};
  const faults: FuzzReport['faults'][number][] = [];
  for (let at = 0; at < count; at += 1) {
    const request = fuzzer.next();
    // the shows stay, so that what comes after has something to hit
    if (request.method === 'DELETE' && /^\/api\/shows\/[^/]+\/?$/.test(request.path)) continue;
    const response = await fetch(`${base}${request.path}`, {
      method: request.method,
      headers: request.headers,
      ...(request.body !== undefined && request.method !== 'GET' && { body: request.body }),
    });
    const text = await response.text();
    const key = `${request.method} ${request.route} ${response.status}`;
    statuses[key] = (statuses[key] ?? 0) + 1;
    const told = faultOf(response, text, answers.get(`${request.method} ${request.route}`), answers.get('problem'));
    if (told) faults.push({ request, status: response.status, answer: `${told}: ${text.slice(0, 600)}` });
  }
  return { requests: count, statuses, faults };
}

function faultOf(response: Response, text: string, done?: ValidateFunction, problem?: ValidateFunction) {
  const { status, headers } = response;
  if (status >= 500) return 'a fault of its own';
  const type = headers.get('content-type') ?? '';
  if (status >= 400)
    return problem?.(parsed(text)) === true && type.includes('problem+json') ? undefined : 'no problem document';
  if (status === 204 || !done || !type.includes('json')) return undefined;
  return done(parsed(text))
    ? undefined
    : `not as described (${done.errors?.map(({ instancePath, message }) => `${instancePath} ${message}`).join('; ')})`;
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** What checks the answers of each operation, and `problem` for every refusal. */
function answersOf(description: Description): Map<string, ValidateFunction> {
  // formats are what Zod makes of them: patterns stand beside them
  const ajv = new Ajv2020({ strict: false, validateFormats: false });
  const checks = new Map<string, ValidateFunction>();
  const { paths, components } = description as unknown as {
    paths: Record<
      string,
      Record<string, { responses: Record<string, { content?: Record<string, { schema: object }> }> }>
    >;
    components: { schemas: { Problem: object } };
  };
  checks.set('problem', ajv.compile(components.schemas.Problem));
  for (const [route, operations] of Object.entries(paths))
    for (const [method, { responses }] of Object.entries(operations)) {
      const schema = responses['2XX']?.content?.['application/json']?.schema;
      if (schema) checks.set(`${method.toUpperCase()} ${route}`, ajv.compile(schema));
    }
  return checks;
}
