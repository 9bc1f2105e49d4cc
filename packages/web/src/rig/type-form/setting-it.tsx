import { rig, show as core, type show } from '@deep-patch/core';
import { Tick, TypedField } from '../../parts/typed-fields.tsx';
import { numberOf, textOf, type FormPart } from './form-part.ts';
import { ChoiceCell, faultsIn, Rows, Section, TextCell } from './rows.tsx';

type Commit = show.DeviceType['commits'][number];
type Way = show.DeviceType['ways'][number];

const ways = core.settingWays.map((way) => [way, rig.wayWords({ way, note: '', alone: false })] as const);
const acts = core.commitActs.map((act) => [act, rig.actWords([{ act, seconds: null }])] as const);

/** Ways in with what there is to know of each, and what a change of each kind needs before it counts. */
export function SettingIt({ values, issues, patch }: FormPart) {
  return (
    <Section
      title="Setting it"
      summary={rig.waysWords(values) || 'no way in'}
      faults={faultsIn(issues, 'ways', 'commits', 'sets')}
    >
      <h4 className="text-xs font-semibold text-mute">Ways into its settings, the usual one first</h4>
      <Ways {...{ values, issues, patch }} />
      <h4 className="text-xs font-semibold text-mute">What a change needs before it counts, in this order</h4>
      <Changes {...{ values, issues, patch }} />
      <div className="max-w-48">
        <TypedField
          label="Sets of settings it keeps"
          error={issues.get('sets')}
          value={textOf(values.sets)}
          onType={(text) => patch({ sets: numberOf(text) ?? 0 })}
          look="number"
        />
      </div>
    </Section>
  );
}

function Ways({ values, issues, patch }: FormPart) {
  return (
    <Rows
      what="way in"
      items={values.ways}
      path="ways"
      issues={issues}
      make={(): Way => ({ way: 'menu', note: '', alone: false })}
      onChange={(next) => patch({ ways: next })}
    >
      {({ way, note, alone }, put, at) => (
        <>
          <ChoiceCell
            label={`Way in ${at + 1}`}
            caption="By"
            value={way}
            options={ways}
            width="w-52"
            onChoose={(chosen) => put({ way: chosen as Way['way'] })}
          />
          <TextCell
            label={`Steps of way ${at + 1}`}
            caption="Where, and how"
            value={note}
            width="w-64"
            onType={(text) => put({ note: text })}
          />
          <Tick size="xs" checked={alone} onTick={(on) => put({ alone: on })}>
            only while alone on its network
          </Tick>
        </>
      )}
    </Rows>
  );
}

function Changes({ values, issues, patch }: FormPart) {
  const left = core.settingKinds.filter((kind) => !values.commits.some(({ of }) => of === kind));
  return (
    <Rows
      what="kind of change"
      isBlock
      items={values.commits}
      path="commits"
      issues={new Map([...issues].filter(([path]) => !path.includes('.acts.')))}
      make={(): Commit => ({ of: left[0] ?? 'address', acts: [{ act: 'confirm_page', seconds: null }] })}
      onChange={(next) => patch({ commits: next })}
    >
      {(commit, put, at) => (
        <div className="grid gap-1 border-l-2 border-rule pl-2">
          <ChoiceCell
            label={`Kind of change ${at + 1}`}
            caption="After"
            value={commit.of}
            options={core.settingKinds.map((kind) => [kind, rig.settingTexts[kind]] as const)}
            width="w-52"
            onChoose={(of) => put({ of: of as Commit['of'] })}
          />
          <Acts
            acts={commit.acts}
            path={`commits.${at}.acts`}
            issues={issues}
            onChange={(next) => put({ acts: next })}
          />
        </div>
      )}
    </Rows>
  );
}

function Acts({
  acts: steps,
  path,
  issues,
  onChange,
}: {
  readonly acts: Commit['acts'];
  readonly path: string;
  readonly issues: ReadonlyMap<string, string>;
  readonly onChange: (acts: Commit['acts']) => void;
}) {
  return (
    <Rows
      what="step"
      items={steps}
      path={path}
      issues={issues}
      make={(): Commit['acts'][number] => ({ act: 'restart_device', seconds: null })}
      onChange={onChange}
    >
      {({ act, seconds }, put, at) => (
        <>
          <ChoiceCell
            label={`Step ${at + 1}`}
            caption="Step"
            value={act}
            options={acts}
            width="w-52"
            onChoose={(chosen) => put({ act: chosen as Commit['acts'][number]['act'] })}
          />
          <TextCell
            label={`Seconds of step ${at + 1}`}
            caption="Takes, in seconds"
            value={textOf(seconds)}
            width="w-40"
            look="key"
            onType={(text) => put({ seconds: numberOf(text) })}
          />
        </>
      )}
    </Rows>
  );
}
