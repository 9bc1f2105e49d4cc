import { show as core } from '@deep-patch/core';
import { Options } from '../../parts/form-fields.tsx';
import { ChosenField, Tick, TypedField } from '../../parts/typed-fields.tsx';
import { kindOptions } from './back-panel.tsx';
import { keyFrom, numberOf, textOf, type FormPart, type TypeContent } from './form-part.ts';
import { faultsIn, LinesField, Section } from './rows.tsx';

/** `isNew`: the model is called after the name until somebody calls it otherwise. */
export function WhatItIs({ values, issues, patch, isNew }: FormPart & { readonly isNew: boolean }) {
  const follows = isNew && values.model === keyFrom(values.name);
  return (
    <Section open title="What it is" faults={faultsIn(issues, 'name', 'model', 'version', 'kind', 'form', 'price')}>
      <div className="grid grid-cols-2 gap-x-3 md:grid-cols-4">
        <TypedField
          label="Name"
          error={issues.get('name')}
          value={textOf(values.name)}
          onType={(name) => patch({ name, ...(follows ? { model: keyFrom(name) } : {}) })}
        />
        <ChosenField
          label="Kind"
          error={issues.get('kind')}
          value={values.kind}
          onChoose={(kind) => patch({ kind: kind as TypeContent['kind'] })}
        >
          <Options of={kindOptions} />
        </ChosenField>
        <ChosenField
          label="It is"
          error={issues.get('form')}
          value={values.form}
          onChoose={(form) => patch(form === 'program' ? asProgram : { form: 'unit' })}
        >
          <Options of={[['unit', 'a unit'] as const, ['program', 'a program on a computer'] as const]} />
        </ChosenField>
        <TypedField
          label="Price of one"
          error={issues.get('price')}
          value={textOf(values.price)}
          onType={(text) => patch({ price: numberOf(text) })}
          look="number"
        />
        <TypedField
          label="Model"
          hint="the same in all libraries"
          error={issues.get('model')}
          value={textOf(values.model)}
          onType={(model) => patch({ model })}
          look="key"
        />
        <TypedField
          label="Version of this sheet"
          error={issues.get('version')}
          value={textOf(values.version)}
          onType={(version) => patch({ version })}
          look="key"
        />
      </div>
    </Section>
  );
}

/** A program uses the adapters of its computer and comes without an address. */
const asProgram: Partial<TypeContent> = {
  form: 'program',
  adapters: [],
  sockets: [],
  variants: [],
  ways: [],
  power: [],
  factory: { mode: 'none', ip: null, prefix: null, linkLocal6: false, login: 'none', account: null },
};

const modes = { static: 'fixed', dhcp: 'from a server', self: 'by itself', none: 'none' } as const;
const logins = { none: 'none', preset: 'one all know', create: 'made at first' } as const;

export function FromItsBox({ values, issues, patch }: FormPart) {
  const { factory } = values;
  const put = (change: Partial<TypeContent['factory']>) => patch({ factory: { ...factory, ...change } });
  return (
    <Section open title="Straight from its box" faults={faultsIn(issues, 'factory', 'startsInSeconds', 'erases')}>
      <div className="grid grid-cols-2 gap-x-3 md:grid-cols-4">
        <ChosenField
          label="Address"
          error={issues.get('factory.mode')}
          value={factory.mode}
          onChoose={(mode) =>
            put({ mode: mode as keyof typeof modes, ...(mode === 'static' ? {} : { ip: null, prefix: null }) })
          }
        >
          <Options of={Object.entries(modes)} />
        </ChosenField>
        {factory.mode === 'static' && <FixedAt {...{ factory, issues, put }} />}
        <ChosenField
          label="Login"
          error={issues.get('factory.login')}
          value={factory.login}
          onChoose={(login) => put({ login: login as keyof typeof logins })}
        >
          <Options of={Object.entries(logins)} />
        </ChosenField>
        {factory.login === 'preset' && (
          <TypedField
            label="Its account"
            error={issues.get('factory.account')}
            value={textOf(factory.account)}
            onType={(account) => put({ account: account || null })}
            look="key"
          />
        )}
        <TypedField
          label="Ready after, in seconds"
          error={issues.get('startsInSeconds')}
          value={textOf(values.startsInSeconds)}
          onType={(text) => patch({ startsInSeconds: numberOf(text) })}
          look="number"
        />
      </div>
      <Tick checked={factory.linkLocal6} onTick={(linkLocal6) => put({ linkLocal6 })}>
        It can be reached by an IPv6 address of its own before it has another
      </Tick>
      <LinesField
        label="What a reset to factory state erases"
        lines={values.erases}
        fault={[...issues].find(([path]) => path.startsWith('erases'))?.[1]}
        onChange={(erases) => patch({ erases })}
      />
    </Section>
  );
}

