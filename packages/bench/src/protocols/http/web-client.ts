import { randomBytes } from 'node:crypto';
import { request as httpRequest } from 'node:http';
import { authorizationHeader, readChallenges } from '@deep-patch/codecs';
import type { Host } from '../../ether/host.ts';
import { hexHash } from './digest-gate.ts';
import { dotted } from '../../ether/dotted.ts';

export interface WebRequest {
  readonly ip: number;
  readonly port: number;
  readonly method: string;
  readonly path: string;
  readonly body: Readonly<Record<string, unknown>>;
  readonly login: { readonly username: string; readonly password: string } | undefined;
  readonly agent: string;
}

export type WebOutcome =
  | { readonly status: number; readonly body: Readonly<Record<string, unknown>> }
  | 'refused'
  | 'silent'
  /** Somebody listens there, and does not speak HTTP. */
  | 'other_protocol';

/** One request over the simulated network; answers a digest or basic challenge once (RFC 7616, RFC 7617). */
export async function requestWeb(host: Host, wanted: WebRequest): Promise<WebOutcome> {
  const first = await exchange(host, wanted, undefined);
  if (typeof first === 'string' || first.status !== 401 || !wanted.login) return first;
  const challenge = readChallenges(first.challenges);
  if (!challenge)
    return first.challenges.some((text) => /^basic /i.test(text)) ? exchange(host, wanted, basic(wanted.login)) : first;
  const details = {
    ...wanted.login,
    ...challenge,
    method: wanted.method,
    uri: wanted.path,
    nc: '00000001',
    cnonce: randomBytes(8).toString('hex'),
  };
  return exchange(host, wanted, authorizationHeader(details, challenge.opaque, hexHash));
}

const basic = ({ username, password }: { username: string; password: string }): string =>
  `Basic ${Buffer.from(`${username}:${password}`).toString('base64')}`;

type Exchanged = { status: number; body: Record<string, unknown>; challenges: string[] } | Exclude<WebOutcome, object>;

async function exchange(
  host: Host,
  { ip, port, method, path, body, agent }: WebRequest,
  authorization: string | undefined,
): Promise<Exchanged> {
  const stream = await host.tcp.connect(ip, port);
  if (typeof stream === 'string') return stream;
  return new Promise((done) => {
    const payload = Buffer.from(JSON.stringify(body));
    const headers = {
      host: dotted(ip),
      'content-type': 'application/json',
      'content-length': payload.length,
      // a name may hold what a header may not (RFC 9110 section 5.5)
      'user-agent': agent.replace(/[^\x20-\x7e]/g, '?'),
      connection: 'close',
      ...(authorization ? { authorization } : {}),
    };
    const request = httpRequest({ createConnection: () => stream, method, path, headers }, (response) => {
      const chunks: Buffer[] = [];
      response.on('data', (chunk: Buffer) => chunks.push(chunk));
      response.on('end', () => {
        cancel();
        done({
          status: response.statusCode ?? 0,
          body: parsed(Buffer.concat(chunks)),
          challenges: response.headersDistinct['www-authenticate'] ?? [],
        });
      });
    });
    const cancel = host.scheduler.after(3000, () => {
      request.destroy();
      done('other_protocol');
    });
    request.on('error', () => {
      cancel();
      done('other_protocol');
    });
    request.end(payload);
  });
}

function parsed(bytes: Buffer): Record<string, unknown> {
  try {
    return JSON.parse(bytes.toString('utf8')) as Record<string, unknown>;
  } catch {
    return {};
  }
}
