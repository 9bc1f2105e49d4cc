/** Remembers answers by a text, for questions that many links ask of one snapshot. Lives as long as the facts that hold it. */
export function memo<Answer>(ask: (key: string) => Answer): (key: string) => Answer {
  const known = new Map<string, Answer>();
  return (key) => {
    const there = known.get(key);
    if (there !== undefined || known.has(key)) return there as Answer;
    const answer = ask(key);
    known.set(key, answer);
    return answer;
  };
}

/** The same by several texts in their order. */
export function memoOf<Answer>(ask: (keys: readonly string[]) => Answer): (keys: readonly string[]) => Answer {
  const known = memo((keys) => ask(JSON.parse(keys) as string[]));
  return (keys) => known(JSON.stringify(keys));
}

/** Worked out when somebody asks for it first. */
export function once<Value>(make: () => Value): () => Value {
  let made: { readonly value: Value } | undefined;
  return () => (made ??= { value: make() }).value;
}

/** Remembers the answer for each object; a snapshot never changes, so what is remembered never goes stale. */
export function memoFor<Key extends object, Answer>(ask: (key: Key) => Answer): (key: Key) => Answer {
  const known = new WeakMap<Key, { readonly answer: Answer }>();
  return (key) => {
    const there = known.get(key) ?? { answer: ask(key) };
    known.set(key, there);
    return there.answer;
  };
}
