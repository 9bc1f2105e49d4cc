import type { Codes, Facts, Fix, Said } from '../findings/index.ts';
import type { LayerName, LayerState } from '../show/index.ts';
import type { Ends } from './ends.ts';

/** What one layer says of a link: a code with facts. */
export interface LayerResult {
  readonly layer: LayerName;
  readonly state: LayerState;
  readonly code: string;
  readonly facts: Facts;
  readonly fixes: readonly Fix[];
}

type Verdict = Omit<LayerResult, 'layer'>;

/** Both ends of one layer and what lies between them, in a few words each. */
export interface SideBySide {
  readonly left: string;
  readonly right: string;
  readonly between: string;
}

/** How the codes of a layer are said; a code that stops a link or endangers it also says what, why and the fix. */
export interface LayerSays<Passes extends Codes, Stops extends Codes> {
  readonly passes: { readonly [Code in keyof Passes]: (facts: Passes[Code]) => SideBySide };
  readonly stops: {
    readonly [Code in keyof Stops]: {
      readonly sides: (facts: Stops[Code]) => SideBySide;
      readonly said: (facts: Stops[Code]) => Said;
    };
  };
}

/** One layer: its forecast, and the words for everything that it can find. */
export interface Layer {
  readonly codes: { readonly passes: readonly string[]; readonly stops: readonly string[] };
  readonly forecast: (ends: Ends) => Verdict;
  readonly sides: (code: string, facts: Facts) => SideBySide | undefined;
  readonly said: (code: string, facts: Facts) => Said | undefined;
}

/** What a layer answers with: a code of its own with exactly the facts of that code. */
export interface Verdicts<Passes extends Codes, Stops extends Codes> {
  readonly pass: <Code extends keyof Passes & string>(code: Code, facts: Passes[Code]) => Verdict;
  readonly risky: Stop<Stops>;
  readonly fail: Stop<Stops>;
}
type Stop<Stops extends Codes> = <Code extends keyof Stops & string>(
  code: Code,
  facts: Stops[Code],
  fixes?: readonly (Fix | undefined)[],
) => Verdict;

/** Ties a layer's forecast to its words: a misspelt code or fact, or a code without words, does not compile. */
export function layerOf<Passes extends Codes, Stops extends Codes>(
  says: LayerSays<Passes, Stops>,
  forecast: (ends: Ends, verdicts: Verdicts<Passes, Stops>) => Verdict,
): Layer {
  const stop =
    (state: 'risky' | 'fail'): Stop<Stops> =>
    (code, facts, fixes = []) => ({ state, code, facts, fixes: fixes.filter((fix) => fix !== undefined) });
  const verdicts: Verdicts<Passes, Stops> = {
    pass: (code, facts) => ({ state: 'pass', code, facts, fixes: [] }),
    risky: stop('risky'),
    fail: stop('fail'),
  };
  // a stored code is a text again: whoever made it had the facts checked
  const passes = says.passes as unknown as Readonly<Record<string, (facts: Facts) => SideBySide>>;
  const stops = says.stops as unknown as Readonly<
    Record<string, { sides: (facts: Facts) => SideBySide; said: (facts: Facts) => Said }>
  >;
  return {
    codes: { passes: Object.keys(passes), stops: Object.keys(stops) },
    forecast: (ends) => forecast(ends, verdicts),
    sides: (code, facts) => (passes[code] ?? stops[code]?.sides)?.(facts),
    said: (code, facts) => stops[code]?.said(facts),
  };
}
