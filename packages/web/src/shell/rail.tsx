import { NavLink } from 'react-router';
import { Check } from 'lucide-react';
import { useSaving, useWorkspace } from '../live/workspace.tsx';
import { screens } from './screens.ts';

export function MarkLogo() {
  return (
    <svg width="16" height="22" viewBox="0 0 16 22" aria-hidden>
      <path d="M8 0v13" className="stroke-primary" strokeWidth="2" />
      <path d="M8 22 3 13h10z" className="fill-primary" />
      <path d="M1 3h14M3 7h10" className="stroke-faint" strokeWidth="1.5" />
    </svg>
  );
}

const onRail = screens.flatMap(({ isBegun, ...screen }) => (isBegun ? [{ ...screen, isBegun }] : []));

/** The line down the left: each stop with how many findings stop something there; a check where none does. */
export function Rail() {
  const { show, analysis, showId } = useWorkspace();
  const saving = useSaving();
  return (
    <nav
      aria-label="The job in its order"
      className="flex w-41 shrink-0 flex-col border-r border-rule bg-base-200 pt-3 pb-2.5 max-md:w-auto max-md:flex-row max-md:items-center max-md:border-r-0 max-md:border-b max-md:p-1"
    >
      <NavLink
        to="/"
        className="flex items-center gap-2 px-4 pb-3 text-base font-bold max-md:px-2 max-md:pb-0"
        title="All shows"
      >
        <MarkLogo />
        <span className="max-md:sr-only">Deep Patch</span>
      </NavLink>
      <ul className="relative flex-1 before:absolute before:top-2.5 before:bottom-3.5 before:left-6 before:w-0.5 before:bg-line max-md:flex max-md:min-w-0 max-md:overflow-x-auto max-md:before:hidden">
        {onRail.map(({ path, label, room, isBegun }) => {
          const stopping =
            analysis?.findings.filter((finding) => finding.room === room && finding.grade === 'stops').length ?? 0;
          const done = room !== undefined && stopping === 0 && show !== undefined && isBegun(show);
          return (
            <li key={path}>
              <NavLink
                to={`/shows/${showId}/${path}`}
                className={({ isActive }) =>
                  `group relative flex items-center gap-2.5 py-2 pr-3.5 pl-4.25 font-medium hover:text-base-content max-md:px-2 ${isActive ? 'bg-base-300 text-base-content' : 'text-mute'}`
                }
              >
                {({ isActive }) => (
                  <>
                    <i
                      className={`z-1 grid size-4 shrink-0 place-content-center rounded-full border-2 ${done ? 'border-primary bg-primary text-primary-content' : 'bg-base-200'} ${isActive ? 'border-primary ring-3 ring-primary/25' : done ? '' : 'border-line'}`}
                    >
                      {done && <Check size={10} strokeWidth={4} aria-hidden />}
                    </i>
                    {label}
                    {stopping > 0 && (
                      <b className="ml-auto font-mono text-xs text-error" aria-label={`${stopping} stop something`}>
                        {stopping}
                      </b>
                    )}
                  </>
                )}
              </NavLink>
            </li>
          );
        })}
      </ul>
      <p className="px-4 text-xs text-mute max-md:hidden" aria-live="polite">
        {show ? `rev ${show.rev} · ${saving ? 'saving' : 'saved'}` : 'loading'}
      </p>
    </nav>
  );
}
