import { cabling, rig, show as core, type show } from '@deep-patch/core';
import { useState } from 'react';
import { freeKey, textOf, type FormPart } from './form-part.ts';
import { ChoiceCell, faultsIn, Rows, Section, TextCell } from './rows.tsx';

type Socket = show.DeviceType['sockets'][number];
type Connector = Socket['connector'];

export const connectorTexts: Readonly<Record<Connector, string>> = {
  rj45: 'network (RJ45)',
  sfp: 'fibre (SFP)',
  radio: 'radio',
  usb: 'USB',
  sdi: 'SDI',
  hdmi: 'HDMI',
};
const roles = Object.entries(rig.roleTexts);
const connectors = Object.entries(connectorTexts);
const none = '';
const rates = [
  [none, '1 Gbit/s'] as const,
  ...[100, 2500, 5000, 10_000, 25_000, 40_000, 100_000].map((mbps) => [String(mbps), cabling.rateWords(mbps)] as const),
];

const adapterOptions = ({ adapters }: show.Content<'types'>) => [
  [none, 'no adapter'] as const,
  ...adapters.map(({ key, label }) => [key, label] as const),
];

/** Sockets and the adapters behind them, drawn as the back of the unit while somebody types. */
export function BackPanel({ values, issues, patch }: FormPart) {
  const { sockets, adapters } = values;
  return (
    <Section
      open
      title="Back panel"
      summary={`${sockets.length} ${sockets.length === 1 ? 'socket' : 'sockets'}, ${adapters.length} ${adapters.length === 1 ? 'adapter' : 'adapters'}`}
      faults={faultsIn(issues, 'sockets', 'adapters', 'variants')}
    >
      <PanelDrawing sockets={sockets} adapters={adapters} />
      <h4 className="text-xs font-semibold text-mute">Network adapters, each with an address of its own</h4>
      <Rows
        what="adapter"
        items={adapters}
        path="adapters"
        issues={issues}
        make={() => ({ key: freeKey('lan', adapters), label: `network ${adapters.length + 1}` })}
        onChange={(next) => patch({ adapters: next })}
      >
        {(adapter, put, at) => (
          <TextCell
            label={`Adapter ${at + 1}`}
            caption="Called"
            value={textOf(adapter.label)}
            onType={(label) => put({ label })}
          />
        )}
      </Rows>
      <h4 className="text-xs font-semibold text-mute">Sockets, in the order of the panel</h4>
      <Rows
        what="socket"
        items={sockets}
        path="sockets"
        issues={issues}
        make={() => ({ ...socketLike(values), key: freeKey('port', sockets), label: `port ${sockets.length + 1}` })}
        onChange={(next) => patch({ sockets: next })}
      >
        {(socket, put, at) => <SocketCells {...{ socket, put, at, values }} />}
      </Rows>
      <SeveralSockets values={values} onAdd={(more) => patch({ sockets: [...sockets, ...more] })} />
      <Variants {...{ values, issues, patch }} />
    </Section>
  );
}

const socketLike = ({ adapters }: show.Content<'types'>): Omit<Socket, 'key' | 'label'> => ({
  adapter: adapters[0]?.key ?? null,
  role: 'any',
  connector: 'rj45',
  rateMbps: null,
  direction: null,
});

interface CellsOfSocket {
  readonly socket: Socket;
  readonly put: (change: Partial<Socket>) => void;
  readonly at: number;
  readonly values: show.Content<'types'>;
}

function SocketCells({ socket, put, at, values }: CellsOfSocket) {
  return (
    <>
      <TextCell
        label={`Socket ${at + 1}`}
        caption="Called"
        value={textOf(socket.label)}
        onType={(label) => put({ label })}
      />
      <ChoiceCell
        label={`Kind of socket ${at + 1}`}
        caption="Kind"
        value={socket.connector}
        options={connectors}
        width="w-40"
        onChoose={(connector) => put(shaped(connector as Connector, values))}
      />
      <WayCells {...{ socket, put, at, values }} />
    </>
  );
}

