/** A problem document of the server (RFC 9457), or a server that cannot be reached. */
export class Problem extends Error {
  readonly code: string;
  readonly detail: string;
  readonly facts: Readonly<Record<string, unknown>>;
  constructor(facts: Readonly<Record<string, unknown>>) {
    super(textOf(facts['title'], 'Something went wrong'));
    this.code = textOf(facts['code'], 'UNKNOWN');
    this.detail = textOf(facts['detail'], '');
    this.facts = facts;
  }
}

const textOf = (value: unknown, otherwise: string): string => (typeof value === 'string' ? value : otherwise);

const unreachable = {
  code: 'SERVER_AWAY',
  title: 'Deep Patch does not answer',
  detail: 'Is it still running? Work goes on by itself when it is back.',
};

/**
 * What is small goes on its way even when the page is left. A browser allows 64 kibibytes for all that are under way at
 * once (Fetch, HTTP-network-or-cache fetch) and refuses the one too many: eight of these fit.
 */
const mostOnTheWay = 8_000;

function requestOf(method: string, body: unknown): RequestInit {
  if (body === undefined) return { method };
  const text = JSON.stringify(body);
  return {
    ...{ method, headers: { 'content-type': 'application/json' }, body: text },
    keepalive: new TextEncoder().encode(text).length < mostOnTheWay,
  };
}

async function call<Answer>(method: string, path: string, body?: unknown): Promise<Answer> {
  const response = await fetch(`/api${path}`, requestOf(method, body)).catch(() => undefined);
  if (!response) throw new Problem(unreachable);
  if (response.status === 204) return undefined as Answer;
  const answer: unknown = await response
    .json()
    .catch(() => ({ ...unreachable, title: 'The answer could not be read' }));
  if (!response.ok) throw new Problem(answer as Record<string, unknown>);
  return answer as Answer;
}

export const api = {
  get: <Answer>(path: string) => call<Answer>('GET', path),
  post: <Answer>(path: string, body: unknown) => call<Answer>('POST', path, body),
  patch: <Answer>(path: string, body: unknown) => call<Answer>('PATCH', path, body),
  remove: <Answer>(path: string) => call<Answer>('DELETE', path),
};

/**
 * Sends a file as it is and tells how much of it is on its way. `fetch` cannot tell, so this is the older request.
 * A cancelled one refuses with the code STOPPED.
 */
export function upload<Answer>(
  path: string,
  file: Blob,
  onProgress: (share: number) => void,
): { done: Promise<Answer>; cancel: () => void } {
  const request = new XMLHttpRequest();
  const done = new Promise<Answer>((resolve, reject) => {
    const refuse = (facts: Readonly<Record<string, unknown>>) => reject(new Problem(facts));
    request.upload.onprogress = ({ loaded, total }) => onProgress(total > 0 ? loaded / total : 0);
    request.onerror = () => refuse(unreachable);
    request.onabort = () => refuse({ code: 'STOPPED', title: 'Stopped' });
    request.onload = () => {
      const answer = parsed(request.responseText);
      if (!answer) refuse({ ...unreachable, title: 'The answer could not be read' });
      else if (request.status >= 400) refuse(answer);
      else resolve(answer as Answer);
    };
    request.open('POST', `/api${path}`);
    request.setRequestHeader('content-type', 'application/octet-stream');
    request.send(file);
  });
  return { done, cancel: () => request.abort() };
}

function parsed(text: string): Record<string, unknown> | undefined {
  try {
    return JSON.parse(text) as Record<string, unknown>;
  } catch {
    return undefined;
  }
}

export const asProblem = (error: unknown): Problem =>
  error instanceof Problem ? error : new Problem({ title: error instanceof Error ? error.message : String(error) });
