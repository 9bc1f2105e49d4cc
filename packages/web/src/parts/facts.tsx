/** What is known of a thing, as small labels over large figures. */
export function Facts({ facts }: { readonly facts: readonly (readonly [label: string, value: string])[] }) {
  return (
    <dl className="flex flex-wrap gap-x-10 gap-y-3">
      {facts.map(([label, value]) => (
        <div key={label}>
          <dt className="text-xs text-mute">{label}</dt>
          <dd className="font-mono text-base">{value}</dd>
        </div>
      ))}
    </dl>
  );
}
