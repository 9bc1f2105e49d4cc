/** How far something has come that takes a while, and the way to end it. */
export function UnderWay({
  label,
  share,
  onStop,
}: {
  readonly label: string;
  readonly share: number;
  readonly onStop: () => void;
}) {
  return (
    <div className="grid gap-2 py-10">
      <progress className="progress progress-primary w-full" value={share} max={1} aria-label={label} />
      <button type="button" className="act justify-self-center" onClick={onStop}>
        Stop
      </button>
    </div>
  );
}
