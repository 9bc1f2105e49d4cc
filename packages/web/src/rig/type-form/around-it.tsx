import { rig, show as core, type show } from '@deep-patch/core';
import { freeKey, numberOf, textOf, type FormPart } from './form-part.ts';
import { ChoiceCell, faultsIn, LinesField, Rows, Section, TextCell } from './rows.tsx';

type Feed = show.DeviceType['power'][number];
type Accessory = show.DeviceType['accessories'][number];
type Helper = show.DeviceType['helpers'][number];
type System = show.DeviceType['runsOn'][number];

const feeds = core.powerFeeds.map((feed) => [feed, rig.feedTexts[feed]] as const);
const systems = core.systems.map((system) => [system, rig.systemTexts[system]] as const);
const paths = ['power', 'accessories', 'helpers', 'online', 'papers', 'runsOn', 'face'];

const linesFault = (issues: FormPart['issues'], path: string) =>
  [...issues].find(([key]) => key === path || key.startsWith(`${path}.`))?.[1];

/** Power, what comes in the case, what has to be installed, and what its own screen shows. */
export function AroundIt({ values, issues, patch }: FormPart) {
  return (
    <Section title="Power, case and software" faults={faultsIn(issues, ...paths)}>
      {values.form === 'unit' ? <Feeds {...{ values, issues, patch }} /> : <Systems {...{ values, issues, patch }} />}
      <Accessories {...{ values, issues, patch }} />
      <Helpers {...{ values, issues, patch }} />
      <div className="grid gap-3 md:grid-cols-2">
        <LinesField
          label="What needs the internet before the site"
          lines={values.online}
          fault={linesFault(issues, 'online')}
          onChange={(online) => patch({ online })}
        />
        <LinesField
          label="Papers to have at hand"
          lines={values.papers}
          fault={linesFault(issues, 'papers')}
          onChange={(papers) => patch({ papers })}
        />
      </div>
      <Face {...{ values, issues, patch }} />
    </Section>
  );
}

const Heading = ({ children }: { readonly children: string }) => (
  <h4 className="text-xs font-semibold text-mute">{children}</h4>
);

function Feeds({ values, issues, patch }: FormPart) {
  return (
    <>
      <Heading>Ways to feed it, the usual one first</Heading>
      <Rows
        what="feed"
        items={values.power}
        path="power"
        issues={issues}
        make={(): Feed => ({ feed: 'mains', note: '' })}
        onChange={(power) => patch({ power })}
      >
        {({ feed, note }, put, at) => (
          <>
            <ChoiceCell
              label={`Feed ${at + 1}`}
              caption="By"
              value={feed}
              options={feeds}
              width="w-52"
              onChoose={(chosen) => put({ feed: chosen as Feed['feed'] })}
            />
            <TextCell
              label={`Note on feed ${at + 1}`}
              caption="Note"
              value={note}
              width="w-64"
              onType={(text) => put({ note: text })}
            />
          </>
        )}
      </Rows>
    </>
  );
}

function Systems({ values, issues, patch }: FormPart) {
  return (
    <>
      <Heading>Systems that it runs on</Heading>
      <Rows
        what="system"
        items={values.runsOn}
        path="runsOn"
        issues={issues}
        make={(): System => ({ system: 'windows', lowest: null, highest: null })}
        onChange={(runsOn) => patch({ runsOn })}
      >
        {({ system, lowest, highest }, put, at) => (
          <>
            <ChoiceCell
              label={`System ${at + 1}`}
              caption="System"
              value={system}
              options={systems}
              width="w-44"
              onChoose={(chosen) => put({ system: chosen as System['system'] })}
            />
            <TextCell
              label={`Lowest version of system ${at + 1}`}
              caption="From version"
              value={textOf(lowest)}
              look="key"
              onType={(text) => put({ lowest: text.trim() || null })}
            />
            <TextCell
              label={`Highest version of system ${at + 1}`}
              caption="Up to version"
              value={textOf(highest)}
              look="key"
              onType={(text) => put({ highest: text.trim() || null })}
            />
          </>
        )}
      </Rows>
    </>
  );
}

function Accessories({ values, issues, patch }: FormPart) {
  const { accessories, features } = values;
  const needs = [
    ['always', 'always'] as const,
    ['network', 'for any network cable'] as const,
    ...features.map(({ key, label }) => [key, `for ${label}`] as const),
  ];
  return (
    <>
      <Heading>What it needs in the case</Heading>
      <Rows
        what="accessory"
        items={accessories}
        path="accessories"
        issues={issues}
        make={(): Accessory => ({ key: freeKey('accessory', accessories), label: 'adapter', need: 'always', count: 1 })}
        onChange={(next) => patch({ accessories: next })}
      >
        {(accessory, put, at) => (
          <>
            <TextCell
              label={`Accessory ${at + 1}`}
              caption="What"
              value={textOf(accessory.label)}
              width="w-64"
              onType={(label) => put({ label })}
            />
            <ChoiceCell
              label={`When accessory ${at + 1} is needed`}
              caption="Needed"
              value={accessory.need}
              options={needs}
              width="w-44"
              onChoose={(need) => put({ need })}
            />
            <TextCell
              label={`How many of accessory ${at + 1}`}
              caption="Count"
              value={textOf(accessory.count)}
              width="w-16"
              look="key"
              onType={(text) => put({ count: numberOf(text) ?? 0 })}
            />
          </>
        )}
      </Rows>
    </>
  );
}

function Helpers({ values, issues, patch }: FormPart) {
  return (
    <>
      <Heading>What has to be installed and running beside it</Heading>
      <Rows
        what="helper"
        items={values.helpers}
        path="helpers"
        issues={issues}
        make={(): Helper => ({ label: 'driver', purpose: '', system: null })}
        onChange={(helpers) => patch({ helpers })}
      >
        {(helper, put, at) => (
          <>
            <TextCell
              label={`Helper ${at + 1}`}
              caption="What"
              value={textOf(helper.label)}
              onType={(label) => put({ label })}
            />
            <TextCell
              label={`Purpose of helper ${at + 1}`}
              caption="For"
              value={textOf(helper.purpose)}
              width="w-64"
              onType={(purpose) => put({ purpose })}
            />
            <ChoiceCell
              label={`System of helper ${at + 1}`}
              caption="System"
              value={helper.system ?? ''}
              options={[['', 'on every system'] as const, ...systems]}
              width="w-40"
              onChoose={(system) => put({ system: (system || null) as Helper['system'] })}
            />
          </>
        )}
      </Rows>
    </>
  );
}

function Face({ values, issues, patch }: FormPart) {
  return (
    <>
      <Heading>What its own screen shows on the bench</Heading>
      <Rows
        what="line of its screen"
        items={values.face}
        path="face"
        issues={issues}
        make={() => ({ parameter: 'state', start: '—' })}
        onChange={(face) => patch({ face })}
      >
        {({ parameter, start }, put, at) => (
          <>
            <TextCell
              label={`Line ${at + 1} of its screen`}
              caption="Shows"
              value={textOf(parameter)}
              onType={(text) => put({ parameter: text })}
            />
            <TextCell
              label={`Line ${at + 1} starts with`}
              caption="Starts with"
              value={textOf(start)}
              onType={(text) => put({ start: text })}
            />
          </>
        )}
      </Rows>
    </>
  );
}
