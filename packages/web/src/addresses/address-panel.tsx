import { addressing, links, rig, show as core, type findings as findingsRoom, type show } from '@deep-patch/core';
import { useState, type SyntheticEvent } from 'react';
import { Link } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { CloseLink } from '../parts/close-link.tsx';
import { useDraft } from '../parts/drafts.ts';
import { Field } from '../parts/field.tsx';
import { FindingCard } from '../parts/finding-card.tsx';
import { useSteadyIds } from '../live/steady-ids.ts';
import { foundWords } from './found-words.ts';
import { NetworkOfAddress, OwnEntries } from './own-entries.tsx';

interface Props {
  readonly item: addressing.Planned;
  readonly on: addressing.NetworkFacts;
  readonly facts: addressing.AddressingFacts;
  readonly found: addressing.FoundItem | undefined;
  readonly findings: readonly findingsRoom.Finding[];
}

/** One address: what to key in, large; move by typing, hold, take back. */
export function AddressPanel({ item, on, facts, found, findings }: Props) {
  const { showId } = useWorkspace();
  const { address, device, network, type } = item;
  return (
    <aside aria-label={`Address of ${device.name}`} className="panel grid w-82 content-start gap-3.5 p-4">
      <div className="flex items-start gap-2">
        <div>
          <h2 className="text-[15px] font-bold">
            <Link to={`/shows/${showId}/rig/${device.id}`} className="link-hover">
              {device.name}
            </Link>
          </h2>
          <p className="text-mute">
            {type.adapters.find(({ key }) => key === item.interface.adapter)?.label} · {network.name}
          </p>
        </div>
        <CloseLink to={`/shows/${showId}/addresses/${network.id}`} name={`the address of ${device.name}`} />
      </div>
      {findings.map((finding) => (
        <FindingCard key={finding.key} finding={finding} />
      ))}
      {address.method === 'self' ? null : <MoveForm item={item} on={on} />}
      <ToKeyIn item={item} rows={rowsOf(item, facts, found)} />
      <NetworkOfAddress item={item} />
      <MethodAndNetworks item={item} />
      <OwnEntries key={address.rev} item={item} />
      <StoredPlaces item={item} />
      {address.ip !== null && <HoldAndRelease address={address} />}
    </aside>
  );
}

type Line = readonly [label: string, value: string];

function rowsOf(
  item: addressing.Planned,
  facts: addressing.AddressingFacts,
  found: addressing.FoundItem | undefined,
): Line[] {
  const { address, type, interface: row } = item;
  const unplaced = { static: 'not placed yet', dhcp: 'whatever the server gives', self: 'nothing' }[address.method];
  const linkLocal = type.factory.linkLocal6 && row.mac ? addressing.linkLocalOf(row.mac) : undefined;
  return [
    ['Key in', address.ip ?? unplaced],
    ['Mask', addressing.formatIp(addressing.maskOf(item.prefix))],
    ['Gateway', gatewayWords(facts, item)],
    ['Instead of', addressing.deliveredWords(type)],
    ...(found && found.state !== 'not_looked' ? [['Found', foundWords(found)] as const] : []),
    ...(linkLocal ? [['IPv6', addressing.formatIpv6(linkLocal)] as const] : []),
  ];
}

function ToKeyIn({ item: { type }, rows }: { readonly item: addressing.Planned; readonly rows: readonly Line[] }) {
  const commit = rig.commitWords(type, 'address');
  return (
    <dl className="grid grid-cols-[6rem_1fr]">
      {rows.map(([label, value]) => (
        <div key={label} className="col-span-2 grid grid-cols-subgrid border-b border-rule py-1.5">
          <dt className="text-mute">{label}</dt>
          <dd className={label === 'Key in' ? 'font-mono text-base' : 'key-num'}>{value}</dd>
        </div>
      ))}
      <div className="col-span-2 grid grid-cols-subgrid border-b border-rule py-1.5">
        <dt className="text-mute">Set from</dt>
        <dd>
          {rig.waysWords(type) || 'its type does not say'}
          {commit && `; then ${commit}`}
        </dd>
      </div>
    </dl>
  );
}

function HoldAndRelease({ address }: { readonly address: show.Address }) {
  const show = useShow();
  const { save } = useWorkspace();
  return (
    <div className="flex flex-wrap gap-2">
      <button
        type="button"
        className="act"
        onClick={() => void save(addressing.planHold(show, address, !address.held))}
      >
        {address.held ? 'Release this address' : 'Hold this address'}
      </button>
      <button type="button" className="act-quiet" onClick={() => void save(addressing.planRelease(show, address))}>
        Take the address back
      </button>
    </div>
  );
}

