/**
 * How long texts and how high numbers may be: the schemas check it and the forms say it. Without the schemas, for who
 * only draws forms.
 */
export const limits = {
  /** What stands in one line of a table. */
  name: 80,
  text: 200,
  note: 2000,
  subtitle: 120,
  password: 200,
  unit: 9999,
  slot: 9999,
  slotGroup: 999,
  port: 65_535,
  vlan: 4094,
  /** Percent. */
  growth: 400,
  sources: 10_000,
  lengthM: 100_000,
  delayMs: 10_000,
  /** Frames. */
  takeDelay: 250,
} as const;

/** One label of a host name (RFC 1123 section 2.1), or nothing. */
export const hostNamePattern = /^([a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?)?$/i;
