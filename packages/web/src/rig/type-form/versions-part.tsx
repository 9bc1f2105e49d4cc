import { show as core, type show } from '@deep-patch/core';
import { useShow } from '../../live/workspace.tsx';
import { Tick } from '../../parts/typed-fields.tsx';
import { freeKey, textOf, type FormPart, type TypeContent } from './form-part.ts';
import { ChoiceCell, faultsIn, Rows, Section, TextCell } from './rows.tsx';

type Feature = show.DeviceType['features'][number];
type Bundle = show.DeviceType['bundles'][number];
type Match = show.DeviceType['matches'][number];

const scopes = [
  ['unit', 'for each unit'],
  ['output', 'for each output'],
  ['site', 'for the site'],
] as const;
const rules = [
  ['equal', 'the same version'],
  ['first_part', 'the same first figure'],
] as const;

/** Functions, the versions and licences that they need, and with whom it has to agree. */
export function VersionsPart(part: FormPart) {
  const { values, issues } = part;
  return (
    <Section
      title="Versions and licences"
      summary={values.features.map(({ label }) => label).join(', ') || 'nothing asked'}
      faults={faultsIn(issues, 'features', 'bundles', 'matches')}
    >
      <h4 className="text-xs font-semibold text-mute">Functions that ask for a version or a licence</h4>
      <Functions {...part} />
      <h4 className="text-xs font-semibold text-mute">Licences</h4>
      <Licences {...part} />
      <h4 className="text-xs font-semibold text-mute">Partners whose version must agree</h4>
      <Partners {...part} />
    </Section>
  );
}

function PartnerChoice({
  label,
  caption,
  model,
  own,
  onChoose,
}: {
  readonly label: string;
  readonly caption: string;
  readonly model: string;
  readonly own: TypeContent;
  readonly onChoose: (model: string) => void;
}) {
  const types = [...core.definitionsOf(useShow()).values()].sort(core.byName);
  const models = new Map([
    [own.model, own.name],
    [model, model],
    ...types.map((type) => [type.model, type.name] as const),
  ]);
  return <ChoiceCell label={label} caption={caption} value={model} options={models} width="w-52" onChoose={onChoose} />;
}

function Functions({ values, issues, patch }: FormPart) {
  const { features, bundles } = values;
  return (
    <Rows
      what="function"
      items={features}
      path="features"
      issues={issues}
      make={(): Feature => ({
        key: freeKey('function', features),
        label: 'function',
        lowest: null,
        bundle: null,
        orBundles: [],
      })}
      onChange={(next) => patch({ features: next })}
    >
      {(feature, put, at) => (
        <>
          <TextCell
            label={`Function ${at + 1}`}
            caption="Function"
            value={textOf(feature.label)}
            width="w-52"
            onType={(label) => put({ label })}
          />
          <TextCell
            label={`Lowest version of function ${at + 1}`}
            caption="From version"
            value={textOf(feature.lowest)}
            look="key"
            onType={(text) => put({ lowest: text.trim() || null })}
          />
          <ChoiceCell
            label={`Licence of function ${at + 1}`}
            caption="Licence"
            value={feature.bundle ?? ''}
            options={[['', 'free'] as const, ...bundles.map(({ key, label }) => [key, label] as const)]}
            width="w-44"
            onChoose={(bundle) => put({ bundle: bundle || null })}
          />
          {bundles
            .filter(({ key }) => feature.bundle !== null && key !== feature.bundle)
            .map(({ key, label }) => (
              <Tick
                key={key}
                size="xs"
                checked={feature.orBundles.includes(key)}
                onTick={(on) =>
                  put({ orBundles: on ? [...feature.orBundles, key] : feature.orBundles.filter((own) => own !== key) })
                }
              >
                or {label}
              </Tick>
            ))}
        </>
      )}
    </Rows>
  );
}

function Licences({ values, issues, patch }: FormPart) {
  const { bundles } = values;
  return (
    <Rows
      what="licence"
      items={bundles}
      path="bundles"
      issues={issues}
      make={(): Bundle => ({ key: freeKey('licence', bundles), label: 'licence', per: 'unit' })}
      onChange={(next) => patch({ bundles: next })}
    >
      {(bundle, put, at) => (
        <>
          <TextCell
            label={`Licence ${at + 1}`}
            caption="Licence"
            value={textOf(bundle.label)}
            width="w-52"
            onType={(label) => put({ label })}
          />
          <ChoiceCell
            label={`Reach of licence ${at + 1}`}
            caption="One"
            value={bundle.per}
            options={scopes}
            onChoose={(per) => put({ per: per as Bundle['per'] })}
          />
        </>
      )}
    </Rows>
  );
}

function Partners({ values, issues, patch }: FormPart) {
  const { matches } = values;
  return (
    <Rows
      what="partner"
      items={matches}
      path="matches"
      issues={issues}
      make={(): Match => ({ model: values.model, rule: 'equal' })}
      onChange={(next) => patch({ matches: next })}
    >
      {(match, put, at) => (
        <>
          <PartnerChoice
            label={`Partner ${at + 1}`}
            caption="Partner"
            model={match.model}
            own={values}
            onChoose={(model) => put({ model })}
          />
          <ChoiceCell
            label={`Rule for partner ${at + 1}`}
            caption="Needs"
            value={match.rule}
            options={rules}
            width="w-44"
            onChoose={(rule) => put({ rule: rule as Match['rule'] })}
          />
        </>
      )}
    </Rows>
  );
}
