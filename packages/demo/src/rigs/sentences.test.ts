import { analyse, links, show as core, wordsOf } from '@deep-patch/core';
import { casesOf } from '@deep-patch/core/cases';
import { expect, test } from 'vitest';
import { randomRig, rotatingSeed } from './index.test-data.ts';

const rigs = casesOf(500);

/** What no sentence may say: a number that does not fit its noun, a name twice in a row, a hole, a code. */
const faults: readonly (readonly [string, RegExp])[] = [
  [
    'one of several',
    /\b1 (units|interfaces|addresses|cables|sockets|places|links|computers|networks|services|settings|arguments|of them (are|find|have))\b/,
  ],
  [
    'several of one',
    /\b([2-9]|\d\d+) (unit|interface|address|cable|socket|place|link|computer|network|service|setting|argument)\b(?! of)/,
  ],
  ['hole', /undefined|null|NaN|\[object|Infinity/],
  ['empty place', / {2}|“”|\( ?\)|: \.|, \.| ,/],
  ['code', /\b[a-z]+_[a-z_]+\b/],
  ['doubled name', /(?<!→ )\b((?:unit|hub|router|computer|program)-\d \w+|Net \d)(?: and|,)? \1\b/],
];

test(`every sentence of ${rigs} random rigs is one that a colleague would say`, () => {
  const seed = rotatingSeed();
  const codes = new Set<string>();
  for (let at = 0; at < rigs; at += 1) {
    const { show } = randomRig(seed + at);
    const { findings, soundings } = analyse(show, core.nothingSeen, 0);
    const own = findings.flatMap((finding) => {
      codes.add(finding.code);
      const { what, why, fix } = wordsOf(finding);
      for (const text of [what, why, fix])
        expect([`RIG_SEED=${seed + at}`, finding.code, text]).toEqual([
          `RIG_SEED=${seed + at}`,
          finding.code,
          expect.stringMatching(/^[\p{Lu}\p{Ll}\d“−].{4,420}[.!]$/su),
        ]);
      return [what, why, fix, ...finding.fixes.map(({ label }) => label)].map((text) => [finding.code, text] as const);
    });
    const sides = [...soundings.values()].flatMap(({ layers }) =>
      layers.flatMap((layer) => {
        const words = links.layerWords(layer);
        return [words.left, words.right, words.between].map((text) => [`${layer.layer} ${layer.code}`, text] as const);
      }),
    );
    for (const [code, text] of [...own, ...sides])
      for (const [fault, pattern] of faults)
        // what somebody typed as an argument is shown as it is
        if (!code.startsWith('message'))
          expect([`RIG_SEED=${seed + at}`, code, fault, pattern.exec(text)?.[0], text]).toEqual([
            `RIG_SEED=${seed + at}`,
            code,
            fault,
            undefined,
            text,
          ]);
  }
  expect(codes.size).toBeGreaterThan(45);
}, 300_000);
