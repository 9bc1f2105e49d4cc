import { show as core, type show } from '@deep-patch/core';
import { freeKey, textOf } from './form-part.ts';
import { ChoiceCell, Rows, TextCell } from './rows.tsx';

type Service = show.DeviceType['services'][number];
type Feedback = NonNullable<Service['feedback']>[number];
type Colours = NonNullable<Feedback['colours']>;

const colours = core.lampColours.map((colour) => [colour, colour] as const);

interface Props {
  readonly service: Service;
  readonly path: string;
  readonly issues: ReadonlyMap<string, string>;
  readonly onChange: (feedback: Feedback[]) => void;
}

/** What a service tells of itself, and what a lamp shows of that. */
export function FeedbackRows({ service, path, issues, onChange }: Props) {
  const { feedback = [] } = service;
  return (
    <Rows
      what="state"
      isBlock
      items={feedback}
      path={path}
      issues={issues}
      make={() => blank(feedback, service)}
      onChange={onChange}
    >
      {(own, put, at) => (
        <div className="grid flex-1 gap-1 border-l-2 border-rule pl-2">
          <div className="flex flex-wrap items-end gap-1.5">
            <TextCell
              label={`State ${at + 1}`}
              caption="State"
              value={textOf(own.label)}
              onType={(label) => put({ label })}
            />
            <TextCell
              label={`What state ${at + 1} is of`}
              caption="Its screen calls it"
              value={textOf(own.parameter)}
              onType={(parameter) => put({ parameter })}
            />
            <TextCell
              label={`What state ${at + 1} means`}
              caption="A lit lamp means"
              value={textOf(own.means)}
              width="w-44"
              onType={(means) => put({ means })}
            />
            <TextCell
              label={`Values at which state ${at + 1} is lit, divided by commas`}
              caption="Lit at"
              placeholder="playing, paused"
              value={own.lit.join(', ')}
              width="w-44"
              onType={(text) => put({ lit: valuesIn(text) })}
            />
            <AskCell {...{ service, own, put }} n={at + 1} />
          </div>
          <ColourRows {...{ own, put, issues }} path={`${path}.${at}.colours`} />
        </div>
      )}
    </Rows>
  );
}

/** Who tells nothing without being asked: with which command it is asked. */
function AskCell({
  service: { protocol, transport, commands },
  own,
  put,
  n,
}: Pick<Props, 'service'> & {
  readonly own: Feedback;
  readonly put: (change: Partial<Feedback>) => void;
  readonly n: number;
}) {
  if (protocol !== 'http' && (protocol !== 'osc' || transport !== 'udp')) return null;
  const asks = commands.filter(({ args, sets }) => args.length + sets.length === 0);
  const none = protocol === 'osc' ? 'it need not be asked' : 'it cannot be asked';
  return (
    <ChoiceCell
      label={`Command that asks for state ${n}`}
      caption="Asked with"
      value={own.ask ?? ''}
      options={[['', none], ...asks.map(({ key, label }) => [key, label] as const)]}
      width="w-44"
      onChoose={(ask) => put({ ask: ask || undefined })}
    />
  );
}

/** The first thing that a command of it sets is what people want to see first. */
const blank = (feedback: readonly Feedback[], { commands }: Service): Feedback => {
  const [parameter = 'state'] = commands.flatMap(({ sets }) => sets.map((set) => set.parameter));
  return { key: freeKey('state', feedback), label: parameter, parameter, means: '', lit: [] };
};

/** A comma at the end stays while the next value is typed. */
const valuesIn = (text: string): string[] =>
  text.trim() === '' ? [] : text.split(',').map((value, at) => (at === 0 ? value : value.replace(/^ /, '')));

function ColourRows({
  own,
  put,
  path,
  issues,
}: Pick<Props, 'path' | 'issues'> & {
  readonly own: Feedback;
  readonly put: (change: Partial<Feedback>) => void;
}) {
  return (
    <Rows
      what="colour"
      items={own.colours ?? []}
      path={path}
      issues={issues}
      make={(): Colours[number] => ({ says: own.lit[0] ?? '', colour: 'green' })}
      onChange={(next) => put({ colours: next.length > 0 ? next : undefined })}
    >
      {(colour, change, at) => (
        <span className="flex items-center gap-1.5 text-[13px]">
          at
          <TextCell
            label={`Value of colour ${at + 1}`}
            value={textOf(colour.says)}
            width="w-28"
            onType={(says) => change({ says })}
          />
          it is
          <ChoiceCell
            label={`Colour ${at + 1}`}
            value={colour.colour}
            options={colours}
            width="w-24"
            onChoose={(next) => change({ colour: next as Colours[number]['colour'] })}
          />
        </span>
      )}
    </Rows>
  );
}
