import { createBrowserRouter, Link, Navigate } from 'react-router';
import { Empty, Loading } from './parts/empty.tsx';
import { BareShell } from './shell/bare-shell.tsx';
import { ScreenFault } from './shell/screen-fault.tsx';
import { screens } from './shell/screens.ts';
import { ShowShell } from './shell/shell.tsx';
import { ShowsScreen } from './shows/shows-screen.tsx';

/** Every screen has its own address; screens other than the first load on demand, and a fault stays in the one it is in. */
export const router = createBrowserRouter([
  { path: '/', Component: ShowsScreen, HydrateFallback: Loading, ErrorBoundary: ScreenFault },
  {
    path: '/shows/:showId',
    Component: ShowShell,
    HydrateFallback: Loading,
    ErrorBoundary: ScreenFault,
    children: [
      { index: true, element: <Navigate to="rig" replace /> },
      ...screens.map(({ path, more, load }) => ({
        path: `${path}${more}`,
        lazy: async () => ({ Component: await load() }),
        ErrorBoundary: ScreenFault,
      })),
      { path: '*', Component: NotHere },
    ],
  },
  {
    path: '/shows/:showId/operate',
    Component: BareShell,
    HydrateFallback: Loading,
    ErrorBoundary: ScreenFault,
    children: [
      {
        path: ':deviceId',
        lazy: async () => ({ Component: (await import('./surfaces/operator-page.tsx')).OperatorPage }),
        ErrorBoundary: ScreenFault,
      },
    ],
  },
  { path: '*', Component: NotHere },
]);

function NotHere() {
  return (
    <Empty text="There is no screen at this address.">
      <Link to="/" className="act-main">
        All shows
      </Link>
    </Empty>
  );
}
