import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import {
  algorithmOf,
  challengeHeader,
  digestResponse,
  readDigestFields,
  usernameOf,
  type DigestAlgorithm,
  type HexHash,
} from '@deep-patch/codecs';

const hashNames = { 'SHA-256': 'sha256', 'SHA-512-256': 'sha512-256', MD5: 'md5' } as const;
export const hexHash: HexHash = (algorithm, text) => createHash(hashNames[algorithm]).update(text).digest('hex');

/** What a gate says to a request: let in, with a nonce that is too old, or not. */
type Verdict = 'in' | 'stale' | 'out';

export interface Gate {
  /** The challenges to send with 401, the stronger one first; `stale` where the login was right for an older nonce. */
  readonly challenges: (stale?: boolean) => string[];
  /** Whether an Authorization header proves the password for this request; each nonce count is good for once. */
  readonly verdict: (header: string | undefined, request: { method: string; uri: string }) => Verdict;
}

/** How many nonces are kept that nobody logged in with; those in use are never pushed out by strangers. */
const mostUnused = 200;
const mostUsed = 1000;
const opaque = 'bench';
const offered: readonly DigestAlgorithm[] = ['SHA-256', 'MD5'];

/** The server side of RFC 7616: own nonces, nonce counts that only rise, comparison in constant time. */
export function digestGate(realm: string, known: { username: string; password: string }): Gate {
  const used = new Map<string, number>();
  const unused = new Set<string>();
  const secret = randomBytes(16);
  // a nonce proves by itself that it came from here, also when it is no longer kept
  const sealOf = (salt: string) => createHash('sha256').update(secret).update(salt).digest('base64url').slice(0, 16);
  const isOwn = (nonce: string) => nonce.slice(22) === sealOf(nonce.slice(0, 22));
  const challenge = (algorithm: DigestAlgorithm, stale: boolean): string => {
    const salt = randomBytes(16).toString('base64url');
    const nonce = salt + sealOf(salt);
    if (unused.size >= mostUnused) unused.delete(unused.values().next().value ?? '');
    unused.add(nonce);
    return challengeHeader({ realm, nonce, algorithm, opaque, stale });
  };

  function proves(fields: ReadonlyMap<string, string>, { method, uri }: { method: string; uri: string }): boolean {
    const algorithm = algorithmOf(fields);
    const [nonce = '', nc = '', cnonce = ''] = ['nonce', 'nc', 'cnonce'].map((key) => fields.get(key));
    const isWellFormed =
      algorithm !== undefined &&
      offered.includes(algorithm) &&
      fields.get('realm') === realm &&
      fields.get('opaque') === opaque &&
      fields.get('qop') === 'auth' &&
      fields.get('uri') === uri &&
      /^[0-9a-f]{8}$/i.test(nc) &&
      cnonce !== '' &&
      isOwn(nonce);
    if (!isWellFormed || usernameOf(fields) !== known.username) return false;
    const wanted = digestResponse({ ...known, realm, nonce, nc, cnonce, algorithm, method, uri }, hexHash);
    return sameText(wanted, fields.get('response') ?? '');
  }

  return {
    challenges: (stale = false) => offered.map((algorithm) => challenge(algorithm, stale)),
    verdict: (header, request) => {
      const fields = header === undefined ? undefined : readDigestFields(header);
      if (!fields || !proves(fields, request)) return 'out';
      const nonce = fields.get('nonce') ?? '';
      const count = parseInt(fields.get('nc') ?? '', 16);
      const last = unused.has(nonce) ? 0 : used.get(nonce);
      if (last === undefined) return 'stale';
      if (count <= last) return 'out';
      unused.delete(nonce);
      if (used.size >= mostUsed) used.delete(used.keys().next().value ?? '');
      used.set(nonce, count);
      return 'in';
    },
  };
}

const sameText = (a: string, b: string): boolean =>
  a.length === b.length && timingSafeEqual(Buffer.from(a), Buffer.from(b));
