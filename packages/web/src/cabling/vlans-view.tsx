import { cabling, show as core } from '@deep-patch/core';
import { useMemo } from 'react';
import { hasWords } from '../parts/has-words.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Empty, Loading } from '../parts/empty.tsx';
import { FindingCard } from '../parts/finding-card.tsx';

/** Membership of every socket of every managed switch, set by a press or by keys. */
export function VlansView({ filter }: { readonly filter: string }) {
  const show = useShow();
  const { analysis } = useWorkspace();
  const grid = useMemo(
    () => analysis && cabling.vlanGrid(show, cabling.cablingFacts(show), analysis.addressing),
    [show, analysis],
  );
  if (!grid || !analysis) return <Loading />;
  if (grid.switches.length === 0)
    return (
      <div className="flex-1">
        <Empty text="There is no managed switch in the rig. Plain switches know no VLANs: whoever is on one hears all of it." />
      </div>
    );
  const isMeant = hasWords(filter);
  const shown = grid.switches
    .map(({ hub, sockets }) => ({
      hub,
      sockets: sockets.filter(({ label, far }) => isMeant(`${hub.name} ${label} ${far}`)),
    }))
    .filter(({ sockets }) => sockets.length > 0);
  const found = analysis.findings.filter(({ code }) => code === 'native_differs' || code === 'socket_other_vlan');
  return (
    <div
      className="grid min-w-0 flex-1 auto-rows-max grid-cols-[minmax(0,1fr)] content-start gap-4 overflow-auto p-4.5"
      tabIndex={0}
      role="region"
      aria-label="VLANs"
    >
      <p className="max-w-3xl text-[13px] text-mute">
        <b className="font-medium text-base-content">U</b> untagged, <b className="font-medium text-base-content">T</b>{' '}
        tagged (IEEE 802.1Q). As the plan asks for it, until you press a cell: then the socket is set by hand, framed,
        and stays so.
      </p>
      {found.length > 0 && (
        <div className="grid max-w-3xl gap-2">
          {found.map((finding) => (
            <FindingCard key={finding.key} finding={finding} />
          ))}
        </div>
      )}
      {shown.map(({ hub, sockets }) => (
        <SwitchGrid key={hub.id} hub={hub} sockets={sockets} vlans={grid.vlans} />
      ))}
      {shown.length === 0 && <p className="text-mute">No socket has “{filter.trim()}” in its name or at its end.</p>}
    </div>
  );
}

const head = 'px-2.5 py-1.5 text-left text-xs font-semibold text-faint';

function SwitchGrid({
  hub,
  sockets,
  vlans,
}: {
  readonly hub: core.Device;
  readonly sockets: readonly cabling.GridSocket[];
  readonly vlans: readonly number[];
}) {
  const show = useShow();
  const { save } = useWorkspace();
  const nameOf = (vlan: number) =>
    core
      .rowsOf(show, 'networks')
      .filter((network) => network.vlan === vlan)
      .map(({ name }) => name)
      .join(', ');
  return (
    <section aria-label={`VLANs of ${hub.name}`} className="overflow-x-auto">
      <div className="mb-1.5 flex items-center gap-3">
        <h2 className="text-[15px] font-bold">{hub.name}</h2>
        {hub.socketVlans.length > 0 && (
          <button
            type="button"
            className="act-quiet btn-xs"
            onClick={() => void save(cabling.planSocketAsPlanned(hub))}
          >
            All as planned
          </button>
        )}
      </div>
      <table className="text-[13px]">
        <thead>
          <tr className="border-b border-rule bg-base-200">
            <th scope="col" className={head}>
              Socket
            </th>
            <th scope="col" className={head}>
              to
            </th>
            {vlans.map((vlan) => (
              <th key={vlan} scope="col" className={`${head} text-center`}>
                {vlan}
                <span className="block max-w-24 truncate font-normal">{nameOf(vlan)}</span>
              </th>
            ))}
            <th scope="col" className={head} />
          </tr>
        </thead>
        <tbody>
          {sockets.map((socket) => (
            <SocketRow key={socket.key} {...{ hub, socket, vlans }} />
          ))}
        </tbody>
      </table>
    </section>
  );
}

const next: Readonly<Record<cabling.Membership, cabling.Membership>> = {
  no: 'untagged',
  untagged: 'tagged',
  tagged: 'no',
};
const signs: Readonly<Record<cabling.Membership, string>> = { no: '·', untagged: 'U', tagged: 'T' };

function SocketRow({
  hub,
  socket,
  vlans,
}: {
  readonly hub: core.Device;
  readonly socket: cabling.GridSocket;
  readonly vlans: readonly number[];
}) {
  const { save } = useWorkspace();
  const { untagged, tagged, farUntagged, byHand, label, far } = socket;
  const isOff = farUntagged !== undefined && farUntagged !== untagged;
  return (
    <tr className={`border-b border-rule ${far === '' ? 'text-faint' : ''}`}>
      <th scope="row" className="px-2.5 py-1 text-left font-mono font-normal">
        {label}
      </th>
      <td className="max-w-56 truncate px-2.5">{far || 'free'}</td>
      {vlans.map((vlan) => {
        const now: cabling.Membership = untagged === vlan ? 'untagged' : tagged.includes(vlan) ? 'tagged' : 'no';
        return (
          <td key={vlan} className="px-1 text-center">
            <button
              type="button"
              className={`h-7 w-12 rounded-field font-mono ${byHand ? 'border border-primary' : 'border border-transparent'} ${now === 'no' ? 'text-faint' : 'bg-base-300 font-bold text-base-content'} hover:border-line`}
              aria-label={`${signs[now]} ${hub.name} ${label}, VLAN ${vlan}: ${now === 'no' ? 'no member' : now}`}
              onClick={() => void save(cabling.planSocketVlan(hub, socket, vlan, next[now]))}
            >
              {signs[now]}
            </button>
          </td>
        );
      })}
      <td className="px-2.5 text-xs">
        {isOff && <span className="text-warning">untagged at the other end: {farUntagged ?? 'dropped'} </span>}
        {byHand && (
          <button
            type="button"
            className="link text-mute"
            aria-label={`${hub.name} ${label} as planned`}
            onClick={() => void save(cabling.planSocketAsPlanned(hub, socket.key))}
          >
            as planned
          </button>
        )}
      </td>
    </tr>
  );
}
