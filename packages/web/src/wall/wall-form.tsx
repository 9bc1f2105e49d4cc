import { show as core, wall as walls } from '@deep-patch/core';
import { useState } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { ChoiceField, NumberField } from '../parts/kept-fields.tsx';
import { saveFile } from '../parts/save-file.ts';
import { Tick } from '../parts/typed-fields.tsx';
import { readProfile, writeProfile } from './profile-file.ts';

interface Props {
  readonly own: walls.KnownWall;
  readonly load: walls.WallLoad | undefined;
  readonly size: walls.WallSize;
}

/** Everything about a wall that somebody decides or writes down. */
export function WallForm({ own, load, size }: Props) {
  return (
    <div className="grid grid-cols-[repeat(auto-fit,minmax(18rem,1fr))] gap-x-8 gap-y-4 border-t border-rule py-3">
      <Dividing {...{ own, load }} />
      <Carrying own={own} />
      <Entered own={own} />
      <Counted own={own} />
      <Sent own={own} size={size} />
      <OtherPanel own={own} size={size} />
      <Measures size={size} own={own} />
    </div>
  );
}

function useEdit({ wall }: walls.KnownWall) {
  const { save } = useWorkspace();
  return (label: string, patch: Partial<core.Content<'walls'>>) => void save(walls.planWall(wall, label, patch));
}

/** Parts and strings: worked out, or by hand as widths. */
function Dividing({ own, load }: Pick<Props, 'own' | 'load'>) {
  const edit = useEdit(own);
  const { wall, panel, capacity } = own;
  const fewest = capacity && walls.fewestParts(wall, panel, capacity);
  const divide = (parts: walls.Part[]) => edit('parts', { parts, strings: [] });
  return (
    <section className="grid content-start gap-2" aria-label="Parts and strings">
      <h2 className="font-bold">Parts and strings</h2>
      <Widths key={wall.parts.map(({ width }) => width).join()} wall={wall} onDivide={divide} />
      <div className="flex flex-wrap gap-2">
        {fewest && (
          <button type="button" className="act" onClick={() => divide(fewest)}>
            Fewest outputs: {fewest.length}
          </button>
        )}
        <button
          type="button"
          className="act"
          disabled={wall.parts.length === 0}
          onClick={() => divide(walls.equalParts(wall, wall.parts.length))}
        >
          Equal parts
        </button>
        <button
          type="button"
          className="act"
          disabled={wall.parts.length === 0}
          onClick={() => edit('strings', { strings: wall.parts.map((part) => walls.stringOf(wall, part)) })}
        >
          Cheapest strings
        </button>
      </div>
      <Patterns own={own} />
      <Surfaces own={own} />
      {load && <p className="text-[13px] text-mute">{loadWords(load, wall.loop)}</p>}
    </section>
  );
}

function loadWords({ wanted, processors, wantedWithLoop, processorsWithLoop }: walls.WallLoad, loop: boolean): string {
  const on = (count: number) => (count === 1 ? 'one processor' : `${count} processors`);
  const pairs = loop ? ` Output 1 comes back to output ${wanted + 1}, and so on.` : '';
  return `${wanted === 1 ? 'One output' : `${wanted} outputs`} on ${on(processors)}; with a loop ${wantedWithLoop} on ${on(processorsWithLoop)}.${pairs}`;
}

