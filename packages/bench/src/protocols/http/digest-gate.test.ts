import { digestResponse, readChallenges, authorizationHeader } from '@deep-patch/codecs';
import { describe, expect, test } from 'vitest';
import { digestGate, hexHash } from './digest-gate.ts';

/** RFC 7616 section 3.9.1, one request with each algorithm. */
const example = {
  username: 'Mufasa',
  realm: 'http-auth@example.org',
  password: 'Circle of Life',
  method: 'GET',
  uri: '/dir/index.html',
  nonce: '7ypf/xlj9XXwfDPEoM4URrv/xwf94BcCAzFZH4GiTo0v',
  nc: '00000001',
  cnonce: 'f2/wE4q74E6zIJEtWaHKaf5wv/H5QzzpXusqGemxURZJ',
};

describe('digest', () => {
  test.each([
    ['MD5' as const, '8ca523f5e9506fed4657c9700eebdbec'],
    ['SHA-256' as const, '753927fa0e85d155564e2e272a28d1802ca10daf4496794697cf8db5856cb6c1'],
  ])('gives the response of RFC 7616 3.9.1 with %s', (algorithm, response) =>
    expect(digestResponse({ ...example, algorithm }, hexHash)).toBe(response),
  );

  const login = { username: 'ops', password: 'tide "31"' };
  const request = { method: 'PUT', uri: '/control' };
  const proof = (gate: ReturnType<typeof digestGate>, patch: Partial<typeof login> = {}, nc = '00000001') => {
    const challenge = readChallenges(gate.challenges());
    if (!challenge) throw new Error('no challenge');
    return authorizationHeader(
      { ...login, ...patch, ...challenge, ...request, nc, cnonce: 'abc' },
      challenge.opaque,
      hexHash,
    );
  };

  test('lets the right password in once per nonce count, and nothing else', () => {
    const gate = digestGate('Camera 3', login);
    const header = proof(gate);
    expect(readChallenges(gate.challenges())?.algorithm).toBe('SHA-256');
    expect(gate.admits(header, { ...request, uri: '/other' })).toBe(false);
    expect(gate.admits(header, request)).toBe(true);
    expect(gate.admits(header, request)).toBe(false);
    expect(gate.admits(proof(gate, { password: 'wrong' }), request)).toBe(false);
    expect(gate.admits(proof(gate, { username: 'Ops' }), request)).toBe(false);
    expect(gate.admits(proof(digestGate('Camera 3', login)), request)).toBe(false);
    for (const bad of [undefined, '', 'Basic b3BzOng=', 'Digest', 'Digest nonce="x", nc=zz'])
      expect(gate.admits(bad, request)).toBe(false);
  });
});
