import { addressing, show as core } from '@deep-patch/core';

const { limits } = core;

/** What the fields of forms take, by the limits of the plan's own schemas. */
export const textRule = (most: number) => ({
  maxLength: { value: most, message: `At most ${most} characters` },
});
export const hostNameRule = {
  validate: (text: string) => core.hostNamePattern.test(text.trim()) || 'Up to 63 of a-z, 0-9 and -, none at its ends',
};
export const nameRule = { required: 'Give it a name', ...textRule(limits.name) };

const isWhole = (text: string, least: number, most: number): boolean =>
  /^\d{1,6}$/.test(text.trim()) && Number(text) >= least && Number(text) <= most;

/** A whole number; empty is none. */
export const wholeRule = (least: number, most: number) => ({
  validate: (text: string) =>
    text.trim() === '' || isWhole(text, least, most) || `A whole number from ${least} to ${most}`,
});
export const neededWholeRule = (least: number, most: number) => ({
  validate: (text: string) => isWhole(text, least, most) || `From ${least} to ${most}`,
});

/** A port as somebody typed it; undefined where it is none. */
export const readPort = (text: string): number | undefined =>
  isWhole(text, 1, limits.port) ? Number(text) : undefined;

const portFault = `A port goes from 1 to ${limits.port}`;
export const portRule = { validate: (text: string) => readPort(text) !== undefined || portFault };
export const optionalPortRule = {
  validate: (text: string) => text.trim() === '' || readPort(text) !== undefined || portFault,
};

export const vlanRule = {
  validate: (text: string) => text.trim() === '' || isWhole(text, 1, limits.vlan) || `From 1 to ${limits.vlan}`,
};

/** Addresses divided by blanks; empty is none. */
export const addressesRule = {
  validate: (text: string) => {
    const bad = text.split(/[\s,;]+/).find((each) => each !== '' && addressing.parseIp(each) === undefined);
    return bad === undefined || `“${bad}” is no address`;
  },
};

/** An address in full; empty is none. */
export const addressRule = (example: string) => ({
  validate: (text: string) =>
    text.trim() === '' || addressing.parseIp(text.trim()) !== undefined || `An address such as ${example}`,
});
