import { show as core } from '@deep-patch/core';
import { ChosenField, Tick, TypedField } from '../../parts/typed-fields.tsx';
import { numberOf, textOf, type FormPart, type TypeContent } from './form-part.ts';
import { faultsIn, Section } from './rows.tsx';

type Panel = NonNullable<TypeContent['panel']>;
type Drives = NonNullable<TypeContent['drivesWall']>;

const panelAtFirst: Panel = {
  ...{ width: 128, height: 128, widthMm: 500, heightMm: 500, kg: 8, watts: 150, startAmps: null },
  ...{ across: 1, down: 1, scan: 16, chip: '', colours: 'RGB', dataFrom: 'left' },
};
const drivesAtFirst: Drives = { outputs: 4, pixels: 500_000, unitOutputs: null };

/** Is it a panel of an LED wall, with what is printed on its back; does it drive walls? */
export function WallPart({ values, issues, patch }: FormPart) {
  const { panel, drivesWall } = values;
  const said = [
    panel ? `a panel of ${panel.width} x ${panel.height} pixels, 1/${panel.scan}` : '',
    drivesWall ? `drives walls by ${drivesWall.outputs} outputs` : '',
  ].filter(Boolean);
  const whole = issues.get('panel');
  return (
    <Section title="LED wall" summary={said.join(' · ')} faults={faultsIn(issues, 'panel', 'drivesWall')}>
      <Tick checked={panel !== null} onTick={(on) => patch({ panel: on ? panelAtFirst : null })}>
        It is a panel of a wall
      </Tick>
      {panel && (
        <div className="grid gap-2 border-l-2 border-rule pl-3">
          <PanelFields {...{ panel, issues }} onChange={(change) => patch({ panel: { ...panel, ...change } })} />
          {whole && <p className="text-[13px] text-error">{whole}</p>}
        </div>
      )}
      <Tick checked={drivesWall !== null} onTick={(on) => patch({ drivesWall: on ? drivesAtFirst : null })}>
        It drives walls
      </Tick>
      {drivesWall && (
        <DrivesFields
          {...{ drivesWall, issues }}
          onChange={(change) => patch({ drivesWall: { ...drivesWall, ...change } })}
        />
      )}
    </Section>
  );
}

const measures: readonly (readonly [keyof Panel, string])[] = [
  ['width', 'Pixels across'],
  ['height', 'Pixels down'],
  ['widthMm', 'Millimetres across'],
  ['heightMm', 'Millimetres down'],
  ['kg', 'Kilograms'],
  ['watts', 'Watts, all white'],
  ['startAmps', 'Amperes at the start'],
  ['across', 'Modules across'],
  ['down', 'Modules down'],
  ['scan', 'Scan, one row of'],
];

function PanelFields({
  panel,
  issues,
  onChange,
}: {
  readonly panel: Panel;
  readonly issues: FormPart['issues'];
  readonly onChange: (change: Partial<Panel>) => void;
}) {
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-2 md:grid-cols-4">
      {measures.map(([field, label]) => (
        <TypedField
          key={field}
          label={label}
          look="number"
          error={issues.get(`panel.${field}`)}
          value={textOf(panel[field])}
          // a field that may not be empty says so by itself
          onType={(text) => onChange({ [field]: numberOf(text) })}
        />
      ))}
      <TypedField
        label="Chip"
        look="key"
        error={issues.get('panel.chip')}
        value={panel.chip}
        onType={(chip) => onChange({ chip })}
      />
      <ChosenField
        label="Colour order"
        value={panel.colours}
        onChoose={(order) => onChange({ colours: order as Panel['colours'] })}
      >
        {core.colourOrders.map((order) => (
          <option key={order}>{order}</option>
        ))}
      </ChosenField>
      <ChosenField
        label="Data comes in from the"
        value={panel.dataFrom}
        onChoose={(side) => onChange({ dataFrom: side as Panel['dataFrom'] })}
      >
        {core.dataSides.map((side) => (
          <option key={side}>{side}</option>
        ))}
      </ChosenField>
    </div>
  );
}

function DrivesFields({
  drivesWall,
  issues,
  onChange,
}: {
  readonly drivesWall: Drives;
  readonly issues: FormPart['issues'];
  readonly onChange: (change: Partial<Drives>) => void;
}) {
  const fields: readonly (readonly [keyof Drives, string, string])[] = [
    ['outputs', 'Outputs of data', ''],
    ['pixels', 'Pixels of each, at 8 bits and 60 a second', ''],
    ['unitOutputs', 'Outputs of each distribution unit behind it', 'none: panels hang on itself'],
  ];
  return (
    <div className="grid gap-x-3 gap-y-2 border-l-2 border-rule pl-3 md:grid-cols-3">
      {fields.map(([field, label, hint]) => (
        <TypedField
          key={field}
          label={label}
          look="number"
          hint={hint || undefined}
          error={issues.get(`drivesWall.${field}`)}
          value={textOf(drivesWall[field])}
          onType={(text) => onChange({ [field]: numberOf(text) })}
        />
      ))}
    </div>
  );
}
