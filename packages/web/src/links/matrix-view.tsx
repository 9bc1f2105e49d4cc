import { show as core } from '@deep-patch/core';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import type { LinkRow } from './link-rows.tsx';

/** Who controls whom: controllers down, targets across, and in each cell how deep it reaches. */
export function MatrixView({ rows }: { readonly rows: readonly LinkRow[] }) {
  const show = useShow();
  const { controllers, targets, at } = useMemo(() => matrixOf(show, rows), [show, rows]);
  return (
    <div className="min-w-0 flex-1 overflow-auto" tabIndex={0} role="region" aria-label="Who controls whom">
      <table className="text-[13px]">
        <thead>
          <tr className="border-b border-rule bg-base-200">
            <th scope="col" className="sticky left-0 z-1 bg-base-200 px-3 py-1.5 text-left text-xs text-faint">
              Controller
            </th>
            {targets.map((target) => (
              <th key={target.id} scope="col" className="h-36 w-11 p-0 align-bottom font-medium">
                <span
                  className={`inline-block max-h-34 rotate-180 truncate py-1 [writing-mode:vertical-rl] ${(at.byTarget.get(target.id)?.size ?? 0) > 1 ? 'font-bold' : ''}`}
                  title={target.name}
                >
                  {target.name}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {controllers.map((controller) => (
            <tr key={controller.id} className="border-b border-rule">
              <th
                scope="row"
                className="sticky left-0 z-1 max-w-48 truncate bg-base-100 px-3 py-1.5 text-left font-medium"
              >
                {controller.name}
              </th>
              {targets.map((target) => {
                return (
                  <td key={target.id} className="border-l border-rule px-1 py-1 text-center align-middle">
                    <Cell rows={at.cells.get(`${controller.id} ${target.id}`) ?? []} />
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="px-3 py-2 text-[13px] text-mute">
        A figure says how many of the eight layers a link passes; 8 reaches the bottom. A target in bold has several
        controllers.
      </p>
    </div>
  );
}

function Cell({ rows }: { readonly rows: readonly LinkRow[] }) {
  const { showId } = useWorkspace();
  return rows.map(({ link, controller, target, depth }) => {
    const words = `${controller} controls ${target}: ${depth?.depth ?? 0} of 8`;
    return (
      <Link
        key={link.id}
        to={`/shows/${showId}/links/${link.id}`}
        className="inline-block rounded-field px-0.5 hover:bg-base-300"
        aria-label={words}
        title={words}
      >
        {depth && <DepthFigure depth={depth.depth} stops={depth.stopsAt !== undefined} />}
      </Link>
    );
  });
}

const DepthFigure = ({ depth, stops }: { readonly depth: number; readonly stops: boolean }) => (
  <span className={`font-mono font-bold ${stops ? 'text-error underline' : 'text-success'}`}>{depth}</span>
);

function matrixOf(show: core.Show, rows: readonly LinkRow[]) {
  const unitsBy = (idOf: (row: LinkRow) => string) =>
    [...new Set(rows.map(idOf))].flatMap((id) => show.devices[id] ?? []).sort(core.byName);
  const byTarget = new Map<string, Set<string>>();
  for (const { link } of rows)
    byTarget.set(link.targetId, (byTarget.get(link.targetId) ?? new Set()).add(link.controllerId));
  return {
    controllers: unitsBy(({ link }) => link.controllerId),
    targets: unitsBy(({ link }) => link.targetId),
    at: { cells: core.groupBy(rows, ({ link }) => `${link.controllerId} ${link.targetId}`), byTarget },
  };
}
