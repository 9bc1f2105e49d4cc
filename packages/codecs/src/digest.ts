/** HTTP digest access authentication (RFC 7616). Hashing is passed in, since codecs have no platform. */
export const digestAlgorithms = [
  'SHA-256',
  'SHA-256-sess',
  'SHA-512-256',
  'SHA-512-256-sess',
  'MD5',
  'MD5-sess',
] as const;
export type DigestAlgorithm = (typeof digestAlgorithms)[number];
/** The functions behind them; SHA-512-256 is the variant with its own first values (FIPS 180-4 section 5.3.6). */
export type HashFunction = 'SHA-256' | 'SHA-512-256' | 'MD5';
export type HexHash = (algorithm: HashFunction, text: string) => string;

export interface Challenge {
  readonly realm: string;
  readonly nonce: string;
  readonly algorithm: DigestAlgorithm;
  readonly opaque: string;
  /** The nonce was right, and is too old: the same login works with the new one. */
  readonly stale?: boolean;
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

const functionOf = (algorithm: DigestAlgorithm): HashFunction => algorithm.replace(/-sess$/, '') as HashFunction;

/** The `response` value for qop=auth (RFC 7616 section 3.4.1), with the session's own A1 where one is agreed (3.4.2). */
export function digestResponse(request: DigestRequest, hash: HexHash): string {
  const { username, realm, password, method, uri, nonce, nc, cnonce, algorithm } = request;
  const name = functionOf(algorithm);
  const user = hash(name, `${username}:${realm}:${password}`);
  const a1 = algorithm.endsWith('-sess') ? hash(name, `${user}:${nonce}:${cnonce}`) : user;
  const a2 = hash(name, `${method}:${uri}`);
  return hash(name, `${a1}:${nonce}:${nc}:${cnonce}:auth:${a2}`);
}

export const challengeHeader = ({ realm, nonce, algorithm, opaque, stale }: Challenge): string =>
  `Digest realm="${quoted(realm)}", qop="auth", algorithm=${algorithm}, nonce="${nonce}", opaque="${opaque}", charset=UTF-8${stale ? ', stale=true' : ''}`;

export function authorizationHeader(request: DigestRequest, opaque: string, hash: HexHash): string {
  const { username, realm, nonce, uri, algorithm, nc, cnonce } = request;
  const text = {
    realm: quoted(realm),
    uri,
    nonce,
    cnonce,
    response: digestResponse(request, hash),
    opaque,
  };
  const pairs = Object.entries(text).map(([key, value]) => `${key}="${value}"`);
  return `Digest ${[nameField(username), ...pairs, `algorithm=${algorithm}`, 'qop=auth', `nc=${nc}`].join(', ')}`;
}

/** A name beyond ASCII travels as an extended value (RFC 7616 section 3.4, RFC 8187). */
const nameField = (username: string): string =>
  /^[ -~]*$/.test(username) ? `username="${quoted(username)}"` : `username*=UTF-8''${extended(username)}`;
const extended = (text: string): string =>
  encodeURIComponent(text).replace(/[*'()]/g, (letter) => `%${letter.charCodeAt(0).toString(16).toUpperCase()}`);

const quoted = (text: string): string => text.replace(/["\\]/g, '\\$&');

/** The strongest challenge that we can answer; several may come in one header each or joined by commas. */
export function readChallenges(headers: readonly string[]): Challenge | undefined {
  const all = headers
    .flatMap((header) => header.split(/,\s*(?=Digest\s)/i))
    .flatMap((header) => readChallenge(header) ?? []);
  for (const strongest of ['SHA-512-256', 'SHA-256', 'MD5'])
    for (const challenge of all) if (functionOf(challenge.algorithm) === strongest) return challenge;
  return undefined;
}

function readChallenge(header: string): Challenge | undefined {
  const fields = readDigestFields(header);
  const algorithm = algorithmOf(fields);
  if (!fields || !algorithm) return undefined;
  const isStale = fields.get('stale')?.toLowerCase() === 'true';
  return {
    realm: fields.get('realm') ?? '',
    nonce: fields.get('nonce') ?? '',
    opaque: fields.get('opaque') ?? '',
    algorithm,
    ...(isStale ? { stale: true } : {}),
  };
}

/** MD5 where nothing is said (RFC 7616 section 3.3); undefined for one that nobody here knows. */
export const algorithmOf = (fields: ReadonlyMap<string, string> | undefined): DigestAlgorithm | undefined => {
  const wanted = (fields?.get('algorithm') ?? 'MD5').toUpperCase();
  return digestAlgorithms.find((algorithm) => algorithm.toUpperCase() === wanted);
};

/** Who asks, in either spelling of the name; undefined where neither or both are given. */
export function usernameOf(fields: ReadonlyMap<string, string>): string | undefined {
  const [plain, starred] = [fields.get('username'), fields.get('username*')];
  if ((plain === undefined) === (starred === undefined)) return undefined;
  if (plain !== undefined) return plain;
  try {
    return decodeURIComponent(/^utf-8'[^']*'(.*)$/i.exec(starred ?? '')?.[1] ?? '%');
  } catch {
    return undefined;
  }
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
