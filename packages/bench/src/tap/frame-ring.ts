import type { Frame, Ip, Udp } from '@deep-patch/codecs';

export interface Stored {
  /** Milliseconds since 1970. */
  readonly at: number;
  readonly frame: Frame;
}

/** A page is full with so many frames or bytes, of which the longest datagram takes a quarter. */
const [perPage, room] = [1000, 1 << 18];
/** However long the frames are, 32 MB are enough. */
const mostPages = 128;

/**
 * The last frames, for a capture and for the lines about them. Datagrams, which come by the hundred thousand, are kept
 * as numbers and bytes in pages that are used again: as objects each would live just long enough to be copied by the
 * collector twice.
 */
export class FrameRing {
  private readonly most: number;
  /** Oldest first; the last one is written to. */
  private readonly pages: Page[] = [];
  private next = 0;

  constructor(most: number) {
    this.most = most;
  }

  /** Answers the number by which the frame is found again. */
  push(at: number, frame: Frame): number {
    let page = this.pages.at(-1);
    if (!page?.hasRoomFor(frame)) this.pages.push((page = this.emptyPage()));
    page.push(at, frame);
    this.next += 1;
    return this.next - 1;
  }

  /** The oldest page, when what is on the others is enough. */
  private emptyPage(): Page {
    const [, second] = this.pages;
    const isSpare = second && (this.next - second.first >= this.most || this.pages.length >= mostPages);
    const page = (isSpare ? this.pages.shift() : undefined) ?? new Page();
    page.clear(this.next);
    return page;
  }

  /** Undefined when it is not kept any more. */
  frame(number: number): Frame | undefined {
    return this.pages.findLast(({ first }) => first <= number)?.frame(number);
  }

  /** The last `most`, oldest first; fewer where they were long. */
  last(): Stored[] {
    return this.pages.flatMap((page) => page.all()).slice(-this.most);
  }
}

/** What is kept of datagrams beside their bytes, each at the place of its frame. */
const columns = (most: number) => ({
  to: Array.from({ length: most }, () => ''),
  from: Array.from({ length: most }, () => ''),
  vlan: new Int16Array(most),
  source: new Uint32Array(most),
  destination: new Uint32Array(most),
  ttl: new Uint8Array(most),
  sourcePort: new Uint16Array(most),
  destinationPort: new Uint16Array(most),
  start: new Uint32Array(most),
  length: new Uint16Array(most),
});

const untagged = -1;

class Page {
  /** The number of its first frame. */
  first = 0;
  private readonly times = new Float64Array(perPage);
  /** What is no datagram stays as it is. */
  private readonly others = new Map<number, Frame>();
  private readonly heads = columns(perPage);
  private readonly bytes = new Uint8Array(room);
  private count = 0;
  private size = 0;

  hasRoomFor(frame: Frame): boolean {
    return this.count < perPage && this.size + lengthOf(frame) <= room;
  }

  clear(first: number): void {
    this.others.clear();
    [this.first, this.count, this.size] = [first, 0, 0];
  }

  push(at: number, frame: Frame): void {
    const { body } = frame;
    this.times[this.count] = at;
    if (body.kind === 'ip' && body.payload.kind === 'udp') this.pushDatagram(frame, body, body.payload);
    else this.others.set(this.count, frame);
    this.count += 1;
    this.size += lengthOf(frame);
  }

  private pushDatagram({ to, from, vlan }: Frame, ip: Ip, { bytes, sourcePort, destinationPort }: Udp): void {
    const { heads, count } = this;
    heads.to[count] = to;
    heads.from[count] = from;
    heads.vlan[count] = vlan ?? untagged;
    heads.source[count] = ip.source;
    heads.destination[count] = ip.destination;
    heads.ttl[count] = ip.ttl;
    heads.sourcePort[count] = sourcePort;
    heads.destinationPort[count] = destinationPort;
    heads.start[count] = this.size;
    heads.length[count] = bytes.length;
    this.bytes.set(bytes, this.size);
  }

  frame(number: number): Frame | undefined {
    const place = number - this.first;
    return place >= 0 && place < this.count ? this.at(place) : undefined;
  }

  all(): Stored[] {
    return Array.from({ length: this.count }, (_, place) => ({ at: this.times[place] ?? 0, frame: this.at(place) }));
  }

  private at(place: number): Frame {
    return this.others.get(place) ?? this.datagramAt(place);
  }

  private datagramAt(place: number): Frame {
    const { heads } = this;
    const [to, from] = [heads.to[place] ?? '', heads.from[place] ?? ''];
    const number = (column: ArrayLike<number>) => column[place] ?? 0;
    const start = number(heads.start);
    const payload: Udp = {
      kind: 'udp',
      sourcePort: number(heads.sourcePort),
      destinationPort: number(heads.destinationPort),
      bytes: this.bytes.slice(start, start + number(heads.length)),
    };
    const [source, destination, ttl] = [number(heads.source), number(heads.destination), number(heads.ttl)];
    const vlan = number(heads.vlan);
    const body: Ip = { kind: 'ip', source, destination, ttl, payload };
    return { to, from, vlan: vlan === untagged ? null : vlan, body };
  }
}

const lengthOf = ({ body }: Frame): number =>
  body.kind === 'ip' && 'bytes' in body.payload ? body.payload.bytes.length : 0;
