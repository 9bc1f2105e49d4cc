import {
  finding,
  type Facts,
  type Finding,
  type Fix,
  type Grade,
  type Room,
  type Subject,
  type Words,
} from './finding.ts';

/** Codes with the facts of each. */
export type Codes = Readonly<Record<string, Facts>>;

/** What is wrong, why it matters, and the next step. */
export type Said = readonly [what: string, why: string, fix: string];

/** How each code of a rule is said; `fixable` when a way out could be worked out. */
export type Says<Finds extends Codes> = {
  readonly [Code in keyof Finds]: (facts: Finds[Code], fixable: boolean) => Said;
};

/** Makes a finding of a rule: a code of its own with exactly the facts of that code. */
export type Found<Finds extends Codes> = <Code extends keyof Finds & string>(
  code: Code,
  grade: Grade,
  subjects: readonly Subject[],
  facts: Finds[Code],
  fixes?: readonly (Fix | undefined)[],
) => Finding<Code>;

/** What a rule finds in what it is given, and how that is said. */
export interface Rule<Given extends readonly unknown[]> {
  readonly codes: readonly string[];
  readonly find: (...given: Given) => readonly Finding[];
  readonly said: (found: Finding) => Words;
}

/** Ties what a rule finds to its words: a misspelt code or fact, or a code without words, does not compile. */
export function ruleOf<Finds extends Codes, Given extends readonly unknown[]>(
  room: Room,
  says: Says<Finds>,
  find: (found: Found<Finds>, ...given: Given) => readonly Finding[],
): Rule<Given> {
  // a finding's code is a text again: whoever made it had the facts checked
  const byCode = says as unknown as Readonly<Record<string, (facts: Facts, fixable: boolean) => Said>>;
  return {
    codes: Object.keys(says),
    find: (...given) => find((...parts) => finding(room, ...parts), ...given),
    said: ({ code, facts, fixes }) => {
      const [what, why, fix] = byCode[code]?.(facts, fixes.length > 0) ?? [code, '', ''];
      return { what, why, fix };
    },
  };
}

/** The words of a room: those of the rule that found it. A code that no rule has is shown rather than hidden. */
export function wordsOfRules(rules: readonly Pick<Rule<never>, 'codes' | 'said'>[]): (found: Finding) => Words {
  const byCode = new Map(rules.flatMap((rule) => rule.codes.map((code) => [code, rule] as const)));
  return (found) => byCode.get(found.code)?.said(found) ?? { what: found.code, why: '', fix: '' };
}
