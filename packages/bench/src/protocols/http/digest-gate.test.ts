import { createHash } from 'node:crypto';
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
    expect(gate.verdict(header, { ...request, uri: '/other' })).toBe('out');
    expect(gate.verdict(header, request)).toBe('in');
    expect(gate.verdict(header, request)).toBe('out');
    expect(gate.verdict(proof(gate, { password: 'wrong' }), request)).toBe('out');
    expect(gate.verdict(proof(gate, { username: 'Ops' }), request)).toBe('out');
    expect(gate.verdict(proof(digestGate('Camera 3', login)), request)).toBe('out');
    for (const bad of [undefined, '', 'Basic b3BzOng=', 'Digest', 'Digest nonce="x", nc=zz'])
      expect(gate.verdict(bad, request)).toBe('out');
  });

  test('an old nonce is called stale after a right login only, and strangers push out none that is in use', () => {
    const gate = digestGate('Camera 3', login);
    const challenge = readChallenges(gate.challenges()) ?? expect.fail('no challenge');
    const prove = (from: typeof challenge, nc: string, patch = {}) =>
      authorizationHeader({ ...login, ...from, ...request, nc, cnonce: 'abc', ...patch }, from.opaque, hexHash);
    expect(gate.verdict(prove(challenge, '00000001'), request)).toBe('in');
    const early = readChallenges(gate.challenges()) ?? expect.fail('no challenge');
    for (let stranger = 0; stranger < 500; stranger += 1) gate.challenges();
    expect(gate.verdict(prove(challenge, '00000002'), request)).toBe('in');
    expect(gate.verdict(prove(early, '00000001'), request)).toBe('stale');
    expect(gate.verdict(prove(early, '00000001', { password: 'x' }), request)).toBe('out');
    expect(gate.challenges(true).every((header) => /, stale=true$/.test(header))).toBe(true);
    expect(gate.challenges().every((header) => /charset=UTF-8$/.test(header))).toBe(true);
  });

  test.each([
    ['another realm', 'realm="Camera 3"', 'realm="Camera 4"'],
    ['another opaque', 'opaque="bench"', 'opaque="x"'],
    ['no opaque', ', opaque="bench"', ''],
    ['no qop', ', qop=auth', ''],
    ['another qop', 'qop=auth', 'qop=auth-int'],
    ['a count that is no eight digits', 'nc=00000001', 'nc=1'],
    ['no cnonce', 'cnonce="abc"', 'cnonce=""'],
    ['an algorithm that was not offered', 'algorithm=SHA-256', 'algorithm=SHA-256-sess'],
    ['an algorithm that nobody knows', 'algorithm=SHA-256', 'algorithm=SHA-3'],
    ['both spellings of the name', 'username="ops"', 'username="ops", username*=UTF-8\'\'ops'],
  ])('turns %s away', (_what, part, instead) => {
    const gate = digestGate('Camera 3', login);
    const header = proof(gate);
    expect(header).toContain(part);
    expect(gate.verdict(header.replace(part, instead), request)).toBe('out');
    expect(gate.verdict(header, request)).toBe('in');
  });

  test('a name beyond ASCII logs in in either spelling', () => {
    const own = { username: 'Grün', password: 'Süd' };
    const gate = digestGate('Camera 3', own);
    const header = proof(gate, own);
    expect(header).toContain("username*=UTF-8''Gr%C3%BCn");
    expect(gate.verdict(header, request)).toBe('in');
    const plain = proof(gate, own, '00000001').replace("username*=UTF-8''Gr%C3%BCn", 'username="Grün"');
    expect(gate.verdict(plain, request)).toBe('in');
  });

  // read from RFC 7616 sections 3.4.1 to 3.4.3; FIPS 180-4 has SHA-512/256 of "abc"
  test('with SHA-512-256 and for a session the response is what the standard writes', () => {
    const plain = (text: string) => createHash('sha512-256').update(text).digest('hex');
    expect(plain('abc')).toBe('53048e2681941ef99b2e29b76b4c7dabe4c2d0c634fc6d46e0e2f13107e7af23');
    const user = plain('Mufasa:http-auth@example.org:Circle of Life');
    const rest = `${example.nonce}:00000001:${example.cnonce}:auth:${plain('GET:/dir/index.html')}`;
    expect(digestResponse({ ...example, algorithm: 'SHA-512-256' }, hexHash)).toBe(plain(`${user}:${rest}`));
    const session = plain(`${user}:${example.nonce}:${example.cnonce}`);
    expect(digestResponse({ ...example, algorithm: 'SHA-512-256-sess' }, hexHash)).toBe(plain(`${session}:${rest}`));
  });
});
