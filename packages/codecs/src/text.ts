// The two globals that every engine has and that `lib` without DOM does not declare.
declare const TextEncoder: new () => { encode: (text: string) => Uint8Array };
declare const TextDecoder: new (
  label: string,
  options?: { fatal?: boolean; ignoreBOM?: boolean },
) => {
  decode: (bytes: Uint8Array) => string;
};

export const utf8Bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

const strict = new TextDecoder('utf-8', { fatal: true });
/** Longer texts are decoded faster by the engine than byte by byte. */
const shortText = 48;

/**
 * Text of bytes from `start` to before `end`, or undefined where they are not UTF-8. Short plain texts, such as OSC
 * addresses, come again and again: the one that was read last with the same sum is handed out anew.
 */
export function utf8Text(bytes: Uint8Array, start = 0, end = bytes.length): string | undefined {
  if (end - start <= shortText) {
    const sum = plainSum(bytes, start, end);
    if (sum >= 0) return knownText(bytes, start, end, sum % known.length);
  }
  try {
    return strict.decode(bytes.subarray(start, end));
  } catch {
    return undefined;
  }
}

/** Texts by a sum of their bytes (FNV-1a); a later one takes the place of an earlier one with the same sum. */
const known: string[] = Array<string>(1024).fill('');

/** -1 where a byte is not plain ASCII. */
function plainSum(bytes: Uint8Array, start: number, end: number): number {
  let sum = 0x811c9dc5;
  for (let at = start; at < end; at += 1) {
    const byte = bytes[at] ?? 0;
    if (byte > 127) return -1;
    sum = Math.imul(sum ^ byte, 0x01000193);
  }
  return sum >>> 0;
}

function knownText(bytes: Uint8Array, start: number, end: number, slot: number): string {
  const there = known[slot] ?? '';
  if (isText(there, bytes, start, end)) return there;
  return (known[slot] = String.fromCharCode.apply(undefined, bytes.subarray(start, end) as never));
}

function isText(text: string, bytes: Uint8Array, start: number, end: number): boolean {
  if (text.length !== end - start) return false;
  for (let at = start; at < end; at += 1) if (text.charCodeAt(at - start) !== bytes[at]) return false;
  return true;
}

/** Text of bytes that begin with a byte order mark of UTF-16, as the console of some systems saves it; undefined without. */
export function utf16Text(bytes: Uint8Array): string | undefined {
  const order =
    bytes[0] === 0xff && bytes[1] === 0xfe ? 'le' : bytes[0] === 0xfe && bytes[1] === 0xff ? 'be' : undefined;
  return order && new TextDecoder(`utf-16${order}`).decode(bytes.subarray(0, bytes.length & ~1));
}

/** Every byte has a meaning in Windows-1252, so this never fails; names may come out wrong. */
export const westernText = (bytes: Uint8Array): string => new TextDecoder('windows-1252').decode(bytes);
