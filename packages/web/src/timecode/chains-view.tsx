import { rig, show as core, timecode } from '@deep-patch/core';
import type { ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import { newId } from '../live/identity.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Empty } from '../parts/empty.tsx';
import { FindingCard } from '../parts/finding-card.tsx';
import { Mark } from '../parts/mark.tsx';
import { ChainStairs } from './chain-stairs.tsx';
import { HopPanel } from './hop-panel.tsx';
import { NewHop } from './new-hop.tsx';
import { StationPanel } from './station-panel.tsx';

/** Every chain as stairs of hops, what stops it, and the panel of what is chosen. */
export function ChainsView({ chains }: { readonly chains: readonly timecode.Chain[] }) {
  const show = useShow();
  const { analysis, save } = useWorkspace();
  const [query, setQuery] = useSearchParams();
  const hop = show.timeHops[query.get('hop') ?? ''];
  const station = show.devices[query.get('unit') ?? ''];
  const findings = (analysis?.findings ?? []).filter(({ room }) => room === 'timecode');
  const able = core.rowsOf(show, 'devices').filter((device) => core.typeOf(show, device)?.timecode);
  const add = (fromId: string, toId: string) => {
    const id = newId();
    void save(timecode.planHop(show, { id, fromId, toId })).then((done) => done && setQuery({ hop: id }));
  };
  if (able.length === 0) return <NobodyAble />;
  const inCircles = core.rowsOf(show, 'timeHops').length > 0 && chains.length === 0;
  return (
    <div className="beside border-t border-rule">
      <div className="min-w-0 flex-1 overflow-auto p-4.5">
        {chains.length === 0 && !inCircles && (
          <p className="mb-3 max-w-xl text-mute">
            Nobody has said yet who gives time code to whom. Begin with the first hop: from a source to whatever hears
            it.
          </p>
        )}
        <div className="grid gap-6">
          {chains.map((chain) => (
            <ChainStairs
              key={chain.source.id}
              chain={chain}
              chosen={hop?.id ?? station?.id}
              onHop={(id) => setQuery({ hop: id })}
              onStation={(id) => setQuery({ unit: id })}
            />
          ))}
        </div>
        <div className="mt-4 grid max-w-2xl gap-2">
          {findings.map((finding, at) => (
            <FindingCard key={finding.key} finding={finding} quiet={at > 0} />
          ))}
        </div>
        <NewHop devices={able} onAdd={add} />
        <Stations />
      </div>
      {hop ? (
        <Aside label="The hop">
          <HopPanel key={hop.id} row={hop} />
        </Aside>
      ) : station ? (
        <Aside label="The unit">
          <StationPanel key={station.id} device={station} />
        </Aside>
      ) : null}
    </div>
  );
}

function NobodyAble() {
  const { showId } = useWorkspace();
  return (
    <Empty text="A chain leads from a source of time code to everything that follows it. Put a source and a receiver into the rig first.">
      <Link to={`/shows/${showId}/rig?do=add`} className="act-main">
        Add a source
      </Link>
    </Empty>
  );
}

function Aside({ label, children }: { readonly label: string; readonly children: ReactNode }) {
  return (
    <aside className="panel-below w-88 p-4" aria-label={label}>
      {children}
    </aside>
  );
}

/** Stations that need a computer each, against computers that there are (need 11.9, C70). */
function Stations() {
  const show = useShow();
  const { showId } = useWorkspace();
  const { stations, wanted, computers, sharing, homeless, missing } = timecode.stationPlan(show);
  if (stations.length === 0) return null;
  const names = (devices: readonly core.Device[]) => devices.map(({ name }) => name).join(', ');
  return (
    <section className="mt-4 grid max-w-2xl gap-1 text-[13px] text-mute" aria-label="Stations and computers">
      <p>
        {stations.length} {stations.length === 1 ? 'station reads' : 'stations read'} time code, each on a computer of
        its own; {computers.length} {computers.length === 1 ? 'is' : 'are'} planned.
      </p>
      {wanted.map(({ systems, count }) => (
        <p key={systems.join()}>
          {count} on{' '}
          {systems.length === 0
            ? 'a system that nobody has said'
            : systems.map((one) => rig.systemTexts[one]).join(' or ')}
        </p>
      ))}
      {sharing.length > 0 && <p>{names(sharing)} share a computer.</p>}
      {homeless.length > 0 && (
        <p>
          {names(homeless)} {homeless.length === 1 ? 'is' : 'are'} on none.
        </p>
      )}
      {missing > 0 && (
        <p className="text-warning">
          <Mark state="risky" size={12} /> {missing} more {missing === 1 ? 'computer' : 'computers'}.{' '}
          <Link className="link" to={`/shows/${showId}/rig?do=add`}>
            Add to the rig
          </Link>
        </p>
      )}
    </section>
  );
}