/** Columns of each output, typed one after the other: their sum has to be the wall. */
function Widths({ wall, onDivide }: { readonly wall: core.Wall; readonly onDivide: (parts: walls.Part[]) => void }) {
  const [typed, setTyped] = useState<string>();
  const text = typed ?? wall.parts.map(({ width }) => width).join(', ');
  const widths = text
    .split(/[\s,]+/)
    .filter(Boolean)
    .map(Number);
  const sum = widths.reduce((all, width) => all + width, 0);
  const isWhole = widths.length > 0 && widths.every((width) => Number.isInteger(width) && width > 0);
  const isWrong = typed !== undefined && !(isWhole && sum === wall.columns.length);
  const keep = () => {
    if (typed === undefined || isWrong) return;
    setTyped(undefined);
    // the same parts once more would take the strings away
    if (widths.join() !== wall.parts.map(({ width }) => width).join()) onDivide(walls.partsOf(wall, widths));
  };
  return (
    <label className="grid gap-0.5 text-xs text-mute">
      Columns of each output, from the left
      <input
        className={`field key-num h-8 ${isWrong ? 'border-error' : ''}`}
        value={text}
        maxLength={300}
        aria-invalid={isWrong}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => event.key === 'Enter' && keep()}
        onBlur={keep}
      />
      {isWrong && (
        <span className="text-error">
          {isWhole ? `${sum} of ${wall.columns.length} columns` : 'whole numbers, one for each output'}
        </span>
      )}
    </label>
  );
}

/** One picture over all of it, whatever drives it, unless somebody wants several (need 10.3). */
function Surfaces({ own }: Pick<Props, 'own'>) {
  const edit = useEdit(own);
  const { wall, panel } = own;
  const surfaces = walls.surfacesOf(wall, panel);
  const sizes = surfaces.map(({ width, height }) => `${width} x ${height}`).join(', ');
  return (
    <ChoiceField
      label={`Declared as ${surfaces.length === 1 ? 'one surface' : `${surfaces.length} surfaces`}: ${sizes}`}
      value={wall.surfaces.length === 0 ? 'one' : 'parts'}
      options={[
        ['one', 'one surface over all outputs'],
        ['parts', 'a surface for each output'],
      ]}
      onKeep={(how) =>
        edit('surfaces', { surfaces: how === 'one' ? [] : wall.parts.map(({ x }) => x).filter((x) => x > 0) })
      }
    />
  );
}

const cornerWords = {
  top_left: 'top left',
  top_right: 'top right',
  bottom_left: 'bottom left',
  bottom_right: 'bottom right',
} as const;

/** Strings by a pattern, as most walls are wired. */
function Patterns({ own }: Pick<Props, 'own'>) {
  const edit = useEdit(own);
  const { wall } = own;
  if (wall.parts.length === 0) return null;
  const draw = (at: number) => {
    const pattern = walls.patterns[at];
    if (!pattern) return;
    const strings = wall.parts.map((part) => ({
      output: part.output,
      path: walls.snake(walls.panelsIn(wall, part), pattern).map(([column, row]): [number, number] => [column, row]),
    }));
    edit('strings', { strings });
  };
  return (
    <ChoiceField
      label="Or to and fro"
      value=""
      options={[
        ['', 'choose how'],
        ...walls.patterns.map(({ by, from }, at) => [String(at), `by ${by}, from ${cornerWords[from]}`] as const),
      ]}
      onKeep={(at) => at !== '' && draw(Number(at))}
    />
  );
}

