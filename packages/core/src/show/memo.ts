/** Remembers answers by a text, for questions that many links ask of one snapshot. Lives as long as the facts that hold it. */
export function memo<Answer>(ask: (key: string) => Answer): (key: string) => Answer {
  const known = new Map<string, Answer>();
  return (key) => {
    if (!known.has(key)) known.set(key, ask(key));
    return known.get(key) as Answer;
  };
}

/** Worked out when somebody asks for it first. */
export function once<Value>(make: () => Value): () => Value {
  let made: { readonly value: Value } | undefined;
  return () => (made ??= { value: make() }).value;
}
