/** A port as somebody typed it; undefined where it is none. */
export function readPort(text: string): number | undefined {
  const value = /^\d{1,5}$/.test(text.trim()) ? Number(text) : 0;
  return value >= 1 && value <= 65_535 ? value : undefined;
}

const isPort = (text: string): boolean => readPort(text) !== undefined;

export const portRule = { validate: (text: string) => isPort(text) || 'A port goes from 1 to 65535' } as const;
export const optionalPortRule = {
  validate: (text: string) => text.trim() === '' || isPort(text) || 'A port goes from 1 to 65535',
} as const;

export const vlanRule = {
  validate: (text: string) =>
    text.trim() === '' ||
    (/^\d{1,4}$/.test(text.trim()) && Number(text) >= 1 && Number(text) <= 4094) ||
    'From 1 to 4094',
} as const;
