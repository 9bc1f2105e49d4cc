import { describe, expect, test } from 'vitest';
import { layerNames } from '../show/index.ts';
import { measuredWords } from './measured-words.ts';
import { layerWords } from './side-words.ts';
import { linkWords, stopWords } from './stop-words.ts';

/** Every code that a layer or the bench can answer with; a new one without words fails here. */
const failing: Readonly<Record<(typeof layerNames)[number], readonly string[]>> = {
  cable: ['no_service', 'no_adapter', 'both_unplugged', 'controller_unplugged', 'target_unplugged'],
  segment: ['apart', 'wireless_hop'],
  address: ['not_placed', 'aims_elsewhere', 'two_owners', 'not_a_host', 'one_way', 'other_subnet'],
  port: ['interchanged', 'still_default', 'slip', 'other_port', 'two_listeners'],
  service: ['cannot_speak', 'switched_off', 'version_below', 'version_unknown', 'version_unclear'],
  access: ['missing', 'account_differs', 'password_differs', 'open_but_filled', 'not_required', 'left_open'],
  message: ['none_chosen', 'unknown_command', 'argument_count', 'argument_type', 'argument_range'],
  reply: ['no_way_back', 'replies_elsewhere', 'other_reply_port'],
};
const measured: Readonly<Record<(typeof layerNames)[number], readonly string[]>> = {
  cable: ['up', 'down', 'off'],
  segment: ['seen', 'unseen'],
  address: ['answers', 'silent', 'no_route', 'no_address', 'two_owners', 'other_unit'],
  port: ['open', 'refused'],
  service: ['runs', 'off', 'silent', 'unknown'],
  access: ['let_in', 'refused'],
  message: ['acted', 'refused', 'none'],
  reply: ['came', 'missing', 'not_expected'],
};
const facts = new Proxy({}, { get: () => 'fact', has: () => true }) as Readonly<Record<string, string>>;
const codes = layerNames.flatMap((layer) => failing[layer].map((code) => [layer, code] as const));

describe('words', () => {
  test.each(codes)('%s %s says what, why and the next step', (layer, code) => {
    const words = stopWords({ layer, code, facts });
    for (const text of [words.what, words.why, words.fix]) expect(text).toMatch(/^[A-Zf].*[.]$/);
    const finding = {
      room: 'links',
      code: `${layer}_${code}`,
      grade: 'stops',
      subjects: [],
      key: '',
      facts: { ...words, layer, controller: 'Host', target: 'Desk' },
      fixes: [],
    } as const;
    expect(linkWords(finding).what).toMatch(/^Host → Desk: /);
  });

  test.each(codes)('%s %s says in a few words what lies between both ends', (layer, code) => {
    const sides = layerWords({ layer, code, state: 'fail', facts, fixes: [] });
    for (const text of [sides.left, sides.right, sides.between]) expect(text).not.toMatch(/^$|_|undefined/);
  });

  test('everything that the bench can see has words', () => {
    for (const layer of layerNames)
      for (const code of measured[layer])
        expect([layer, code, measuredWords({ layer, code, state: 'pass', facts })]).toEqual([
          layer,
          code,
          expect.stringMatching(/^[a-z\dU].{3,}/),
        ]);
  });

  test('an unknown code is shown rather than hidden', () => {
    expect(stopWords({ layer: 'port', code: 'new_code', facts: {} }).what).toBe('port: new_code');
  });
});
