import { links as linkRoom, show as core, type show } from '@deep-patch/core';
import { Link } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { DepthGlyph } from '../parts/depth-glyph.tsx';

export function DeviceLinks({ device }: { device: show.Device }) {
  const show = useShow();
  const { analysis, showId } = useWorkspace();
  const links = core
    .rowsOf(show, 'links')
    .filter((link) => link.controllerId === device.id || link.targetId === device.id);
  if (links.length === 0) return null;
  return (
    <section className="grid gap-1">
      <h3 className="text-xs font-semibold text-mute">Links</h3>
      {links.map((link) => {
        const controls = link.controllerId === device.id;
        const depth = analysis?.depths.get(link.id);
        return (
          <Link
            key={link.id}
            to={`/shows/${showId}/links/${link.id}`}
            className="flex items-center gap-2 hover:underline"
          >
            <span className="text-xs text-mute">{controls ? 'controls' : 'driven by'}</span>
            <span className="truncate">{show.devices[controls ? link.targetId : link.controllerId]?.name}</span>
            <span className="ml-auto">{depth && <DepthGlyph depth={depth} />}</span>
          </Link>
        );
      })}
      <NameChain device={device} />
    </section>
  );
}

const differences: Readonly<Record<linkRoom.NameBreak['kind'], string>> = {
  case: 'only capitals differ',
  blanks: 'only blanks differ',
  letters: 'the same letters, one of them put together from two signs',
  other: 'another name',
};

/** Where the chain of names by which a unit goes breaks first. */
function NameChain({ device }: { device: show.Device }) {
  const found = linkRoom.firstNameBreak(linkRoom.namesOf(useShow(), device.id));
  if (!found) return null;
  return (
    <p className="text-xs text-mute">
      Called “{found.after.name}” in {found.after.where}: {differences[found.kind]}. Programs take that for another
      unit.
    </p>
  );
}
