/** More of one thing in one line than a rig has is a slip. */
export const mostOfOne = 500;

/** “3”, “3 x”, “× 3”, “3 pcs”, “3 Stk.”: how many; undefined where that is no number from 1 to 500. */
export function parseQuantity(text: string): number | undefined {
  const [, digits] = /^\s*[x×*]?\s*(\d{1,4})\s*(?:[x×*]|[\p{L}]{1,7}\.?)?\s*$/iu.exec(text) ?? [];
  const count = Number(digits);
  return digits !== undefined && count >= 1 && count <= mostOfOne ? count : undefined;
}

export interface Counted {
  readonly text: string;
  readonly count: number;
}

/** “Camera x 3” and “3 x camera” are three of them; any other text is one of what it says. */
export function countedIn(text: string): Counted {
  const behind = /^(.*\S)\s+[x×*]\s*(\d{1,3})$/i.exec(text);
  const before = /^(\d{1,3})\s*[x×*]\s+(\S.*)$/i.exec(text);
  const count = Number(behind?.[2] ?? before?.[1] ?? 1);
  const what = behind?.[1] ?? before?.[2];
  return what !== undefined && count >= 1 && count <= mostOfOne ? { text: what, count } : { text, count: 1 };
}

/** Where a name ends in a number, counting goes on from it. */
export function numberedName(name: string): { readonly base: string; readonly first: number } {
  const [, base = '', digits] = /^(.*?)\s*(\d{1,4})$/.exec(name) ?? [];
  return digits !== undefined && base !== '' ? { base, first: Number(digits) } : { base: name, first: 1 };
}
