import { addressing, type show } from '@deep-patch/core';
import { useMemo } from 'react';
import { NavLink, useNavigate, useParams, useSearchParams } from 'react-router';
import { useSaving, useShow, useWorkspace } from '../live/workspace.tsx';
import { DataGrid } from '../parts/data-grid.tsx';
import { Empty, Loading } from '../parts/empty.tsx';
import { FirstSteps } from '../parts/first-steps.tsx';
import { FindingCard } from '../parts/finding-card.tsx';
import { saveFile } from '../parts/save-file.ts';
import { ScreenHead } from '../parts/screen-head.tsx';
import { AddNetworkDialog } from './add-network-dialog.tsx';
import { AddressPanel } from './address-panel.tsx';
import { columnsOfPlan, columnsWithFound, groupsOf, rowsOf, type Row } from './address-rows.tsx';
import { FoundDialog } from './found-dialog.tsx';
import { NetworkPanel } from './network-panel.tsx';
import { PlacementDialog } from './placement-dialog.tsx';
import { registerCsv } from './register-file.ts';
import { NetworkRuler } from './ruler.tsx';

/** Networks, who has which address on them, and what is left to place. */
export function AddressesScreen() {
  const show = useShow();
  const { analysis } = useWorkspace();
  const { networkId } = useParams();
  const [query, setQuery] = useSearchParams();
  const doing = query.get('do');
  const close = () => setQuery({});
  const begin = (what: string) => setQuery({ do: what });
  const facts = analysis?.addressing;
  const on = networkId === undefined ? facts?.networks[0] : facts?.byNetwork.get(networkId);
  const hasNetworks = Object.keys(show.networks).length > 0;
  return (
    <>
      <Head onBegin={begin} />
      {hasNetworks ? (
        <>
          <Networks facts={facts} on={on} />
          {!facts && <Loading />}
          {facts && !on && <Empty text="This network is no longer in the show." />}
          {facts && on && <NetworkView key={on.network.id} facts={facts} on={on} />}
        </>
      ) : (
        <div className="flex-1 border-t border-rule">
          <Empty text="Make the first network, such as 10.61.20.0/24. Everything in the rig can join it at once and be numbered by unit.">
            <button type="button" className="act-main" onClick={() => begin('add')}>
              Add network
            </button>
            <FirstSteps />
          </Empty>
        </div>
      )}
      {doing === 'add' && <AddNetworkDialog onClose={close} />}
      {doing === 'place' && <PlacementDialog onClose={close} />}
      {doing === 'found' && <FoundDialog onClose={close} />}
    </>
  );
}

function Head({ onBegin }: { readonly onBegin: (what: string) => void }) {
  const { analysis, showId } = useWorkspace();
  const saving = useSaving();
  const networks = Object.keys(useShow().networks).length;
  const planned = analysis?.addressing.planned ?? [];
  const waiting = planned.filter(({ ip, address }) => ip === null && address.method === 'static').length;
  const faulty = analysis?.findings.filter(({ code }) => addressing.mendable.has(code)).length ?? 0;
  const isDone = waiting === 0 && faulty === 0;
  const counted = `${planned.length} interfaces on ${networks} ${networks === 1 ? 'network' : 'networks'}`;
  const summary = networks === 0 ? 'no network yet' : `${counted}${waiting > 0 ? ` · ${waiting} to place` : ''}`;
  return (
    <ScreenHead title="Addresses" summary={summary}>
      <button type="button" className={networks === 0 ? 'act-main' : 'act'} onClick={() => onBegin('add')}>
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
          <button type="button" className="act" onClick={() => onBegin('found')}>
            Read what is there
          </button>
          <button type="button" className="act-main" disabled={isDone || saving} onClick={() => onBegin('place')}>
            {isDone ? 'All placed' : waiting > 0 ? 'Place the rest' : 'Mend addresses'}
          </button>
        </>
      )}
    </ScreenHead>
  );
}

interface View {
  readonly facts: addressing.AddressingFacts;
  readonly on: addressing.NetworkFacts;
}

function Networks({ facts, on }: { readonly [Key in keyof View]: View[Key] | undefined }) {
  const { showId } = useWorkspace();
  return (
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
  );
}

/** One network: its ruler, who is on it, and the page of one of them or of the network itself. */
function NetworkView({ facts, on }: View) {
  const { analysis, showId } = useWorkspace();
  const { addressId } = useParams();
  const navigate = useNavigate();
  const rows = useMemo(() => rowsOf(on, analysis), [on, analysis]);
  const ruler = useMemo(() => addressing.rulerOf(facts, on), [facts, on]);
  const groupOf = useMemo(() => groupsOf(on), [on]);
  const chosen = rows.find(({ item }) => item.address.id === addressId);
  const select = (id: string) =>
    void navigate(`/shows/${showId}/addresses/${on.network.id}/${id}`, { replace: addressId !== undefined });
  return (
    <>
      <NetworkRuler ruler={ruler} facts={facts} on={on} selected={addressId} onSelect={select} />
      <div className="beside">
        {rows.length > 0 ? (
          <DataGrid
            label={`Interfaces on ${on.network.name}`}
            rows={rows}
            columns={analysis?.found.looked ? columnsWithFound : columnsOfPlan}
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
        <Panel facts={facts} on={on} chosen={chosen} />
      </div>
    </>
  );
}

function Panel({ facts, on, chosen }: View & { readonly chosen: Row | undefined }) {
  const show = useShow();
  const { analysis } = useWorkspace();
  if (chosen)
    return (
      <AddressPanel
        key={`${chosen.item.address.id} ${chosen.item.address.rev}`}
        item={chosen.item}
        on={on}
        facts={facts}
        found={chosen.found}
        findings={chosen.findings}
      />
    );
  const isOwn = ({ table, id }: { readonly table: show.TableName; readonly id: string }) =>
    (table === 'networks' && id === on.network.id) ||
    (table === 'blocks' && show.blocks[id]?.networkId === on.network.id);
  const own = (analysis?.findings ?? []).filter(({ subjects }) => subjects.some(isOwn));
  return (
    <NetworkPanel
      on={on}
      cards={own.map((finding) => (
        <FindingCard key={finding.key} finding={finding} />
      ))}
    />
  );
}
