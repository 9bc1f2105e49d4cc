const key = 'deep-patch-name';

/** By what name somebody stands in the log of a bring-up; asked for once. */
export const ownName = (): string => localStorage.getItem(key) ?? '';
export const keepName = (name: string): void => localStorage.setItem(key, name.trim().slice(0, 40));
