/** A MAC address in lower case with colons, from six bytes. */
export function macAt(view: DataView, at: number): string {
  let mac = '';
  for (let n = 0; n < 6; n += 1) mac += (n ? ':' : '') + (hex[view.getUint8(at + n)] ?? '');
  return mac;
}
const hex = Array.from({ length: 256 }, (_, byte) => byte.toString(16).padStart(2, '0'));

/** An IPv4 address in dotted form, from four bytes. */
export const ipAt = (view: DataView, at: number): string =>
  `${view.getUint8(at)}.${view.getUint8(at + 1)}.${view.getUint8(at + 2)}.${view.getUint8(at + 3)}`;

/** Bytes as text, one letter each: enough for host names, and it cannot fail. */
export function asciiAt(view: DataView, at: number, length: number): string {
  let text = '';
  for (let n = 0; n < length; n += 1) text += String.fromCharCode(view.getUint8(at + n));
  return text;
}
