import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import {
  challengeHeader,
  digestResponse,
  readDigestFields,
  type DigestAlgorithm,
  type HexHash,
} from '@deep-patch/codecs';

export const hexHash: HexHash = (algorithm, text) =>
  createHash(algorithm === 'MD5' ? 'md5' : 'sha256')
    .update(text)
    .digest('hex');

export interface Gate {
  /** The challenges to send with 401, the stronger one first. */
  readonly challenges: () => string[];
  /** Whether an Authorization header proves the password for this request; each nonce count is good for once. */
  readonly admits: (header: string | undefined, request: { method: string; uri: string }) => boolean;
}

const mostNonces = 200;

/** The server side of RFC 7616: own nonces, nonce counts that only rise, comparison in constant time. */
export function digestGate(realm: string, known: { username: string; password: string }): Gate {
  const nonces = new Map<string, number>();
  const challenge = (algorithm: DigestAlgorithm): string => {
    const nonce = randomBytes(16).toString('base64url');
    if (nonces.size >= mostNonces) nonces.delete(nonces.keys().next().value ?? '');
    nonces.set(nonce, 0);
    return challengeHeader({ realm, nonce, algorithm, opaque: 'bench' });
  };
  return {
    challenges: () => [challenge('SHA-256'), challenge('MD5')],
    admits: (header, { method, uri }) => {
      const fields = header === undefined ? undefined : readDigestFields(header);
      const [nonce, nc, cnonce] = ['nonce', 'nc', 'cnonce'].map((key) => fields?.get(key) ?? '');
      const count = parseInt(nc ?? '', 16);
      const last = nonces.get(nonce ?? '');
      if (!fields || last === undefined || !(count > last) || fields.get('uri') !== uri) return false;
      const algorithm = (fields.get('algorithm') ?? 'MD5').toUpperCase() === 'SHA-256' ? 'SHA-256' : 'MD5';
      const wanted = digestResponse(
        { ...known, realm, nonce: nonce ?? '', nc: nc ?? '', cnonce: cnonce ?? '', algorithm, method, uri },
        hexHash,
      );
      const good = fields.get('username') === known.username && sameText(wanted, fields.get('response') ?? '');
      if (good) nonces.set(nonce ?? '', count);
      return good;
    },
  };
}

const sameText = (a: string, b: string): boolean =>
  a.length === b.length && timingSafeEqual(Buffer.from(a), Buffer.from(b));
