/** One field of a frame: its name, its value in words, and where its bytes are. */
export interface Part {
  readonly name: string;
  readonly value: string;
  readonly at: number;
  readonly length: number;
}

/** One protocol of a frame with its fields in the order of the bytes. */
export interface Layer {
  readonly name: string;
  readonly parts: readonly Part[];
}

/**
 * Goes through bytes once, from the first to the last: each field takes its bytes, so that none is told twice and none
 * left out. Where fewer are left than a field needs, they are told as cut off and the walk is over.
 */
export class Walker {
  readonly layers: { readonly name: string; readonly parts: Part[] }[] = [];
  readonly view: DataView;
  at = 0;
  /** What is read ends here; padding may follow. */
  end: number;

  constructor(bytes: Uint8Array) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    this.end = bytes.byteLength;
  }

  get left(): number {
    return this.end - this.at;
  }

  layer(name: string): void {
    this.layers.push({ name, parts: [] });
  }

  /** Takes a field and answers where it starts; undefined, with what was left told, where it is cut off. */
  take(name: string, length: number, words: (view: DataView, at: number) => string): number | undefined {
    const { at } = this;
    if (this.left < length) {
      this.rest('cut off');
      return undefined;
    }
    this.put({ name, value: words(this.view, at), at, length });
    return at;
  }

  number(name: string, length: 1 | 2 | 4, words: (value: number) => string = String): number | undefined {
    const at = this.take(name, length, (view, here) => words(numberAt(view, here, length)));
    return at === undefined ? undefined : numberAt(this.view, at, length);
  }

  /** Everything up to the end as one field. */
  rest(name: string): void {
    const { at, left } = this;
    if (left > 0) this.put({ name, value: `${left} ${left === 1 ? 'byte' : 'bytes'}`, at, length: left });
  }

  bytes(at: number, length: number): Uint8Array {
    return new Uint8Array(this.view.buffer, this.view.byteOffset + at, length);
  }

  private put(part: Part): void {
    if (part.length === 0) return;
    this.layers.at(-1)?.parts.push(part);
    this.at = part.at + part.length;
  }
}

const numberAt = (view: DataView, at: number, length: 1 | 2 | 4): number =>
  length === 1 ? view.getUint8(at) : length === 2 ? view.getUint16(at) : view.getUint32(at);

export const hex = (value: number, digits: number): string => `0x${value.toString(16).padStart(digits, '0')}`;
