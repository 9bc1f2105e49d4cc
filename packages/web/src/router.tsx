import { createBrowserRouter, Link, Navigate } from 'react-router';
import { Empty, Loading } from './parts/empty.tsx';
import { ShowShell } from './shell/shell.tsx';
import { ShowsScreen } from './shows/shows-screen.tsx';

const rig = async () => ({ Component: (await import('./rig/rig-screen.tsx')).RigScreen });
const addresses = async () => ({ Component: (await import('./addresses/addresses-screen.tsx')).AddressesScreen });
const links = async () => ({ Component: (await import('./links/links-screen.tsx')).LinksScreen });
const bench = async () => ({ Component: (await import('./bench/bench-screen.tsx')).BenchScreen });
const findings = async () => ({ Component: (await import('./findings/findings-screen.tsx')).FindingsScreen });

/** Every screen has its own address; screens other than the first load on demand. */
export const router = createBrowserRouter([
  { path: '/', Component: ShowsScreen, HydrateFallback: Loading },
  {
    path: '/shows/:showId',
    Component: ShowShell,
    HydrateFallback: Loading,
    children: [
      { index: true, element: <Navigate to="rig" replace /> },
      { path: 'rig/:deviceId?', lazy: rig },
      { path: 'addresses/:networkId?/:addressId?', lazy: addresses },
      { path: 'links/:linkId?', lazy: links },
      { path: 'bench/:deviceId?', lazy: bench },
      { path: 'findings', lazy: findings },
      { path: '*', Component: NotHere },
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
