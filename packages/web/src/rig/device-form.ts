import { rig, show as core } from '@deep-patch/core';
import { nameRule, textRule, wholeRule } from '../parts/rules.ts';

/** What the form holds: texts as typed. */
export interface DeviceFields {
  name: string;
  unit: string;
  place: string;
  firmware: string;
  mac: string;
  note: string;
}

export const rules = {
  name: nameRule,
  unit: wholeRule(0, core.limits.unit),
  place: textRule(core.limits.text),
  firmware: textRule(core.limits.text),
  mac: {
    validate: (text: string) =>
      text.trim() === '' || rig.readMac(text) !== undefined || 'Six pairs of 0-9 and a-f, such as 02:1e:70:00:00:7d',
  },
  note: textRule(core.limits.note),
};

export const plain = ({ name, unit, place, firmware, mac, note }: DeviceFields) => ({
  name: name.trim(),
  unit: unit.trim() === '' ? null : Number(unit),
  place: place.trim(),
  firmware: firmware.trim() || null,
  mac: mac.trim() === '' ? null : (rig.readMac(mac) ?? null),
  note: note.trim(),
});
