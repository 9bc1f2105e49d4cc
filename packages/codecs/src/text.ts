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

/** Text of bytes, or undefined where they are not UTF-8. Short plain texts, such as OSC addresses, take a short way. */
export function utf8Text(bytes: Uint8Array): string | undefined {
  if (bytes.length <= shortText && isAscii(bytes)) return String.fromCharCode.apply(undefined, bytes as never);
  try {
    return strict.decode(bytes);
  } catch {
    return undefined;
  }
}

function isAscii(bytes: Uint8Array): boolean {
  for (let at = 0; at < bytes.length; at += 1) if ((bytes[at] ?? 0) > 127) return false;
  return true;
}

/** Every byte has a meaning in Windows-1252, so this never fails; names may come out wrong. */
export const westernText = (bytes: Uint8Array): string => new TextDecoder('windows-1252').decode(bytes);
