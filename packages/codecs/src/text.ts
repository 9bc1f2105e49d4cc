// The two globals that every engine has and that `lib` without DOM does not declare.
declare const TextEncoder: new () => { encode: (text: string) => Uint8Array };
declare const TextDecoder: new (
  label: string,
  options?: { fatal?: boolean; ignoreBOM?: boolean },
) => {
  decode: (bytes: Uint8Array) => string;
};

export const utf8Bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

/** Text of bytes, or undefined where they are not UTF-8. */
export function utf8Text(bytes: Uint8Array): string | undefined {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return undefined;
  }
}

/** Every byte has a meaning in Windows-1252, so this never fails; names may come out wrong. */
export const westernText = (bytes: Uint8Array): string => new TextDecoder('windows-1252').decode(bytes);
