import { expect, test } from 'vitest';
import { layerNames } from '../show/index.ts';
import { measuredWords } from './measured-words.ts';
import { stopWords } from './stop-words.ts';

const measured: Readonly<Record<(typeof layerNames)[number], readonly string[]>> = {
  cable: ['up', 'down', 'off', 'no_service'],
  segment: ['seen', 'routed', 'unseen'],
  address: ['nobody', 'answers', 'quiet', 'silent', 'no_route', 'no_address', 'two_owners', 'other_unit'],
  port: ['open', 'refused', 'silent', 'not_told'],
  service: ['runs', 'silent', 'unknown', 'closed', 'no_show', 'helper', 'in_set_up', 'looked_up', 'not_told'],
  access: ['let_in', 'refused', 'first_sign_in', 'not_open_for'],
  message: ['answered', 'refused', 'none', 'not_told'],
  reply: ['came', 'missing', 'elsewhere', 'not_expected', 'not_reached'],
};

test('everything that the bench can see has words', () => {
  const facts = new Proxy({}, { get: () => 'fact', has: () => true }) as Readonly<Record<string, string>>;
  for (const layer of layerNames)
    for (const code of measured[layer])
      expect([layer, code, measuredWords({ layer, code, state: 'pass', facts })]).toEqual([
        layer,
        code,
        expect.stringMatching(/^[a-z\dU][^_]{3,}$/),
      ]);
});

test('an unknown code is shown rather than hidden', () => {
  expect(stopWords({ layer: 'port', code: 'new_code', facts: {} }).what).toBe('port: new_code');
});
