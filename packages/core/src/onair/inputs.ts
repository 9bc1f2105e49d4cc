import { inputsOf, switchersById, type InputLine } from '../cabling/index.ts';
import {
  byName,
  contentWith,
  insertRow,
  changeOf,
  removeRow,
  rowsBy,
  rowsOf,
  typeOf,
  updateRow,
  type Change,
  type Clip,
  type Content,
  type Device,
  type InputRule,
  type Link,
  type Show,
} from '../show/index.ts';

/** One input of a switcher as it is seen on air: what feeds it, who may be told to start, and what was ruled for it. */
export interface AirInput {
  readonly switcher: Device;
  readonly number: number;
  /** As it was declared, else what feeds it. */
  readonly label: string;
  readonly line: InputLine;
  readonly rule: Content<'inputRules'>;
  /** Somebody has ruled; where not, the switcher does what it comes with. */
  readonly isRuled: boolean;
  /** The machine that is entered in the switcher under this number: taking the input tells it to start. */
  readonly player: Device | undefined;
  readonly link: Link | undefined;
  readonly state: InputLine['state'];
}

export const isPlayer = (show: Show, device: Device | undefined): boolean =>
  (typeOf(show, device)?.plays ?? null) !== null;

/** Switchers that have inputs of their own, by their names. */
export const switchersOf = (show: Show): Device[] =>
  [...switchersById(show).values()]
    .flat()
    .filter((device) => typeOf(show, device)?.form === 'unit')
    .sort(byName);

/** The inputs of every switcher in the order of its panel, programs that run on what feeds them included. */
export const airInputs = (show: Show): AirInput[] =>
  switchersOf(show).flatMap((switcher) => airInputsOf(show, switcher));

/** Those of one switcher. */
export function airInputsOf(show: Show, device: Device): AirInput[] {
  return inputsOf(show, device).map((line) => {
    const { switcher, number, declared, source } = line;
    const own = ruleOf(show, switcher.id, number);
    const link = linkOf(show, switcher.id, number);
    const target = link && show.devices[link.targetId];
    return {
      switcher,
      number,
      label: declared?.label || source?.name || `Input ${number}`,
      line,
      rule: own ?? usualRule(switcher.id, number),
      isRuled: own !== undefined,
      player: target && isPlayer(show, target) ? target : undefined,
      link,
      state: line.state,
    };
  });
}

/** The entry of a switcher under an input's number that names a player, before any other. */
export function linkOf(show: Show, switcherId: string, input: number): Link | undefined {
  const entries = (rowsBy(show, 'links', 'controllerId').get(switcherId) ?? []).filter(({ slot }) => slot === input);
  return entries.find(({ targetId }) => isPlayer(show, show.devices[targetId])) ?? entries[0];
}

export const ruleOf = (show: Show, switcherId: string, input: number): InputRule | undefined =>
  (rowsBy(show, 'inputRules', 'switcherId').get(switcherId) ?? []).find((rule) => rule.input === input);

/** What a switcher does about an input for which nothing was ruled. */
export const usualRule = (switcherId: string, input: number, id = ''): Content<'inputRules'> =>
  contentWith('inputRules', { id, switcherId, input });

/** Rules for an input anew; the id is that of the rule that is made if there is none. */
export function planRule(
  show: Show,
  { switcherId, input, id }: { readonly switcherId: string; readonly input: number; readonly id: string },
  patch: Partial<Omit<Content<'inputRules'>, 'id' | 'switcherId' | 'input'>>,
): Change | undefined {
  const there = ruleOf(show, switcherId, input);
  const name = show.devices[switcherId]?.name ?? '';
  return changeOf(`Input ${input} of ${name}`, [
    there
      ? updateRow('inputRules', there, patch)
      : insertRow('inputRules', { ...usualRule(switcherId, input, id), ...patch }),
  ]);
}

export function planForgetRule(show: Show, switcherId: string, input: number): Change | undefined {
  const there = ruleOf(show, switcherId, input);
  return there && changeOf(`Input ${input} as the switcher comes`, [removeRow('inputRules', there)]);
}

/** How the input is declared in the switcher, and its label there (need 4.13). */
export function planDeclare(
  switcher: Device,
  number: number,
  patch: { readonly label?: string; readonly kind?: Device['inputs'][number]['kind'] },
): Change | undefined {
  const there = switcher.inputs.find((one) => one.number === number) ?? { number, label: '', kind: 'picture' as const };
  const others = switcher.inputs.filter((one) => one.number !== number);
  const inputs = [...others, { ...there, ...patch }].sort((a, b) => a.number - b.number);
  return changeOf(`Label input ${number} of ${switcher.name}`, [updateRow('devices', switcher, { inputs })]);
}

/** The lists of a player with their items in order; lists in the order of their names. */
export function listsOf(show: Show, playerId: string): Map<string, Clip[]> {
  const clips = (rowsBy(show, 'clips', 'deviceId').get(playerId) ?? []).toSorted((a, b) =>
    a.list < b.list ? -1 : a.list > b.list ? 1 : a.place - b.place,
  );
  const lists = new Map<string, Clip[]>();
  for (const clip of clips) lists.set(clip.list, [...(lists.get(clip.list) ?? []), clip]);
  return lists;
}

/** The list that a switcher is offered: the fixed one, or the one that is selected, else the first. */
export function offeredList(
  show: Show,
  { rule, player }: Pick<AirInput, 'rule' | 'player'>,
  selected?: string,
): { readonly name: string; readonly items: readonly Clip[] } | undefined {
  const lists = player ? listsOf(show, player.id) : new Map<string, Clip[]>();
  const name = rule.offers === 'fixed' ? rule.list : (selected ?? [...lists.keys()][0] ?? '');
  const items = lists.get(name);
  return items && { name, items };
}

/** Who may call in at a gateway, as it lists them. */
export function callerNames(show: Show, gateway: Device): readonly string[] {
  const key = 'callers';
  const own = gateway.names.find(({ list }) => list === key);
  return own?.names ?? typeOf(show, gateway)?.lists.find((list) => list.key === key)?.names ?? [];
}

/** The gateway whose channel is on an input: the one that feeds it, before any other that reports a channel of that name. */
export function callerOn(show: Show, { rule, line }: Pick<AirInput, 'rule' | 'line'>): Device | undefined {
  if (rule.channel === '') return undefined;
  const reporting = callersOf(show).filter(({ channels }) => channels.includes(rule.channel));
  return (reporting.find(({ device }) => device.id === line.source?.id) ?? reporting[0])?.device;
}

/** Caller gateways with the channels that each reports. */
export const callersOf = (show: Show): { readonly device: Device; readonly channels: readonly string[] }[] =>
  rowsOf(show, 'devices').flatMap((device) => {
    const type = typeOf(show, device);
    if (type?.kind !== 'caller') return [];
    const list = type.lists.find(({ key }) => key === 'channels');
    const own = device.names.find((names) => names.list === 'channels');
    return [{ device, channels: own?.names ?? list?.names ?? [] }];
  });