/** Where a socket leads: pictures in or out, or an adapter. */
function WayCells({ socket, put, at, values }: CellsOfSocket) {
  const isNetwork = ['rj45', 'sfp', 'radio'].includes(socket.connector);
  return (
    <>
      {isPicture(socket.connector) && (
        <ChoiceCell
          label={`Way of pictures at socket ${at + 1}`}
          caption="Pictures go"
          value={socket.direction ?? none}
          options={directions}
          onChoose={(way) => put({ direction: way === none ? null : (way as 'in' | 'out') })}
        />
      )}
      {isNetwork && (
        <>
          <ChoiceCell
            label={`Adapter of socket ${at + 1}`}
            caption="Adapter"
            value={socket.adapter ?? none}
            options={adapterOptions(values)}
            onChoose={(adapter) => put({ adapter: adapter || null })}
          />
          <ChoiceCell
            label={`Use of socket ${at + 1}`}
            caption="For"
            value={socket.role}
            options={roles}
            width="w-36"
            onChoose={(role) => put({ role: role as Socket['role'] })}
          />
          {socket.connector !== 'radio' && (
            <ChoiceCell
              label={`Rate of socket ${at + 1}`}
              caption="Runs at"
              value={String(socket.rateMbps ?? none)}
              options={rates}
              onChoose={(rate) => put({ rateMbps: rate === none ? null : Number(rate) })}
            />
          )}
        </>
      )}
    </>
  );
}

const isPicture = (connector: Connector): boolean => connector === 'sdi' || connector === 'hdmi';
const directions = [
  [none, 'as it is called'],
  ['in', 'in'],
  ['out', 'out'],
] as const;

/** A picture socket or one for USB has no adapter, and a use of its own. */
function shaped(connector: Connector, values: show.Content<'types'>): Partial<Socket> {
  if (connector === 'usb') return { connector, adapter: null, role: 'setup' };
  if (isPicture(connector)) return { connector, adapter: null, role: 'video' };
  return { connector, adapter: values.adapters[0]?.key ?? null, role: 'any' };
}

/** A switch with 24 sockets is not typed line by line. */
function SeveralSockets({
  values,
  onAdd,
}: {
  readonly values: show.Content<'types'>;
  readonly onAdd: (sockets: Socket[]) => void;
}) {
  const [count, setCount] = useState('8');
  const [label, setLabel] = useState('port');
  const [connector, setConnector] = useState<Connector>('rj45');
  const wanted = /^\d{1,2}$/.test(count) ? Math.min(Number(count), 64 - values.sockets.length) : 0;
  const add = () => {
    const made: Socket[] = [];
    for (let n = 1; n <= wanted; n += 1) {
      const key = freeKey('port', [...values.sockets, ...made]);
      made.push({ ...socketLike(values), key, label: `${label.trim() || 'port'} ${n}`, ...shaped(connector, values) });
    }
    onAdd(made);
  };
  return (
    <div className="flex flex-wrap items-center gap-1.5 text-[13px]">
      Several at once:
      <TextCell label="How many sockets" value={count} onType={setCount} width="w-14" look="key" />
      <TextCell label="Called" value={label} onType={setLabel} width="w-24" />
      <ChoiceCell
        label="Kind of several sockets"
        value={connector}
        options={connectors}
        width="w-40"
        onChoose={(chosen) => setConnector(chosen as Connector)}
      />
      <button type="button" className="act" disabled={wanted === 0} onClick={add}>
        Add {wanted} sockets
      </button>
    </div>
  );
}

/** The back of the unit: each socket in its place, by its form and its name. */
export function PanelDrawing({ sockets, adapters }: Pick<show.Content<'types'>, 'sockets' | 'adapters'>) {
  const names = new Map(adapters.map(({ key, label }) => [key, label]));
  return (
    <figure
      aria-label="Back panel as drawn"
      className="flex min-h-20 flex-wrap content-start gap-x-2 gap-y-3 rounded-field border-2 border-line bg-base-300 p-3"
    >
      {sockets.length === 0 && <p className="text-mute">No socket yet.</p>}
      {sockets.map((socket, at) => (
        <div key={at} className="grid w-17 justify-items-center gap-1 text-center text-[11px] leading-tight">
          <SocketShape connector={socket.connector} />
          <span className="w-full truncate" title={textOf(socket.label)}>
            {textOf(socket.label) || '—'}
          </span>
          <span className="w-full truncate text-mute">{names.get(socket.adapter ?? '') ?? roleOf(socket)}</span>
        </div>
      ))}
    </figure>
  );
}

