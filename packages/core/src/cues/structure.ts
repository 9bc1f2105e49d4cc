import {
  changeOf,
  rowsOf,
  typeOf,
  updateRow,
  type Change,
  type Command,
  type Device,
  type Edit,
  type Show,
} from '../show/index.ts';
import { meaningOf } from '../surfaces/index.ts';
import { aimedAt } from './messages.ts';
import { checkName, knownNames, type NamesOf } from './names.ts';

/** A name that is said somewhere in the show, and that its target has no more. */
export interface Gone {
  readonly name: string;
  /** What it is called now, as far as that can be told. */
  readonly now: string | undefined;
  readonly cues: number;
  readonly controls: number;
}

/** What one list of a target is now beside what the show knows of it (need 6.11). */
export interface StructureNews {
  readonly target: Device;
  readonly list: string;
  readonly label: string;
  readonly gone: readonly Gone[];
  /** Names that came, and that nothing refers to yet. */
  readonly fresh: readonly string[];
}

type Value = string | number | boolean;
interface Use {
  readonly kind: 'cues' | 'controls';
  readonly targetId: string;
  readonly list: string;
  readonly name: string;
}

/** What is another than the show says in each list that anything refers to; `namesNow` reads the list off its unit. */
export function structureNews(show: Show, namesNow: NamesOf): StructureNews[] {
  const uses = usesOfNames(show);
  const places = new Map(uses.map((use) => [`${use.targetId} ${use.list}`, use]));
  return [...places.values()].flatMap(({ targetId, list }): StructureNews[] => {
    const target = show.devices[targetId];
    const now = namesNow(targetId, list);
    const label = typeOf(show, target)?.lists.find(({ key }) => key === list)?.label;
    if (!target || !now || label === undefined) return [];
    const before = knownNames(show)(targetId, list) ?? [];
    const own = uses.filter((use) => use.targetId === targetId && use.list === list);
    const said = [...new Set(own.map(({ name }) => name))];
    const gone = said.flatMap((name): Gone[] => {
      // what never stood there is a slip of whoever wrote it, and a finding of its own
      if (now.includes(name) || !before.includes(name)) return [];
      const count = (kind: Use['kind']) => own.filter((use) => use.name === name && use.kind === kind).length;
      return [{ name, now: calledNow(name, before, now), cues: count('cues'), controls: count('controls') }];
    });
    const fresh = [...new Set(now)].filter((name) => !before.includes(name) && !said.includes(name));
    return gone.length + fresh.length > 0 ? [{ target, list, label, gone, fresh }] : [];
  });
}

/** What took the place of a name in a list that kept its order and length, or else the name that it nearly is. */
function calledNow(name: string, before: readonly string[], now: readonly string[]): string | undefined {
  const place = now[before.indexOf(name)];
  if (before.length === now.length && place !== undefined && !before.includes(place)) return place;
  const check = checkName(now, name);
  return check.state === 'unknown' ? check.nearest : undefined;
}

function usesOfNames(show: Show): Use[] {
  const ofCues = rowsOf(show, 'cues').flatMap(({ messages }) =>
    messages.flatMap((message) => {
      const { command, args } = aimedAt(show, message);
      return namesAmong(command, args).map((own): Use => ({ ...own, kind: 'cues', targetId: message.targetId }));
    }),
  );
  const ofControls = rowsOf(show, 'assignments').flatMap((row) => {
    const { offer, args } = meaningOf(show, row);
    return namesAmong(offer?.command, args).map((own): Use => ({
      ...own,
      kind: 'controls',
      targetId: row.targetId ?? '',
    }));
  });
  return [...ofCues, ...ofControls];
}

const namesAmong = (command: Command | undefined, args: readonly Value[]): Pick<Use, 'list' | 'name'>[] =>
  (command?.args ?? []).flatMap(({ list }, at) => {
    const name = args[at];
    return list !== undefined && typeof name === 'string' ? [{ list, name }] : [];
  });

/**
 * The show knows the list as it is from now on. Whatever said a name that is another one now says the new one: messages
 * of cues, and controls; what has no new name stays, and is told. It is one change.
 */
export function planTakeNames(
  show: Show,
  { target, list, label, gone }: StructureNews,
  now: readonly string[],
): Change | undefined {
  const renamed = new Map(gone.flatMap(({ name, now: next }) => (next === undefined ? [] : [[name, next] as const])));
  const names = [...target.names.filter((own) => own.list !== list), { list, names: [...now] }];
  return changeOf(`${target.name}: its ${label} as they are now`.slice(0, 200), [
    updateRow('devices', target, { names }),
    ...cuesWith(show, { target, list }, renamed),
    ...controlsWith(show, { target, list }, renamed),
  ]);
}

type Place = Pick<StructureNews, 'target' | 'list'>;
type Renamed = ReadonlyMap<Value, string>;

/** The values with each name of the list as it is now; undefined where none is another one. */
function followed(command: Command, args: readonly Value[], list: string, renamed: Renamed): Value[] | undefined {
  const next = args.map((value, at) => (command.args[at]?.list === list ? (renamed.get(value) ?? value) : value));
  return next.some((value, at) => value !== args[at]) ? next : undefined;
}

const cuesWith = (show: Show, { target, list }: Place, renamed: Renamed): Edit[] =>
  rowsOf(show, 'cues').flatMap((cue) => {
    const messages = cue.messages.map((message) => {
      const { command, args } = aimedAt(show, message);
      const next = message.targetId === target.id && command ? followed(command, args, list, renamed) : undefined;
      return next && command ? { ...message, command: command.key, typed: '', args: next } : message;
    });
    const isSame = messages.every((message, at) => message === cue.messages[at]);
    return isSame ? [] : [updateRow('cues', cue, { messages })];
  });

const controlsWith = (show: Show, { target, list }: Place, renamed: Renamed): Edit[] =>
  rowsOf(show, 'assignments').flatMap((row) => {
    const command = row.targetId === target.id ? meaningOf(show, row).offer?.command : undefined;
    const args = command && followed(command, row.args, list, renamed);
    return args ? [updateRow('assignments', row, { args })] : [];
  });
