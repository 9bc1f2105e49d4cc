import type { UnitSettings } from '../units/settings.ts';
import { settingsOf, type Standin } from '../units/standin.ts';

/** The first address that stands in a unit's settings. */
export function addressOf(unit: Standin): { ip: number; prefix: number } | undefined {
  const first = Object.values(settingsOf(unit).addresses).flat()[0];
  return first && first.ip !== null ? { ip: first.ip, prefix: first.prefix } : undefined;
}

export function withFirst(unit: Standin, patch: { ip?: number; prefix?: number }): UnitSettings {
  const settings = settingsOf(unit);
  const key = Object.keys(settings.addresses).find((adapter) => (settings.addresses[adapter] ?? []).length > 0) ?? '';
  const [first, ...rest] = settings.addresses[key] ?? [];
  return first
    ? { ...settings, addresses: { ...settings.addresses, [key]: [{ ...first, ...patch }, ...rest] } }
    : settings;
}
