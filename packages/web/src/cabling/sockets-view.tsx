import { cabling, findings, show as core } from '@deep-patch/core';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { hasWords } from '../parts/has-words.ts';
import { TableHeads } from '../parts/table-heads.tsx';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Loading } from '../parts/empty.tsx';
import { Mark } from '../parts/mark.tsx';

/** Sockets that are left by place and switch, units between two networks, and what stays on USB. */
export function SocketsView({ filter }: { readonly filter: string }) {
  const show = useShow();
  const { analysis } = useWorkspace();
  const facts = useMemo(() => cabling.cablingFacts(show), [show]);
  if (!analysis) return <Loading />;
  const isMeant = hasWords(filter);
  const places = cabling
    .socketTable(show, facts, analysis.addressing)
    .filter(({ place, hubs }) => isMeant([place, ...hubs.map(({ hub }) => hub.name)].join(' ')));
  const between = cabling
    .betweenNetworks(show, facts, analysis.addressing, analysis.findings)
    .filter(({ device }) => isMeant(`${device.name} ${device.place}`));
  return (
    <div
      className="grid min-w-0 flex-1 auto-rows-max grid-cols-[minmax(0,1fr)] content-start gap-6 overflow-auto p-4.5"
      tabIndex={0}
      role="region"
      aria-label="Sockets"
    >
      <Places places={places} />
      <Between between={between} />
      <UsbTable ways={cabling.usbWays(show)} />
    </div>
  );
}

const cell = 'px-2.5 py-1.5 align-baseline';

function Places({ places }: { readonly places: readonly cabling.PlaceSockets[] }) {
  const show = useShow();
  const { showId } = useWorkspace();
  return (
    <section aria-label="Free sockets" className="overflow-x-auto">
      <h2 className="mb-1.5 text-[15px] font-bold">Free sockets</h2>
      <table className="w-full max-w-4xl text-[13px]">
        <TableHeads of={['Place', 'Switch', 'used', 'free', 'which']} />
        {places.map((place) => (
          <tbody key={place.place}>
            {place.hubs.map(({ hub, all, used, free }, at) => (
              <tr key={hub.id} className="border-b border-rule">
                <td className={`${cell} font-medium`}>{at === 0 ? place.place || 'No place' : ''}</td>
                <td className={cell}>
                  <Link className="hover:underline" to={`/shows/${showId}/rig/${hub.id}`}>
                    {hub.name}
                  </Link>
                </td>
                <td className={`${cell} font-mono`}>
                  {used} of {all}
                </td>
                <td className={`${cell} font-mono ${free.length === 0 ? 'text-warning' : ''}`}>{free.length}</td>
                <td className={`${cell} text-mute`}>
                  {runsOf(free.map((key) => core.socketLabel(show, hub.id, key)))}
                </td>
              </tr>
            ))}
            {(place.waiting.length > 0 || place.hubs.length === 0) && (
              <tr className="border-b border-rule">
                <td className={`${cell} font-medium`}>{place.hubs.length === 0 ? place.place || 'No place' : ''}</td>
                <td colSpan={4} className={cell}>
                  <Waiting place={place} />
                </td>
              </tr>
            )}
          </tbody>
        ))}
      </table>
    </section>
  );
}

/** Who waits there, and what helps where sockets are short. */
function Waiting({ place: { waiting, short, hubs } }: { readonly place: cabling.PlaceSockets }) {
  const names = findings.nameList(waiting.map(({ name }) => name));
  if (short === 0)
    return (
      <span className="text-mute">
        {waiting.length === 1 ? 'Waits' : 'Wait'} for a cable: {names}. There is room.
      </span>
    );
  return (
    <span className="text-warning">
      <Mark state="risky" size={11} /> {names} {waiting.length === 1 ? 'finds' : 'find'} no socket here:{' '}
      {findings.counted(short, 'socket')} short. {hubs.length === 0 ? 'Plan a switch' : 'Plan another switch'} here, or
      run to another place.
    </span>
  );
}

