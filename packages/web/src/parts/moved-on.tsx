/** Said above the button of a form whose row somebody else saved meanwhile. */
export function MovedOn({ onAdopt }: { onAdopt: () => void }) {
  return (
    <p role="status" className="mb-2 rounded-sm border-l-3 border-warning bg-warning/10 px-3 py-2 text-[13px]">
      Somebody else saved this meanwhile. Saving will show you both versions.{' '}
      <button type="button" className="link font-semibold" onClick={onAdopt}>
        Take theirs
      </button>
    </p>
  );
}