function FixedAt({
  factory,
  issues,
  put,
}: {
  readonly factory: TypeContent['factory'];
  readonly issues: FormPart['issues'];
  readonly put: (change: Partial<TypeContent['factory']>) => void;
}) {
  const fixAt = (text: string) => put({ ip: text.trim() || null, prefix: text.trim() ? (factory.prefix ?? 24) : null });
  return (
    <>
      <TypedField
        label="Fixed at"
        error={issues.get('factory.ip')}
        value={textOf(factory.ip)}
        onType={fixAt}
        look="key"
        placeholder="10.88.0.40"
      />
      <TypedField
        label="Mask, as a prefix"
        error={issues.get('factory.prefix')}
        value={textOf(factory.prefix)}
        onType={(text) => put({ prefix: numberOf(text) })}
        look="number"
      />
    </>
  );
}

const flags = [
  ['looksUpOnce', 'looks a target’s address up once, when it is entered'],
  ['needsGateway', 'its menu refuses an empty gateway'],
  ['forwards', 'it forwards between its sockets, as a switch does'],
  ['managed', 'a managed switch: spanning tree and VLANs'],
  ['feedsCables', 'it feeds units over their network cables'],
  ['ownComputer', 'a program of which each needs a computer of its own'],
] as const;

const lamps = {
  '': 'no lamp',
  carrier: 'that its cable has a link',
  address: 'that the address answers',
  application: 'that the program is there',
  login: 'that it was let in',
  data: 'that something comes back',
  show: 'away, there, or ready',
} as const;

export function AsController({ values, issues, patch }: FormPart) {
  const { drives } = values;
  return (
    <Section
      title="How it behaves"
      summary={
        drives.length > 0
          ? `controls by ${drives.map((protocol) => protocol.toUpperCase()).join(', ')}`
          : 'controls nothing'
      }
      faults={faultsIn(issues, 'drives', 'most', 'chain', 'through', 'lampMeans')}
    >
      <fieldset className="flex flex-wrap gap-x-5 gap-y-1">
        <legend className="pb-1 text-xs font-semibold text-mute">As a controller it speaks</legend>
        {core.protocols.map((protocol) => (
          <Tick
            key={protocol}
            checked={drives.includes(protocol)}
            onTick={(on) =>
              patch({ drives: core.protocols.filter((each) => (each === protocol ? on : drives.includes(each))) })
            }
          >
            {protocol.toUpperCase()}
          </Tick>
        ))}
      </fieldset>
      <div className="grid grid-cols-2 gap-x-3 md:grid-cols-4">
        <ChosenField
          label="Its lamp for a target shows"
          value={values.lampMeans ?? ''}
          onChoose={(means) => patch({ lampMeans: (means || null) as TypeContent['lampMeans'] })}
        >
          <Options of={Object.entries(lamps)} />
        </ChosenField>
        <Limits {...{ values, issues, patch }} />
      </div>
      <div className="grid gap-x-3 gap-y-1 text-[13px] md:grid-cols-2">
        {flags.map(([key, label]) => (
          <Tick key={key} size="xs" checked={values[key]} onTick={(on) => patch({ [key]: on })}>
            {label}
          </Tick>
        ))}
      </div>
    </Section>
  );
}

function Limits({ values, issues, patch }: FormPart) {
  const most = (key: 'sources' | 'controllers', label: string) => (
    <TypedField
      label={label}
      error={issues.get(`most.${key}`)}
      value={textOf(values.most[key])}
      onType={(text) => patch({ most: { ...values.most, [key]: numberOf(text) } })}
      look="number"
    />
  );
  const { chain } = values;
  return (
    <>
      {most('sources', 'Sources at most')}
      {most('controllers', 'Controllers at most')}
      <TypedField
        label="Units in a chain at most"
        hint="empty: it passes nothing on"
        error={issues.get('chain.most')}
        value={textOf(chain?.most)}
        onType={(text) =>
          patch({ chain: text.trim() === '' ? null : { most: numberOf(text) ?? 0, delayMs: chain?.delayMs ?? 1 } })
        }
        look="number"
      />
      {chain && (
        <TypedField
          label="Delay of one, in ms"
          error={issues.get('chain.delayMs')}
          value={textOf(chain.delayMs)}
          onType={(text) => patch({ chain: { ...chain, delayMs: numberOf(text) ?? 0 } })}
          look="number"
        />
      )}
      <Through {...{ values, issues, patch }} />
    </>
  );
}

/** Older products that a unit of another model brings onto the network. */
function Through({ values, issues, patch }: FormPart) {
  const { through } = values;
  return (
    <>
      <TypedField
        label="On the network through"
        hint="the model of what brings it there; empty: it is by itself"
        error={issues.get('through.model')}
        value={through?.model ?? ''}
        onType={(text) =>
          patch({ through: text.trim() === '' ? null : { model: text.trim(), serves: through?.serves ?? 1 } })
        }
      />
      {through && (
        <TypedField
          label="Of which one serves"
          error={issues.get('through.serves')}
          value={textOf(through.serves)}
          onType={(text) => patch({ through: { ...through, serves: numberOf(text) ?? 0 } })}
          look="number"
        />
      )}
    </>
  );
}
