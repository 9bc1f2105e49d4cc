import { Link, useRouteError } from 'react-router';
import { Empty } from '../parts/empty.tsx';

const wordsOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

/** In the place of a screen that broke, while everything round it goes on. */
export function ScreenFault() {
  const error = useRouteError();
  return (
    <div role="alert" className="grid flex-1 place-content-center">
      <Empty
        text={`This screen broke (${wordsOf(error)}). The plan is untouched: open the screen again, or another one.`}
      >
        <button type="button" className="act-main" onClick={() => location.reload()}>
          Open it again
        </button>
        <Link to="/" className="act">
          All shows
        </Link>
      </Empty>
    </div>
  );
}
