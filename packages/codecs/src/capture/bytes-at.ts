/** The same few hosts speak in most frames: texts of the last numbers are kept, each in the place that it falls on. */
class Texts {
  private readonly numbers = new Float64Array(places).fill(-1);
  private readonly texts = new Array<string>(places).fill('');
  private readonly write: (number: number) => string;

  constructor(write: (number: number) => string) {
    this.write = write;
  }

  of(number: number, place: number): string {
    const known = this.texts[place];
    if (this.numbers[place] === number && known !== undefined) return known;
    const text = this.write(number);
    this.numbers[place] = number;
    this.texts[place] = text;
    return text;
  }
}
const places = 4096;

const macs = new Texts((mac) => (mac.toString(16).padStart(12, '0').match(/../g) ?? []).join(':'));
const ips = new Texts((ip) => [24, 16, 8, 0].map((shift) => (ip >>> shift) & 255).join('.'));

/** A MAC address in lower case with colons, from six bytes. */
export function macAt(view: DataView, at: number): string {
  const low = view.getUint32(at + 2);
  return macs.of(view.getUint16(at) * 2 ** 32 + low, (low ^ (low >>> 12)) & (places - 1));
}

/** An IPv4 address in dotted form, from four bytes. */
export function ipAt(view: DataView, at: number): string {
  const ip = view.getUint32(at);
  return ips.of(ip, (ip ^ (ip >>> 12)) & (places - 1));
}

/** Bytes as text, one letter each: enough for host names, and it cannot fail. */
export function asciiAt(view: DataView, at: number, length: number): string {
  let text = '';
  for (let n = 0; n < length; n += 1) text += String.fromCharCode(view.getUint8(at + n));
  return text;
}