function Carrying({ own }: Pick<Props, 'own'>) {
  const show = useShow();
  const edit = useEdit(own);
  const { wall } = own;
  const processors = core.rowsOf(show, 'devices').filter((device) => core.typeOf(show, device)?.drivesWall);
  return (
    <section className="grid content-start gap-2" aria-label="How it is driven">
      <h2 className="font-bold">How it is driven</h2>
      <ChoiceField
        label="Driven by"
        value={wall.processorId ?? ''}
        options={[['', 'nobody has said'], ...processors.map(({ id, name }) => [id, name] as const)]}
        onKeep={(id) => edit('processor', { processorId: id || null })}
      />
      <div className="grid grid-cols-2 gap-2">
        <ChoiceField
          label="Bits"
          value={String(wall.bits)}
          options={['8', '10', '12'].map((bits) => [bits, bits] as const)}
          onKeep={(bits) => edit('bits', { bits: Number(bits) as 8 | 10 | 12 })}
        />
        <ChoiceField
          label="Pictures a second"
          value={wall.rate}
          options={core.rateKeys.filter((key) => !key.endsWith('df')).map((key) => [key, key] as const)}
          onKeep={(rate) => edit('rate', { rate: rate as core.RateKey })}
        />
      </div>
      <ChoiceField
        label="Parts are numbered"
        value={wall.numberedFrom}
        options={[
          ['front', 'as the audience sees them'],
          ['back', 'as somebody behind the wall sees them'],
        ]}
        onKeep={(from) => edit('numbering', { numberedFrom: from as core.Wall['numberedFrom'] })}
      />
      <Tick checked={wall.loop} onTick={(loop) => edit(loop ? 'a loop' : 'no loop', { loop })}>
        Data comes back: one cut leaves the picture
      </Tick>
      {wall.loop && (
        <Tick checked={wall.loopInFile} onTick={(loopInFile) => edit('loop in the show file', { loopInFile })}>
          It is switched on in the show file
        </Tick>
      )}
      <Tick checked={wall.stored} onTick={(stored) => edit(stored ? 'stored' : 'not stored', { stored })}>
        Stored in the receivers
      </Tick>
    </section>
  );
}

const sets = [
  ['program', 'Set-up program'],
  ['profile', 'Profile of the panels'],
  ['player', 'Player'],
] as const;

/** What somebody read off the set-up program, the profile or the player. */
function Entered({ own }: Pick<Props, 'own'>) {
  const edit = useEdit(own);
  const [who, setWho] = useState<(typeof sets)[number][0]>('program');
  const { wall, panel } = own;
  const set = wall[who];
  const put = (patch: Partial<walls.WallSet>) => edit(who, { [who]: { ...set, ...patch } });
  const truth = walls.truthOf(wall, panel);
  const { loaded } = walls.loadProfile(wall, truth);
  return (
    <section className="grid content-start gap-2" aria-label="What is entered">
      <h2 className="font-bold">What is entered</h2>
      <ChoiceField label="Read off the" value={who} options={sets} onKeep={(key) => setWho(key as typeof who)} />
      <SetFields key={who} set={set} onPut={put} />
      <div className="flex flex-wrap gap-2">
        {who === 'program' && (
          <button
            type="button"
            className="act"
            onClick={() => edit('profile loaded', { program: loaded, stored: false })}
          >
            Load the profile over it
          </button>
        )}
        {who === 'profile' && (
          <ProfileFile {...{ own, set }} onRead={(read) => edit('profile read', { profile: read })} />
        )}
        <button type="button" className="act-quiet" onClick={() => put(truth)}>
          As on the panel and the wall
        </button>
      </div>
    </section>
  );
}

/** The profile as a file: read whole or not at all, and saved. */
function ProfileFile({
  own,
  set,
  onRead,
}: Pick<Props, 'own'> & { readonly set: walls.WallSet; readonly onRead: (set: walls.WallSet) => void }) {
  const [faults, setFaults] = useState<readonly string[]>([]);
  const take = async (file: File) => {
    const read = readProfile(await file.text());
    setFaults('faults' in read ? read.faults : []);
    if ('set' in read) onRead(read.set);
  };
  return (
    <>
      <label className="act">
        Read a file
        <input
          type="file"
          accept=".json"
          className="sr-only"
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            event.target.value = '';
            if (file) void take(file);
          }}
        />
      </label>
      <button
        type="button"
        className="act"
        onClick={() => saveFile(`${own.type.name} profile.json`, writeProfile(own.type.name, set), 'application/json')}
      >
        Save as a file
      </button>
      {faults.length > 0 && (
        <ul className="w-full text-[13px] text-error" role="alert">
          {faults.map((fault) => (
            <li key={fault}>{fault}</li>
          ))}
        </ul>
      )}
    </>
  );
}

