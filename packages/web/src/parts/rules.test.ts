import { show as core } from '@deep-patch/core';
import { demoShow } from '@deep-patch/demo';
import { expect, test } from 'vitest';
import { networkRules } from '../addresses/network-fields.ts';
import { rules as deviceRules } from '../rig/device-form.ts';
import { portRule, textRule, wholeRule } from './rules.ts';

interface Rule {
  readonly maxLength?: { readonly value: number };
  readonly validate?: (text: string) => true | string;
}
const takes = ({ maxLength, validate }: Rule, text: string): boolean =>
  text.length <= (maxLength?.value ?? Infinity) && (validate?.(text) ?? true) === true;

const demo = demoShow();
const ofNetwork = networkRules({ network: 0x0a3d1400, prefix: 24 });
const { limits } = core;

/** Each field of a form with its column: the form says what it takes, the plan's own schema decides. */
const fields: readonly (readonly [core.TableName, string, Rule, 'text' | 'number', number])[] = [
  ['devices', 'name', deviceRules.name, 'text', limits.name],
  ['devices', 'unit', deviceRules.unit, 'number', limits.unit],
  ['devices', 'place', deviceRules.place, 'text', limits.text],
  ['devices', 'firmware', deviceRules.firmware, 'text', limits.text],
  ['devices', 'note', deviceRules.note, 'text', limits.note],
  ['devices', 'serial', textRule(limits.text), 'text', limits.text],
  ['devices', 'sources', wholeRule(0, limits.sources), 'number', limits.sources],
  ['networks', 'name', ofNetwork.name, 'text', limits.name],
  ['networks', 'vlan', ofNetwork.vlan, 'number', limits.vlan],
  ['networks', 'purpose', ofNetwork.purpose, 'text', limits.text],
  ['networks', 'growth', ofNetwork.growth, 'number', limits.growth],
  ['networks', 'contact', ofNetwork.contact, 'text', limits.text],
  ['networks', 'rules', ofNetwork.rules, 'text', limits.note],
  ['links', 'slot', wholeRule(0, limits.slot), 'number', limits.slot],
  ['links', 'slotGroup', wholeRule(0, limits.slotGroup), 'number', limits.slotGroup],
  ['links', 'port', portRule, 'number', limits.port],
  ['services', 'receivePort', portRule, 'number', limits.port],
  ['services', 'account', textRule(limits.text), 'text', limits.text],
];

test.each(fields)(
  '%s.%s: a form takes what the plan takes, up to the limit and not beyond',
  (table, column, rule, kind, most) => {
    const [row] = core.rowsOf(demo, table);
    if (!row) throw new Error(`the demo has no ${table}`);
    const planTakes = (value: string | number) =>
      core.schemas[table].safeParse({ ...core.contentOf(row), [column]: value }).success;
    const at = (size: number) => (kind === 'text' ? 'x'.repeat(size) : size);
    for (const [size, fits] of [
      [most, true],
      [most + 1, false],
    ] as const)
      expect([size, planTakes(at(size)), takes(rule, String(at(size)))]).toEqual([size, fits, fits]);
  },
);
