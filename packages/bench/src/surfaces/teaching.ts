import type { contract } from '@deep-patch/core';
import type { Site } from '../site/site.ts';

/** So long somebody has time to move something, and so long after the last movement it is taken (milliseconds). */
const waitsMs = 30_000;
const quietMs = 400;

type Took = contract.TeachingState['took'];

/**
 * Takes the next control that moves: one of a surface on the bench, or an OSC address or a MIDI control that comes in,
 * whoever sends it. It ends once that has come to rest, with the range that was heard, or when nothing moves.
 */
export class Teaching {
  private readonly deviceId: string;
  private readonly site: Site;
  private readonly endsAt = Date.now() + waitsMs;
  private readonly before: ReadonlyMap<string, number>;
  private took: Took = null;
  private seen: { readonly address: string; readonly count: number; readonly at: number } | undefined;
  private ended = false;

  constructor(site: Site, deviceId: string) {
    this.site = site;
    this.deviceId = deviceId;
    this.before = new Map(site.tap.heardAddresses().map(({ address, count }) => [address, count]));
  }

  moved(deviceId: string, { control, part }: contract.Moves['moves'][number]): void {
    if (this.ended) return;
    this.took = { kind: 'control', deviceId, control, part };
    this.ended = true;
  }

  /** Looks at what was heard since. */
  look(now = Date.now()): void {
    if (this.ended) return;
    if (now >= this.endsAt) this.ended = true;
    const [first] = this.site.tap
      .heardAddresses()
      .map(({ address, count, values }) => ({ address, values, count: count - (this.before.get(address) ?? 0) }))
      .filter(({ count, values }) => count > 0 && values[0]?.least != null && values.length === 1)
      .sort((a, b) => b.count - a.count);
    if (!first) return;
    if (first.address !== this.seen?.address || first.count !== this.seen.count) {
      this.seen = { address: first.address, count: first.count, at: now };
      return;
    }
    if (now - this.seen.at < quietMs) return;
    const [range] = first.values;
    this.took = { kind: 'address', address: first.address, least: range?.least ?? 0, greatest: range?.greatest ?? 0 };
    this.ended = true;
  }

  stop(): void {
    this.ended = true;
  }

  state(): contract.TeachingState {
    return {
      ...{ deviceId: this.deviceId, running: !this.ended, took: this.took },
      endsInMs: this.ended ? 0 : Math.max(0, Math.ceil((this.endsAt - Date.now()) / 1000) * 1000),
    };
  }
}
