/** One of several views of a screen; which one is kept in its address. */
export function ViewChoice<See extends string>({
  views,
  see,
  onSee,
}: {
  readonly views: readonly (readonly [See, string])[];
  readonly see: See;
  readonly onSee: (see: See) => void;
}) {
  return (
    <div role="group" aria-label="View" className="join max-w-full overflow-x-auto">
      {views.map(([key, label]) => (
        <button
          key={key}
          type="button"
          className={`act join-item ${key === see ? 'border-primary' : ''}`}
          aria-pressed={key === see}
          onClick={() => onSee(key)}
        >
          {label}
        </button>
      ))}
    </div>
  );
}
