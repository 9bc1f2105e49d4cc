import { addressing, links, type Show } from '@deep-patch/core';

/** What is asked of the losses of a show: each by itself, several at once, or what would prevent them. */
export type LossQuestion =
  | { readonly ask: 'each' }
  | { readonly ask: 'together'; readonly lost: readonly links.Lost[] }
  | { readonly ask: 'fewest'; readonly against: links.Against };

export interface LossAnswers {
  readonly each: { readonly losses: readonly links.Loss[]; readonly ways: readonly links.LinkWay[] };
  readonly together: readonly string[];
  readonly fewest: links.FewestRuns;
}

export interface LossJob {
  readonly show: Show;
  readonly question: LossQuestion;
}

/** Works out what losses take down: a large show takes a moment, and no screen waits for it. */
self.onmessage = ({ data: { show, question } }: MessageEvent<LossJob>) => {
  const facts = links.remembering(
    links.linkFacts(show, addressing.addressingFacts(show), () => ({ change: undefined })),
  );
  const soundings = links.forecastAll(show, facts);
  const answers: { [Ask in keyof LossAnswers]: () => LossAnswers[Ask] } = {
    each: () => ({
      losses: links.lossesOf(show, facts, soundings),
      ways: links.linkWays(show, facts, soundings),
    }),
    together: () => (question.ask === 'together' ? links.stopsWithAll(show, facts, soundings, question.lost) : []),
    fewest: () => links.planFewestRuns(show, facts, soundings, question.ask === 'fewest' ? question.against : 'run'),
  };
  self.postMessage(answers[question.ask]());
};
