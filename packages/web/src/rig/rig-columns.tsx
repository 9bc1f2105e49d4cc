import { writeBlock } from '@deep-patch/codecs';
import { findings as findingsRoom, rig, show as core, wordsOf, type show } from '@deep-patch/core';
import type { Column } from '../parts/data-grid.tsx';
import { gradeMarks } from '../parts/grades.ts';
import { Mark } from '../parts/mark.tsx';

export interface RigRow {
  readonly device: show.Device;
  readonly type: string;
  readonly kind: show.DeviceKind | undefined;
  readonly mac: string;
  readonly texts: Readonly<Record<rig.CellField, string>>;
  readonly findings: readonly findingsRoom.Finding[];
}

const plain = (
  key: rig.CellField,
  header: string,
  width: string,
  look = '',
  sortBy: (row: RigRow) => string | number = ({ texts }) => texts[key],
): Column<RigRow> => ({
  key,
  header,
  width,
  sortBy,
  text: ({ texts }) => texts[key],
  cell: ({ texts }) => <span className={look}>{texts[key] || <span className="text-faint">—</span>}</span>,
});

export const isCellField = (key: string): key is rig.CellField => (rig.cellFields as readonly string[]).includes(key);

/** Every column that the rig's table can show, in their order. */
export const rigColumns: readonly Column<RigRow>[] = [
  plain('name', 'Name', 'minmax(9rem,1.5fr)', 'font-medium'),
  {
    key: 'type',
    header: 'Type',
    width: 'minmax(8rem,1.2fr)',
    from: 430,
    sortBy: ({ type }) => type,
    cell: ({ type }) => <span className="text-mute">{type}</span>,
  },
  plain('unit', 'Unit', '4rem', 'key-num', ({ device }) => device.unit ?? -1),
  plain('place', 'Place', 'minmax(7rem,1fr)'),
  { ...plain('firmware', 'Version', '5.5rem', 'key-num'), from: 560 },
  { ...plain('mac', 'MAC', '10.5rem', 'key-num text-mute'), from: 680 },
  plain('serial', 'Serial', '8rem', 'key-num'),
  plain('hostName', 'Host name', '8rem', 'key-num'),
  plain('variant', 'Variant', '8rem'),
  plain('system', 'System', '6.5rem'),
  plain('systemVersion', 'System version', '7rem', 'key-num'),
  plain('sources', 'Sources', '5rem', 'key-num', ({ device }) => device.sources ?? -1),
  plain('savedOn', 'Copy of', '7rem', 'key-num'),
  plain('note', 'Note', 'minmax(8rem,1fr)'),
  {
    key: 'state',
    header: 'Findings',
    width: 'minmax(6rem,1fr)',
    sortBy: ({ findings }) => findings.length,
    text: ({ findings }) => findings.map((finding) => wordsOf(finding).what).join(' '),
    cell: ({ findings }) => <FindingsCell findings={findings} />,
  },
];
/** Columns that can be typed into, by their headings in small letters. */
export const rigHeadings: ReadonlyMap<string, string> = new Map(
  rigColumns.filter(({ key }) => isCellField(key)).map(({ key, header }) => [header.toLowerCase(), key]),
);

/** Rows as a spreadsheet takes them: every column that can be typed into, under its heading. */
export function withHeadings(show: core.Show, devices: readonly show.Device[]): string {
  const typed = rigColumns.filter(({ key }) => isCellField(key));
  const macs = new Map(rigRows(show, []).map(({ device, mac }) => [device.id, mac]));
  const lines = devices.map((device) =>
    typed.map(({ key }) => (isCellField(key) ? rig.cellText(show, device, key, macs.get(device.id) ?? null) : '')),
  );
  return writeBlock([typed.map(({ header }) => header), ...lines]);
}

export const firstColumns = ['name', 'type', 'unit', 'firmware', 'mac', 'state'] as const;

function FindingsCell({ findings }: { findings: RigRow['findings'] }) {
  const [worst] = findings;
  if (!worst) return <span className="text-mute">—</span>;
  return (
    <span className="text-xs">
      <Mark state={gradeMarks[worst.grade]} size={12} />{' '}
      {findings.length === 1 ? '1 finding' : `${findings.length} findings`}
    </span>
  );
}

export function rigRows(show: core.Show, findings: readonly findingsRoom.Finding[]): RigRow[] {
  const macs = new Map<string, string>();
  for (const row of core.rowsOf(show, 'interfaces').sort(core.byAdapter(show)))
    if (row.mac && !macs.has(row.deviceId)) macs.set(row.deviceId, row.mac);
  const byDevice = core.groupBy(
    findings.flatMap((finding) => findingsRoom.concernedDevices(show, finding).map((id) => ({ id, finding }))),
    ({ id }) => id,
  );
  return core.devicesByName(show).map((device) => {
    const about = {
      type: core.typeOf(show, device),
      mac: macs.get(device.id) ?? '',
      findings: byDevice.get(device.id)?.map(({ finding }) => finding) ?? noFindings,
    };
    const before = rowsBefore.get(device);
    if (before && core.isEqual(before.about, about)) return before.row;
    const row = rowOf(show, device, about);
    rowsBefore.set(device, { about, row });
    return row;
  });
}

interface About {
  readonly type: show.DeviceType | undefined;
  readonly mac: string;
  readonly findings: RigRow['findings'];
}
const noFindings: RigRow['findings'] = [];
/** Most rows of a table are after a change what they were before it. */
const rowsBefore = new WeakMap<show.Device, { readonly about: About; readonly row: RigRow }>();

function rowOf(show: core.Show, device: show.Device, { type, mac, findings }: About): RigRow {
  const texts = Object.fromEntries(
    rig.cellFields.map((field) => [field, rig.cellText(show, device, field, mac)]),
  ) as Record<rig.CellField, string>;
  return { device, type: type?.name ?? '', kind: type?.kind, mac, texts, findings };
}

export const rowText = ({ device, type, texts }: RigRow): string =>
  `${device.name} ${type} ${Object.values(texts).join(' ')}`.toLowerCase();
