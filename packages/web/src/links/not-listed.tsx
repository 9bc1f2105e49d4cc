import { links as linkRoom, show as core } from '@deep-patch/core';
import { Link } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';

/** Units that are missing above, since a type says nothing that the two have in common: that is where it is said. */
export function NotListed({ controller }: { readonly controller: core.Device }) {
  const show = useShow();
  const { showId } = useWorkspace();
  const missing = linkRoom.notDrivable(show, controller).sort((a, b) => core.byName(a.target, b.target));
  if (missing.length === 0) return null;
  const own = core.typeOf(show, controller);
  const drives = own?.drives.map((protocol) => protocol.toUpperCase()).join(', ') || 'nothing';
  return (
    <details className="pb-2 text-[13px]">
      <summary className="cursor-pointer text-mute">
        Not in this list: {missing.length === 1 ? '1 unit' : `${missing.length} units`}
      </summary>
      <p className="py-1 text-mute">
        {controller.name} speaks {drives}. What a unit understands is said by its type.
      </p>
      <ul className="grid max-h-40 gap-1 overflow-auto">
        {missing.map(({ target, typeId, speaks }) => (
          <li key={target.id} className="flex flex-wrap gap-x-2">
            <span>
              {target.name}{' '}
              <span className="text-mute">
                {speaks.length === 0 ? 'understands nothing yet' : speaks.map((one) => one.toUpperCase()).join(', ')}
              </span>
            </span>
            <Link className="link ml-auto text-primary" to={`/shows/${showId}/rig?do=types&type=${typeId}`}>
              Say what it understands
            </Link>
          </li>
        ))}
      </ul>
    </details>
  );
}
