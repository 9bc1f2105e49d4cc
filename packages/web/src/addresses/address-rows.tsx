import { addressing, type Analysis, type findings as findingsRoom, type show } from '@deep-patch/core';
import { Flag } from 'lucide-react';
import type { Column, Group } from '../parts/data-grid.tsx';
import { gradeMarks } from '../parts/grades.ts';
import { Mark } from '../parts/mark.tsx';
import { foundMarks, foundWords } from './found-words.ts';
import { shortWords } from './short-words.ts';

export interface Row {
  readonly item: addressing.Planned;
  readonly findings: readonly findingsRoom.Finding[];
  readonly found: addressing.FoundItem | undefined;
}

export const columnsOfPlan: readonly Column<Row>[] = [
  {
    key: 'name',
    header: 'Interface',
    width: 'minmax(9rem,1.3fr)',
    sortBy: ({ item }) => item.device.name,
    cell: ({ item }) => <NameCell item={item} />,
  },
  {
    key: 'delivered',
    header: 'As delivered',
    width: '9rem',
    from: 560,
    sortBy: ({ item }) => item.type.factory.ip ?? '',
    cell: ({ item }) => <code className="text-mute">{addressing.deliveredWords(item.type)}</code>,
  },
  {
    key: 'planned',
    header: 'As planned',
    width: '9rem',
    sortBy: ({ item }) => item.ip ?? -1,
    cell: ({ item }) => <PlannedCell item={item} />,
  },
  {
    key: 'state',
    header: 'Findings',
    width: 'minmax(8rem,1fr)',
    sortBy: ({ findings }) => findings.length,
    cell: ({ item, findings }) => <StateCell item={item} findings={findings} />,
  },
];

const foundColumn: Column<Row> = {
  key: 'found',
  header: 'As found',
  width: '9.5rem',
  sortBy: ({ found }) => found?.state ?? '',
  cell: ({ found }) => <FoundCell found={found} />,
};
/** Beside what was delivered and planned, once somebody looked. */
export const columnsWithFound: readonly Column<Row>[] = [
  ...columnsOfPlan.slice(0, -1),
  foundColumn,
  ...columnsOfPlan.slice(-1),
];

function FoundCell({ found }: { found: addressing.FoundItem | undefined }) {
  if (!found || found.state === 'not_looked') return <span className="text-faint">—</span>;
  return (
    <span className="text-xs">
      <Mark state={foundMarks[found.state]} size={12} /> {foundWords(found)}
    </span>
  );
}

function NameCell({ item: { device, type, interface: row } }: { item: addressing.Planned }) {
  const several = type.adapters.length > 1;
  return (
    <>
      {device.name}{' '}
      {several && (
        <span className="text-xs text-mute">{type.adapters.find(({ key }) => key === row.adapter)?.label}</span>
      )}
    </>
  );
}

function PlannedCell({ item }: { item: addressing.Planned }) {
  if (item.ip === null) return <span className="text-mute">{openWords[item.address.method].planned}</span>;
  return (
    <code>
      {addressing.formatIp(item.ip)}{' '}
      {item.address.held && <Flag size={11} className="inline text-primary" role="img" aria-label="held" />}
    </code>
  );
}

/** An interface without an address, by how it gets one: only a fixed one waits for somebody. */
const openWords = {
  static: { planned: 'waits', state: 'not placed yet' },
  dhcp: { planned: 'from the server', state: 'the server decides' },
  self: { planned: 'by itself', state: 'shown once it is on' },
} as const;

/** What the plan says; what was found has a column of its own. */
function StateCell({ item, findings }: Pick<Row, 'item' | 'findings'>) {
  const worst = findings.find(({ code }) => !code.startsWith('found_'));
  const state = worst ? gradeMarks[worst.grade] : item.ip === null ? 'waits' : 'pass';
  return (
    <span className="text-xs">
      <Mark state={state} size={12} />{' '}
      {worst ? shortWords(worst) : item.ip === null ? openWords[item.address.method].state : 'free to use'}
    </span>
  );
}

export function rowsOf(on: addressing.NetworkFacts | undefined, analysis: Analysis | undefined): Row[] {
  const findings = analysis?.findings ?? [];
  const byAddress = new Map<string, findingsRoom.Finding[]>();
  for (const finding of findings)
    for (const { table, id } of finding.subjects)
      if (table === 'addresses') byAddress.set(id, [...(byAddress.get(id) ?? []), finding]);
  return [...(on?.planned ?? [])]
    .sort((a, b) => (a.ip ?? Infinity) - (b.ip ?? Infinity))
    .map((item) => ({
      item,
      findings: byAddress.get(item.address.id) ?? [],
      found: analysis?.found.items.get(item.address.id),
    }));
}

/** The heading of each kind's block, worked out once for all rows. */
export function groupsOf(on: addressing.NetworkFacts | undefined): (row: Row) => Group {
  const groups = new Map<string, Group>();
  return ({ item }) => {
    const known = groups.get(item.type.kind);
    if (known || !on) return known ?? noBlock;
    const made = blockGroup(on, item.type.kind);
    groups.set(item.type.kind, made);
    return made;
  };
}

const noBlock: Group = { id: 'none', label: 'In no block' };

function blockGroup(on: addressing.NetworkFacts, kind: show.DeviceKind): Group {
  const found = addressing.blockFor(on, kind);
  if (!found) return noBlock;
  const { block, from, to } = found;
  const inside = on.planned.filter(({ ip }) => ip !== null && ip >= from && ip <= to).length;
  const last = (ip: string) =>
    `.${ip
      .split('.')
      .slice(on.network.prefix >= 24 ? 3 : 2)
      .join('.')}`;
  return {
    id: block.id,
    label: `${block.label} ${last(block.first)} to ${last(block.last)}`,
    detail: `${inside} placed · ${Math.max(0, to - from + 1 - inside)} left`,
  };
}
