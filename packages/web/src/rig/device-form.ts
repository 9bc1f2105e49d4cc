import { rig } from '@deep-patch/core';

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
  name: { required: 'Give it a name', maxLength: { value: 80, message: 'At most 80 characters' } },
  unit: {
    validate: (text: string) => text.trim() === '' || /^\d{1,4}$/.test(text.trim()) || 'A whole number from 0 to 9999',
  },
  place: { maxLength: { value: 80, message: 'At most 80 characters' } },
  firmware: { maxLength: { value: 80, message: 'At most 80 characters' } },
  mac: {
    validate: (text: string) =>
      text.trim() === '' || rig.readMac(text) !== undefined || 'Six pairs of 0-9 and a-f, such as 02:1e:70:00:00:7d',
  },
  note: { maxLength: { value: 2000, message: 'At most 2000 characters' } },
} as const;

export const plain = ({ name, unit, place, firmware, mac, note }: DeviceFields) => ({
  name: name.trim(),
  unit: unit.trim() === '' ? null : Number(unit),
  place: place.trim(),
  firmware: firmware.trim() || null,
  mac: mac.trim() === '' ? null : (rig.readMac(mac) ?? null),
  note: note.trim(),
});
