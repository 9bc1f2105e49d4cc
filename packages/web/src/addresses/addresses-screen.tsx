import { addressing, type Analysis, type findings as findingsRoom, type show } from '@deep-patch/core';
import { Flag } from 'lucide-react';
import { useMemo } from 'react';
import { NavLink, useNavigate, useParams, useSearchParams } from 'react-router';
import { useShow, useSaving, useWorkspace } from '../live/workspace.tsx';
import { DataGrid, type Column, type Group } from '../parts/data-grid.tsx';
import { Empty, Loading } from '../parts/empty.tsx';
import { FindingCard } from '../parts/finding-card.tsx';
import { gradeMarks } from '../parts/grades.ts';
import { Mark } from '../parts/mark.tsx';
import { saveFile } from '../parts/save-file.ts';
import { ScreenHead } from '../parts/screen-head.tsx';
import { shortWords } from './short-words.ts';
import { AddNetworkDialog } from './add-network-dialog.tsx';
import { FirstContactDialog } from './first-contact-dialog.tsx';
import { FoundDialog } from './found-dialog.tsx';
import { foundMarks, foundWords } from './found-words.ts';
import { PlacementDialog } from './placement-dialog.tsx';
import { registerCsv } from './register-file.ts';
import { AddressPanel } from './address-panel.tsx';
import { NetworkPanel } from './network-panel.tsx';
import { NetworkRuler } from './ruler.tsx';

interface Row {
  readonly item: addressing.Planned;
  readonly findings: readonly findingsRoom.Finding[];
  readonly found: addressing.FoundItem | undefined;
}

