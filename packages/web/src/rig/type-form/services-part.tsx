import { show as core, type show } from '@deep-patch/core';
import { Tick } from '../../parts/typed-fields.tsx';
import { kindOptions } from './back-panel.tsx';
import { CommandRows } from './commands-part.tsx';
import { FeedbackRows } from './feedback-part.tsx';
import { freeKey, numberOf, textOf, type FormPart } from './form-part.ts';
import { ChoiceCell, faultsIn, Rows, Section, TextCell } from './rows.tsx';

type Service = show.DeviceType['services'][number];

const protocols = core.protocols.map((protocol) => [protocol, protocol.toUpperCase()] as const);

const answers = [
  ['entered', 'the one address entered in it'],
  ['list', 'a list of addresses'],
  ['sender', 'whoever asked'],
  ['subscribers', 'all who asked lately'],
] as const;

/** What the transport of a protocol is where it leaves no choice. */
const transports: Readonly<Record<Service['protocol'], readonly Service['transport'][]>> = {
  osc: ['udp', 'tcp'],
  http: ['tcp'],
  text: ['tcp'],
  midi: ['udp'],
};

const blank = (services: readonly Service[]): Service => ({
  key: freeKey('service', services),
  label: 'control',
  protocol: 'osc',
  transport: 'udp',
  receivePort: 9000,
  sendPort: null,
  logins: ['none'],
  onByDefault: true,
  lowestFirmware: null,
  commands: [],
});

/** Everything that listens, with its ports, its logins and what it understands. */
export function ServicesPart({ values, issues, patch }: FormPart) {
  const { services } = values;
  const commands = services.reduce((sum, service) => sum + service.commands.length, 0);
  return (
    <Section
      open
      title="What controls it"
      summary={
        services.length > 0
          ? `${services.map(({ label }) => label).join(', ')} · ${commands} ${commands === 1 ? 'command' : 'commands'}`
          : 'nothing'
      }
      faults={faultsIn(issues, 'services')}
    >
      <Rows
        what="service"
        isBlock
        items={services}
        path="services"
        issues={onlyOwn(issues)}
        make={() => blank(services)}
        onChange={(next) => patch({ services: next })}
      >
        {(service, put, at) => (
          <div className="grid flex-1 gap-2 rounded-field border border-rule p-2">
            <ServiceCells {...{ service, put, at }} />
            <CommandRows
              service={service}
              lists={values.lists}
              path={`services.${at}.commands`}
              issues={issues}
              onChange={(next) => put({ commands: next })}
            />
            <FeedbackRows
              service={service}
              path={`services.${at}.feedback`}
              issues={issues}
              onChange={(feedback) => put({ feedback })}
            />
          </div>
        )}
      </Rows>
    </Section>
  );
}

/** Faults of commands and states stand at their own lines. */
const onlyOwn = (issues: ReadonlyMap<string, string>): ReadonlyMap<string, string> =>
  new Map([...issues].filter(([path]) => !/^services\.\d+\.(commands|feedback)\./.test(path)));

function ServiceCells({
  service,
  put,
  at,
}: {
  readonly service: Service;
  readonly put: (change: Partial<Service>) => void;
  readonly at: number;
}) {
  const { protocol, transport, logins } = service;
  const n = at + 1;
  return (
    <div className="flex flex-wrap items-end gap-1.5">
      <TextCell
        label={`Service ${n}`}
        caption="Called"
        value={textOf(service.label)}
        onType={(label) => put({ label })}
      />
      <ChoiceCell
        label={`Protocol of service ${n}`}
        caption="Protocol"
        value={protocol}
        options={protocols}
        width="w-24"
        onChoose={(chosen) => put(speaking(service, chosen as Service['protocol']))}
      />
      <ChoiceCell
        label={`Transport of service ${n}`}
        caption="Over"
        value={transport}
        options={transports[protocol].map((each) => [each, each.toUpperCase()] as const)}
        width="w-20"
        onChoose={(chosen) => put({ transport: chosen as Service['transport'] })}
      />
      <Framing {...{ service, put, n }} />
      <Roles {...{ service, put, n }} />
      <Ports {...{ service, put, n }} />
      <Tick size="xs" checked={service.onByDefault} onTick={(onByDefault) => put({ onByDefault })}>
        on by default
      </Tick>
      <Logins {...{ logins, put, n }} />
      <NeedsOpening {...{ service, put, n }} />
    </div>
  );
}

interface CellsOf {
  readonly service: Service;
  readonly put: (change: Partial<Service>) => void;
  readonly n: number;
}

function Framing({ service: { protocol, transport, framing }, put, n }: CellsOf) {
  if (protocol !== 'osc' || transport !== 'tcp') return null;
  return (
    <ChoiceCell
      label={`Framing of service ${n}`}
      caption="Framing"
      value={framing ?? 'slip'}
      options={[
        ['slip', 'SLIP (OSC 1.1)'],
        ['size', 'size first (OSC 1.0)'],
      ]}
      width="w-44"
      onChoose={(chosen) => put({ framing: chosen as 'slip' | 'size' })}
    />
  );
}

