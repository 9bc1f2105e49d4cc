import { expect, test } from 'vitest';
import { addressingRules } from './addressing/find-addressing.ts';
import { foundRules } from './addressing/found/find-found.ts';
import { cablingRules } from './cabling/find-cabling.ts';
import { finding, type Facts, type Finding, type Fix } from './findings/index.ts';
import { layers } from './links/forecast.ts';
import { lookingWords } from './links/looking-words.ts';
import { measuredTable } from './links/measured-words.ts';
import { slotShared } from './links/slot-shared.ts';
import { rigRules } from './rig/find-rig.ts';
import { lookingKeys } from './contract/index.ts';
import { layerNames } from './show/index.ts';

/** Facts that are lists, and facts that are counted; all others are texts, and stand in the sentence by their name. */
const lists = new Set(
  'names versions values silent lacks extra networks rivals routers ips labels squatters between alternatives grades plain'.split(
    ' ',
  ),
);
for (const code of ['platform_other_system', 'platform_too_old', 'platform_too_new', 'platform_unknown'])
  lists.add(`${code} wanted`);
const counts = new Set(
  'count units short room needed owned surplus known wanted given size growth free asking hops idle'.split(' '),
);

/** Facts that are said in words of their own. */
const keys: Readonly<Record<string, readonly string[]>> = { offers: ['mains', 'poe', 'usb'] };
const key: Readonly<Record<string, string>> = { feed: 'battery', role: 'led', use: 'administrator', rule: 'equal' };

/** Any fact by its name: one thing, several, or nothing. */
const factsOf = (code: string, many: 0 | 1 | 3): Facts =>
  new Proxy(
    {},
    {
      get: (_, name) => {
        const fact = String(name);
        if (keys[fact] ?? key[fact]) return keys[fact]?.slice(0, many) ?? key[fact];
        if (lists.has(fact) || lists.has(`${code} ${fact}`))
          return ['A', 'B', 'C'].slice(0, fact === 'names' ? many || 2 : many);
        if (counts.has(fact)) return many;
        return many === 0 ? '' : `‹${fact}›`;
      },
      has: () => true,
    },
  );

const fix: Fix = { label: 'x', change: { label: 'x', edits: [] } };
const rules = [...rigRules, ...addressingRules, ...foundRules, ...cablingRules, slotShared];

function* sentences(): Generator<string> {
  for (const rule of rules as readonly { codes: readonly string[]; said: (found: Finding) => object }[])
    for (const code of rule.codes)
      for (const many of [1, 3, 0] as const)
        for (const fixes of [[fix], []]) {
          const said = rule.said(finding<string>('rig', code, 'note', [], factsOf(code, many), fixes));
          yield `${code}: ${Object.values(said).join(' | ')}`;
        }
  for (const layer of layerNames)
    for (const [kind, codes] of Object.entries(layers[layer].codes))
      for (const code of codes)
        for (const many of [1, 3, 0] as const) {
          const { left, right, between } = layers[layer].sides(code, factsOf(code, many)) ?? expect.fail(code);
          yield `${layer} ${code}: ${left} ↔ ${right} (${between})`;
          if (kind === 'stops') yield `${layer} ${code}: ${layers[layer].said(code, factsOf(code, many))?.join(' | ')}`;
        }
  for (const key of lookingKeys)
    for (const state of ['pass', 'fail'] as const) {
      const { looks, fails, next } = lookingWords({ key, state, facts: factsOf(key, 1) as never });
      yield `looking ${key}: ${looks} | ${fails} | ${next}`;
    }
  for (const [code, said] of Object.entries(measuredTable))
    yield `measured ${code}: ${said(factsOf(code, 1) as never)}`;
}

test('every sentence that a crew reads stands in one list, so that a change of words is seen as one', async () => {
  const all = [...new Set(sentences())];
  expect(all.length).toBeGreaterThan(250);
  expect(all.filter((line) => /undefined|null|NaN|\[object/.test(line))).toEqual([]);
  await expect(`${all.join('\n')}\n`).toMatchFileSnapshot('./catalogue.txt');
});