function MoveForm({ item, on }: { item: addressing.Planned; on: addressing.NetworkFacts }) {
  const show = useShow();
  const { save, showId } = useWorkspace();
  const [typed, setTyped] = useDraft(`${showId} move ${item.address.id}`, item.address.ip ?? '');
  const [fault, setFault] = useState<string>();
  const move = (event: SyntheticEvent) => {
    event.preventDefault();
    const entry = addressing.readIpEntry(typed, on.subnet);
    if (!entry.ok) setFault(addressing.entryWords(entry));
    else {
      setFault(
        entry.meant && entry.meant !== typed.trim() ? `Outside the network. Did you mean ${entry.meant}?` : undefined,
      );
      void save(links.planMoveEverywhere(show, item.address, entry.ip, true));
    }
  };
  return (
    <form onSubmit={move} className="grid grid-cols-[1fr_auto] items-start gap-2">
      <Field
        label="Move to"
        error={fault}
        hint={`the last figure is enough, such as ${Math.min(on.first + 32, on.last) % 256}`}
      >
        {(ids) => (
          <input
            {...ids}
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            className="field key-num"
            spellCheck={false}
          />
        )}
      </Field>
      <button type="submit" className="act mt-5" disabled={typed.trim() === (item.address.ip ?? '')}>
        Move
      </button>
    </form>
  );
}

/** What to enter as gateway: the network's, a harmless one where the menu refuses an empty field, or nothing. */
function gatewayWords(facts: addressing.AddressingFacts, { address, network, type }: addressing.Planned): string {
  const own = address.gateway ?? network.gateway;
  if (own !== null) return own;
  if (!type.needsGateway) return 'leave empty';
  return `${addressing.harmlessGateway(facts, network.id) ?? 'any free one'} (it refuses an empty field)`;
}

const methods = { static: 'fixed', dhcp: 'from the server', self: 'by itself' } as const;

/** How the interface gets its address, and a second one on another network over the same cable. */
function MethodAndNetworks({ item: { address, interface: row } }: { item: addressing.Planned }) {
  const show = useShow();
  const { save } = useWorkspace();
  const steady = useSteadyIds();
  const own = new Set(
    core.rowsOf(show, 'addresses').flatMap((other) => (other.interfaceId === row.id ? [other.networkId] : [])),
  );
  const others = core
    .rowsOf(show, 'networks')
    .filter(({ id }) => !own.has(id))
    .sort(core.byName);
  return (
    <div className="grid grid-cols-2 gap-x-3">
      <Field label="Gets it" hint={address.method === 'dhcp' && address.ip ? 'reserved at the server' : undefined}>
        {(ids) => (
          <select
            {...ids}
            className="field-select"
            value={address.method}
            onChange={(event) =>
              void save(addressing.planMethod(show, address, event.target.value as show.Address['method']))
            }
          >
            {Object.entries(methods).map(([method, label]) => (
              <option key={method} value={method}>
                {label}
              </option>
            ))}
          </select>
        )}
      </Field>
      <Field label="Second address" hint="over the same cable">
        {(ids) => (
          <select
            {...ids}
            className="field-select"
            value=""
            disabled={others.length === 0}
            onChange={(event) =>
              void save(
                addressing.planJoin(show, { id: steady.begin()(), interfaceId: row.id, networkId: event.target.value }),
              ).then((isIn) => isIn && steady.renew())
            }
          >
            <option value="">{others.length > 0 ? 'on another network' : 'on all networks'}</option>
            {others.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        )}
      </Field>
    </div>
  );
}

const placeWords: Readonly<Record<links.StoredPlace['kind'], string>> = {
  controller: 'keyed in there',
  controller_typed: 'typed there',
  reply: 'sends its replies there',
  gateway: 'gateway of the network',
  reservation: 'reserved at the server',
};

/** Everybody who has to be told before this address changes. */
function StoredPlaces({ item }: { item: addressing.Planned }) {
  const show = useShow();
  const places = links.whoStores(show, item.address);
  if (places.length === 0) return null;
  return (
    <section>
      <h3 className="text-xs font-semibold text-mute">Who stores this address</h3>
      <ul className="text-[13px]">
        {places.map(({ kind, device, where, looksUpOnce }) => (
          <li key={`${kind} ${device?.id} ${where}`} className="border-b border-rule py-1">
            {device?.name} {where && <code>{where}</code>} <span className="text-mute">{placeWords[kind]}</span>
            {looksUpOnce && <span className="text-mute">; enter it anew, it looks it up once</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}