function SetFields({
  set,
  onPut: put,
}: {
  readonly set: walls.WallSet;
  readonly onPut: (patch: Partial<walls.WallSet>) => void;
}) {
  return (
    <div className="grid grid-cols-3 gap-2">
      <NumberField
        label="Width"
        value={set.width}
        onKeep={(width) => put({ width })}
        refuse={notPixels}
        wrong="whole pixels"
      />
      <NumberField
        label="Height"
        value={set.height}
        onKeep={(height) => put({ height })}
        refuse={notPixels}
        wrong="whole pixels"
      />
      <ChoiceField
        label="Scan"
        value={String(set.scan ?? '')}
        options={[['', '?'], ...[1, 2, 4, 8, 16, 32, 64].map((scan) => [String(scan), `1/${scan}`] as const)]}
        onKeep={(scan) => put({ scan: scan === '' ? null : Number(scan) })}
      />
      <ChoiceField
        label="Colour order"
        value={set.colours ?? ''}
        options={[['', '?'], ...core.colourOrders.map((order) => [order, order] as const)]}
        onKeep={(order) => put({ colours: order === '' ? null : (order as walls.Module['colours']) })}
      />
      <ChoiceField
        label="Data from the"
        value={set.dataFrom ?? ''}
        options={[['', '?'], ...core.dataSides.map((side) => [side, side] as const)]}
        onKeep={(side) => put({ dataFrom: side === '' ? null : (side as walls.Module['dataFrom']) })}
      />
    </div>
  );
}

const notPixels = (value: number) => !Number.isInteger(value) || value < 0 || value > 100_000;

/** What each output counts, before anything is built on it (need 6.10). */
function Counted({ own }: Pick<Props, 'own'>) {
  const edit = useEdit(own);
  const { wall } = own;
  if (wall.parts.length === 0) return null;
  const put = (output: number, patch: Partial<core.Wall['found'][number]>) => {
    const there = wall.found.find((one) => one.output === output) ?? { output, panels: 0, version: '', errors: 0 };
    const others = wall.found.filter((one) => one.output !== output);
    edit('what is found', { found: [...others, { ...there, ...patch }].sort((a, b) => a.output - b.output) });
  };
  const notCount = (value: number) => !Number.isInteger(value) || value < 0 || value > 2000;
  return (
    <section className="grid content-start gap-2" aria-label="What the receivers report">
      <h2 className="font-bold">What the receivers report</h2>
      {wall.parts.map(({ output }) => {
        const there = wall.found.find((one) => one.output === output);
        return (
          <div key={output} className="grid grid-cols-2 gap-2">
            <NumberField
              label={`Panels on output ${output}`}
              value={there?.panels ?? null}
              refuse={notCount}
              onKeep={(count) => put(output, { panels: count ?? 0 })}
            />
            <NumberField
              label="With errors"
              value={there?.errors ?? null}
              refuse={notCount}
              onKeep={(errors) => put(output, { errors: errors ?? 0 })}
            />
          </div>
        );
      })}
    </section>
  );
}

/** Where the picture comes from: a part of a desktop, and the first data channel of the player. */
function Sent({ own, size }: Pick<Props, 'own' | 'size'>) {
  const edit = useEdit(own);
  const { captured, firstChannel } = own.wall;
  const area = captured ?? { x: 0, y: 0, width: size.width, height: size.height };
  const put = (patch: Partial<typeof area>) => edit('captured part', { captured: { ...area, ...patch } });
  const place = firstChannel ?? { universe: 1, channel: 1 };
  const fields = [
    ['x', 'From the left'],
    ['y', 'From the top'],
    ['width', 'Pixels across'],
    ['height', 'Pixels down'],
  ] as const;
  return (
    <section className="grid content-start gap-2" aria-label="What is sent">
      <h2 className="font-bold">What is sent</h2>
      <div className="grid grid-cols-2 gap-2">
        {fields.map(([key, label]) => (
          <NumberField
            key={key}
            label={`${label} of the desktop`}
            value={captured?.[key] ?? null}
            refuse={notPixels}
            wrong="whole pixels"
            onKeep={(value) => put({ [key]: value ?? 0 })}
          />
        ))}
        <NumberField
          label="First universe"
          value={firstChannel?.universe ?? null}
          refuse={(value) => !Number.isInteger(value) || value < 1 || value > 63_999}
          onKeep={(universe) =>
            edit('first channel', { firstChannel: universe === null ? null : { ...place, universe } })
          }
        />
        <NumberField
          label="First channel in it"
          value={firstChannel?.channel ?? null}
          refuse={(value) => !Number.isInteger(value) || value < 1 || value > walls.channelsOfUniverse}
          onKeep={(channel) => edit('first channel', { firstChannel: channel === null ? null : { ...place, channel } })}
        />
      </div>
      <button
        type="button"
        className="act-quiet justify-self-start"
        onClick={() => put({ width: size.width, height: size.height })}
      >
        Exactly the wall
      </button>
    </section>
  );
}

