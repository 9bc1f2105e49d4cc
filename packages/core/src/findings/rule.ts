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

/**
 * A rule that looks at one group of items after the other, and finds in each what it would find in it alone: what it found
 * in one stays true while nothing that it read there changes.
 */
export interface Parts<Finds extends Codes, Given extends readonly unknown[]> {
  readonly over: (...given: Given) => ReadonlyMap<unknown, readonly unknown[]>;
  readonly in: (found: Found<Finds>, items: readonly unknown[], ...given: Given) => readonly Finding[];
  /** It finds nothing where fewer stand under a key. */
  readonly atLeast: number;
  /** And nothing where all that do say the same. */
  readonly sayOf: ((item: unknown) => unknown) | undefined;
}

/** Looks at all items under one key together. */
export const groups = <Finds extends Codes, Given extends readonly unknown[], Item>(
  over: (...given: Given) => ReadonlyMap<unknown, readonly Item[]>,
  find: (found: Found<Finds>, items: readonly Item[], ...given: Given) => readonly Finding[],
  atLeast = 1,
): Parts<Finds, Given> => ({
  over,
  atLeast,
  sayOf: undefined,
  // what stands under its keys is what it looks at
  in: (found, items, ...given) => find(found, items as readonly Item[], ...given),
});

/** Looks at all items under one key together, where not all of them say the same. */
export const differing = <Finds extends Codes, Given extends readonly unknown[], Item>(
  over: (...given: Given) => ReadonlyMap<unknown, readonly Item[]>,
  sayOf: (item: Item) => unknown,
  find: (found: Found<Finds>, items: readonly Item[], ...given: Given) => readonly Finding[],
): Parts<Finds, Given> => ({ ...groups(over, find, 2), sayOf: (item) => sayOf(item as Item) });

/** Looks at each item by itself. */
export const each = <Finds extends Codes, Given extends readonly unknown[], Item>(
  over: (...given: Given) => ReadonlyMap<unknown, readonly Item[]>,
  find: (found: Found<Finds>, item: Item, ...given: Given) => readonly Finding[],
): Parts<Finds, Given> =>
  groups(over, (found, items, ...given) => items.flatMap((item) => find(found, item, ...given)));

/** How a rule looks for what it finds: in everything at once, or part by part. */
export type Looks<Finds extends Codes, Given extends readonly unknown[]> =
  ((found: Found<Finds>, ...given: Given) => readonly Finding[]) | Parts<Finds, Given>;

/** What a rule finds in what it is given, and how that is said. */
export interface Rule<Given extends readonly unknown[]> {
  readonly codes: readonly string[];
  readonly find: (...given: Given) => readonly Finding[];
  /** The same part by part, where the rule looks so. */
  readonly parts: RuleParts<Given> | undefined;
  readonly said: (found: Finding) => Words;
}

export interface RuleParts<Given extends readonly unknown[]> {
  readonly over: (...given: Given) => ReadonlyMap<unknown, readonly unknown[]>;
  readonly find: (items: readonly unknown[], ...given: Given) => readonly Finding[];
  readonly atLeast: number;
  readonly sayOf: ((item: unknown) => unknown) | undefined;
}

/** Ties what a rule finds to its words: a misspelt code or fact, or a code without words, does not compile. */
export function ruleOf<Finds extends Codes, Given extends readonly unknown[]>(
  room: Room,
  says: Says<Finds>,
  looks: Looks<Finds, Given>,
): Rule<Given> {
  // a finding's code is a text again: whoever made it had the facts checked
  const byCode = says as unknown as Readonly<Record<string, (facts: Facts, fixable: boolean) => Said>>;
  const found: Found<Finds> = (...parts) => finding(room, ...parts);
  const parts: RuleParts<Given> | undefined =
    typeof looks === 'function'
      ? undefined
      : {
          over: (...given) => looks.over(...given),
          find: (items, ...given) => looks.in(found, items, ...given),
          atLeast: looks.atLeast,
          sayOf: looks.sayOf,
        };
  return {
    codes: Object.keys(says),
    parts,
    find:
      typeof looks === 'function'
        ? (...given) => looks(found, ...given)
        : (...given) =>
            [...looks.over(...given).values()].flatMap((items) =>
              isEnough(looks, items) ? looks.in(found, items, ...given) : [],
            ),
    said: ({ code, facts, fixes }) => {
      const [what, why, fix] = byCode[code]?.(facts, fixes.length > 0) ?? [code, '', ''];
      return { what, why, fix };
    },
  };
}

/** Do so many stand there, or so many that say something else? */
const isEnough = (
  { atLeast, sayOf }: Pick<RuleParts<never>, 'atLeast' | 'sayOf'>,
  items: readonly unknown[],
): boolean => items.length >= atLeast && (sayOf === undefined || new Set(items.map(sayOf)).size >= atLeast);

/** The words of a room: those of the rule that found it. A code that no rule has is shown rather than hidden. */
export function wordsOfRules(rules: readonly Pick<Rule<never>, 'codes' | 'said'>[]): (found: Finding) => Words {
  const byCode = new Map(rules.flatMap((rule) => rule.codes.map((code) => [code, rule] as const)));
  return (found) => byCode.get(found.code)?.said(found) ?? { what: found.code, why: '', fix: '' };
}
