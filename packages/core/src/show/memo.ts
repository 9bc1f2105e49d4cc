import { isAlike } from './is-alike.ts';
import { buildingOn, guarded } from './standing/building.ts';
import { standingOf } from './standing/standing-show.ts';

/**
 * Remembers answers by a text, for questions that many links ask of one snapshot. Lives as long as the facts that hold it;
 * for a standing show, each answer is worked out again when what it read is another.
 */
export function memo<Answer>(ask: (key: string) => Answer): (key: string) => Answer {
  const standing = buildingOn();
  if (standing) return (key) => standing.answer(ask, key, () => ask(key), isAlike);
  const known = new Map<string, Answer>();
  return guarded((key) => {
    const there = known.get(key);
    if (there !== undefined || known.has(key)) return there as Answer;
    const answer = ask(key);
    known.set(key, answer);
    return answer;
  });
}

/** The same by several texts in their order. */
export function memoOf<Answer>(ask: (keys: readonly string[]) => Answer): (keys: readonly string[]) => Answer {
  const known = memo((keys) => ask(JSON.parse(keys) as string[]));
  return (keys) => known(JSON.stringify(keys));
}

/** Worked out when somebody asks for it first. */
export function once<Value>(make: () => Value, isSame: (a: Value, b: Value) => boolean = isAlike): () => Value {
  const standing = buildingOn();
  if (standing) return () => standing.answer(make, '', make, isSame);
  let made: { readonly value: Value } | undefined;
  return guarded<undefined, Value>(() => (made ??= { value: make() }).value) as () => Value;
}

/** The same of what reads nothing of a show, but only what it was given. */
export function lazily<Value>(make: () => Value): () => Value {
  let made: { readonly value: Value } | undefined;
  return () => (made ??= { value: make() }).value;
}

/** Remembers the answer for each object; a snapshot never changes, so what is remembered never goes stale. */
export function memoFor<Key extends object, Answer>(ask: (key: Key) => Answer): (key: Key) => Answer {
  const built = buildingOn();
  if (built) return (key) => built.answer(ask, key, () => ask(key), isAlike);
  const known = new WeakMap<Key, { readonly answer: Answer }>();
  return guarded((key) => {
    const standing = standingOf(key);
    if (standing) return standing.answer(ask, key, () => ask(key), isAlike);
    const there = known.get(key) ?? { answer: ask(key) };
    known.set(key, there);
    return there.answer;
  });
}
