import { createElement, useEffect, useMemo, useState, type ComponentType } from 'react';
import { Outlet, useLocation, useNavigate, useParams } from 'react-router';
import { nothing } from '../live/nothing.ts';
import { useWorkspace, WorkspaceProvider } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { Empty, Loading } from '../parts/empty.tsx';
import { ProblemList } from '../parts/notices.tsx';
import { useIsCovered } from '../parts/open-dialogs.ts';
import type { Action, FindProps } from './command-box.tsx';
import { ConflictDialog } from './conflict-dialog.tsx';
import { FindingsBar } from './findings-bar.tsx';
import { ConnectionNotice } from './notices.tsx';
import { Rail } from './rail.tsx';
import { screens } from './screens.ts';
import { readTheme, setTheme } from './theme.ts';
import { TopBar } from './top-bar.tsx';
import { TourStrip } from './tour-strip.tsx';
import { useShortcuts, type Shortcut } from './use-shortcuts.ts';

/** As large as a screen, so it is not in the way of the first one; it is there right after it. */
function useFind(): ComponentType<FindProps> | undefined {
  const [loaded, setLoaded] = useState<{ readonly box: ComponentType<FindProps> }>();
  useEffect(() => {
    import('./command-box.tsx').then(({ CommandBox }) => setLoaded({ box: CommandBox }), nothing);
  }, []);
  return loaded?.box;
}

export function ShowShell() {
  const { showId = '' } = useParams();
  return (
    <WorkspaceProvider key={showId} showId={showId}>
      <Frame />
    </WorkspaceProvider>
  );
}

function Frame() {
  const { conflict } = useWorkspace();
  const find = useFind();
  const covered = useIsCovered();
  const [open, setOpen] = useState<'find' | 'keys'>();
  const actions = useActions(setOpen);
  const shortcuts = useKeys(setOpen);
  useShortcuts(shortcuts);
  return (
    <div className="flex h-full max-md:flex-col">
      <Rail />
      <div className="flex min-w-0 flex-1 flex-col max-md:min-h-0">
        <TopBar onFind={() => setOpen('find')} />
        <ConnectionNotice />
        <TourStrip />
        <main className="page-body">
          <Screen />
        </main>
        {!covered && <ProblemList />}
        <FindingsBar />
      </div>
      {open === 'find' && find && createElement(find, { actions, onClose: () => setOpen(undefined) })}
      {open === 'keys' && <ShortcutSheet shortcuts={shortcuts} onClose={() => setOpen(undefined)} />}
      {conflict && <ConflictDialog {...conflict} />}
    </div>
  );
}

/** The screen that the address names, or why there is none. */
function Screen() {
  const { show, problem, reload } = useWorkspace();
  const navigate = useNavigate();
  if (show) return <Outlet />;
  if (!problem) return <Loading />;
  const isGone = problem.code === 'SHOW_NOT_FOUND';
  return (
    <Empty text={`${problem.message}. ${problem.detail}`}>
      <button type="button" className="act-main" onClick={isGone ? () => void navigate('/') : reload}>
        {isGone ? 'All shows' : 'Try again'}
      </button>
    </Empty>
  );
}