/** `p3, p5 to p9, p12`. */
function runsOf(labels: readonly string[]): string {
  const groups: { prefix: string; first: number; last: number }[] = [];
  const rest: string[] = [];
  for (const label of labels) {
    const [, prefix, number] = /^(.*?)(\d+)$/.exec(label) ?? [];
    if (prefix === undefined || number === undefined) {
      rest.push(label);
      continue;
    }
    const last = groups.at(-1);
    if (last?.prefix === prefix && last.last === Number(number) - 1) last.last += 1;
    else groups.push({ prefix, first: Number(number), last: Number(number) });
  }
  const words = groups.map(({ prefix, first, last }) =>
    first === last ? `${prefix}${first}` : `${prefix}${first} to ${prefix}${last}`,
  );
  return [...words, ...rest].join(', ') || 'none';
}

const stateWords: Readonly<
  Record<cabling.InterfaceRole['state'], readonly ['pass' | 'risky' | 'fail' | 'waits', string]>
> = {
  right: ['pass', 'right way round'],
  interchanged: ['fail', 'interchanged: swap the two plugs'],
  other_network: ['fail', 'among units of another network'],
  no_address: ['risky', 'one address missing'],
  unplugged: ['waits', 'not plugged in'],
};

function Between({ between }: { readonly between: readonly cabling.BetweenNetworks[] }) {
  const show = useShow();
  const { showId } = useWorkspace();
  if (between.length === 0) return null;
  return (
    <section aria-label="Units between networks" className="overflow-x-auto">
      <h2 className="mb-1.5 text-[15px] font-bold">Units between networks</h2>
      <table className="w-full max-w-4xl text-[13px]">
        <TableHeads of={['Unit', 'Adapter', 'faces', 'address', 'plugged into', '']} />
        {between.map(({ device, roles }) => (
          <tbody key={device.id}>
            {roles.map(({ adapter, networks, addresses, plug, state }, at) => (
              <tr key={adapter} className="border-b border-rule">
                <td className={`${cell} font-medium`}>
                  {at === 0 && (
                    <Link className="hover:underline" to={`/shows/${showId}/rig/${device.id}`}>
                      {device.name}
                    </Link>
                  )}
                </td>
                <td className={cell}>{adapterLabel(show, device, adapter)}</td>
                <td className={cell}>{networks.map(({ name }) => name).join(', ') || '—'}</td>
                <td className={`${cell} font-mono`}>{addresses.map((ip) => ip ?? 'none yet').join(', ') || '—'}</td>
                <td className={cell}>{plug ? `${plug.farDevice.name} ${plug.farSocket}` : '—'}</td>
                <td className={cell}>
                  <State state={state} />
                </td>
              </tr>
            ))}
          </tbody>
        ))}
      </table>
    </section>
  );
}

const adapterLabel = (show: core.Show, device: core.Device, key: string): string =>
  core.typeOf(show, device)?.adapters.find((one) => one.key === key)?.label ?? key;

function State({ state }: Pick<cabling.InterfaceRole, 'state'>) {
  const [mark, words] = stateWords[state];
  const tone = { pass: 'text-success', risky: 'text-warning', fail: 'text-error', waits: 'text-mute' }[mark];
  return (
    <span className={tone}>
      <Mark state={mark} size={11} /> {words}
    </span>
  );
}

function UsbTable({ ways }: { readonly ways: readonly cabling.UsbWay[] }) {
  const show = useShow();
  if (ways.length === 0) return null;
  return (
    <section aria-label="USB" className="overflow-x-auto">
      <h2 className="mb-1.5 text-[15px] font-bold">USB</h2>
      <ul className="grid max-w-4xl gap-1 text-[13px]">
        {ways.map(({ deviceId, socket, cable, sets }) => (
          <li key={`${deviceId} ${socket}`}>
            <b className="font-medium">
              {show.devices[deviceId]?.name} {core.socketLabel(show, deviceId, socket)}
            </b>{' '}
            <span className="text-mute">{usbWords(show, deviceId, cable, sets)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function usbWords(show: core.Show, deviceId: string, cable: core.Cable | undefined, sets: boolean): string {
  if (!cable) return 'For a first contact, since it needs no address. Nothing is planned in it: take the cable along.';
  const far = show.devices[cable.fromDevice === deviceId ? cable.toDevice : cable.fromDevice]?.name ?? '';
  const when = {
    both: sets ? 'stays in for the show; it could come out once the network works.' : 'stays in for the show.',
    setup: 'is for setting up: it comes out before the show.',
    show: 'goes in for the show.',
  }[cable.stage];
  return `To ${far}: ${when}`;
}
