import { rig, show as core } from '@deep-patch/core';
import { useMemo } from 'react';
import { useShow } from '../live/workspace.tsx';
import { Mark } from '../parts/mark.tsx';
import { fieldWords, mendTypes, type Mend } from './gear-columns.ts';

interface Props {
  readonly list: rig.GearList;
  readonly cells: readonly (readonly string[])[];
  readonly onMend: (mend: Mend) => void;
  readonly onGo: (line: number) => void;
  readonly onMakeType: (name: string) => void;
}

const most = 200;

/** All that is wrong with a list, in words: what is not known of many lines once, everything else by its cell. */
export function GearProblems({ list, cells, onMend, onGo, onMakeType }: Props) {
  const { problems } = list;
  const unknown = useMemo(() => unknownTypes(problems), [problems]);
  const others = problems.filter(({ code }) => code !== 'unknown_type');
  return (
    <ul
      className="grid max-h-44 gap-0.5 overflow-auto rounded-box border border-rule bg-base-100 p-2 text-[13px]"
      tabIndex={0}
      aria-label="Problems"
    >
      {unknown.slice(0, most).map((group) => (
        <UnknownType key={group.text} {...{ group, list, cells, onMend, onGo, onMakeType }} />
      ))}
      {others.slice(0, most).map((problem) => (
        <OneProblem
          key={`${problem.line} ${problem.field} ${problem.code}`}
          {...{ problem, onMend, onGo }}
          column={list.columns.fields.indexOf(problem.field)}
        />
      ))}
      {others.length > most && <li className="text-mute">and {others.length - most} more</li>}
    </ul>
  );
}

interface Unknown {
  readonly text: string;
  readonly hint: string;
  readonly lines: readonly number[];
}

const unknownTypes = (problems: readonly rig.GearProblem[]): Unknown[] =>
  [
    ...core
      .groupBy(
        problems.filter(({ code }) => code === 'unknown_type'),
        ({ text }) => text.toLowerCase(),
      )
      .values(),
  ].flatMap((own) => {
    const [first] = own;
    return first ? [{ text: first.text, hint: first.hint, lines: own.map(({ line }) => line) }] : [];
  });

/** One text that names no type, with all the lines that wait for it. */
function UnknownType({
  group: { text, hint, lines },
  list,
  cells,
  onMend,
  onGo,
  onMakeType,
}: Omit<Props, 'list' | 'cells'> & Pick<Props, 'list' | 'cells'> & { readonly group: Unknown }) {
  const use = (name: string) => onMend(mendTypes(list, cells, lines, name));
  const where = lines.length === 1 ? `line ${lines[0]}` : `${lines.length} lines`;
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1">
      <button type="button" className="text-left hover:underline" onClick={() => onGo(lines[0] ?? 1)}>
        <Mark state="fail" size={12} /> <code>{where}</code> <b>Type</b> Nothing is called “{text}”.
      </button>
      {hint && (
        <button type="button" className="link font-semibold text-primary" onClick={() => use(hint)}>
          Use {hint}
        </button>
      )}
      <TypeChoice text={text} label={`What “${text}” is`} onChoose={use} />
      <button type="button" className="link" onClick={() => onMakeType(text)}>
        Make this type
      </button>
      <button type="button" className="link" onClick={() => onMend({ leaveOut: lines })}>
        Leave out
      </button>
    </li>
  );
}

/** Every type of the show, those that the text may mean first. */
export function TypeChoice({
  text,
  label,
  onChoose,
}: {
  readonly text: string;
  readonly label: string;
  readonly onChoose: (name: string) => void;
}) {
  const show = useShow();
  const { likely, all } = useMemo(
    () => ({
      likely: rig.typeMatcher(show).likely(text),
      all: [...core.definitionsOf(show).values()].sort(core.byName),
    }),
    [show, text],
  );
  return (
    <select
      aria-label={label}
      className="select select-xs w-44 border-line bg-base-100"
      value=""
      onChange={(event) => onChoose(event.target.value)}
    >
      <option value="">Choose a type</option>
      {likely.length > 0 && (
        <optgroup label="Perhaps">
          {likely.map(({ id, name }) => (
            <option key={id}>{name}</option>
          ))}
        </optgroup>
      )}
      <optgroup label="All types">
        {all.map(({ id, name }) => (
          <option key={id}>{name}</option>
        ))}
      </optgroup>
    </select>
  );
}

function OneProblem({
  problem,
  column,
  onMend,
  onGo,
}: Pick<Props, 'onMend' | 'onGo'> & { readonly problem: rig.GearProblem; readonly column: number }) {
  const { line, field, isBlocking, code, hint } = problem;
  return (
    <li className="flex flex-wrap items-center gap-x-3">
      <button type="button" className="text-left hover:underline" onClick={() => onGo(line)}>
        <Mark state={isBlocking ? 'fail' : 'risky'} size={12} /> {line > 0 && <code>line {line}</code>}{' '}
        <b>{fieldWords[field]}</b> {rig.gearWords(problem)}
      </button>
      {code === 'bad_address' && hint && (
        <button
          type="button"
          className="link font-semibold text-primary"
          onClick={() => onMend({ patches: [{ line, column, text: hint }] })}
        >
          Use {hint}
        </button>
      )}
      {line > 0 && column >= 0 && (
        <MendField
          label={`${fieldWords[field]} in line ${line}`}
          text={problem.text}
          onWrite={(text) => onMend({ patches: [{ line, column, text }] })}
        />
      )}
      {line > 0 && isBlocking && (
        <button type="button" className="link" onClick={() => onMend({ leaveOut: [line] })}>
          Leave out
        </button>
      )}
    </li>
  );
}

/** The cell where its fault is told: Enter puts it right and goes on to the next one. */
function MendField({
  label,
  text,
  onWrite,
}: {
  readonly label: string;
  readonly text: string;
  readonly onWrite: (text: string) => void;
}) {
  const write = (typed: string) => {
    if (typed !== text) onWrite(typed);
  };
  return (
    <input
      className="field ml-auto h-6 w-44 text-xs"
      aria-label={label}
      defaultValue={text}
      onBlur={({ target }) => write(target.value)}
      onKeyDown={(event) => {
        if (event.key !== 'Enter') return;
        event.preventDefault();
        const fields = [...(event.currentTarget.closest('ul')?.querySelectorAll('input') ?? [])];
        const next = fields[fields.indexOf(event.currentTarget) + 1];
        // leaving it writes it; the last one has nowhere to go
        if (next) next.focus();
        else write(event.currentTarget.value);
      }}
      onFocus={({ target }) => target.select()}
    />
  );
}
