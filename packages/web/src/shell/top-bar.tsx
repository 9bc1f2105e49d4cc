import { Moon, Redo2, Search, Sun, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { useBenchCount } from '../live/bench-store.ts';
import { useWorkspace } from '../live/workspace.tsx';
import { readTheme, setTheme, type Theme } from './theme.ts';

export function TopBar({ onFind }: { onFind: () => void }) {
  const { show, history, step, here, connection, showId } = useWorkspace();
  const up = useBenchCount()?.up ?? 0;
  return (
    <header className="flex h-11 shrink-0 items-center gap-3.5 border-b border-rule bg-base-200 px-4">
      <b className="truncate">{show?.name ?? 'Loading'}</b>
      <span className="truncate text-mute max-lg:hidden">{show?.subtitle}</span>
      <button
        type="button"
        onClick={onFind}
        className="mx-auto flex h-7 w-82 min-w-0 items-center gap-2 rounded-field border border-line bg-base-100 px-2.5 text-[13px] text-mute hover:border-primary"
      >
        <Search size={13} aria-hidden />
        <span className="truncate">Find a device, address or action</span>
        <kbd className="ml-auto rounded border border-line px-1 font-mono text-xs whitespace-nowrap text-faint">
          Ctrl K
        </kbd>
      </button>
      <div className="flex">
        <StepButton kind="undo" label={history.undo} onClick={() => void step('undo')} />
        <StepButton kind="redo" label={history.redo} onClick={() => void step('redo')} />
        <ThemeButton />
      </div>
      <Link
        to={`/shows/${showId}/bench`}
        className={`flex items-center gap-1.5 rounded-full border px-2.5 py-0.5 text-xs whitespace-nowrap max-sm:hidden ${up > 0 ? 'border-success/60 text-success' : 'border-line text-mute'}`}
      >
        <span
          aria-hidden
          className={`size-2 rounded-full border ${up > 0 ? 'border-success bg-success' : 'border-mute'}`}
        />
        {up > 0 ? `Bench, ${up} up` : 'Bench off'}
      </Link>
      <span className="rounded-full border border-line px-2.5 py-0.5 text-xs whitespace-nowrap text-mute max-sm:hidden">
        {connection === 'open' ? `${here} here` : 'not connected'}
      </span>
    </header>
  );
}

function StepButton({ kind, label, onClick }: { kind: 'undo' | 'redo'; label: string | null; onClick: () => void }) {
  const Icon = kind === 'undo' ? Undo2 : Redo2;
  const words = kind === 'undo' ? 'Take back' : 'Do again';
  return (
    <button
      type="button"
      className="btn btn-ghost btn-sm btn-square"
      disabled={label === null}
      onClick={onClick}
      aria-label={label === null ? `${words}: nothing` : `${words}: ${label}`}
      title={label === null ? `${words}: nothing yet` : `${words}: ${label}`}
    >
      <Icon size={16} aria-hidden />
    </button>
  );
}

export function ThemeButton() {
  const [theme, choose] = useState<Theme>(readTheme);
  const other: Theme = theme === 'night' ? 'chart' : 'night';
  const label = other === 'chart' ? 'Chart: for daylight' : 'Night: for dark rooms';
  return (
    <button
      type="button"
      className="btn btn-ghost btn-sm btn-square"
      aria-label={label}
      title={label}
      onClick={() => {
        setTheme(other);
        choose(other);
      }}
    >
      {theme === 'night' ? <Sun size={16} aria-hidden /> : <Moon size={16} aria-hidden />}
    </button>
  );
}