/** What the command box can do. */
function useActions(open: (what: 'keys') => void): Action[] {
  const { showId, step } = useWorkspace();
  const navigate = useNavigate();
  return useMemo<Action[]>(() => {
    const to = (path: string) => () => void navigate(`/shows/${showId}/${path}`);
    return [
      {
        label: 'Read a gear list',
        also: 'import spreadsheet excel csv paste upload equipment',
        run: to('rig?do=import'),
      },
      { label: 'Add a device', also: 'new unit create equipment', run: to('rig?do=add') },
      { label: 'Device types', also: 'library template model make a type', run: to('rig?do=types') },
      { label: 'Before the site', also: 'ask order spare adapters firmware update checklist', run: to('rig?do=site') },
      { label: 'Add a network', also: 'new subnet range vlan create', run: to('addresses?do=add') },
      {
        label: 'Place the rest of the addresses',
        also: 'assign ip fill automatic allocate',
        run: to('addresses?do=place'),
      },
      { label: 'First contact', also: 'reach factory default address new from the box bring up', run: to('bring-up') },
      {
        label: 'Compare with what was found',
        also: 'scan capture pcap import discover',
        run: to('addresses?do=found'),
      },
      { label: 'Add a run', also: 'new cable plug connect socket', run: to('cabling?do=add') },
      { label: 'Join several', also: 'cable many star chain daisy ring switch', run: to('cabling?do=join') },
      { label: 'Read a list of runs', also: 'cables import paste csv', run: to('cabling?do=read') },
      { label: 'Add a link', also: 'new connection control create', run: to('links?do=add') },
      { label: 'Ports and firewall', also: 'tcp udp open list', run: to('links?do=ports') },
      { label: 'Sound all links', also: 'test check ping try connections', run: to('links?do=sound') },
      { label: 'Take back the last change', also: 'undo revert', run: () => void step('undo') },
      { label: 'Do the last change again', also: 'redo repeat', run: () => void step('redo') },
      {
        label: 'Change between night and chart',
        also: 'dark light theme mode colours',
        run: () => setTheme(readTheme() === 'night' ? 'chart' : 'night'),
      },
      { label: 'Keys of this screen', also: 'shortcuts keyboard help', run: () => open('keys') },
      { label: 'All shows', also: 'home projects events', run: () => void navigate('/') },
    ];
  }, [navigate, open, showId, step]);
}

/** The unit that the address is about, on whichever screen: of a link its target. */
function useUnitHere(): string | undefined {
  const { show } = useWorkspace();
  const [, , , screen, one = '', two = ''] = useLocation().pathname.split('/');
  const id =
    screen === 'addresses'
      ? show?.interfaces[show.addresses[two]?.interfaceId ?? '']?.deviceId
      : screen === 'links'
        ? show?.links[one]?.targetId
        : one;
  return show?.devices[id ?? ''] ? id : undefined;
}

function useKeys(open: (what: 'find' | 'keys') => void): Shortcut[] {
  const { showId, step } = useWorkspace();
  const unit = useUnitHere();
  const navigate = useNavigate();
  return useMemo<Shortcut[]>(
    () => [
      { keys: 'Ctrl K', what: 'Find a device, address, screen or action', run: () => open('find') },
      { keys: '?', what: 'Show these shortcuts', run: () => open('keys') },
      {
        keys: 'o',
        what: 'Open the page of the unit that is chosen',
        run: () => unit !== undefined && void navigate(`/shows/${showId}/rig/${unit}/page`),
      },
      { keys: 'Ctrl Z', what: 'Take back your last change', run: () => void step('undo') },
      { keys: 'Ctrl Shift Z', what: 'Do it again', run: () => void step('redo') },
      ...screens.map(({ path, label, key }) => ({
        keys: `g ${key}`,
        what: `Go to ${label}`,
        run: () => void navigate(`/shows/${showId}/${path}`),
      })),
    ],
    [navigate, showId, step, open, unit],
  );
}

/** Every key that does something now: those of the screen that is open, then those of all screens. */
function ShortcutSheet({ shortcuts, onClose }: { shortcuts: readonly Shortcut[]; onClose: () => void }) {
  const { pathname } = useLocation();
  const here = screens.find(({ path }) => path === pathname.split('/')[3]);
  return (
    <Dialog title="Keys" onClose={onClose}>
      {here && here.keys.length > 0 && <KeyList title={`On ${here.label}`} keys={here.keys} />}
      <KeyList title="Everywhere" keys={[...shortcuts, { keys: 'Esc', what: 'Close a dialogue' }]} />
    </Dialog>
  );
}

function KeyList({ title, keys: list }: { title: string; keys: readonly Pick<Shortcut, 'keys' | 'what'>[] }) {
  return (
    <section className="mb-4">
      <h3 className="mb-2 font-semibold">{title}</h3>
      <dl className="grid grid-cols-[9rem_1fr] gap-x-6 gap-y-2">
        {list.map(({ keys, what }) => (
          <div key={`${keys} ${what}`} className="contents">
            <dt>
              <kbd className="kbd kbd-sm font-mono">{keys}</kbd>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
