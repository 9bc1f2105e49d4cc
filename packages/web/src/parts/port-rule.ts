const isPort = (text: string): boolean => /^\d{1,5}$/.test(text.trim()) && Number(text) >= 1 && Number(text) <= 65_535;

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
