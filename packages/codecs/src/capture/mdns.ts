import { utf8Text, westernText } from '../text.ts';
import { ipAt } from './bytes-at.ts';
import type { Sighting } from './sighting.ts';

interface Envelope {
  readonly mac: string | null;
  readonly source: string;
}

const addressRecord = 1;
/** No honest answer holds more; a header may claim 65,535. */
const mostRecords = 200;
const mostLetters = 63;

/**
 * Names that hosts give their addresses in multicast DNS answers (RFC 6762; message format of RFC 1035 section 4). Record
 * by record, since captures are often cut after so many bytes: a reader of whole messages would tell nothing of those.
 */
export function readMdns(view: DataView, { mac, source }: Envelope): Sighting[] {
  if (view.byteLength < 12 || (view.getUint16(2) & 0x8000) === 0) return [];
  const questions = view.getUint16(4);
  const records = Math.min(mostRecords, view.getUint16(6) + view.getUint16(8) + view.getUint16(10));
  let at: number | undefined = 12;
  for (let n = 0; n < Math.min(mostRecords, questions) && at !== undefined; n += 1) {
    const name = nameAt(view, at);
    at = name && name.end + 4;
  }
  const found: Sighting[] = [];
  for (let n = 0; n < records && at !== undefined; n += 1) {
    const name = nameAt(view, at);
    if (!name || view.byteLength < name.end + 10) break;
    const length = view.getUint16(name.end + 8);
    const data = name.end + 10;
    if (view.byteLength < data + length) break;
    if (view.getUint16(name.end) === addressRecord && length === 4) {
      const ip = ipAt(view, data);
      const text = name.text.replace(/\.local$/i, '').slice(0, mostLetters);
      if (text) found.push({ by: 'mdns', mac: ip === source ? mac : null, ip, name: text });
    }
    at = data + length;
  }
  return found;
}

/** A domain name with its compression pointers (RFC 1035 section 4.1.4): backwards only, so that no loop is possible. */
export function nameAt(view: DataView, start: number): { text: string; end: number } | undefined {
  const labels: string[] = [];
  let end: number | undefined;
  let at = start;
  let length = 0;
  for (;;) {
    if (at >= view.byteLength) return undefined;
    const size = view.getUint8(at);
    if (size === 0) return { text: labels.join('.'), end: end ?? at + 1 };
    if (size >= 192) {
      if (at + 1 >= view.byteLength) return undefined;
      const target = view.getUint16(at) & 0x3fff;
      if (target >= at) return undefined;
      end ??= at + 2;
      at = target;
      continue;
    }
    length += size + 1;
    if (size >= 64 || length > 255 || at + 1 + size > view.byteLength) return undefined;
    const label = new Uint8Array(view.buffer, view.byteOffset + at + 1, size);
    // names in multicast DNS are UTF-8 (RFC 6762 section 16); what is not is still a name
    labels.push(utf8Text(label) ?? westernText(label));
    at += 1 + size;
  }
}
