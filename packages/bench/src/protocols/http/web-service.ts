import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { Duplex } from 'node:stream';
import type { show } from '@deep-patch/core';
import { basicGate } from './basic-gate.ts';
import { digestGate, type Gate } from './digest-gate.ts';
import type { ServiceSetting } from '../../units/settings.ts';
import { decoded, fitInAddress, fitsArgument, matchCommand } from '../../units/match-command.ts';
import { act, count, deed, filled, noteOpening, trip } from '../../units/doing.ts';
import { isUp, type Standin } from '../../units/standin.ts';

const mostBody = 16_384;

/** Opens the HTTP control of a stand-in: Node's own server on simulated streams, digest login where the plan sets one. */
export function openWeb(standin: Standin, service: ServiceSetting, type: show.ServiceType): void {
  const gate = gateOf(standin.device.name, service, type);
  const server = createServer((request, response) => {
    answer(standin, type, gate, request, response).catch((error: unknown) => trip(standin, error));
  });
  const door = (stream: Duplex) => {
    if (isUp(standin)) server.emit('connection', stream);
  };
  const opened = standin.host.tcp.listen(service.receivePort, door);
  noteOpening(standin, service.key, opened, ['tcp', service.receivePort]);
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

async function answer(
  standin: Standin,
  type: show.ServiceType,
  gate: Gate | undefined,
  request: IncomingMessage,
  response: ServerResponse,
): Promise<void> {
  const [method, uri] = [request.method ?? 'GET', request.url ?? '/'];
  count(standin, type.key, 'heard');
  const tell = (status: number, body: unknown, headers: Record<string, string | string[]> = {}) => {
    response.writeHead(status, { 'content-type': 'application/json', connection: 'close', ...headers });
    response.end(JSON.stringify(body));
  };
  if (gate && !gate.admits(request.headers.authorization, { method, uri })) {
    tell(401, { fault: 'login' }, { 'www-authenticate': gate.challenges() });
    return;
  }
  if (standin.memory.firstSignIn) {
    tell(403, { fault: 'no administrator yet' });
    return;
  }
  const body = await readBody(request);
  const match = matchCommand(type.commands, uri.split('?')[0] ?? '/', { method, decode: decoded });
  if (!match) {
    tell(404, { fault: 'unknown command' });
    return;
  }
  const values = match.values;
  const known = new Set(match.rest.map(({ name }) => name));
  const stranger = Object.keys(body ?? {}).find((name) => !known.has(name));
  if (stranger !== undefined) {
    tell(400, { fault: `no argument is called ${stranger}` });
    return;
  }
  for (const argument of match.rest) {
    const value = body?.[argument.name];
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
  if (!act(standin, type.key, match.command, values)) {
    tell(409, { fault: 'no show is open' });
    return;
  }
  const did = deed(match.command, values);
  tell(200, { did, ...Object.fromEntries(match.command.args.map(({ name }) => [name, filled(`{${name}}`, values)])) });
}

async function readBody(request: IncomingMessage): Promise<Record<string, unknown> | undefined> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of request as AsyncIterable<Buffer>) {
    size += chunk.length;
    if (size <= mostBody) chunks.push(chunk);
  }
  try {
    const body: unknown = JSON.parse(Buffer.concat(chunks).toString('utf8') || '{}');
    return typeof body === 'object' && body !== null ? (body as Record<string, unknown>) : undefined;
  } catch {
    return undefined;
  }
}
