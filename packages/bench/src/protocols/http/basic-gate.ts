import { timingSafeEqual } from 'node:crypto';
import type { Gate } from './digest-gate.ts';

/** Basic authentication (RFC 7617): the password travels as it is, so it proves nothing about the request. */
export function basicGate(realm: string, known: { username: string; password: string }): Gate {
  const wanted = Buffer.from(`Basic ${Buffer.from(`${known.username}:${known.password}`).toString('base64')}`);
  return {
    challenges: () => [`Basic realm="${realm.replaceAll('"', '')}", charset="UTF-8"`],
    verdict: (header) => {
      const given = Buffer.from(header ?? '');
      return given.length === wanted.length && timingSafeEqual(given, wanted) ? 'in' : 'out';
    },
  };
}
