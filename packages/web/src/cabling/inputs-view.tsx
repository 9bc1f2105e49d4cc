import { cabling, show as core } from '@deep-patch/core';
import { Link } from 'react-router';
import { hasWords } from '../parts/has-words.ts';
import { TableHeads } from '../parts/table-heads.tsx';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Mark } from '../parts/mark.tsx';

const cell = 'px-2.5 py-1.5 align-baseline';

/** Which unit feeds which input, the number in the program beside that of the switcher, and half paths. */
export function InputsView({ filter }: { readonly filter: string }) {
  const show = useShow();
  const isMeant = hasWords(filter);
  const inputs = cabling
    .inputTable(show)
    .filter(({ switcher, source, label }) => isMeant(`${switcher.name} ${source?.name ?? ''} ${label}`));
  const paths = cabling.picturePaths(show).filter(({ device }) => isMeant(device.name));
  return (
    <div
      className="grid min-w-0 flex-1 auto-rows-max grid-cols-[minmax(0,1fr)] content-start gap-6 overflow-auto p-4.5"
      tabIndex={0}
      role="region"
      aria-label="Pictures"
    >
      {inputs.length === 0 ? (
        <p className="max-w-2xl text-mute">
          {filter.trim()
            ? `No input has “${filter.trim()}” in it.`
            : 'There is no switcher with picture inputs in the rig. Give its type sockets for SDI or HDMI, numbered as on its panel.'}
        </p>
      ) : (
        <Inputs inputs={inputs} />
      )}
      <HalfPaths paths={paths} />
    </div>
  );
}

const stateWords: Readonly<Record<cabling.InputLine['state'], readonly ['pass' | 'fail' | 'waits', string]>> = {
  match: ['pass', 'the same in both'],
  mismatch: ['fail', 'another number is entered'],
  doubled: ['fail', 'entered for several units'],
  unnumbered: ['waits', ''],
};

function Inputs({ inputs }: { readonly inputs: readonly cabling.InputLine[] }) {
  const { showId } = useWorkspace();
  return (
    <section aria-label="Inputs" className="overflow-x-auto">
      <h2 className="mb-1.5 text-[15px] font-bold">Inputs</h2>
      <table className="w-full max-w-5xl text-[13px]">
        <TableHeads of={['Switcher', 'Input', 'Label', 'Kind', 'fed by', 'entered as', '']} />
        <tbody>
          {inputs.map((line, at) => {
            const { switcher, number, source, links, state } = line;
            const isFirst = inputs[at - 1]?.switcher.id !== switcher.id;
            return (
              <tr key={`${switcher.id} ${line.socket}`} className="border-b border-rule">
                <td className={`${cell} font-medium`}>{isFirst ? switcher.name : ''}</td>
                <td className={`${cell} font-mono`}>{number}</td>
                <td className={cell}>
                  <Declared line={line} />
                </td>
                <td className={cell}>
                  <Kind line={line} />
                </td>
                <td className={cell}>
                  {source ? (
                    <Link className="hover:underline" to={`/shows/${showId}/rig/${source.id}`}>
                      {source.name}
                    </Link>
                  ) : (
                    <span className="text-faint">nothing</span>
                  )}
                </td>
                <td className={`${cell} font-mono`}>{links.map(({ slot }) => slot).join(', ')}</td>
                <td className={cell}>
                  <State state={state} />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}

function State({ state }: Pick<cabling.InputLine, 'state'>) {
  const [mark, words] = stateWords[state];
  if (!words) return null;
  return (
    <span className={mark === 'pass' ? 'text-success' : 'text-error'}>
      <Mark state={mark} size={11} /> {words}
    </span>
  );
}

const kinds: Readonly<Record<cabling.InputKind, string>> = {
  picture: 'picture',
  player: 'player',
  caller: 'caller',
  graphics: 'graphics',
};

const kindOf = ({ declared, source }: cabling.InputLine, show: core.Show): cabling.InputKind => {
  if (declared) return declared.kind;
  const kind = core.typeOf(show, source)?.kind;
  return kind === 'playout' || kind === 'media'
    ? 'player'
    : kind === 'caller'
      ? 'caller'
      : kind === 'lyrics'
        ? 'graphics'
        : 'picture';
};

function useDeclare(line: cabling.InputLine) {
  const show = useShow();
  const { save } = useWorkspace();
  return (patch: Partial<core.Device['inputs'][number]>) => {
    const { switcher, number, declared, source } = line;
    const row = { number, label: declared?.label ?? source?.name ?? '', kind: kindOf(line, show), ...patch };
    const others = switcher.inputs.filter((one) => one.number !== number);
    const inputs = [...others, row].sort((a, b) => a.number - b.number);
    const what = `${switcher.name} input ${number}: ${row.label || kinds[row.kind]}`.slice(0, 200);
    void save(core.changeOf(what, [core.updateRow('devices', switcher, { inputs })]));
  };
}

/** What stands over the picture; as long as nothing was typed, the name of what feeds it. */
function Declared({ line }: { readonly line: cabling.InputLine }) {
  const declare = useDeclare(line);
  const { declared, source, switcher, number } = line;
  const text = declared?.label ?? '';
  return (
    <input
      key={text}
      className="field h-7 w-44"
      aria-label={`Label of input ${number} of ${switcher.name}`}
      defaultValue={text}
      placeholder={source?.name ?? ''}
      maxLength={core.limits.name}
      onBlur={({ target }) => {
        if (target.value.trim() !== text) declare({ label: target.value.trim() });
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
      }}
    />
  );
}

function Kind({ line }: { readonly line: cabling.InputLine }) {
  const show = useShow();
  const declare = useDeclare(line);
  return (
    <select
      className="field-select h-7 w-28"
      aria-label={`Kind of input ${line.number} of ${line.switcher.name}`}
      value={kindOf(line, show)}
      onChange={({ target }) => declare({ kind: target.value as cabling.InputKind })}
    >
      {Object.entries(kinds).map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </select>
  );
}

/** Units that can be controlled and give pictures out, and have only one of the two paths. */
function HalfPaths({ paths }: { readonly paths: readonly cabling.PathLine[] }) {
  const half = paths.filter(({ hasPicture, hasControl }) => hasPicture !== hasControl);
  const none = paths.filter(({ hasPicture, hasControl }) => !hasPicture && !hasControl);
  if (paths.length === 0) return null;
  return (
    <section aria-label="Half paths" className="overflow-x-auto">
      <h2 className="mb-1.5 text-[15px] font-bold">Pictures and control</h2>
      {half.length + none.length === 0 ? (
        <p className="text-[13px] text-mute">
          Every unit that gives pictures out has a run for them, and is controlled.
        </p>
      ) : (
        <ul className="grid gap-1 text-[13px]">
          <HalfPath
            units={half.filter(({ hasControl }) => hasControl)}
            words="Controlled, and no run for the picture:"
          />
          <HalfPath
            units={half.filter(({ hasPicture }) => hasPicture)}
            words="A run for the picture, and nothing controls it:"
          />
          <HalfPath units={none} words="Neither of the two:" />
        </ul>
      )}
    </section>
  );
}

function HalfPath({ units, words }: { readonly units: readonly cabling.PathLine[]; readonly words: string }) {
  if (units.length === 0) return null;
  return (
    <li>
      {words} <span className="text-mute">{units.map(({ device }) => device.name).join(', ')}</span>
    </li>
  );
}
