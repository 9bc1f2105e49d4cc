import { isEqual, memoFor, type Change, type Content, type Edit, type TableName } from '../show/index.ts';

/**
 * Fields on which no packet depends. Whatever else a change edits may decide where one goes: a field that is not named
 * here counts, so that what is new is tried rather than trusted.
 */
const quiet: { readonly [T in TableName]?: readonly (keyof Content<T>)[] } = {
  devices: [
    'name',
    'unit',
    'place',
    'note',
    'serial',
    'hostName',
    'features',
    'sources',
    'packed',
    'feed',
    'circuit',
    'inputs',
    'sharing',
    'savedOn',
    'done',
    'ipv6',
    'accounts',
    'names',
    'rate',
    'takeDelay',
    'leads',
    'usedFor',
    'outputs',
  ],
  networks: ['name', 'purpose', 'needsOutside', 'contact', 'rules', 'growth'],
  interfaces: ['mac'],
  links: ['slot', 'slotGroup', 'label', 'after', 'mustHold'],
};

/** Tables of which no packet knows: what a cut starts, what players have, who follows whose clock, what is seen on a wall. */
const quietTables: ReadonlySet<TableName> = new Set(['inputRules', 'clips', 'timeHops', 'walls']);

/** May a change alter where packets go, or what becomes of them? */
export const reroutes = ({ edits }: Change): boolean => edits.some((edit) => !isQuiet(edit));

const isQuiet = memoFor(({ table, before, after }: Edit): boolean => {
  if (quietTables.has(table)) return true;
  if (!before || !after) return false;
  const fields: readonly string[] = quiet[table] ?? [];
  const [old, now] = [before, after] as unknown as Readonly<Record<string, unknown>>[];
  return Object.keys(after).every((field) => fields.includes(field) || isEqual(old?.[field], now?.[field]));
});