/** Of a connection, what it can be told to do; the first is what the factory sets. */
function Roles({ service, put, n }: CellsOf) {
  if (!core.isConnection(service)) return null;
  return (
    <ChoiceCell
      label={`What service ${n} does about its connection`}
      caption="Connection"
      value={(service.roles ?? ['waits']).join(' ')}
      options={[
        ['waits', 'waits for it'],
        ['opens', 'opens it'],
        ['waits opens', 'waits, can open'],
        ['opens waits', 'opens, can wait'],
      ]}
      width="w-40"
      onChoose={(chosen) => put({ roles: chosen.split(' ') as NonNullable<Service['roles']> })}
    />
  );
}

function Ports({ service, put, n }: CellsOf) {
  return (
    <>
      <TextCell
        label={`Port it listens on, service ${n}`}
        caption="Listens on"
        value={textOf(service.receivePort)}
        width="w-20"
        look="key"
        onType={(text) => put({ receivePort: numberOf(text) ?? (null as unknown as number) })}
      />
      {service.protocol === 'osc' && service.transport === 'udp' && (
        <ChoiceCell
          label={`Whom service ${n} answers`}
          caption="Answers"
          value={service.replies ?? 'entered'}
          options={answers}
          width="w-52"
          onChoose={(replies) => put({ replies: replies as NonNullable<Service['replies']> })}
        />
      )}
      {service.protocol === 'osc' && (
        <TextCell
          label={`Port it replies to, service ${n}`}
          caption="Replies to"
          value={textOf(service.sendPort)}
          width="w-40"
          look="key"
          onType={(text) => put({ sendPort: numberOf(text) })}
        />
      )}
      <TextCell
        label={`Lowest version for service ${n}`}
        caption="From version"
        value={textOf(service.lowestFirmware)}
        width="w-44"
        look="key"
        onType={(text) => put({ lowestFirmware: text.trim() || null })}
      />
      <TextCell
        label={`Messages a second that service ${n} takes`}
        caption="Messages a second"
        value={textOf(service.perSecond)}
        width="w-28"
        look="key"
        onType={(text) => put({ perSecond: numberOf(text) ?? undefined })}
      />
    </>
  );
}

/** A protocol with one transport takes it; ports for replies belong to OSC alone. */
const speaking = (service: Service, protocol: Service['protocol']): Partial<Service> => ({
  protocol,
  transport: transports[protocol].includes(service.transport) ? service.transport : (transports[protocol][0] ?? 'tcp'),
  ...(protocol === 'osc' ? {} : { sendPort: null }),
  ...(protocol === 'midi' ? { receivePort: 5004 } : {}),
});

/** Kinds of clients that are let in only once access was opened for them; only HTTP tells what kind asks. */
function NeedsOpening({ service: { protocol, needsOpening = [] }, put, n }: CellsOf) {
  if (protocol !== 'http') return null;
  const rest = kindOptions.filter(([kind]) => !needsOpening.includes(kind));
  return (
    <span className="flex flex-wrap items-center gap-1.5 text-[13px]">
      {needsOpening.map((kind) => (
        <button
          key={kind}
          type="button"
          className="act-quiet"
          aria-label={`Service ${n} need not be opened for a ${core.kindWords(kind)}`}
          onClick={() => {
            const left = needsOpening.filter((each) => each !== kind);
            put({ needsOpening: left.length > 0 ? left : undefined });
          }}
        >
          {core.kindWords(kind)} ✕
        </button>
      ))}
      <ChoiceCell
        label={`Kind of client that service ${n} has to be opened for`}
        caption="Opened by kind"
        value=""
        options={[['', needsOpening.length > 0 ? 'and for…' : 'open to all kinds'], ...rest]}
        width="w-40"
        onChoose={(kind) => kind !== '' && put({ needsOpening: [...needsOpening, kind as show.DeviceKind] })}
      />
    </span>
  );
}

/** The first is what the factory sets. */
function Logins({
  logins,
  put,
  n,
}: Pick<Service, 'logins'> & { readonly put: (change: Partial<Service>) => void; readonly n: number }) {
  return (
    <span className="flex items-center gap-2 text-[13px]">
      {core.loginMethods.map((method) => (
        <Tick
          key={method}
          size="xs"
          checked={logins.includes(method)}
          onTick={(on) => put({ logins: on ? [...logins, method] : logins.filter((each) => each !== method) })}
        >
          {method === 'none' ? 'no login' : method}
        </Tick>
      ))}
      {logins.length > 1 && (
        <ChoiceCell
          label={`Login that the factory sets, service ${n}`}
          caption="Factory sets"
          value={logins[0] ?? 'none'}
          options={logins.map((method) => [method, `factory: ${method}`] as const)}
          width="w-36"
          onChoose={(first) =>
            put({ logins: [first as Service['logins'][number], ...logins.filter((each) => each !== first)] })
          }
        />
      )}
    </span>
  );
}
