import { show as core, type Change, type Show } from '@deep-patch/core';
import type { Dice } from './dice.test-data.ts';

type Row = core.Row;
type Fields = Record<string, unknown>;

const notes = ['', 'Quay', 'North mast', 'Scaffold 2'];
const mac = (dice: Dice): string => `02:00:5e:00:00:${(10 + dice.below(9)).toString()}`;

/** What much else stands on. */
const ground: readonly core.TableName[] = ['libraries', 'types', 'networks'];

/** A number or an address beside what stands there, for the slip of one figure. */
function slipped(dice: Dice, value: unknown): unknown {
  if (typeof value === 'number') return Math.max(0, value + dice.pick([-1, 1, 2]));
  if (typeof value === 'boolean') return !value;
  if (typeof value === 'string' && /^\d+\.\d+\.\d+\.\d+$/.test(value))
    return value.replace(/\d+$/, (last) => `${Math.min(255, Math.max(0, Number(last) + dice.pick([-1, 1])))}`);
  return value;
}

/** What another row of the table says there, or a slip of what stands there, or nothing where that may be. */
function otherValue(dice: Dice, rows: readonly Row[], row: Row, field: string): unknown {
  const own = (row as unknown as Fields)[field];
  if (field === 'mac') return dice.chance(0.3) ? null : mac(dice);
  if (field === 'note' || field === 'place' || field === 'label') return dice.pick(notes);
  const donor = (dice.pick(rows) as unknown as Fields)[field];
  return dice.chance(0.4) ? slipped(dice, own) : donor;
}

/** One edit as somebody makes it: a field, a row less, a row more, or what an analysis offers. */
export function randomEdit(show: Show, dice: Dice): Change | undefined {
  const tables = core.tableNames.filter((name) => core.rowsOf(show, name).length > 0);
  const daily = tables.filter((name) => !ground.includes(name));
  if (tables.length === 0) return undefined;
  const table = dice.pick(daily.length > 0 && dice.chance(0.85) ? daily : tables);
  const rows = core.rowsOf(show, table) as Row[];
  const row = dice.pick(rows);
  // with a type or a network half of a rig goes
  if (dice.chance(ground.includes(table) ? 0.01 : 0.08)) return core.planRemove(show, table, [row.id], 'Take it out');
  if (dice.chance(0.12) && !['types', 'libraries'].includes(table)) return added(table, row, dice);
  const fields = Object.keys(row).filter((name) => name !== 'id' && name !== 'rev');
  const field = dice.pick(fields);
  return core.changeOf(`${table} ${field}`, [
    core.updateRow(table, row, { [field]: otherValue(dice, rows, row, field) }),
  ]);
}

const added = (table: core.TableName, row: Row, dice: Dice): Change | undefined =>
  core.changeOf('One more', [core.insertRow(table, { ...core.contentOf(row), id: `more-${dice.below(1_000_000)}` })]);