const columnsOfPlan: readonly Column<Row>[] = [
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
const columnsWithFound: readonly Column<Row>[] = [
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
  if (item.ip === null) return <span className="text-mute">waits</span>;
  return (
    <code>
      {addressing.formatIp(item.ip)}{' '}
      {item.address.held && <Flag size={11} className="inline text-primary" role="img" aria-label="held" />}
    </code>
  );
}

/** What the plan says; what was found has a column of its own. */
function StateCell({ item, findings }: Pick<Row, 'item' | 'findings'>) {
  const worst = findings.find(({ code }) => !code.startsWith('found_'));
  const state = worst ? gradeMarks[worst.grade] : item.ip === null ? 'waits' : 'pass';
  return (
    <span className="text-xs">
      <Mark state={state} size={12} /> {worst ? shortWords(worst) : item.ip === null ? 'not placed yet' : 'free to use'}
    </span>
  );
}

export function AddressesScreen() {
  const show = useShow();
  const { analysis, showId } = useWorkspace();
  const saving = useSaving();
  const { networkId, addressId } = useParams();
  const navigate = useNavigate();
  const [query, setQuery] = useSearchParams();
  const doing = query.get('do');
  const facts = analysis?.addressing;
  const on = networkId === undefined ? facts?.networks[0] : facts?.byNetwork.get(networkId);
  const rows = useMemo(() => rowsOf(on, analysis), [on, analysis]);
  const columns = analysis?.found.looked ? columnsWithFound : columnsOfPlan;
  const ruler = useMemo(() => facts && on && addressing.rulerOf(facts, on), [facts, on]);
  const groupOf = useMemo(() => groupsOf(on), [on]);
  const waiting = facts?.planned.filter(({ ip, address }) => ip === null && address.method === 'static').length ?? 0;
  const faulty = analysis?.findings.filter(({ code }) => addressing.mendable.has(code)).length ?? 0;
  const networks = Object.keys(show.networks).length;
  const chosen = rows.find(({ item }) => item.address.id === addressId);
  const select = (id: string) =>
    void navigate(`/shows/${showId}/addresses/${on?.network.id}/${id}`, { replace: addressId !== undefined });
  const ownFindings = (analysis?.findings ?? []).filter((finding) =>
    finding.subjects.some(
      ({ table, id }) =>
        (table === 'networks' && id === on?.network.id) ||
        (table === 'blocks' && show.blocks[id]?.networkId === on?.network.id),
    ),
  );

  return (
    <>
      <ScreenHead
        title="Addresses"
        summary={
          networks === 0
            ? 'no network yet'
            : `${facts?.planned.length ?? 0} interfaces on ${networks} ${networks === 1 ? 'network' : 'networks'}${waiting > 0 ? ` · ${waiting} to place` : ''}`
        }
      >
        <button type="button" className={networks === 0 ? 'act-main' : 'act'} onClick={() => setQuery({ do: 'add' })}>
          Add network
        </button>
        {networks > 0 && (
          <>
            <button
              type="button"
              className="act"
              disabled={!analysis}
              onClick={() => analysis && saveFile(`${showId}-addresses.csv`, registerCsv(analysis), 'text/csv')}
            >
              Save as CSV
            </button>
            <button type="button" className="act" onClick={() => setQuery({ do: 'first' })}>
              First contact
            </button>
            <button type="button" className="act" onClick={() => setQuery({ do: 'found' })}>
              Read what is there
            </button>
          </>
        )}
        {networks > 0 && (
          <button
            type="button"
            className="act-main"
            disabled={(waiting === 0 && faulty === 0) || saving}
            onClick={() => setQuery({ do: 'place' })}
          >
            {waiting === 0 && faulty === 0 ? 'All placed' : waiting > 0 ? 'Place the rest' : 'Mend addresses'}
          </button>
        )}
      </ScreenHead>
      {networks === 0 ? (
        <div className="flex-1 border-t border-rule">
          <Empty text="Make the first network, such as 10.61.20.0/24. Everything in the rig can join it at once and be numbered by unit.">
            <button type="button" className="act-main" onClick={() => setQuery({ do: 'add' })}>
              Add network
            </button>
          </Empty>
        </div>
      ) : (
        <>
          <div
            className="flex shrink-0 gap-1 overflow-x-auto border-b border-rule px-4.5"
            role="navigation"
            aria-label="Networks"
          >
            {facts?.networks.map(({ network }) => (
              <NavLink
                key={network.id}
                to={`/shows/${showId}/addresses/${network.id}`}
                aria-current={network.id === on?.network.id ? 'page' : undefined}
                className={`border-b-2 px-3 py-2 whitespace-nowrap ${network.id === on?.network.id ? 'border-primary font-semibold' : 'border-transparent text-mute hover:text-base-content'}`}
              >
                {network.name}{' '}
                <code className={network.id === on?.network.id ? 'text-mute' : ''}>
                  {network.network}/{network.prefix}
                  {network.vlan !== null && ` · VLAN ${network.vlan}`}
                </code>
              </NavLink>
            ))}
          </div>
          {!facts && <Loading />}
          {facts && !on && <Empty text="This network is no longer in the show." />}
          {on && ruler && facts && (
            <>
              <NetworkRuler
                key={on.network.id}
                ruler={ruler}
                facts={facts}
                on={on}
                selected={addressId}
                onSelect={select}
              />
              <div className="flex min-h-0 flex-1">
                {rows.length > 0 ? (
                  <DataGrid
                    label={`Interfaces on ${on.network.name}`}
                    rows={rows}
                    columns={columns}
                    idOf={({ item }) => item.address.id}
                    groupOf={groupOf}
                    selected={addressId}
                    onSelect={select}
                  />
                ) : (
                  <div className="flex-1">
                    <Empty text="No interface is on this network yet. Open a device in the rig and put it on here." />
                  </div>
                )}
                {chosen ? (
                  <AddressPanel
                    key={`${chosen.item.address.id} ${chosen.item.address.rev}`}
                    item={chosen.item}
                    on={on}
                    facts={facts}
                    found={chosen.found}
                    findings={chosen.findings}
                  />
                ) : (
                  <NetworkPanel
                    key={on.network.id}
                    on={on}
                    cards={ownFindings.map((finding) => (
                      <FindingCard key={finding.key} finding={finding} />
                    ))}
                  />
                )}
              </div>
            </>
          )}
        </>
      )}
      {doing === 'add' && <AddNetworkDialog onClose={() => setQuery({})} />}
      {doing === 'place' && <PlacementDialog onClose={() => setQuery({})} />}
      {doing === 'found' && <FoundDialog onClose={() => setQuery({})} />}
      {doing === 'first' && <FirstContactDialog onClose={() => setQuery({})} />}
    </>
  );
}

function rowsOf(on: addressing.NetworkFacts | undefined, analysis: Analysis | undefined): Row[] {
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
function groupsOf(on: addressing.NetworkFacts | undefined): (row: Row) => Group {
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