const roleOf = ({ connector, role }: Socket): string =>
  role === 'any' ? connectorTexts[connector] : rig.roleTexts[role];

const shapes: Readonly<Record<Connector, string>> = {
  rj45: 'M2 2h24v18h-6v4h-12v-4h-6z',
  sfp: 'M1 6h26v14h-26z M4 10h8v6h-8z M16 10h8v6h-8z',
  radio: 'M14 24v-12 M8 12a8 8 0 0 1 12 0 M4 8a13 13 0 0 1 20 0',
  usb: 'M4 7h20v12h-20z M7 11h14v3h-14z',
  sdi: 'M14 3a10 10 0 1 0 .01 0z M14 9a4 4 0 1 0 .01 0z M14 13v.5',
  hdmi: 'M2 8h24v6l-4 5h-16l-4-5z',
};

export const SocketShape = ({ connector }: { readonly connector: Connector }) => (
  <svg viewBox="0 0 28 26" className="h-7 w-8" role="img" aria-label={connectorTexts[connector]}>
    <path d={shapes[connector]} className="fill-base-100 stroke-base-content" strokeWidth="1.6" />
  </svg>
);

/** Modes or models in which sockets serve something else. */
function Variants({ values, issues, patch }: FormPart) {
  const { variants, sockets } = values;
  return (
    <>
      <h4 className="text-xs font-semibold text-mute">Modes or variants in which sockets serve something else</h4>
      <Rows
        what="mode"
        isBlock
        items={variants}
        path="variants"
        issues={issues}
        make={() => ({ key: freeKey('mode', variants), label: `mode ${variants.length + 1}`, sockets: [] })}
        onChange={(next) => patch({ variants: next })}
      >
        {(variant, put, at) => (
          <div className="grid gap-1 border-l-2 border-rule pl-2">
            <TextCell
              label={`Mode ${at + 1}`}
              caption="Mode"
              value={textOf(variant.label)}
              onType={(label) => put({ label })}
            />
            {sockets.map((socket) => (
              <VariantSocket
                key={socket.key}
                {...{ socket, values }}
                own={variant.sockets.find(({ key }) => key === socket.key)}
                onChange={(own) =>
                  put({ sockets: [...variant.sockets.filter(({ key }) => key !== socket.key), ...(own ? [own] : [])] })
                }
              />
            ))}
          </div>
        )}
      </Rows>
    </>
  );
}

type OwnSocket = show.DeviceType['variants'][number]['sockets'][number];

function VariantSocket({
  socket,
  own,
  values,
  onChange,
}: {
  readonly socket: Socket;
  readonly own: OwnSocket | undefined;
  readonly values: show.Content<'types'>;
  readonly onChange: (own: OwnSocket | undefined) => void;
}) {
  return (
    <div className="flex flex-wrap items-center gap-1.5 text-[13px]">
      <span className="w-28 truncate">{socket.label}</span>
      <ChoiceCell
        label={`Use of ${socket.label} in this mode`}
        value={own ? own.role : none}
        width="w-40"
        options={[[none, 'as always'], ...roles]}
        onChoose={(role) =>
          onChange(
            role === none
              ? undefined
              : { key: socket.key, adapter: own ? own.adapter : socket.adapter, role: role as Socket['role'] },
          )
        }
      />
      {own && (
        <ChoiceCell
          label={`Adapter of ${socket.label} in this mode`}
          value={own.adapter ?? none}
          options={adapterOptions(values)}
          onChoose={(adapter) => onChange({ ...own, adapter: adapter || null })}
        />
      )}
    </div>
  );
}

export const kindOptions = core.deviceKinds.map((kind) => [kind, core.kindWords(kind)] as const);
