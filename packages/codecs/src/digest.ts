/** HTTP digest access authentication (RFC 7616). Hashing is passed in, since codecs have no platform. */
export type DigestAlgorithm = 'SHA-256' | 'MD5';
export type HexHash = (algorithm: DigestAlgorithm, text: string) => string;

export interface Challenge {
  readonly realm: string;
  readonly nonce: string;
  readonly algorithm: DigestAlgorithm;
  readonly opaque: string;
}

export interface Credentials {
  readonly username: string;
  readonly password: string;
}

export interface DigestRequest extends Credentials {
  readonly realm: string;
  readonly nonce: string;
  readonly algorithm: DigestAlgorithm;
  readonly method: string;
  readonly uri: string;
  /** Nonce count as eight hex digits. */
  readonly nc: string;
  readonly cnonce: string;
}

/** The `response` value for qop=auth (RFC 7616 section 3.4.1). */
export function digestResponse(request: DigestRequest, hash: HexHash): string {
  const { username, realm, password, method, uri, nonce, nc, cnonce, algorithm } = request;
  const a1 = hash(algorithm, `${username}:${realm}:${password}`);
  const a2 = hash(algorithm, `${method}:${uri}`);
  return hash(algorithm, `${a1}:${nonce}:${nc}:${cnonce}:auth:${a2}`);
}

export const challengeHeader = ({ realm, nonce, algorithm, opaque }: Challenge): string =>
  `Digest realm="${quoted(realm)}", qop="auth", algorithm=${algorithm}, nonce="${nonce}", opaque="${opaque}"`;

export function authorizationHeader(request: DigestRequest, opaque: string, hash: HexHash): string {
  const { username, realm, nonce, uri, algorithm, nc, cnonce } = request;
  const text = {
    username: quoted(username),
    realm: quoted(realm),
    uri,
    nonce,
    cnonce,
    response: digestResponse(request, hash),
    opaque,
  };
  const pairs = Object.entries(text).map(([key, value]) => `${key}="${value}"`);
  return `Digest ${[...pairs, `algorithm=${algorithm}`, 'qop=auth', `nc=${nc}`].join(', ')}`;
}

const quoted = (text: string): string => text.replace(/["\\]/g, '\\$&');

/** The strongest challenge that we can answer; several may come in one header each or joined by commas. */
export function readChallenges(headers: readonly string[]): Challenge | undefined {
  const all = headers
    .flatMap((header) => header.split(/,\s*(?=Digest\s)/i))
    .flatMap((header) => readChallenge(header) ?? []);
  return all.find(({ algorithm }) => algorithm === 'SHA-256') ?? all[0];
}

function readChallenge(header: string): Challenge | undefined {
  const fields = readDigestFields(header);
  const algorithm = (fields?.get('algorithm') ?? 'MD5').toUpperCase();
  if (!fields || (algorithm !== 'MD5' && algorithm !== 'SHA-256')) return undefined;
  return {
    realm: fields.get('realm') ?? '',
    nonce: fields.get('nonce') ?? '',
    opaque: fields.get('opaque') ?? '',
    algorithm,
  };
}

/** The fields of a Digest header by lower-case name; undefined for another scheme. */
export function readDigestFields(header: string): Map<string, string> | undefined {
  const scheme = /^\s*Digest\s+/i.exec(header);
  if (!scheme || header.length > 8192) return undefined;
  const fields = new Map<string, string>();
  const field = /([\w*-]+)\s*=\s*(?:"((?:[^"\\]|\\.)*)"|([^\s,"]+))/g;
  for (const [, key = '', text, token = ''] of header.slice(scheme[0].length).matchAll(field))
    fields.set(key.toLowerCase(), text === undefined ? token : text.replace(/\\(.)/g, '$1'));
  return fields;
}
