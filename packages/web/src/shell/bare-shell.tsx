import { Outlet, useParams } from 'react-router';
import { useWorkspace, WorkspaceProvider } from '../live/workspace.tsx';
import { Loading } from '../parts/empty.tsx';
import { ProblemList } from '../parts/notices.tsx';

/** A show without rail and bars, for pages on which nothing else may be. */
export function BareShell() {
  const { showId = '' } = useParams();
  return (
    <WorkspaceProvider key={showId} showId={showId}>
      <Page />
    </WorkspaceProvider>
  );
}

function Page() {
  const { show, problem } = useWorkspace();
  if (show)
    return (
      <>
        <Outlet />
        <ProblemList />
      </>
    );
  return problem ? <p className="p-6">{`${problem.message}. ${problem.detail}`}</p> : <Loading />;
}