/** The same metres of another panel: by how much content and load grow (need 10.17). */
function OtherPanel({ own: { wall, type, panel }, size }: Pick<Props, 'own' | 'size'>) {
  const show = useShow();
  const edit = useEdit({ wall, type, panel, capacity: undefined });
  const [model, setModel] = useState('');
  const others = walls.panelModels(show).filter((one) => one.type.model !== wall.panel);
  const other = others.find((one) => one.type.model === model)?.type;
  const grown = other?.panel && walls.growth(size, walls.wallSize(wall, other.panel));
  return (
    <section className="grid content-start gap-2" aria-label="With another panel">
      <h2 className="font-bold">With another panel</h2>
      <ChoiceField
        label="Kind of panel"
        value={model}
        options={[['', type.name], ...others.map((one) => [one.type.model, one.type.name] as const)]}
        onKeep={setModel}
      />
      {other && grown !== undefined && grown !== null && (
        <>
          <p className="text-[13px] text-mute">
            {grown >= 1 ? `${round(grown)} times` : `${round(grown * 100)} % of`} the pixels: content has to be made
            anew, and rendering takes {grown >= 1 ? 'longer' : 'less'} by as much.
          </p>
          <button
            type="button"
            className="act justify-self-start"
            onClick={() => edit(`made of ${other.name}`, { panel: other.model, stored: false })}
          >
            Make the wall of it
          </button>
        </>
      )}
    </section>
  );
}

const round = (value: number) => value.toLocaleString('en-GB', { maximumFractionDigits: 2 });

/** What follows from it: power, distance, channels, spares. */
function Measures({ own: { wall, panel }, size }: Pick<Props, 'own' | 'size'>) {
  const last = wall.firstChannel && walls.lastChannel(wall.firstChannel, size.litPixels);
  const facts: readonly (readonly [string, string])[] = [
    ['kilowatts, all white', (size.watts / 1000).toFixed(1)],
    [wall.phases === 3 ? 'amperes of each phase' : 'amperes', size.amps.toFixed(1)],
    ['amperes when all start at once', size.startAmps === null ? 'nobody has said' : size.startAmps.toFixed(0)],
    ['pitch', `${(panel.widthMm / panel.width).toFixed(2)} mm`],
    ['seen as one from', `${size.distanceM.toFixed(1)} m`],
    ['spare panels', String(size.spares)],
    ...(Math.abs(size.chordM - size.widthM) > 0.001
      ? [['straight from end to end', `${size.chordM.toFixed(2)} m`] as const]
      : []),
    ...(last ? [['last data channel', `${last.universe}.${last.channel}`] as const] : []),
  ];
  return (
    <section className="grid content-start gap-1 text-[13px]" aria-label="What follows from it">
      <h2 className="font-bold">What follows from it</h2>
      <dl className="grid grid-cols-[1fr_auto] gap-x-4 gap-y-0.5">
        {facts.map(([label, value]) => (
          <div key={label} className="contents">
            <dt className="text-mute">{label}</dt>
            <dd className="key-num text-right">{value}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
