import { links as linkRoom, show as core, type Analysis, type Seen, type show } from '@deep-patch/core';
import type { Column } from '../parts/data-grid.tsx';
import { DepthGlyph } from '../parts/depth-glyph.tsx';
import { Mark } from '../parts/mark.tsx';
import { tableCsv } from '../parts/table-csv.ts';

export interface LinkRow {
  readonly link: show.Link;
  readonly controller: string;
  readonly target: string;
  readonly over: string;
  readonly at: string;
  readonly sounding: linkRoom.Sounding | undefined;
  readonly depth: linkRoom.Depth | undefined;
  readonly measured: core.MeasuredSounding | undefined;
}

const controllerColumn: Column<LinkRow> = {
  key: 'controller',
  header: 'Controller',
  width: 'minmax(8rem,1.2fr)',
  sortBy: ({ controller }) => controller,
  cell: ({ controller }) => controller,
};

export const linkColumns: readonly Column<LinkRow>[] = [
  controllerColumn,
  {
    key: 'target',
    header: 'Controls',
    width: 'minmax(9.25rem,1.3fr)',
    sortBy: ({ target }) => target,
    cell: ({ target }) => target,
  },
  {
    key: 'over',
    header: 'Over',
    width: '7.1rem',
    from: 460,
    sortBy: ({ over }) => over,
    cell: ({ over }) => <span className="text-mute">{over}</span>,
  },
  { key: 'at', header: 'At', width: '7.4rem', from: 560, sortBy: ({ at }) => at, cell: ({ at }) => <code>{at}</code> },
  {
    key: 'depth',
    header: 'Depth',
    width: '7.75rem',
    sortBy: ({ depth }) => depth?.depth ?? 0,
    cell: ({ depth }) => depth && <DepthGlyph depth={depth} />,
  },
  {
    key: 'must',
    header: 'Must hold',
    width: '6rem',
    from: 700,
    sortBy: ({ link }) => (link.mustHold ? 'must hold' : ''),
    cell: ({ link }) => link.mustHold && <span className="text-mute">must hold</span>,
  },
  {
    key: 'stops',
    header: 'Stops at',
    width: 'minmax(10rem,1.5fr)',
    text: (row) => toldOf(row)?.text ?? '',
    cell: (row) => <StopsCell {...row} />,
  },
];

function StopsCell(row: LinkRow) {
  const told = toldOf(row);
  return told && <Told {...told} />;
}

/** Where the link ends, and whether that is known. */
function toldOf({ depth, sounding, measured }: LinkRow): Told | undefined {
  if (!depth || !sounding) return undefined;
  const stop = sounding.stopsAt;
  if (depth.measured && !depth.stopsAt) {
    const unasked = measured?.layers.findIndex(({ code }) => code === 'not_asked') ?? -1;
    // a watch sends no command: what only that would tell is not called proved
    if (unasked > 0) return { state: 'waits', text: `watched: proved to ${measured?.layers[unasked - 1]?.layer}` };
    const silent = depth.proven ? 'did what it was told' : 'sent; no answer to prove it';
    const text = depth.rttMs === null ? silent : `answers in ${linkRoom.milliseconds(depth.rttMs)}`;
    return { state: 'pass', text };
  }
  if (depth.measured) {
    const seen = measured?.layers.find(({ layer }) => layer === depth.stopsAt);
    const isForecast = seen?.state === 'unseen' || seen?.state === 'pass';
    const between = stop ? linkRoom.layerWords(stop).between : '';
    const text = `${upper(depth.stopsAt ?? '')}: ${seen && !isForecast ? linkRoom.measuredWords(seen) : between}`;
    return { state: seen?.state === 'waits' ? 'waits' : 'fail', text };
  }
  if (stop) return { state: 'fail', text: `${upper(stop.layer)}: ${linkRoom.layerWords(stop).between}` };
  const [risk] = sounding.risks;
  if (risk) return { state: 'risky', text: `${upper(risk.layer)}: ${linkRoom.layerWords(risk).between}` };
  return { state: 'waits', text: depth.stale ? 'changed since sounded' : 'not sounded yet' };
}

interface Told {
  readonly state: 'pass' | 'risky' | 'fail' | 'waits';
  readonly text: string;
}
const upper = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
const Told = ({ state, text }: Told) => (
  <span
    className={`text-xs ${{ pass: 'text-success', risky: 'text-warning', fail: 'text-error', waits: 'text-mute' }[state]}`}
    title={text}
  >
    <Mark state={state} size={11} /> {text}
  </span>
);

export function summaryOf(rows: readonly LinkRow[]): string {
  if (rows.length === 0) return 'nothing yet';
  const measured = rows.filter(({ depth }) => depth?.measured);
  const bottom = rows.filter(({ depth }) => depth?.depth === 8).length;
  const short = rows.length - bottom;
  return `${rows.length} planned · ${bottom} reach bottom · ${short} ${short === 1 ? 'stops' : 'stop'} short · ${measured.length} sounded`;
}

export function linkRows(show: core.Show, analysis: Analysis | undefined, seen: Seen): LinkRow[] {
  return core
    .rowsOf(show, 'links')
    .map((link) => {
      const target = show.devices[link.targetId];
      const type = core.serviceTypeOf(show, target, link.serviceKey);
      const planned = analysis?.addressing.byDevice.get(link.targetId)?.find(({ ip }) => ip !== null);
      const over = `${type?.protocol.toUpperCase() ?? '?'} · ${link.slot === null ? link.port : `slot ${link.slot}`}`;
      return {
        link,
        controller: nameOf(show, link.controllerId).name,
        target: target?.name ?? '',
        over,
        at: link.host ?? planned?.address.ip ?? '—',
        sounding: analysis?.soundings.get(link.id),
        depth: analysis?.depths.get(link.id),
        measured: seen.soundings[link.id],
      };
    })
    .sort((a, b) => byController(show, a, b));
}

/** The columns at the start: the controller stands above its links. */
export const firstLinkColumns = linkColumns.flatMap(({ key }) =>
  key === controllerColumn.key || key === 'must' ? [] : [key],
);

/** The links as a file tells them: beside each row its controller, whether the table shows it or not. */
export const linkCsv = (rows: readonly LinkRow[], columns: readonly Column<LinkRow>[]): string =>
  tableCsv([controllerColumn, ...columns.filter(({ key }) => key !== controllerColumn.key)], rows);

const byController = (show: core.Show, a: LinkRow, b: LinkRow): number =>
  core.byName(nameOf(show, a.link.controllerId), nameOf(show, b.link.controllerId)) ||
  (a.link.slot ?? 0) - (b.link.slot ?? 0) ||
  core.byName({ name: a.target }, { name: b.target });
const nameOf = (show: core.Show, id: string) => ({ name: show.devices[id]?.name ?? '' });
