import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { Duplex } from 'node:stream';
import type { show } from '@deep-patch/core';
import { basicGate } from './basic-gate.ts';
import { digestGate, type Gate } from './digest-gate.ts';
import type { ServiceSetting } from '../../units/settings.ts';
import { decoded, fitInAddress, fitsArgument, matchCommand } from '../../units/match-command.ts';
import { act, count, deed, filled, noteOpening, trip } from '../../units/doing.ts';
import { kindOfAgent, notOpenFor } from './agent.ts';
import { isUp, type Standin } from '../../units/standin.ts';

const mostBody = 16_384;
/** Whoever has not said all of a request by then is told so (RFC 9110 section 15.5.9). */
const patienceMs = 10_000;

/** Opens the HTTP control of a stand-in: Node's own server on simulated streams, digest login where the plan sets one. */
export function openWeb(standin: Standin, service: ServiceSetting, type: show.ServiceType): void {
  const gate = gateOf(standin.device.name, service, type);
  /** What calls off the end of a connection that dawdles. */
  const waiting = new WeakMap<object, () => void>();
  const server = createServer((request, response) => {
    request.once('end', () => waiting.get(request.socket)?.());
    answer(standin, { service, type, gate }, request, response).catch((error: unknown) => trip(standin, error));
  });
  const opened = standin.host.tcp.listen(service.receivePort, (stream: Duplex) => {
    if (!isUp(standin)) return;
    const cancel = standin.host.scheduler.after(patienceMs, () => sendAway(stream));
    waiting.set(stream, cancel);
    stream.once('close', cancel);
    server.emit('connection', stream);
  });
  noteOpening(standin, service.key, opened, ['tcp', service.receivePort]);
}

function sendAway(stream: Duplex): void {
  stream.write('HTTP/1.1 408 Request Timeout\r\nconnection: close\r\ncontent-length: 0\r\n\r\n');
  stream.end();
}

/** Who is let in: everybody where no account is set, else by the method chosen on the unit. */
function gateOf(realm: string, service: ServiceSetting, type: show.ServiceType): Gate | undefined {
  const method = service.login ?? type.logins[0];
  const isOpen = service.account === null && service.password === undefined;
  if (isOpen || method === undefined || method === 'none') return undefined;
  return (method === 'basic' ? basicGate : digestGate)(realm, {
    // a password alone goes with an empty name (RFC 7617 section 2)
    username: service.account ?? '',
    password: service.password ?? '',
  });
}

interface Door {
  readonly service: ServiceSetting;
  readonly type: show.ServiceType;
  readonly gate: Gate | undefined;
}

/** Of the kinds that access has to be opened for, those that it was not. */
const isShut = ({ openFor }: ServiceSetting, { needsOpening = [] }: show.ServiceType, kind: string): boolean =>
  needsOpening.some((each) => each === kind) && !openFor.some((each) => each === kind);

async function answer(
  standin: Standin,
  { service, type, gate }: Door,
  request: IncomingMessage,
  response: ServerResponse,
): Promise<void> {
  const [method, uri] = [request.method ?? 'GET', request.url ?? '/'];
  count(standin, type.key, 'heard');
  const tell = (status: number, body: unknown, headers: Record<string, string | string[]> = {}) => {
    response.writeHead(status, { 'content-type': 'application/json', connection: 'close', ...headers });
    response.end(JSON.stringify(body));
  };
  // bytes of a header are UTF-8 here (RFC 7616 section 4, RFC 7617 section 2.1)
  const given = request.headers.authorization;
  const login = given === undefined ? undefined : Buffer.from(given, 'latin1').toString('utf8');
  const kind = kindOfAgent(request.headers['user-agent']);
  if (isShut(service, type, kind)) {
    tell(403, { fault: `${notOpenFor} ${kind}` });
    return;
  }
  const verdict = gate?.verdict(login, { method, uri }) ?? 'in';
  if (gate && verdict !== 'in') {
    tell(401, { fault: 'login' }, { 'www-authenticate': gate.challenges(verdict === 'stale') });
    return;
  }
  if (standin.memory.firstSignIn) {
    tell(403, { fault: 'no administrator yet' });
    return;
  }
  const body = await readBody(request);
  if (typeof body === 'string') {
    tell(body === 'too_large' ? 413 : 400, { fault: body === 'too_large' ? 'too much to read' : 'no JSON object' });
    return;
  }
  const path = pathOf(uri);
  const match = matchCommand(type.commands, path, { method, decode: decoded });
  if (!match) {
    const allowed = methodsFor(type, path);
    if (allowed.length === 0) tell(404, { fault: 'unknown command' });
    else tell(405, { fault: `${method} means nothing here` }, { allow: allowed.join(', ') });
    return;
  }
  const values = match.values;
  const known = new Set(match.rest.map(({ name }) => name));
  const stranger = Object.keys(body).find((name) => !known.has(name));
  if (stranger !== undefined) {
    tell(400, { fault: `no argument is called ${stranger}` });
    return;
  }
  for (const argument of match.rest) {
    const value = body[argument.name];
    if (!fitsArgument(argument, value)) {
      tell(400, { fault: `wrong value for ${argument.name}` });
      return;
    }
    values.set(argument.name, String(value));
  }
  if (!fitInAddress(match)) {
    tell(400, { fault: `wrong value in ${uri}` });
    return;
  }
  const asked = askedBy(type, match.command);
  if (asked.length > 0) {
    const { face } = standin.memory;
    tell(200, { state: Object.fromEntries(asked.map(({ parameter }) => [parameter, face.get(parameter) ?? ''])) });
    return;
  }
  if (!act(standin, type.key, match.command, values)) {
    tell(409, { fault: 'no show is open' });
    return;
  }
  const did = deed(match.command, values);
  tell(200, { did, ...Object.fromEntries(match.command.args.map(({ name }) => [name, filled(`{${name}}`, values)])) });
}

/** What of the unit a command asks for: one that only asks changes nothing. */
const askedBy = ({ feedback = [] }: show.ServiceType, { key }: show.Command): show.Feedback[] =>
  feedback.filter(({ ask }) => ask === key);

/** The path of a request, in absolute form too, as proxies send it (RFC 9112 section 3.2.2). */
function pathOf(uri: string): string {
  const [, rest = uri] = /^https?:\/\/[^/?#]*(.*)$/i.exec(uri) ?? [];
  return rest.split('?')[0] || '/';
}

/** Methods that a path would be understood with (RFC 9110 section 15.5.6). */
const methodsFor = ({ commands }: show.ServiceType, path: string): string[] =>
  [...new Set(commands.map(({ method }) => method ?? 'GET'))].filter((method) =>
    matchCommand(commands, path, { method, decode: decoded }),
  );

async function readBody(request: IncomingMessage): Promise<Record<string, unknown> | 'too_large' | 'no_json'> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of request as AsyncIterable<Buffer>) {
    size += chunk.length;
    if (size <= mostBody) chunks.push(chunk);
  }
  if (size > mostBody) return 'too_large';
  try {
    const body: unknown = JSON.parse(Buffer.concat(chunks).toString('utf8') || '{}');
    return typeof body === 'object' && body !== null && !Array.isArray(body)
      ? (body as Record<string, unknown>)
      : 'no_json';
  } catch {
    return 'no_json';
  }
}
