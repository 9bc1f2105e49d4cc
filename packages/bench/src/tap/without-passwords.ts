import type { Frame, Tcp } from '@deep-patch/codecs';

/** Basic credentials (RFC 7617) say a password to whoever reads them. */
const basic = /^(authorization: *basic +)(\S+)/gim;

/** A frame as it may be shown and saved: in the place of a password that is told in plain there are strokes, as many. */
export function withoutPasswords(frame: Frame): Frame {
  const { body } = frame;
  if (body.kind !== 'ip' || body.payload.kind !== 'tcp') return frame;
  const said = Buffer.from(body.payload.bytes).toString('latin1');
  const masked = said.replace(basic, (_all, head: string, secret: string) => head + '-'.repeat(secret.length));
  if (masked === said) return frame;
  const payload: Tcp = { ...body.payload, bytes: Uint8Array.from(Buffer.from(masked, 'latin1')) };
  return { ...frame, body: { ...body, payload } };
}
